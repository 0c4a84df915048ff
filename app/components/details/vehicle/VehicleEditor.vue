<script setup lang="ts">
import { computed } from 'vue'
import { boundsOf } from '#core/journey/bounds'
import type { Carried, Emblem, VehicleChoice } from '#core/journey/schema'
import { carriedSchema, emblemSchema, vehicleSchema } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import type { VehicleId } from '#core/vehicles/catalogue'
import { artworkOf, VEHICLE_IDS } from '#core/vehicles/catalogue'
import { MOST_LEAN } from '#core/trips/heading'
import { FLIGHT_SHADOW, resolveVehicle } from '#core/dress/vehicle'
import ArtworkPicture from '~/components/fields/ArtworkPicture.vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import FieldList from '~/components/fields/FieldList.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import OwnStyles from '~/components/fields/OwnStyles.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import ShadowField from '~/components/fields/ShadowField.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { tileAddress } from '~/services/addresses'
import { useEditor } from '~/stores/editor'
import { useOwnPicture } from '~/stores/own-picture'
import PicturePosture from '../marks/PicturePosture.vue'
import { VIEWS, VOICE_CHOICES } from './vehicle-views'

/**
 * One vehicle: which it is, its colours and posture, what it carries. `edit` is called with each change, and the field that it is of; `once` means that
 * it is no part of a gesture.
 */
const props = defineProps<{
  modelValue: VehicleChoice | null
  label: string
  edit: (vehicle: VehicleChoice | null, field: string, once: boolean) => void
}>()
const emit = defineEmits<{ done: [] }>()
const editor = useEditor()
const own = useOwnPicture()

const vehicle = computed(() => props.modelValue)
const set = (value: VehicleChoice | null) => props.edit(value, 'vehicle', true)
const done = () => emit('done')
const colour = computed(() => (vehicle.value?.kind === 'catalogue' ? vehicle.value.colour : editor.traveller!.colour))
const choices: readonly { value: VehicleId | null; title: string }[] = [
  { value: null, title: 'None' },
  ...VEHICLE_IDS.map((value) => ({ value, title: artworkOf(value).name })),
]
const chosen = computed(
  () => (vehicle.value === null ? null : vehicle.value.kind === 'catalogue' ? vehicle.value.artwork : undefined) as VehicleId | null,
)

const ready = computed(() => vehicle.value && resolveVehicle(vehicle.value))
const posture = computed(() => ready.value?.posture)
const LEAN = boundsOf(vehicleSchema, 'lean')
const ALTITUDE = boundsOf(vehicleSchema, 'altitude', 100)
const SIZE = boundsOf(vehicleSchema, 'size')
const CARRIED_SIZE = boundsOf(carriedSchema, 'size')
const PARTS = [
  { key: 'second', title: 'A colour for its light parts', initial: '#fbf6ea' },
  { key: 'third', title: 'A colour for its dark parts', initial: '#14233a' },
] as const
const PART_FIELDS: readonly FieldSpec<{ colour: string }>[] = [{ key: 'colour', label: 'Colour', as: 'colour' }]
const note = computed(() => {
  if (!vehicle.value) return 'none'
  const { lean, lively, shadow, carries: load } = vehicle.value
  const { second, third, altitude } = vehicle.value.kind === 'catalogue' ? vehicle.value : {}
  const words = [
    (second ?? third) && 'coloured',
    lean !== undefined && `${lean}°`,
    altitude !== undefined && `${Math.round(altitude * 100)} %`,
    emblem.value && 'emblem',
    shadow !== undefined && 'shadow',
    lively && `lively ${Math.round(lively * 100)} %`,
    load?.kind,
  ]
  return words.filter(Boolean).join(', ') || 'none'
})

/** What another vehicle takes over from the one before, besides its size. */
const kept = computed(() => {
  const { carries, lively, shadow } = vehicle.value ?? {}
  return { ...(carries && { carries }), ...(lively !== undefined && { lively }), ...(shadow !== undefined && { shadow }) }
})
/** Another vehicle has the size of the one before. */
function choose(artwork: VehicleId | null) {
  const size = vehicle.value ? { size: vehicle.value.size } : {}
  set(artwork && vehicleSchema.parse({ kind: 'catalogue', artwork, colour: colour.value, ...kept.value, ...size }))
}
/** Changes fields that a vehicle of its kind has. */
const change = (field: string, values: Partial<VehicleChoice>) =>
  props.edit({ ...vehicle.value!, ...values } as VehicleChoice, field, false)

/** A picture that comes later goes where this vehicle is now. */
function chooseOwn() {
  const { edit } = props
  const size = vehicle.value ? { size: vehicle.value.size } : {}
  own.choose('vehicle', (picture, look) =>
    edit(vehicleSchema.parse({ kind: 'image', picture, ...look, ...kept.value, ...size }), 'vehicle', true),
  )
}

const emblem = computed(() => (vehicle.value?.kind === 'catalogue' ? vehicle.value.emblem : undefined))
const EMBLEM_FIELDS: readonly FieldSpec<Emblem>[] = [
  { key: 'x', label: 'Ahead', as: 'number', ...boundsOf(emblemSchema, 'x'), usual: [-50, 50], step: 0.5, precision: 1, unit: '%' },
  { key: 'y', label: 'Down', as: 'number', ...boundsOf(emblemSchema, 'y'), usual: [-80, 30], step: 0.5, precision: 1, unit: '%' },
  { key: 'size', label: 'Its size', as: 'number', ...boundsOf(emblemSchema, 'size'), step: 0.5, precision: 1, unit: '%' },
  { key: 'rotation', label: 'Turned by', as: 'number', ...boundsOf(emblemSchema, 'rotation'), unit: '°' },
]

/** An emblem lies on the middle of what is seen of the vehicle at first. */
function chooseEmblem() {
  const { edit } = props
  const now = vehicle.value!
  const { left, right, top, bottom } = posture.value!.bounds
  const spot = {
    x: Math.round((left + right) / 2),
    y: Math.round((top + bottom) / 2),
    size: Math.round(Math.min(right - left, bottom - top) / 3),
  }
  own.choose('emblem', (picture) =>
    edit({ ...now, emblem: emblemSchema.parse({ ...(emblem.value ?? spot), picture }) } as VehicleChoice, 'emblem', true),
  )
}

const CARRIED = [
  { value: 'nothing', title: 'Nothing' },
  { value: 'plate', title: 'Plate' },
  { value: 'flag', title: 'Flag' },
  { value: 'picture', title: 'Picture' },
] as const
const carries = computed(() => vehicle.value?.carries)
function setCarried(kind: (typeof CARRIED)[number]['value']) {
  const { edit } = props
  const now = vehicle.value!
  if (kind === 'picture')
    return own.choose('carried', (picture) => edit({ ...now, carries: carriedSchema.parse({ kind, picture }) }, 'carries', true))
  const name = editor.traveller!.name || 'Hello'
  const colours = { colour: colour.value }
  set(
    kind === 'nothing'
      ? { ...now, carries: undefined }
      : { ...now, carries: carriedSchema.parse(kind === 'plate' ? { kind, text: name.slice(0, 40) } : { kind, ...colours }) },
  )
}
const changeCarried = (field: string, values: Partial<Carried>) =>
  change(`carried ${field}`, { carries: { ...carries.value!, ...values } as Carried })
/** The colours of a plate or a flag, by their fields. */
const carriedColours = computed(() =>
  carries.value?.kind === 'plate'
    ? ([
        ['paper', 'Plate'],
        ['colour', 'Letters'],
      ] as const)
    : ([
        ['colour', 'Upper stripe'],
        ['second', 'Lower stripe'],
      ] as const),
)
</script>

<template>
  <PictureChoice v-slot="{ choice }" :label="label" :model-value="chosen" :choices="choices" :columns="5" @change="choose">
    <ArtworkPicture v-if="choice.value" :artwork="choice.value" :colour="colour" />
    <template v-else>None</template>
  </PictureChoice>
  <div class="buttons">
    <v-btn size="small" variant="outlined" data-testid="own-vehicle" @click="chooseOwn">{{
      vehicle?.kind === 'image' ? 'Another picture …' : 'A picture of your own …'
    }}</v-btn>
  </div>
  <OwnStyles v-if="vehicle" kind="vehicle" :look="vehicle" @apply="set" />
  <p v-if="own.failure && !own.original" class="error" role="alert">{{ own.failure }}</p>
  <template v-if="vehicle?.kind === 'image'">
    <PicturePosture
      :size="vehicle.picture"
      :look="vehicle"
      @change="({ facing, anchor }) => change('posture', { facing, anchor })"
      @done="done"
    >
      <img class="own" :src="tileAddress(vehicle.picture.image, { level: coarsestLevel(vehicle.picture), column: 0, row: 0 })" alt="" />
    </PicturePosture>
    <ChoiceRow label="Seen" :model-value="vehicle.view" :choices="VIEWS" @change="(view) => set({ ...vehicle!, view } as VehicleChoice)" />
    <FieldRow v-slot="{ id }" label="Sounds like">
      <v-select
        :aria-labelledby="id"
        :items="VOICE_CHOICES"
        :model-value="vehicle.voice"
        data-testid="vehicle-voice"
        @update:model-value="(voice) => set({ ...vehicle!, voice } as VehicleChoice)"
      />
    </FieldRow>
  </template>
  <ColourField
    v-if="vehicle?.kind === 'catalogue'"
    label="Colour"
    :model-value="vehicle.colour"
    @change="(value) => change('colour', { colour: value })"
    @done="done"
  />
  <NumberSlider
    v-if="vehicle"
    label="Size"
    :model-value="vehicle.size"
    v-bind="SIZE"
    :usual="[24, 320]"
    unit="px"
    @change="(size) => change('size', { size })"
    @done="done"
  />
  <FoldedSection v-if="vehicle" title="Colours, motion, what it carries" :note="note">
    <template v-if="vehicle.kind === 'catalogue'">
      <OptionalGroup
        v-for="{ key, title, initial } in PARTS"
        :key="key"
        :label="title"
        :model-value="vehicle[key] === undefined ? null : { colour: vehicle[key] }"
        :initial="{ colour: initial }"
        :fields="PART_FIELDS"
        @change="({ colour: part }) => change(key, { [key]: part })"
        @toggle="(part) => (done(), change(key, { [key]: part?.colour }), done())"
        @done="done"
      />
    </template>
    <NumberSlider
      v-if="posture?.view === 'side'"
      label="Leans up to"
      :model-value="vehicle.lean ?? posture.mostLean ?? MOST_LEAN"
      v-bind="LEAN"
      unit="°"
      @change="(lean) => change('lean', { lean })"
      @done="done"
    />
    <NumberSlider
      v-if="vehicle.kind === 'catalogue' && ready?.medium === 'air'"
      label="Height"
      :model-value="Math.round((vehicle.altitude ?? 1) * 100)"
      v-bind="ALTITUDE"
      unit="%"
      @change="(value) => change('height', { altitude: value / 100 })"
      @done="done"
    />
    <PercentSlider label="Lively" :model-value="vehicle.lively ?? 0" @change="(lively) => change('lively', { lively })" @done="done" />
    <template v-if="vehicle.kind === 'catalogue'">
      <div class="buttons">
        <v-btn size="small" variant="outlined" data-testid="emblem" @click="chooseEmblem">{{
          vehicle.emblem ? 'Another emblem …' : 'An emblem on it …'
        }}</v-btn>
        <v-btn
          v-if="vehicle.emblem"
          size="small"
          variant="outlined"
          data-testid="remove-emblem"
          @click="set({ ...vehicle, emblem: undefined })"
          >Remove the emblem</v-btn
        >
      </div>
      <FieldList
        v-if="vehicle.emblem"
        :model-value="vehicle.emblem"
        :fields="EMBLEM_FIELDS"
        @change="(fields) => change(`emblem ${Object.keys(fields).join()}`, { emblem: { ...emblem!, ...fields } })"
        @done="done"
      />
    </template>
    <ShadowField
      v-if="editor.journey!.sun || ready?.medium === 'air'"
      :model-value="vehicle.shadow"
      :usual="editor.journey!.sun?.strength ?? FLIGHT_SHADOW"
      @change="(shadow) => change('shadow', { shadow })"
      @done="done"
    />
    <ChoiceRow label="Carries" :model-value="carries?.kind ?? 'nothing'" :choices="CARRIED" @change="setCarried" />
    <template v-if="carries">
      <FieldRow v-if="carries.kind === 'plate'" v-slot="{ id }" label="Words">
        <v-text-field
          :aria-labelledby="id"
          maxlength="40"
          data-testid="plate-words"
          :model-value="carries.text"
          @update:model-value="(text: string) => text.trim() && changeCarried('text', { text: text.trim() })"
          @blur="done"
        />
      </FieldRow>
      <template v-if="carries.kind !== 'picture'">
        <ColourField
          v-for="[key, title] in carriedColours"
          :key="key"
          :label="title"
          :model-value="(carries as unknown as Record<string, string>)[key]!"
          @change="(value) => changeCarried(key, { [key]: value })"
          @done="done"
        />
      </template>
      <NumberSlider
        label="Its size"
        :model-value="carries.size"
        v-bind="CARRIED_SIZE"
        :usual="[16, 200]"
        unit="px"
        @change="(size) => changeCarried('size', { size })"
        @done="done"
      />
    </template>
  </FoldedSection>
</template>

<style scoped>
.own {
  display: block;
  width: 100%;
  height: 100%;
}
.error {
  color: var(--vermilion);
}
</style>
