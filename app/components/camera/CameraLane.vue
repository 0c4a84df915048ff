<script setup lang="ts">
import { computed } from 'vue'
import { toldCheck } from '#core/checks/camera-check'
import { keyOf } from '#core/checks/finding'
import { clamp } from '#core/geometry/clamp'
import { putShot } from '#core/edits/camera/shots'
import type { CompiledShot } from '#core/trips/compiled'
import { useCamera } from '~/stores/camera'
import { useChecks } from '~/stores/checks'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStrip } from '~/components/pace/use-strip'
import { nameOfShot } from './shot-names'

/** The camera's shots along the strip: when it leaves for each, when it arrives, and where there is a problem with them or something else was found. */
defineProps<{ top: number; height: number }>()
const editor = useEditor()
const camera = useCamera()
const checks = useChecks()
const playback = usePlayback()
const strip = useStrip()
const { x } = strip

/** A name needs so much room, in CSS pixels to the letter. */
const LETTER = 6.4

const shots = computed(() => editor.compiled!.shots)
const selectedId = computed(() => (editor.selection.kind === 'shot' ? (editor.selection.id ?? '') : undefined))
const lastTime = computed(() => editor.compiled!.lastTime)
/** The opening view lasts until the first shot takes over. */
const openingEnds = computed(() => shots.value[0]?.start ?? lastTime.value)

function nameIn(entry: CompiledShot): string {
  const room = x(entry.until) - x(entry.start) - 16
  const name = nameOfShot(editor.journey!, entry.shot)
  const letters = Math.floor(room / LETTER)
  return letters < 3 ? '' : name.length <= letters ? name : `${name.slice(0, letters - 1)}…`
}

function moveTo({ shot }: CompiledShot, time: number, gesture: string) {
  const at = camera.momentOf(clamp(time, 0, lastTime.value))
  editor.edit((journey) => putShot(journey, { ...shot, at }), gesture)
}
function takes({ shot }: CompiledShot, transition: number, gesture: string) {
  const seconds = Math.round(clamp(transition, 0, 60) * 1000) / 1000
  editor.edit((journey) => putShot(journey, { ...shot, transition: seconds }), gesture)
}

function press(event: PointerEvent, entry: CompiledShot) {
  editor.select({ kind: 'shot', id: entry.shot.id })
  strip.drag(event, { from: entry.start, move: (time) => moveTo(entry, time, `drag shot ${entry.shot.id}`) })
}
function pressArrival(event: PointerEvent, entry: CompiledShot) {
  editor.select({ kind: 'shot', id: entry.shot.id })
  strip.drag(event, {
    from: entry.end,
    move: (time) => takes(entry, time - entry.start, `drag arrival ${entry.shot.id}`),
    tells: (time) => `takes ${Math.max(0, time - entry.start).toFixed(2)} s`,
  })
}
function key(event: KeyboardEvent, entry: CompiledShot) {
  if (event.key === 'Enter') return editor.select({ kind: 'shot', id: entry.shot.id })
  const by = strip.stepOf(event)
  if (by === undefined) return
  editor.select({ kind: 'shot', id: entry.shot.id })
  moveTo(entry, entry.start + by, `nudge shot ${entry.shot.id}`)
}
function arrivalKey(event: KeyboardEvent, entry: CompiledShot) {
  const by = strip.stepOf(event)
  if (by !== undefined) takes(entry, entry.shot.transition + by, `nudge arrival ${entry.shot.id}`)
}

/** What else was found, where it is a matter of a moment. */
const found = computed(() => checks.open.filter(({ at }) => at !== null))
const mapWidth = computed(() => editor.journey!.sheets[0]?.width)
const told = computed(() => camera.checks.map((check) => ({ ...check, text: toldCheck(check, mapWidth.value) })))
</script>

<template>
  <g class="camera" :transform="`translate(0 ${top})`">
    <g
      v-if="openingEnds > 0.01 || shots.length === 0"
      class="shot"
      :class="{ selected: selectedId === '' }"
      role="button"
      tabindex="0"
      aria-label="Opening view"
      data-testid="pace-opening-view"
      @pointerdown.stop="editor.select({ kind: 'shot' })"
      @keydown.enter="editor.select({ kind: 'shot' })"
    >
      <title>The view with which the film begins</title>
      <rect class="bar" :x="x(0)" y="1" :width="Math.max(24, x(openingEnds) - x(0) - 1)" :height="height - 6" rx="2" />
      <text v-if="x(openingEnds) - x(0) > 90" :x="x(0) + 6" :y="height - 9">Opening view</text>
    </g>
    <g
      v-for="entry in shots"
      :key="entry.shot.id"
      class="shot"
      :class="{ selected: entry.shot.id === selectedId, planned: entry.isPlanned }"
      role="button"
      tabindex="0"
      :aria-label="`${nameOfShot(editor.journey!, entry.shot)}, from ${entry.start.toFixed(2)} seconds, there at ${entry.end.toFixed(2)} seconds${entry.isPlanned ? ', planned' : ''}`"
      data-testid="pace-shot"
      @pointerdown.stop="press($event, entry)"
      @keydown="key($event, entry)"
    >
      <title>{{ nameOfShot(editor.journey!, entry.shot) }}: drag to move it, click to change it</title>
      <rect class="bar" :x="x(entry.start)" y="1" :width="Math.max(24, x(entry.until) - x(entry.start) - 1)" :height="height - 6" rx="2" />
      <path class="way" :d="`M${x(entry.start)} ${height - 5}H${x(entry.end)}V1Z`" />
      <text :x="x(entry.start) + 6" :y="height - 9">{{ nameIn(entry) }}</text>
    </g>
    <template v-for="entry in shots" :key="`arrival ${entry.shot.id}`">
      <g
        v-if="entry.shot.id === selectedId"
        class="arrival"
        role="slider"
        tabindex="0"
        aria-label="When the camera arrives"
        :aria-valuenow="entry.end"
        :aria-valuetext="`${entry.end.toFixed(2)} seconds`"
        data-testid="shot-arrival"
        @pointerdown.stop="pressArrival($event, entry)"
        @keydown="arrivalKey($event, entry)"
      >
        <rect class="grab" :x="x(entry.end) - 5" y="0" width="24" :height="height" />
        <path :d="`M${x(entry.end)} 0h7v${height - 11}l-7 6Z`" />
      </g>
    </template>
    <g
      v-for="finding in found"
      :key="keyOf(finding)"
      class="finding"
      role="button"
      tabindex="0"
      :aria-label="finding.text"
      data-testid="pace-finding"
      @pointerdown.stop="playback.goToTime(finding.at!)"
      @keydown.enter="playback.goToTime(finding.at!)"
    >
      <title>{{ finding.text }}</title>
      <path :d="`M${x(finding.at!) - 5} ${height}h10l-5 -9Z`" />
    </g>
    <g v-for="check in told" :key="`${check.kind} ${check.from}`" class="check" :class="check.kind" :data-testid="`check-${check.kind}`">
      <title>{{ check.text }}</title>
      <rect
        :x="x(check.from)"
        :y="height - 4"
        :width="Math.max(3, x(check.to) - x(check.from))"
        :height="check.kind === 'soft' ? 2 : 3.5"
      />
    </g>
  </g>
</template>

<style scoped>
.finding {
  fill: var(--brass);
  stroke: var(--surface);
  cursor: pointer;
}
.finding:focus-visible {
  outline: 2px solid var(--vermilion);
}
.shot {
  cursor: ew-resize;
}
.shot:focus,
.arrival:focus {
  outline: none;
}
.bar {
  fill: color-mix(in srgb, var(--sea) 26%, var(--surface));
  stroke: var(--sea);
  stroke-width: 1;
}
.planned .bar {
  fill: color-mix(in srgb, var(--sea) 10%, var(--surface));
  stroke-dasharray: 3 2;
}
.way {
  fill: color-mix(in srgb, var(--sea) 42%, transparent);
  pointer-events: none;
}
.shot text {
  fill: var(--ink);
  font-size: 11px;
  pointer-events: none;
  text-anchor: start;
}
.selected .bar,
.shot:focus-visible .bar {
  stroke: var(--vermilion);
  stroke-width: 2;
  stroke-dasharray: none;
}
.shot:hover .bar {
  stroke: var(--ink);
}
.grab {
  fill: transparent;
}
.arrival {
  cursor: ew-resize;
}
.arrival path {
  fill: var(--vermilion);
}
.arrival:focus-visible path,
.arrival:hover path {
  stroke: var(--ink);
}
/* Told by height and place too, not by colour alone; the details say what is wrong in words. */
.check rect {
  fill: var(--vermilion);
}
.soft rect {
  fill: var(--brass);
}
</style>
