<script setup lang="ts">
import { computed } from 'vue'
import type { TrackOverview } from '#core/tracks/messages'

/** The outline of a track, with the places by which it is laid. The part from `from` to `to`, as shares, is kept. */
const props = withDefaults(defineProps<{ overview: TrackOverview; places: number; from?: number; to?: number }>(), { from: 0, to: 1 })

/** Margin for the marks around the square of the outline. */
const MARGIN = 0.08
const at = (value: number) => (MARGIN + value * (1 - 2 * MARGIN)) * 100

function line(from: number, to: number): string {
  const { outline } = props.overview
  const count = outline.length / 2
  const first = Math.floor(from * (count - 1))
  const last = Math.ceil(to * (count - 1))
  return Array.from({ length: last - first + 1 }, (_, i) => `${at(outline[2 * (first + i)]!)},${at(outline[2 * (first + i) + 1]!)}`).join(
    ' ',
  )
}
const whole = computed(() => line(0, 1))
const kept = computed(() => line(props.from, props.to))
const LETTERS = 'ABC'
</script>

<template>
  <svg viewBox="0 0 100 100" role="img" aria-label="Outline of the track">
    <polyline class="whole" :points="whole" />
    <polyline class="kept" :points="kept" />
    <g v-for="(place, i) in overview.match.slice(0, places)" :key="i" :transform="`translate(${at(place.x)} ${at(place.y)})`">
      <circle r="5" />
      <text y="2.4">{{ LETTERS[i] }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  background: color-mix(in srgb, var(--sea) 10%, var(--paper));
  border-radius: 4px;
}
polyline {
  fill: none;
  stroke-linejoin: round;
  vector-effect: non-scaling-stroke;
}
.whole {
  stroke: var(--quiet);
  stroke-width: 1;
  opacity: 0.6;
}
.kept {
  stroke: var(--vermilion);
  stroke-width: 2;
}
circle {
  fill: var(--ink);
}
text {
  fill: var(--paper);
  font-size: 7px;
  font-weight: 700;
  text-anchor: middle;
}
</style>
