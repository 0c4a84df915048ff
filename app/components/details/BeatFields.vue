<script setup lang="ts">
import { computed } from 'vue'
import { editAudio } from '#core/edits/pace/audio'
import { arriveOnBeats, doubleBeats, everySecondBeat, moveBeat, removeBeat, setBars, shiftBeats, tapBeat } from '#core/edits/pace/beats'
import type { Audio, Journey } from '#core/journey/schema'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useSound } from '~/stores/sound'

/** The beats of a piece of music: found, tapped, set right by hand, and arrived on. */
const props = defineProps<{ piece: Audio }>()
const editor = useEditor()
const sound = useSound()
const playback = usePlayback()
const { change, done } = useFieldEdits(() => `beats ${props.piece.id}`)

const beats = computed(() => props.piece.beats ?? [])
const tempo = computed(() =>
  beats.value.length > 1 ? (60 * (beats.value.length - 1)) / (beats.value.at(-1)! - beats.value[0]!) : undefined,
)
const isSearching = computed(() => sound.searching === props.piece.id)
const edit = (by: (journey: Journey, id: string) => Journey) => editor.edit((j) => by(j, props.piece.id))

/** The beat next to the play position, and that position in the piece, in seconds. */
const here = computed(() => props.piece.from + playback.time - props.piece.offset)
const nearest = computed(() =>
  beats.value.reduce((best, beat, i, all) => (Math.abs(beat - here.value) < Math.abs(all[best]! - here.value) ? i : best), 0),
)
/** Beats are moved by the film's seconds, as everything on the strip is. */
const inFilm = (beat: number) => beat - props.piece.from + props.piece.offset
const place = (time: number) =>
  change('moved', (j) => moveBeat(j, props.piece.id, nearest.value, time - props.piece.offset + props.piece.from))

/** How far all beats are moved at a click, in seconds. */
const NUDGE = 0.01
const BARS = [{ title: 'None', value: 0 }, ...[2, 3, 4, 5, 6, 7].map((count) => ({ title: `${count} beats`, value: count }))]
const perBar = computed(() => props.piece.bars?.beats ?? 0)
/** Bars begin at the beat next to the play position until it is said otherwise. */
const setPerBar = (count: number) =>
  edit((j, id) => setBars(j, id, count > 0 ? { beats: count, first: props.piece.bars?.first ?? nearest.value } : null))
</script>

<template>
  <h3>Beats</h3>
  <p class="quiet figures" data-testid="beats-found">
    <template v-if="beats.length > 0"
      >{{ beats.length }} beats<template v-if="tempo">, {{ tempo.toFixed(1) }} a minute</template>. Times on the strip snap to
      them.</template
    >
    <template v-else>Detected automatically, or tapped with B during playback.</template>
  </p>
  <div class="buttons">
    <v-btn v-if="!isSearching" size="small" variant="outlined" data-testid="find-beats" @click="sound.findBeats(piece.id)"
      >Find beats</v-btn
    >
    <v-btn v-else size="small" variant="outlined" @click="sound.stopSearching()">Cancel the search</v-btn>
    <v-btn size="small" variant="outlined" data-testid="tap-beat" @click="edit((j, id) => tapBeat(j, id, playback.time))"
      >Add a beat here (B)</v-btn
    >
  </div>
  <template v-if="beats.length > 0">
    <FieldRow v-slot="{ id }" :label="`Beat ${nearest + 1}, here`">
      <div class="beat">
        <NumberField
          :labelledby="id"
          :model-value="inFilm(beats[nearest]!)"
          :min="0"
          :max="600"
          :step="0.01"
          :precision="3"
          unit="s"
          data-testid="beat-time"
          @change="place"
          @done="done"
        />
        <v-btn size="small" variant="text" data-testid="remove-beat" @click="edit((j, id) => removeBeat(j, id, nearest))">Remove</v-btn>
      </div>
    </FieldRow>
    <div class="buttons">
      <v-btn size="small" variant="text" @click="edit((j, id) => shiftBeats(j, id, -NUDGE))">All 10 ms earlier</v-btn>
      <v-btn size="small" variant="text" data-testid="beats-later" @click="edit((j, id) => shiftBeats(j, id, NUDGE))"
        >All 10 ms later</v-btn
      >
      <v-btn v-if="beats.length > 2" size="small" variant="text" @click="edit(everySecondBeat)">Half as many</v-btn>
      <v-btn v-if="beats.length > 1" size="small" variant="text" data-testid="double-beats" @click="edit(doubleBeats)">Twice as many</v-btn>
      <v-btn size="small" variant="text" @click="edit((j, id) => editAudio(j, id, { beats: null, bars: null }))">Clear beats</v-btn>
    </div>
    <FieldRow v-slot="{ id }" label="Bars">
      <v-select
        :aria-labelledby="id"
        :model-value="perBar"
        :items="BARS"
        density="compact"
        hide-details
        data-testid="bars"
        @update:model-value="setPerBar"
      />
    </FieldRow>
    <div class="buttons">
      <v-btn
        v-if="piece.bars"
        size="small"
        variant="text"
        data-testid="bar-here"
        @click="edit((j, id) => setBars(j, id, { beats: piece.bars!.beats, first: nearest }))"
        >A bar begins at beat {{ nearest + 1 }}</v-btn
      >
    </div>
    <div class="buttons">
      <v-btn
        size="small"
        color="primary"
        variant="flat"
        data-testid="arrive-on-beats"
        @click="editor.edit((j) => arriveOnBeats(j, editor.traveller!.id))"
        >Arrive at every stop on a beat</v-btn
      >
      <v-btn
        v-if="piece.bars"
        size="small"
        variant="outlined"
        data-testid="arrive-on-bars"
        @click="editor.edit((j) => arriveOnBeats(j, editor.traveller!.id, 'bars'))"
        >… where a bar begins</v-btn
      >
    </div>
  </template>
</template>

<style scoped>
.beat {
  display: flex;
  align-items: center;
  gap: 4px;
  margin-top: 8px;
}
</style>
