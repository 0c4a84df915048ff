<script setup lang="ts">
import { boundsOf } from '#core/journey/bounds'
import type { FrameFormat, Shutter } from '#core/journey/schema'
import { journeySchema, SHUTTERS } from '#core/journey/schema'
import { computed } from 'vue'
import { meanLegSeconds, setLegSeconds, setSeconds } from '#core/edits/pace/film-length'
import { setFrame, setShutter } from '#core/edits/journey'
import type { Aspect } from '#core/journey/create'
import { FRAME_SIZES } from '#core/journey/create'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, rateLabel } from '#core/pace/rate'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useLastFrame } from '~/composables/use-last-frame'
import { useEditor } from '~/stores/editor'

/** How long the film is, and the shape, size and rate of its frames. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'film')
const journey = computed(() => editor.journey!)

const LENGTHS = [
  { value: 'set', title: 'Set' },
  { value: 'own', title: 'As needed' },
] as const
const setLengthKind = (kind: 'set' | 'own') =>
  editor.edit((j) => setLegSeconds(j, kind === 'own' ? (j.legSeconds ?? meanLegSeconds(j)) : null))

const aspects = Object.keys(FRAME_SIZES) as Aspect[]
const aspect = computed(() => aspects.find((name) => sizesOf(name).some((size) => size.value === sizeValue.value)))
const sizeValue = computed(() => `${journey.value.frame.width}x${journey.value.frame.height}`)
const sizesOf = (name: Aspect) =>
  FRAME_SIZES[name].map(([title, width, height]) => ({ value: `${width}x${height}`, title: `${title} (${width} × ${height})` }))
const sizes = computed(() =>
  aspect.value ? sizesOf(aspect.value) : [{ value: sizeValue.value, title: sizeValue.value.replace('x', ' × ') }],
)
const rates = FRAME_RATES.map((rate) => ({ value: rate, title: `${rateLabel(rate)} frames a second` }))

const lastFrame = useLastFrame()
function set(frame: Partial<FrameFormat>) {
  if (editor.edit((j) => setFrame(j, { ...j.frame, ...frame }))) lastFrame.used(journey.value.frame)
}
function setAspect(name: Aspect) {
  const list = sizesOf(name)
  const [, width, height] = FRAME_SIZES[name][Math.min(1, list.length - 1)]!
  set({ width, height })
}
function setSize(value: string) {
  const [width, height] = value.split('x').map(Number)
  set({ width: width!, height: height! })
}
const setRate = (rate: FrameRate) => set({ rate })

const shutters = SHUTTERS.map((shutter) => ({ value: shutter, title: shutter === 0 ? 'Off' : `Shutter ${shutter}°` }))
const chooseShutter = (shutter: Shutter) => editor.edit((j) => setShutter(j, shutter))

/** Legs with automatic times that are too short to follow by eye; half a second is common practice, no source. */
const hurried = computed(
  () => editor.itinerary!.legs.filter(({ leg, depart, arrive }) => leg.travel === null && arrive - depart < 0.5).length,
)
</script>

<template>
  <h3 class="first">Film</h3>
  <ChoiceRow label="Length" :model-value="journey.legSeconds === null ? 'set' : 'own'" :choices="LENGTHS" @change="setLengthKind" />
  <FieldRow v-if="journey.legSeconds === null" v-slot="{ id }" label="Seconds">
    <NumberField
      :labelledby="id"
      data-testid="length"
      :model-value="journey.seconds"
      v-bind="boundsOf(journeySchema, 'seconds')"
      :step="0.5"
      :precision="2"
      unit="s"
      @change="(value) => change('seconds', (j) => setSeconds(j, value))"
      @done="done"
    />
  </FieldRow>
  <template v-else>
    <FieldRow v-slot="{ id }" label="Leg takes about">
      <NumberField
        :labelledby="id"
        data-testid="leg-seconds"
        :model-value="journey.legSeconds"
        v-bind="boundsOf(journeySchema, 'legSeconds')"
        :step="0.1"
        :precision="2"
        unit="s"
        @change="(value) => change('leg seconds', (j) => setLegSeconds(j, value))"
        @done="done"
      />
    </FieldRow>
    <p class="quiet figures" data-testid="own-length">{{ Number(journey.seconds.toFixed(2)) }} s in all; it grows with the trip.</p>
  </template>
  <FieldRow v-slot="{ id }" label="Shape">
    <v-select
      :aria-labelledby="id"
      :items="aspects"
      :model-value="aspect ?? null"
      placeholder="Custom size"
      @update:model-value="(value) => value && setAspect(value)"
    />
  </FieldRow>
  <FieldRow v-slot="{ id }" label="Size">
    <v-select :aria-labelledby="id" :items="sizes" :model-value="sizeValue" @update:model-value="setSize" />
  </FieldRow>
  <FieldRow v-slot="{ id }" label="Frame rate">
    <v-select :aria-labelledby="id" :items="rates" :model-value="journey.frame.rate" @update:model-value="setRate" />
  </FieldRow>
  <p class="quiet figures">{{ editor.compiled!.frames }} frames</p>
  <FieldRow v-slot="{ id }" label="Motion blur">
    <v-select
      :aria-labelledby="id"
      data-testid="shutter"
      :items="shutters"
      :model-value="journey.shutter"
      @update:model-value="chooseShutter"
    />
  </FieldRow>
  <p v-if="journey.shutter > 0" class="quiet">Shown in exports, and on the stage while paused. Exports take longer.</p>
  <p v-if="hurried > 0" class="flag" role="status" data-testid="hurried">
    {{ hurried === 1 ? 'One leg takes' : `${hurried} legs take` }} less than half a second: make the film longer to see
    {{ hurried === 1 ? 'it' : 'them' }}.
  </p>
</template>

<style scoped>
.first {
  margin-top: 0 !important;
  padding-top: 0 !important;
  border-top: 0 !important;
}
</style>
