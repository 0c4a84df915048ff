<script setup lang="ts">
import { computed, watchEffect } from 'vue'
import { editAudio, trimAudio } from '#core/edits/pace/audio'
import { moveBeat } from '#core/edits/pace/beats'
import type { Audio, Journey } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { useSound } from '~/stores/sound'
import { useStrip } from './use-strip'

/** A piece of music or speech on the strip: its waveform and beats where it is heard. Dragged as a whole it is heard later, its ends cut it. */
const props = defineProps<{ piece: Audio }>()
const editor = useEditor()
const sound = useSound()
const strip = useStrip()
const { x } = strip
const HEIGHT = 46

watchEffect(() => void sound.picture(props.piece.file))
const left = computed(() => x(props.piece.offset))
const right = computed(() => x(Math.min(editor.journey!.seconds, props.piece.offset + props.piece.to - props.piece.from)))
const isSelected = computed(() => editor.selection.kind === 'audio' && editor.selection.id === props.piece.id)

/** The part of the waveform that can be seen, a line for each pixel or so. */
const wave = computed(() => {
  const peaks = sound.peaks.get(props.piece.file)
  if (!peaks) return ''
  const { from, fadeIn, fadeOut, to } = props.piece
  const [start, end] = [Math.max(left.value, x(strip.seen.value.from)), Math.min(right.value, x(strip.seen.value.to))]
  const parts: string[] = []
  const second = strip.perSecond.value
  for (let px = start; px < end; px += 1.5) {
    const heard = (px - left.value) / second
    const [a, b] = [Math.floor((heard + from) * peaks.rate), Math.ceil((heard + from + 1.5 / second) * peaks.rate)]
    let most = 0
    for (let i = a; i < Math.max(b, a + 1); i++) most = Math.max(most, peaks.values[i] ?? 0)
    const fade = Math.min(1, fadeIn > 0 ? heard / fadeIn : 1, fadeOut > 0 ? (to - from - heard) / fadeOut : 1)
    const high = Math.max(0.5, most * fade * (HEIGHT / 2 - 4))
    parts.push(`M${px.toFixed(1)} ${(HEIGHT / 2 - high).toFixed(1)}v${(2 * high).toFixed(1)}`)
  }
  return parts.join('')
})
/** The beats in sight that are heard, in the film's seconds; the first ones of bars stand taller. */
const beats = computed(() => {
  const { beats: all, bars, from, to, offset } = props.piece
  const { seen } = strip
  return (all ?? [])
    .map((beat, i) => ({ i, beat, time: offset + beat - from, beginsBar: bars !== null && i % bars.beats === bars.first }))
    .filter(
      ({ beat, time }) => beat >= from && beat <= to && time >= seen.value.from && time <= Math.min(seen.value.to, editor.journey!.seconds),
    )
})
/** Pixels between beats: closer than 4 only those that begin bars are drawn, closer than 12 none can be taken hold of. */
const beatGap = computed(() => ((strip.seen.value.to - strip.seen.value.from) * strip.perSecond.value) / Math.max(1, beats.value.length))
const drawnBeats = computed(() => {
  if (beatGap.value > 4) return beats.value
  const bars = beats.value.filter(({ beginsBar }) => beginsBar)
  return (beatGap.value * beats.value.length) / Math.max(1, bars.length) > 4 ? bars : []
})

/** Drags one beat; the piece itself stays. */
function pressBeat(event: PointerEvent, { i, time }: { i: number; time: number }) {
  editor.select({ kind: 'audio', id: props.piece.id })
  const begun = editor.journey!
  const { id, offset, from } = props.piece
  strip.drag(event, { from: time, move: (to) => editor.edit(() => moveBeat(begun, id, i, to - offset + from), `drag beat ${i} of ${id}`) })
}

let start: Journey | undefined
function press(event: PointerEvent, part: 'whole' | 'from' | 'to') {
  editor.select({ kind: 'audio', id: props.piece.id })
  start = editor.journey!
  const { id, offset, from, to } = props.piece
  strip.drag(event, {
    from: part === 'to' ? offset + to - from : offset,
    move: (time) => {
      const begun = start!
      editor.edit(
        () => (part === 'whole' ? editAudio(begun, id, { offset: Math.max(0, time) }) : trimAudio(begun, id, part, time)),
        `drag ${part} of ${id}`,
      )
    },
  })
}
function key(event: KeyboardEvent, part: 'whole' | 'from' | 'to') {
  const { id, offset, from, to } = props.piece
  if (event.key === 'Enter') return editor.select({ kind: 'audio', id })
  const by = strip.stepOf(event)
  if (by === undefined) return
  editor.edit(
    (j) =>
      part === 'whole'
        ? editAudio(j, id, { offset: Math.max(0, offset + by) })
        : trimAudio(j, id, part, (part === 'to' ? offset + to - from : offset) + by),
    `nudge ${part} of ${id}`,
  )
}
</script>

<template>
  <section class="lane" :aria-label="`Sound: ${piece.name}`" data-testid="audio-lane">
    <span class="name">{{ piece.name }}</span>
    <svg :width="strip.width.value" :height="HEIGHT" :class="{ selected: isSelected }">
      <rect
        class="body"
        :x="left"
        y="1"
        :width="Math.max(4, right - left)"
        :height="HEIGHT - 2"
        rx="3"
        role="slider"
        tabindex="0"
        :aria-label="`${piece.name}, heard from ${piece.offset.toFixed(2)} seconds on`"
        :aria-valuenow="piece.offset"
        data-testid="audio-bar"
        @pointerdown.stop="press($event, 'whole')"
        @keydown="key($event, 'whole')"
      />
      <path class="wave" :d="wave" />
      <path
        class="beats"
        :d="drawnBeats.map(({ time, beginsBar }) => `M${x(time).toFixed(1)} 1v${beginsBar ? HEIGHT - 2 : `6m0 ${HEIGHT - 14}v6`}`).join('')"
        data-testid="audio-beats"
      />
      <template v-if="isSelected && beatGap > 12">
        <rect
          v-for="each in beats"
          :key="each.i"
          class="beat"
          :x="x(each.time) - 4"
          y="0"
          width="8"
          height="12"
          data-testid="audio-beat"
          @pointerdown.stop="pressBeat($event, each)"
        >
          <title>Beat {{ each.i + 1 }}: drag to move it</title>
        </rect>
      </template>
      <rect
        v-for="end in ['from', 'to'] as const"
        :key="end"
        class="end"
        :x="end === 'from' ? left - 5 : right - 7"
        y="0"
        width="12"
        :height="HEIGHT"
        role="slider"
        tabindex="0"
        :aria-label="end === 'from' ? `Start of ${piece.name}` : `End of ${piece.name}`"
        :aria-valuenow="piece[end]"
        :data-testid="`audio-${end}`"
        @pointerdown.stop="press($event, end)"
        @keydown="key($event, end)"
      />
    </svg>
  </section>
</template>

<style scoped>
svg {
  display: block;
}
.body {
  fill: color-mix(in srgb, var(--brass) 14%, var(--surface));
  stroke: var(--rule);
  cursor: grab;
}
.selected .body {
  stroke: var(--vermilion);
}
.wave {
  stroke: var(--brass);
  stroke-width: 1.2;
  pointer-events: none;
}
.beats {
  stroke: var(--vermilion);
  stroke-width: 1.5;
  pointer-events: none;
}
.beat {
  fill: transparent;
  cursor: ew-resize;
}
.beat:hover {
  fill: color-mix(in srgb, var(--vermilion) 40%, transparent);
}
.end {
  fill: transparent;
  cursor: ew-resize;
}
.end:hover {
  fill: color-mix(in srgb, var(--brass) 50%, transparent);
}
</style>
