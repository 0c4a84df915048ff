<script setup lang="ts">
import { computed } from 'vue'
import type { LegPatch } from '#core/journey/edits'
import { editLeg, inkLegsLike } from '#core/journey/edits'
import type { Easing, Ink, Leg } from '#core/journey/schema'
import { EASING_NAMES, glowSchema, vehicleSchema } from '#core/journey/schema'
import { NAMED_CURVES } from '#core/pace/easing'
import type { VehicleId } from '#core/vehicles/catalogue'
import { artworkOf, VEHICLE_IDS } from '#core/vehicles/catalogue'
import ArtworkPicture from '~/components/fields/ArtworkPicture.vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `leg ${props.leg.id}`)
const patch = (field: string, values: LegPatch) => change(field, (journey) => editLeg(journey, props.leg.id, values))
/** A change that is whole at once, and undone by itself. */
const set = (values: LegPatch) => (done(), patch('once', values), done())

const index = computed(() => editor.traveller!.legs.findIndex((leg) => leg.id === props.leg.id))
const ends = computed(() => [0, 1].map((k) => editor.itinerary!.visits[index.value + k]!.stop.name || 'Without a name'))
const timing = computed(() => editor.itinerary!.legs[index.value]!)
const travel = computed(() => Math.round((timing.value.arrive - timing.value.depart) * 100) / 100)

const shapes = computed(() => [
  { value: 'straight' as const, title: 'Straight' },
  { value: 'bowed' as const, title: 'Bowed' },
  ...(props.leg.course.kind === 'drawn' ? [{ value: 'drawn' as const, title: 'Drawn' }] : []),
])
function setShape(kind: 'straight' | 'bowed' | 'drawn') {
  if (kind === props.leg.course.kind || kind === 'drawn') return
  set({ course: kind === 'straight' ? { kind } : { kind, bow: 0.18 } })
}

function setVehicle(artwork: VehicleId | null) {
  const { vehicle, ink } = props.leg
  set({ vehicle: artwork && { ...(vehicle ?? vehicleSchema.parse({ artwork, colour: ink.colour })), artwork } })
}
const ink = (field: keyof Ink, value: Partial<Ink>) => patch(field, { ink: value })

const easingTitles: Record<(typeof EASING_NAMES)[number], string> = {
  gentle: 'Gentle',
  linear: 'Even',
  'ease-in': 'Starts slowly',
  'ease-out': 'Ends slowly',
  'ease-in-out': 'Slow at both ends',
}
const easings = ([...EASING_NAMES, 'own'] as const).map((value) => ({ value, title: value === 'own' ? 'Own curve' : easingTitles[value] }))
const easingChoice = computed(() => (typeof props.leg.easing === 'string' ? props.leg.easing : 'own'))
const curve = computed(() => (typeof props.leg.easing === 'string' ? undefined : props.leg.easing))
type EasingChoice = (typeof easings)[number]['value']
const setEasing = (choice: EasingChoice) => set({ easing: choice === 'own' ? [...NAMED_CURVES['ease-in-out']] : choice })
function setCurve(k: number, value: number) {
  const next = [...curve.value!] as Exclude<Easing, string>
  next[k] = value
  patch(`curve ${k}`, { easing: next })
}
</script>

<template>
  <div>
    <h2>{{ ends[0] }} <span class="arrow" aria-label="to">→</span> {{ ends[1] }}</h2>
    <ChoiceRow label="Course" :model-value="leg.course.kind" :choices="shapes" @change="setShape" />
    <NumberSlider
      v-if="leg.course.kind === 'bowed'"
      label="Bow"
      :model-value="Math.round(leg.course.bow * 100)"
      :min="-100"
      :max="100"
      unit="%"
      @change="(value) => patch('bow', { course: { kind: 'bowed', bow: value / 100 } })"
      @done="done"
    />

    <h3>Vehicle</h3>
    <div class="vehicles" role="radiogroup" aria-label="Vehicle">
      <button type="button" role="radio" :aria-checked="!leg.vehicle" :class="{ chosen: !leg.vehicle }" @click="setVehicle(null)">
        None
      </button>
      <button
        v-for="id in VEHICLE_IDS"
        :key="id"
        type="button"
        role="radio"
        :aria-checked="leg.vehicle?.artwork === id"
        :aria-label="artworkOf(id).name"
        :title="artworkOf(id).name"
        :class="{ chosen: leg.vehicle?.artwork === id }"
        @click="setVehicle(id)"
      >
        <ArtworkPicture :artwork="id" :colour="leg.vehicle?.colour ?? leg.ink.colour" />
      </button>
    </div>
    <template v-if="leg.vehicle">
      <ColourField
        label="Colour"
        :model-value="leg.vehicle.colour"
        @change="(colour) => patch('vehicle colour', { vehicle: { ...leg.vehicle!, colour } })"
        @done="done"
      />
      <NumberSlider
        label="Size"
        :model-value="leg.vehicle.size"
        :min="24"
        :max="320"
        unit="px"
        @change="(size) => patch('vehicle size', { vehicle: { ...leg.vehicle!, size } })"
        @done="done"
      />
    </template>

    <h3>Ink</h3>
    <ColourField label="Colour" :model-value="leg.ink.colour" @change="(colour) => ink('colour', { colour })" @done="done" />
    <NumberSlider
      label="Width"
      :model-value="leg.ink.width"
      :min="1"
      :max="40"
      :step="0.5"
      :precision="1"
      unit="px"
      @change="(width) => ink('width', { width })"
      @done="done"
    />
    <ChoiceRow
      label="Line"
      :model-value="leg.ink.line"
      :choices="[
        { value: 'solid', title: 'Solid' },
        { value: 'dashed', title: 'Dashed' },
        { value: 'dotted', title: 'Dotted' },
      ]"
      @change="(line) => set({ ink: { line } })"
    />
    <NumberSlider
      v-if="leg.ink.line === 'dashed'"
      label="Dash"
      :model-value="leg.ink.dash"
      :min="2"
      :max="120"
      unit="px"
      @change="(dash) => ink('dash', { dash })"
      @done="done"
    />
    <NumberSlider
      v-if="leg.ink.line !== 'solid'"
      label="Gap"
      :model-value="leg.ink.gap"
      :min="2"
      :max="120"
      unit="px"
      @change="(gap) => ink('gap', { gap })"
      @done="done"
    />
    <ChoiceRow
      v-if="leg.ink.line !== 'dotted'"
      label="Ends"
      :model-value="leg.ink.cap"
      :choices="[
        { value: 'round', title: 'Round' },
        { value: 'butt', title: 'Flat' },
        { value: 'square', title: 'Square' },
      ]"
      @change="(cap) => set({ ink: { cap } })"
    />
    <v-switch
      label="Glow"
      :model-value="leg.ink.glow !== null"
      @update:model-value="(on) => set({ ink: { glow: on ? glowSchema.parse({}) : null } })"
    />
    <template v-if="leg.ink.glow">
      <ColourField
        label="Light"
        :model-value="leg.ink.glow.colour"
        @change="(colour) => ink('glow', { glow: { ...leg.ink.glow!, colour } })"
        @done="done"
      />
      <NumberSlider
        label="Reach"
        :model-value="leg.ink.glow.radius"
        :min="2"
        :max="100"
        unit="px"
        @change="(radius) => ink('glow', { glow: { ...leg.ink.glow!, radius } })"
        @done="done"
      />
      <NumberSlider
        label="Strength"
        :model-value="Math.round(leg.ink.glow.strength * 100)"
        :min="0"
        :max="100"
        unit="%"
        @change="(value) => ink('glow', { glow: { ...leg.ink.glow!, strength: value / 100 } })"
        @done="done"
      />
    </template>
    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="editor.edit((j) => inkLegsLike(j, leg.id))">Use this ink for all legs</v-btn>
    </div>

    <h3>Pace</h3>
    <ChoiceRow
      label="Travel time"
      :model-value="leg.travel === null ? 'shared' : 'set'"
      :choices="[
        { value: 'shared', title: 'Shared out' },
        { value: 'set', title: 'Set' },
      ]"
      @change="(value) => set({ travel: value === 'set' ? travel : null })"
    />
    <NumberSlider
      v-if="leg.travel !== null"
      label="Takes"
      :model-value="leg.travel"
      :min="0.1"
      :max="30"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="(value) => patch('travel', { travel: value })"
      @done="done"
    />
    <p v-else class="quiet figures">Takes {{ travel.toFixed(2) }} s</p>
    <div class="line">
      <span id="easing-label">Easing</span>
      <v-select
        aria-labelledby="easing-label"
        :items="easings"
        :model-value="easingChoice"
        @update:model-value="(value) => setEasing(value as EasingChoice)"
      />
    </div>
    <div v-if="curve" class="curve" role="group" aria-label="Own curve, as in CSS cubic-bezier()">
      <NumberField
        v-for="(value, k) in curve"
        :key="k"
        :label="['x1', 'y1', 'x2', 'y2'][k]"
        :model-value="value"
        :min="0"
        :max="1"
        :step="0.05"
        :precision="2"
        @change="(next) => setCurve(k, next)"
        @done="done"
      />
    </div>
  </div>
</template>

<style scoped>
.arrow {
  color: var(--vermilion);
}
.vehicles {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  gap: 5px;
  margin: 6px 0;
}
.vehicles button {
  height: 52px;
  display: grid;
  place-items: center;
  border: 1px solid var(--rule);
  border-radius: 4px;
  font-size: 13px;
  cursor: pointer;
  background: color-mix(in srgb, var(--sea) 10%, transparent);
}
.vehicles svg {
  width: 46px;
  height: 46px;
}
.vehicles .chosen {
  border-color: var(--vermilion);
  box-shadow: inset 0 0 0 1px var(--vermilion);
}
.curve {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
  margin-top: 8px;
}
</style>
