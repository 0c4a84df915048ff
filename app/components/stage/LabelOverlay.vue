<script setup lang="ts">
import { computed } from 'vue'
import { editMark } from '#core/edits/marks/marks'
import type { CompiledMark } from '#core/trips/compiled'
import { numberAt } from '#core/trips/values'
import { labelIn } from '#core/labels/label-fit'
import { besideAt, labelBox, leftOf } from '#core/marks/label-layout'
import type { Box } from '#core/geometry/box'
import { movedBox } from '#core/geometry/box'
import type { Point } from '#core/geometry/point'
import type { LabelPlaceChoice } from '#core/journey/schema'
import { SIDES } from '#core/journey/schema'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import type { StageSpace } from './stage-space'
import { isBefore, toStage } from './stage-space'

/** The labels that are in the picture, to be dragged round their pins; they snap to the eight sides, unless Ctrl is held. */
const props = defineProps<{ space: StageSpace }>()
const editor = useEditor()
const playback = usePlayback()
const stage = useStage()

/** The snapping distance in reference pixels. */
const SNAP = 14

const seen = computed(() =>
  (editor.compiled?.marks ?? []).flatMap((mark) => {
    const { stop, label, shown } = mark
    if (!label || playback.time <= label.from || playback.time >= shown.to || sizeOfName(mark) === 0 || !isBefore(props.space, stop.at))
      return []
    const k = scaleOf(mark)
    const home = toStage(props.space, stop.at)
    const by = movedBy(mark)
    const box = movedBox(labelBox(label, stop.label.style), by.x, by.y)
    return [{ mark, box: movedBox({ left: k * box.left, right: k * box.right, top: k * box.top, bottom: k * box.bottom }, home.x, home.y) }]
  }),
)

/** How far a label is from its place beside its pin, as it keeps within the film's frame; on the table there is none. */
const movedBy = (mark: CompiledMark): Point =>
  stage.mode === 'table' ? { x: 0, y: 0 } : labelIn(mark, mark.label!, props.space.projection, sizeOfName(mark)).by

const sizeOfName = ({ stop }: CompiledMark): number => numberAt(editor.compiled!.values, 'name-size', playback.time, stop.id)

/** CSS pixels to a label's reference pixels. */
const scaleOf = (mark: CompiledMark): number =>
  props.space.scale * sizeOfName(mark) * Math.sqrt(props.space.projection.depthScale(mark.stop.at))

const sizeOf = ({ left, right, top, bottom }: Box) => ({ x: left, y: top, width: right - left, height: bottom - top })

/** The middle of a label's text, in reference pixels from its stop. */
const middleOf = ({ block, align, x, top }: NonNullable<CompiledMark['label']>): Point => ({
  x: leftOf(block, align, x) + block.width / 2,
  y: top + block.height / 2,
})

function press(event: PointerEvent, mark: CompiledMark) {
  const { stop } = mark
  event.stopPropagation()
  if (!mark.isStop) editor.select({ kind: 'landmark', id: stop.id })
  else if (event.shiftKey) return editor.selectAlso({ kind: 'stop', id: stop.id })
  else if (!editor.selectedIds.includes(stop.id)) editor.select({ kind: 'stop', id: stop.id })
  const [{ x, y }, moved] = [middleOf(mark.label!), movedBy(mark)]
  const from = { x: x + moved.x, y: y + moved.y }
  const k = scaleOf(mark)
  followPointer(event, {
    move(by, now) {
      const to = { x: from.x + by.x / k, y: from.y + by.y / k }
      const place = now.ctrlKey ? free(to) : snapped(mark, to)
      editor.edit((journey) => editMark(journey, stop.id, { label: { place } }), `drag label ${stop.id}`)
    },
    end: () => editor.endGesture(),
  })
}

const free = ({ x, y }: Point): LabelPlaceChoice => ({ kind: 'free', x: Math.round(x), y: Math.round(y) })

function snapped({ stop, label }: CompiledMark, to: Point): LabelPlaceChoice {
  const { block } = label!
  for (const side of SIDES) {
    const at = middleOf({ ...label!, ...besideAt(stop.pin, side, stop.label.style, block) })
    if (Math.hypot(at.x - to.x, at.y - to.y) < SNAP) return { kind: 'side', side }
  }
  return free(to)
}
</script>

<template>
  <g>
    <rect
      v-for="{ mark, box } in seen"
      :key="mark.stop.id"
      class="label"
      :class="{ selected: editor.selectedIds.includes(mark.stop.id) }"
      v-bind="sizeOf(box)"
      rx="3"
      :data-label="mark.stop.id"
      @pointerdown="press($event, mark)"
    >
      <title>Drag around its pin; Ctrl suspends snapping</title>
    </rect>
  </g>
</template>

<style scoped>
.label {
  fill: transparent;
  stroke: transparent;
  stroke-width: 1.2;
  pointer-events: all;
  cursor: move;
}
.label:hover {
  stroke: #fdf8ec;
  stroke-dasharray: 4 3;
}
.label.selected {
  stroke: #ff8a70;
  stroke-dasharray: 4 3;
}
</style>
