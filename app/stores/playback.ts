import { clamp } from '#core/geometry/clamp'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { frameIndexAt, frameTime } from '#core/pace/rate'
import { timecode } from '#core/pace/timecode'
import { useEditor } from './editor'

/** Which frame is on the stage, and whether it is running. */
export const usePlayback = defineStore('playback', () => {
  const editor = useEditor()
  const frame = ref(0)
  const playing = ref(false)
  const looping = ref(false)

  const rate = computed(() => editor.journey?.frame.rate ?? '30/1')
  const frames = computed(() => editor.compiled?.frames ?? 1)
  const shown = computed(() => Math.min(frame.value, frames.value - 1))
  const time = computed(() => frameTime(shown.value, rate.value))
  const code = computed(() => timecode(shown.value, rate.value))

  const goTo = (k: number) => (frame.value = clamp(Math.round(k), 0, frames.value - 1))
  const goToTime = (seconds: number) => goTo(frameIndexAt(Math.max(0, seconds), rate.value))

  function toggle() {
    if (!playing.value && shown.value >= frames.value - 1) frame.value = 0
    playing.value = !playing.value
  }

  function step(by: number) {
    playing.value = false
    goTo(shown.value + by)
  }

  /** Advances by some seconds of playing; the remainder of a frame is carried over. */
  let rest = 0
  function advance(seconds: number) {
    const due = rest + seconds
    const whole = frameIndexAt(due, rate.value)
    rest = due - frameTime(whole, rate.value)
    const next = shown.value + whole
    if (next < frames.value) frame.value = next
    else if (looping.value) frame.value = next % frames.value
    else {
      frame.value = frames.value - 1
      playing.value = false
    }
  }

  function rewind() {
    frame.value = 0
    playing.value = false
    rest = 0
  }

  return { frame: shown, playing, looping, rate, frames, time, code, goTo, goToTime, toggle, step, advance, rewind }
})
