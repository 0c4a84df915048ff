import { greatest, least } from '#core/geometry/extremes'
import { clamp } from '#core/geometry/clamp'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { fraction, frameIndexAt, frameTime } from '#core/pace/rate'
import { timecode } from '#core/pace/timecode'
import { useEditor } from './editor'

/** How fast the film can be played, in its own speed. */
export const SPEEDS = [0.25, 0.5, 1, 2, 4] as const
export type Speed = (typeof SPEEDS)[number]

/** How often it is looked at whether playing keeps up, in seconds, and the share of the frames due that must be shown for that. */
const WATCHED = 0.75
const KEEPING_UP = 0.9

/** Screens show no more frames a second than this. */
const SCREEN_RATE = 60

/** Which frame is on the stage, and whether it is running. Playing keeps time: frames for which there is no time are left out. */
export const usePlayback = defineStore('playback', () => {
  const editor = useEditor()
  const frame = ref(0)
  const playing = ref(false)
  const looping = ref(false)
  const speed = ref<Speed>(1)
  /** The frames that are played over and over while looping, the last one included; undefined for the whole film. */
  const chosenRange = shallowRef<{ from: number; to: number }>()

  const rate = computed(() => editor.journey?.frame.rate ?? '30/1')
  const frames = computed(() => editor.compiled?.frames ?? 1)
  const shown = computed(() => Math.min(frame.value, frames.value - 1))
  const time = computed(() => frameTime(shown.value, rate.value))
  const code = computed(() => timecode(shown.value, rate.value))
  /** The range, as far as the film has it. */
  const range = computed(() => {
    const { value } = chosenRange
    if (!value) return undefined
    const to = Math.min(value.to, frames.value - 1)
    return value.from < to ? { from: value.from, to } : undefined
  })

  const goTo = (k: number) => (frame.value = clamp(Math.round(k), 0, frames.value - 1))
  const goToTime = (seconds: number) => goTo(frameIndexAt(Math.max(0, seconds), rate.value))

  function toggle() {
    const { value } = range
    if (!playing.value && looping.value && value && (shown.value < value.from || shown.value >= value.to)) frame.value = value.from
    else if (!playing.value && shown.value >= frames.value - 1) frame.value = 0
    watched = { seconds: 0, count: 0 }
    late.value = undefined
    playing.value = !playing.value
  }

  function step(by: number) {
    playing.value = false
    goTo(shown.value + by)
  }

  /** Begins or ends the range at the shown frame; the other end gives way if it has to. */
  function setRange(end: 'from' | 'to', k = shown.value) {
    const { from, to } = chosenRange.value ?? { from: 0, to: frames.value - 1 }
    chosenRange.value = end === 'from' ? { from: k, to: to > k ? to : frames.value - 1 } : { from: from < k ? from : 0, to: k }
    looping.value = true
  }
  const clearRange = () => (chosenRange.value = undefined)

  /** How many frames a second are shown, and how many there are to be seen, while playing does not keep up. */
  const late = ref<{ shown: number; due: number }>()
  let watched = { seconds: 0, count: 0 }
  function watchPace(seconds: number, isNew: boolean) {
    watched.seconds += seconds
    if (isNew) watched.count++
    if (watched.seconds < WATCHED) return
    const [n, d] = fraction(rate.value)
    const due = Math.min(SCREEN_RATE, (n / d) * speed.value)
    const reached = watched.count / watched.seconds
    late.value = reached < KEEPING_UP * due ? { shown: Math.round(reached), due: Math.round(due) } : undefined
    watched = { seconds: 0, count: 0 }
  }

  /** Advances by some seconds of playing; the remainder of a frame is carried over. */
  let rest = 0
  function advance(seconds: number) {
    const due = rest + seconds * speed.value
    const whole = frameIndexAt(due, rate.value)
    rest = due - frameTime(whole, rate.value)
    watchPace(seconds, whole > 0)
    const next = shown.value + whole
    const { from, to } = (looping.value && range.value) || { from: 0, to: frames.value - 1 }
    if (next <= to) frame.value = next
    else if (looping.value) frame.value = from + ((next - from) % (to - from + 1))
    else {
      frame.value = to
      playing.value = false
    }
  }

  /** Goes to the arrival before the shown frame, or the one after it, of the traveller that is worked on. */
  function goToStop(direction: -1 | 1) {
    playing.value = false
    const arrivals = [0, ...(editor.itinerary?.visits ?? []).map(({ arrive }) => frameIndexAt(arrive, rate.value)), frames.value - 1]
    const next = direction > 0 ? arrivals.filter((k) => k > shown.value) : arrivals.filter((k) => k < shown.value)
    if (next.length > 0) goTo(direction > 0 ? least(next) : greatest(next))
  }

  function rewind() {
    frame.value = 0
    playing.value = false
    rest = 0
  }

  return {
    frame: shown,
    playing,
    looping,
    speed,
    range,
    late,
    rate,
    frames,
    time,
    code,
    goTo,
    goToTime,
    goToStop,
    toggle,
    step,
    setRange,
    clearRange,
    advance,
    rewind,
  }
})
