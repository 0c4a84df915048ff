<script setup lang="ts">
import { computed } from 'vue'
import { frameTime } from '#core/pace/rate'
import { editNote } from '#core/edits/pace/notes'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import CameraLane from '~/components/camera/CameraLane.vue'
import { useStrip } from './use-strip'

/** The strip's upper edge: seconds, the range that is played over and over, notes, and the camera's shots. */
const emit = defineEmits<{ scrub: [event: PointerEvent] }>()
const editor = useEditor()
const camera = useCamera()
const playback = usePlayback()
const strip = useStrip()
const { x } = strip
/** The seconds, and below them the shots. */
const HEIGHT = 52

const seconds = computed(() => editor.journey!.seconds)
/** Ticks that leave room for their figures, at 1, 2, 5, 10, ... seconds; the finest are frames. Only those in sight. */
const ticks = computed(() => {
  const frame = frameTime(1, playback.rate)
  const step = [frame, 0.1, 0.5, 1, 2, 5, 10, 20, 30, 60, 120].find((s) => s * strip.perSecond.value >= 52) ?? 300
  const [first, last] = [
    Math.max(0, Math.ceil(strip.seen.value.from / step)),
    Math.floor(Math.min(seconds.value, strip.seen.value.to) / step + 1e-9),
  ]
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * step)
})
const written = (tick: number) => (Number.isInteger(Number(tick.toFixed(6))) ? tick.toFixed(0) : tick.toFixed(tick % 0.1 < 1e-6 ? 1 : 2))

const selectedId = computed(() => ('id' in editor.selection ? editor.selection.id : undefined))
const range = computed(
  () => playback.range && { from: frameTime(playback.range.from, playback.rate), to: frameTime(playback.range.to + 1, playback.rate) },
)
const frameOf = (time: number) => Math.round(time / frameTime(1, playback.rate))
function dragRange(event: PointerEvent, end: 'from' | 'to') {
  const at = range.value![end]
  strip.drag(event, { from: at, move: (time) => playback.setRange(end, frameOf(time) - (end === 'to' ? 1 : 0)) })
}
function nudgeRange(event: KeyboardEvent, end: 'from' | 'to') {
  const by = strip.stepOf(event)
  if (by !== undefined) playback.setRange(end, frameOf(range.value![end] + by) - (end === 'to' ? 1 : 0))
}

const moveNote = (id: string, time: number, gesture: string) =>
  editor.edit((j) => editNote(j, id, { at: camera.momentOf(Math.max(0, Math.min(time, editor.compiled!.lastTime))) }), gesture)
function dragNote(event: PointerEvent, id: string, time: number) {
  editor.select({ kind: 'note', id })
  strip.drag(event, { from: time, move: (to) => moveNote(id, to, `drag note ${id}`) })
}
function noteKey(event: KeyboardEvent, id: string, time: number) {
  if (event.key === 'Enter') return editor.select({ kind: 'note', id })
  const by = strip.stepOf(event)
  if (by !== undefined) moveNote(id, time + by, `nudge note ${id}`)
}
</script>

<template>
  <svg class="ruler figures" :width="strip.width.value" :height="HEIGHT" @pointerdown.stop="emit('scrub', $event)">
    <rect class="band" x="0" y="0" :width="strip.width.value" height="24" />
    <template v-if="range">
      <rect class="range" :x="x(range.from)" y="0" :width="x(range.to) - x(range.from)" height="24" />
      <g
        v-for="end in ['from', 'to'] as const"
        :key="end"
        class="range-end"
        role="slider"
        tabindex="0"
        :aria-label="end === 'from' ? 'Start of the loop' : 'End of the loop'"
        :aria-valuenow="range[end]"
        :aria-valuetext="`${range[end].toFixed(2)} seconds`"
        :data-testid="`range-${end}`"
        @pointerdown.stop="dragRange($event, end)"
        @keydown="nudgeRange($event, end)"
      >
        <rect class="grab" :x="x(range[end]) - 12" y="0" width="24" height="24" />
        <path :d="end === 'from' ? `M${x(range.from)} 0v24h5v-3h-2v-18h2v-3z` : `M${x(range.to)} 0v24h-5v-3h2v-18h-2v-3z`" />
      </g>
    </template>
    <g v-for="tick in ticks" :key="tick" :transform="`translate(${x(tick)} 0)`">
      <line y1="16" y2="24" />
      <text y="13">{{ written(tick) }} s</text>
    </g>
    <CameraLane v-if="editor.itinerary!.visits.length > 0" :top="25" :height="27" />
    <g
      v-for="{ note, time } in editor.compiled!.notes"
      :key="note.id"
      class="note"
      :class="{ selected: editor.selection.kind === 'note' && note.id === selectedId }"
      role="button"
      tabindex="0"
      :aria-label="`Note at ${time.toFixed(2)} seconds: ${note.text}`"
      data-testid="note"
      @pointerdown.stop="dragNote($event, note.id, time)"
      @keydown="noteKey($event, note.id, time)"
    >
      <title>{{ note.text }}</title>
      <rect class="grab" :x="x(time) - 6" y="2" width="24" height="24" />
      <path :d="`M${x(time)} 24v-20h11l-3 4.5l3 4.5h-9.5v11z`" />
    </g>
  </svg>
</template>

<style scoped>
.ruler {
  position: sticky;
  top: 0;
  z-index: 2;
  display: block;
  background: var(--surface);
  user-select: none;
  touch-action: none;
}
.band {
  fill: color-mix(in srgb, var(--brass) 9%, transparent);
  cursor: col-resize;
}
.ruler line {
  stroke: var(--brass);
}
.ruler text {
  fill: var(--brass);
  font-size: 11px;
  text-anchor: middle;
  pointer-events: none;
}
.range {
  fill: color-mix(in srgb, var(--brass) 28%, transparent);
  pointer-events: none;
}
.range-end {
  cursor: ew-resize;
}
.range-end path {
  fill: var(--brass);
}
.grab {
  fill: transparent;
}
.note {
  cursor: ew-resize;
}
.note path {
  fill: var(--sea);
  stroke: var(--surface);
}
.note.selected path {
  fill: var(--vermilion);
}
.range-end:hover path,
.note:hover path {
  stroke: var(--ink);
}
</style>
