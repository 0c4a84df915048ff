<script setup lang="ts">
import { computed } from 'vue'
import { boundsOf } from '#core/journey/bounds'
import type { Easing, Leg } from '#core/journey/schema'
import { easingSchema, legSchema, vehicleSchema } from '#core/journey/schema'
import { NAMED_CURVES } from '#core/pace/easing'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'
import { speedOf } from '#core/dress/vehicle'
import CurveEditor from './CurveEditor.vue'
import type { EasingChoice } from './easing-choices'
import { EASING_CHOICES, easingChoiceOf } from './easing-choices'
import EasingPicture from './EasingPicture.vue'
import PaceMarkFields from './PaceMarkFields.vue'

const props = defineProps<{ leg: Leg; index: number }>()
const editor = useEditor()
const { patch, set, done } = useLegEdits(() => props.leg)

/** Seconds the leg takes now, set or automatic. */
const takes = computed(() => {
  const { depart, arrive } = editor.itinerary!.legs[props.index]!
  return Math.round((arrive - depart) * 100) / 100
})
const TRAVEL = [
  { value: 'shared', title: 'Automatic' },
  { value: 'set', title: 'Set' },
] as const

type CruiseEasing = Extract<Easing, { kind: 'cruise' }>
/** As people walk: on, a rest, and on. */
const asRecorded = (u: number) => (u < 0.4 ? u * 1.2 : u < 0.6 ? 0.48 : 0.48 + (u - 0.6) * 1.3)

/** The recorded pace is offered only for recorded tracks. */
const isRecorded = computed(() => {
  const { course, easing } = props.leg
  return easing === 'recorded' || (course.kind === 'track' && course.times !== null)
})
const RECORDED: EasingChoice = { value: 'recorded', title: 'As recorded', easing: 'recorded', ease: asRecorded }
const choices = computed(() => (isRecorded.value ? [...EASING_CHOICES, RECORDED] : EASING_CHOICES))
const chosen = computed(() => easingChoiceOf(props.leg.easing))

/** The curve of an easing that is one; what is not starts from a usual curve when its handles are asked for. */
const curve = computed<readonly [number, number, number, number] | undefined>(() => {
  const { easing } = props.leg
  if (Array.isArray(easing)) return easing
  return typeof easing === 'string' && easing in NAMED_CURVES ? NAMED_CURVES[easing as keyof typeof NAMED_CURVES] : undefined
})
const ramped = computed(() => {
  const { easing } = props.leg
  return typeof easing === 'object' && 'kind' in easing ? easing : undefined
})

const speed = computed(() => speedOf(props.leg.vehicle))
const isBySpeed = computed(() => editor.journey!.share.by !== 'distance')
const setSpeed = (value: number) => props.leg.vehicle && patch('speed', { vehicle: { ...props.leg.vehicle, speed: value } })

/** What a leg gets that changes to another pace. */
const setEasing = (value: string) => set({ easing: choices.value.find((choice) => choice.value === value)!.easing })
function setCurve(k: number, value: number) {
  const next: [number, number, number, number] = [...curve.value!]
  next[k] = value
  patch(`curve ${k}`, { easing: next })
}

const note = computed(() => (props.leg.paceMarks.length === 0 ? 'none' : String(props.leg.paceMarks.length)))
</script>

<template>
  <ChoiceRow
    label="Travel time"
    :model-value="leg.travel === null ? 'shared' : 'set'"
    :choices="TRAVEL"
    @change="(value) => set({ travel: value === 'set' ? takes : null })"
  />
  <NumberSlider
    v-if="leg.travel !== null"
    label="Takes"
    :model-value="leg.travel"
    v-bind="boundsOf(legSchema, 'travel')"
    :usual="[0.1, 30]"
    :step="0.1"
    :precision="2"
    unit="s"
    @change="(travel) => patch('travel', { travel })"
    @done="done"
  />
  <p v-else class="quiet figures">Takes {{ takes.toFixed(2) }} s</p>
  <NumberSlider
    v-if="isBySpeed && leg.vehicle"
    label="Speed"
    :model-value="speed"
    v-bind="boundsOf(vehicleSchema, 'speed')"
    :usual="[1, 1000]"
    unit="km/h"
    @change="setSpeed"
    @done="done"
  />
  <PictureChoice v-slot="{ choice }" label="Easing" :model-value="chosen" :choices="choices" :columns="4" @change="setEasing">
    <EasingPicture :ease="(choice as EasingChoice).ease" />
  </PictureChoice>
  <p class="quiet" data-testid="easing-name">{{ choices.find(({ value }) => value === chosen)?.title ?? 'A curve of your own' }}</p>
  <template v-if="ramped?.kind === 'cruise'">
    <NumberSlider
      v-for="end in ['accelerate', 'brake'] as const"
      :key="end"
      :label="end === 'accelerate' ? 'Speeds up in' : 'Brakes in'"
      :model-value="ramped[end]"
      v-bind="boundsOf(easingSchema, 'accelerate')"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="(value) => patch(end, { easing: { ...(ramped as CruiseEasing), [end]: value } })"
      @done="done"
    />
  </template>
  <NumberSlider
    v-else-if="ramped?.kind === 'natural'"
    label="Slows in bends"
    :model-value="Math.round(ramped.bends * 100)"
    v-bind="boundsOf(easingSchema, 'bends', 100)"
    unit="%"
    @change="(percent) => patch('bends', { easing: { kind: 'natural', bends: percent / 100 } })"
    @done="done"
  />
  <FoldedSection v-if="curve" title="Shape the curve" :note="curve.map((value) => Number(value.toFixed(2))).join(', ')">
    <CurveEditor :model-value="curve" @change="(next) => patch('curve', { easing: next })" @done="done" />
    <div class="curve" role="group" aria-label="The curve by its two handles">
      <NumberField
        v-for="(value, k) in curve"
        :key="k"
        :label="['x1', 'y1', 'x2', 'y2'][k]"
        :model-value="value"
        :min="k % 2 === 0 ? 0 : -4"
        :max="k % 2 === 0 ? 1 : 5"
        :step="0.05"
        :precision="2"
        @change="(next) => setCurve(k, next)"
        @done="done"
      />
    </div>
  </FoldedSection>
  <FoldedSection title="Marks on the way" :note="note"><PaceMarkFields :leg="leg" :index="index" /></FoldedSection>
</template>

<style scoped>
.curve {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 6px;
  margin-top: 8px;
}
</style>
