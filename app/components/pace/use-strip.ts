import type { ComputedRef, InjectionKey, Ref } from 'vue'
import { computed, inject, provide, ref } from 'vue'
import { frameTime } from '#core/pace/rate'
import { snapTime } from '#core/pace/snap'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** Room to the left of the film's start and to the right of its end, in CSS pixels. */
export const MARGIN = 22

/** Something on the strip snaps to a moment that is so near, in CSS pixels. */
const REACH = 7

/** What the rows of the pace strip share: where a moment lies, what a drag snaps to, and what is told while it lasts. */
export interface Strip {
  /** CSS pixels to the second of film. */
  perSecond: ComputedRef<number>
  /** Where a moment lies from the strip's left edge, in CSS pixels. */
  x(time: number): number
  width: ComputedRef<number>
  /** The part of the strip that is seen, in seconds, with some more at both sides. */
  seen: ComputedRef<{ from: number; to: number }>
  /** What a drag is changing: where, and in words. */
  readout: Ref<{ time: number; text: string } | undefined>
  /** Drags along the strip: times are snapped, and told while the drag lasts. */
  drag(event: PointerEvent, options: StripDrag): void
  /** A step of the arrow keys in seconds: a frame, or ten; undefined for other keys. The event is taken. */
  stepOf(event: KeyboardEvent): number | undefined
}

interface StripDrag {
  /** The moment that is dragged, in seconds. */
  from: number
  /** The moment it was dragged to, snapped to whole frames and what is near. */
  move: (time: number) => void
  /** What is told beside the moment. */
  tells?: (time: number) => string
  end?: (dragged: boolean) => void
}

const KEY: InjectionKey<Strip> = Symbol('pace strip')

export function provideStrip(
  shared: Pick<Strip, 'perSecond' | 'seen'>,
  snapping: { isOn: Ref<boolean>; targets: () => readonly number[] },
): Strip {
  const editor = useEditor()
  const playback = usePlayback()
  const frame = computed(() => frameTime(1, playback.rate))
  const readout = ref<{ time: number; text: string }>()
  const x = (time: number) => MARGIN + time * shared.perSecond.value
  const inFrames = (time: number) => Math.round(time / frame.value) * frame.value

  function drag(event: PointerEvent, { from, move, tells, end }: StripDrag) {
    // Where things are when the drag begins: what moves along with it is no target.
    const targets = snapping.targets().filter((time) => Math.abs(time - from) > frame.value / 2)
    followPointer(event, {
      move: (by, moved) => {
        const asked = from + by.x / shared.perSecond.value
        const near = snapping.isOn.value && !moved.altKey ? snapTime(asked, targets, REACH / shared.perSecond.value) : asked
        const time = inFrames(near)
        move(time)
        const change = time - from
        const sign = change < 0 ? '−' : '+'
        readout.value = { time, text: tells?.(time) ?? `${time.toFixed(2)} s (${sign}${Math.abs(change).toFixed(2)})` }
      },
      end: (dragged) => {
        readout.value = undefined
        end?.(dragged)
        editor.endGesture()
      },
    })
  }

  function stepOf(event: KeyboardEvent): number | undefined {
    const direction = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
    if (direction === 0) return undefined
    event.preventDefault()
    event.stopPropagation()
    return direction * (event.shiftKey ? 10 : 1) * frame.value
  }

  const strip: Strip = { ...shared, x, width: computed(() => x(editor.journey!.seconds) + MARGIN), readout, drag, stepOf }
  provide(KEY, strip)
  return strip
}

export function useStrip(): Strip {
  const strip = inject(KEY)
  if (!strip) throw new Error('There is no pace strip around this component.')
  return strip
}
