<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'
import { boundsOf } from '#core/journey/bounds'
import type { Leg, PaceMark } from '#core/journey/schema'
import { LIMITS, paceMarkSchema } from '#core/journey/schema'
import NumberField from '~/components/fields/NumberField.vue'
import { useLegSpots } from '~/composables/use-leg-spots'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import LegSpotFields from './LegSpotFields.vue'

/** Marks along a leg at which it speeds up, slows down, or rests. */
const props = defineProps<{ leg: Leg; index: number }>()
const editor = useEditor()
const playback = usePlayback()
const { shareAt } = useLegSpots(() => props.leg.id)
const { patch, set, done } = useLegEdits(() => props.leg)

const marks = computed(() => props.leg.paceMarks.map((mark, i) => ({ mark, i })).toSorted((a, b) => a.mark.at - b.mark.at))
const words = ({ kind }: PaceMark) => (kind === 'wait' ? 'Rests' : 'Speed')

function change(i: number, values: Partial<PaceMark>) {
  const next = props.leg.paceMarks.map((mark, k) => (k === i ? ({ ...mark, ...values } as PaceMark) : mark))
  patch(`mark ${i}`, { paceMarks: next })
}
/** A new mark lies where the traveller is, if that is on this leg, else half-way. */
function add(kind: PaceMark['kind']) {
  const { depart, arrive } = editor.itinerary!.legs[props.index]!
  const at = playback.time > depart && playback.time < arrive ? shareAt(playback.time) : 0.5
  set({ paceMarks: [...props.leg.paceMarks, kind === 'wait' ? { kind, at, seconds: 1 } : { kind, at, factor: 0.5 }] })
}
const remove = (i: number) => set({ paceMarks: props.leg.paceMarks.filter((_, k) => k !== i) })
</script>

<template>
  <ul v-if="marks.length > 0" class="marks" aria-label="Marks on the way">
    <li v-for="{ mark, i } in marks" :key="i" data-testid="pace-mark">
      <span class="what">{{ words(mark) }}</span>
      <NumberField
        v-if="mark.kind === 'wait'"
        label="Rests for"
        :model-value="mark.seconds"
        v-bind="boundsOf(paceMarkSchema, 'seconds')"
        :step="0.1"
        :precision="2"
        unit="s"
        @change="(seconds) => change(i, { seconds })"
        @done="done"
      />
      <NumberField
        v-else
        label="Speed factor"
        :model-value="mark.factor"
        v-bind="boundsOf(paceMarkSchema, 'factor')"
        :step="0.1"
        :precision="2"
        unit="×"
        @change="(factor) => change(i, { factor })"
        @done="done"
      />
      <NumberField
        label="At"
        :model-value="Math.round(mark.at * 1000) / 10"
        v-bind="boundsOf(paceMarkSchema, 'at', 100)"
        :step="1"
        :precision="1"
        unit="%"
        @change="(value) => change(i, { at: value / 100 })"
        @done="done"
      />
      <div class="spot"><LegSpotFields :leg="leg.id" :model-value="mark.at" @change="(at) => change(i, { at })" @done="done" /></div>
      <button type="button" class="away" :aria-label="`Remove mark ${i + 1}`" title="Remove" @click="remove(i)">
        <v-icon :icon="mdiClose" size="16" />
      </button>
    </li>
  </ul>
  <p v-else class="quiet">A mark changes the speed from there on, or pauses there. Its position is a share of the leg’s length.</p>
  <div class="buttons">
    <v-btn size="small" variant="outlined" data-testid="add-speed" :disabled="marks.length >= LIMITS.paceMarks" @click="add('speed')">
      Change the speed
    </v-btn>
    <v-btn size="small" variant="outlined" data-testid="add-wait" :disabled="marks.length >= LIMITS.paceMarks" @click="add('wait')">
      Rest on the way
    </v-btn>
  </div>
</template>

<style scoped>
.marks {
  list-style: none;
  padding: 0;
}
.marks li {
  display: grid;
  grid-template-columns: 48px 1fr 1fr 28px;
  gap: 6px;
  align-items: center;
  margin: 6px 0;
}
.spot {
  grid-column: 1 / -1;
  order: 1;
}
.what {
  font-size: 14px;
}
.away {
  height: 28px;
  cursor: pointer;
}
</style>
