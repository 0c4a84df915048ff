<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { setWash } from '#core/edits/ground/sheets'
import { boundsOf } from '#core/journey/bounds'
import type { Sheet, Wash } from '#core/journey/schema'
import { washSchema } from '#core/journey/schema'
import { WASH_PRESETS } from '#core/sheet/wash'
import type { FieldSpec } from '~/components/fields/field-list'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useWashPictures } from '~/composables/use-wash-pictures'

/** The wash: presets and manual adjustments that mute the sheet so that the line stands out. */
const props = defineProps<{ sheet: Sheet }>()
const { change, done } = useFieldEdits(() => 'wash')

const wash = computed<Wash>(() => props.sheet.wash ?? washSchema.parse({}))
const set = (field: string, values: Partial<Wash>) =>
  change(field, (journey) => setWash(journey, props.sheet.id, { ...wash.value, ...values }))
/** A single change, undone in one step. */
function setOnce(next: Wash | null) {
  done()
  change('once', (journey) => setWash(journey, props.sheet.id, next))
  done()
}

const CHOICES = WASH_PRESETS.map(({ name }) => ({ value: name, title: name }))
const chosen = computed(() => WASH_PRESETS.find((preset) => JSON.stringify(preset.wash) === JSON.stringify(props.sheet.wash))?.name ?? '')
const choose = (name: string) => setOnce(WASH_PRESETS.find((preset) => preset.name === name)!.wash)
const pictures = useWashPictures(() => props.sheet)

const percent = (value: number) => Math.round(value * 100)
const adjusting = ref(false)
watch(chosen, (name) => {
  if (name === '') adjusting.value = true
})

type Group<K extends keyof Wash> = readonly FieldSpec<NonNullable<Wash[K]>>[]
const COLOUR = { key: 'colour', label: 'Colour', as: 'colour' } as const
const STRENGTH = { key: 'strength', label: 'Strength', as: 'percent' } as const
const fine = { as: 'number', step: 0.5, precision: 1, unit: 'px' } as const
const TONE_FIELDS: Group<'twoTone'> = [
  { key: 'dark', label: 'Dark', as: 'colour' },
  { key: 'light', label: 'Light', as: 'colour' },
  STRENGTH,
]
const TINT_FIELDS: Group<'tint'> = [COLOUR, STRENGTH]
const LINES_FIELDS: Group<'glowingLines'> = [
  COLOUR,
  STRENGTH,
  { key: 'radius', label: 'Reach', ...fine, ...boundsOf(washSchema, 'glowingLines.radius'), usual: [0.5, 60] },
]
const GRAIN_FIELDS: Group<'grain'> = [
  STRENGTH,
  { key: 'size', label: 'Size', ...fine, ...boundsOf(washSchema, 'grain.size'), usual: [0.5, 30] },
]
const SHADE_FIELDS: Group<'edgeShade'> = [
  STRENGTH,
  { key: 'size', label: 'Size', as: 'percent' },
  { key: 'feather', label: 'Feather', as: 'percent' },
  COLOUR,
]
</script>

<template>
  <PictureChoice v-slot="{ choice }" label="Wash" :model-value="chosen" :choices="CHOICES" :columns="4" @change="choose">
    <span class="sample">
      <img v-if="pictures[choice.value]" :src="pictures[choice.value]" alt="" />
      <span>{{ choice.title }}</span>
    </span>
  </PictureChoice>
  <button type="button" class="more" :aria-expanded="adjusting" @click="adjusting = !adjusting">
    {{ adjusting ? 'Adjust less' : 'Adjust …' }}
  </button>
  <template v-if="adjusting">
    <NumberSlider
      label="Exposure"
      :model-value="wash.exposure"
      v-bind="boundsOf(washSchema, 'exposure')"
      :step="0.1"
      :precision="1"
      @change="(exposure) => set('exposure', { exposure })"
      @done="done"
    />
    <NumberSlider
      label="Contrast"
      :model-value="percent(wash.contrast)"
      v-bind="boundsOf(washSchema, 'contrast', 100)"
      unit="%"
      @change="(value) => set('contrast', { contrast: value / 100 })"
      @done="done"
    />
    <NumberSlider
      label="Saturation"
      :model-value="percent(wash.saturation)"
      v-bind="boundsOf(washSchema, 'saturation', 100)"
      unit="%"
      @change="(value) => set('saturation', { saturation: value / 100 })"
      @done="done"
    />
    <NumberSlider
      label="Soften"
      :model-value="wash.blur"
      v-bind="boundsOf(washSchema, 'blur')"
      :usual="[0, Math.max(4, Math.min(400, Math.round(sheet.width / 160)))]"
      :step="0.5"
      :precision="1"
      unit="px"
      @change="(blur) => set('blur', { blur })"
      @done="done"
    />
    <OptionalGroup
      label="Two tones"
      :model-value="wash.twoTone"
      :initial="{ dark: '#14233a', light: '#f3ead6', strength: 0.8 }"
      :fields="TONE_FIELDS"
      @change="(twoTone, field) => set(`tones ${field}`, { twoTone })"
      @toggle="(twoTone) => setOnce({ ...wash, twoTone })"
      @done="done"
    />
    <OptionalGroup
      label="Tint"
      :model-value="wash.tint"
      :initial="{ colour: '#f2ddb0', strength: 0.7 }"
      :fields="TINT_FIELDS"
      @change="(tint, field) => set(`tint ${field}`, { tint })"
      @toggle="(tint) => setOnce({ ...wash, tint })"
      @done="done"
    />
    <OptionalGroup
      label="Glowing lines"
      :model-value="wash.glowingLines"
      :initial="{ colour: '#5ff0c8', strength: 0.8, radius: 6 }"
      :fields="LINES_FIELDS"
      @change="(glowingLines, field) => set(`lines ${field}`, { glowingLines })"
      @toggle="(glowingLines) => setOnce({ ...wash, glowingLines })"
      @done="done"
    />
    <OptionalGroup
      label="Paper grain"
      :model-value="wash.grain"
      :initial="{ strength: 0.35, size: 5 }"
      :fields="GRAIN_FIELDS"
      @change="(grain, field) => set(`grain ${field}`, { grain })"
      @toggle="(grain) => setOnce({ ...wash, grain })"
      @done="done"
    />
    <OptionalGroup
      label="Edge shade"
      :model-value="wash.edgeShade"
      :initial="{ colour: '#0d1522', strength: 0.55, size: 0.5, feather: 0.7 }"
      :fields="SHADE_FIELDS"
      @change="(edgeShade, field) => set(`shade ${field}`, { edgeShade })"
      @toggle="(edgeShade) => setOnce({ ...wash, edgeShade })"
      @done="done"
    />
  </template>
</template>

<style scoped>
.sample {
  display: grid;
  justify-items: center;
  gap: 1px;
  font-size: 11px;
  line-height: 1.1;
}
.sample img {
  width: 62px;
  height: 35px;
  object-fit: cover;
  border-radius: 2px;
}
.more {
  min-height: 28px;
  font-size: 14px;
  text-decoration: underline;
  color: var(--sea);
  cursor: pointer;
}
</style>
