<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { setWash } from '#core/edits/sheets'
import type { Sheet, Wash } from '#core/journey/schema'
import { washSchema } from '#core/journey/schema'
import { WASH_PRESETS } from '#core/sheet/wash'
import ColourField from '~/components/fields/ColourField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
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

const TINT = { colour: '#f2ddb0', strength: 0.7 }
const GRAIN = { strength: 0.35, size: 5 }
const LINES = { colour: '#5ff0c8', strength: 0.8, radius: 6 }
const PAPERS = { dark: '#14233a', light: '#f3ead6', strength: 0.8 }
const SHADE = { colour: '#0d1522', strength: 0.55, size: 0.5, feather: 0.7 }
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
      :min="-3"
      :max="3"
      :step="0.1"
      :precision="1"
      @change="(exposure) => set('exposure', { exposure })"
      @done="done"
    />
    <NumberSlider
      label="Contrast"
      :model-value="percent(wash.contrast)"
      :min="-100"
      :max="100"
      unit="%"
      @change="(value) => set('contrast', { contrast: value / 100 })"
      @done="done"
    />
    <NumberSlider
      label="Saturation"
      :model-value="percent(wash.saturation)"
      :min="-100"
      :max="100"
      unit="%"
      @change="(value) => set('saturation', { saturation: value / 100 })"
      @done="done"
    />
    <NumberSlider
      label="Soften"
      :model-value="wash.blur"
      :min="0"
      :max="Math.max(4, Math.min(400, Math.round(sheet.width / 160)))"
      :step="0.5"
      :precision="1"
      unit="px"
      @change="(blur) => set('blur', { blur })"
      @done="done"
    />
    <v-switch
      label="Two tones"
      :model-value="wash.twoTone !== null"
      @update:model-value="(on) => setOnce({ ...wash, twoTone: on ? PAPERS : null })"
    />
    <template v-if="wash.twoTone">
      <ColourField
        label="Dark"
        :model-value="wash.twoTone.dark"
        @change="(dark) => set('dark', { twoTone: { ...wash.twoTone!, dark } })"
        @done="done"
      />
      <ColourField
        label="Light"
        :model-value="wash.twoTone.light"
        @change="(light) => set('light', { twoTone: { ...wash.twoTone!, light } })"
        @done="done"
      />
      <PercentSlider
        label="Strength"
        :model-value="wash.twoTone.strength"
        @change="(value) => set('tones', { twoTone: { ...wash.twoTone!, strength: value } })"
        @done="done"
      />
    </template>
    <v-switch label="Tint" :model-value="wash.tint !== null" @update:model-value="(on) => setOnce({ ...wash, tint: on ? TINT : null })" />
    <template v-if="wash.tint">
      <ColourField
        label="Colour"
        :model-value="wash.tint.colour"
        @change="(colour) => set('tint', { tint: { ...wash.tint!, colour } })"
        @done="done"
      />
      <PercentSlider
        label="Strength"
        :model-value="wash.tint.strength"
        @change="(value) => set('tint strength', { tint: { ...wash.tint!, strength: value } })"
        @done="done"
      />
    </template>
    <v-switch
      label="Glowing lines"
      :model-value="wash.glowingLines !== null"
      @update:model-value="(on) => setOnce({ ...wash, glowingLines: on ? LINES : null })"
    />
    <template v-if="wash.glowingLines">
      <ColourField
        label="Colour"
        :model-value="wash.glowingLines.colour"
        @change="(colour) => set('lines', { glowingLines: { ...wash.glowingLines!, colour } })"
        @done="done"
      />
      <PercentSlider
        label="Strength"
        :model-value="wash.glowingLines.strength"
        @change="(value) => set('lines strength', { glowingLines: { ...wash.glowingLines!, strength: value } })"
        @done="done"
      />
      <NumberSlider
        label="Reach"
        :model-value="wash.glowingLines.radius"
        :min="0.5"
        :max="60"
        :step="0.5"
        :precision="1"
        unit="px"
        @change="(radius) => set('lines reach', { glowingLines: { ...wash.glowingLines!, radius } })"
        @done="done"
      />
    </template>
    <v-switch
      label="Paper grain"
      :model-value="wash.grain !== null"
      @update:model-value="(on) => setOnce({ ...wash, grain: on ? GRAIN : null })"
    />
    <template v-if="wash.grain">
      <PercentSlider
        label="Strength"
        :model-value="wash.grain.strength"
        @change="(value) => set('grain', { grain: { ...wash.grain!, strength: value } })"
        @done="done"
      />
      <NumberSlider
        label="Size"
        :model-value="wash.grain.size"
        :min="0.5"
        :max="30"
        :step="0.5"
        :precision="1"
        unit="px"
        @change="(size) => set('grain size', { grain: { ...wash.grain!, size } })"
        @done="done"
      />
    </template>
    <v-switch
      label="Edge shade"
      :model-value="wash.edgeShade !== null"
      @update:model-value="(on) => setOnce({ ...wash, edgeShade: on ? SHADE : null })"
    />
    <template v-if="wash.edgeShade">
      <PercentSlider
        v-for="field in ['strength', 'size', 'feather'] as const"
        :key="field"
        :label="{ strength: 'Strength', size: 'Size', feather: 'Feather' }[field]"
        :model-value="wash.edgeShade[field]"
        @change="(value) => set(`shade ${field}`, { edgeShade: { ...wash.edgeShade!, [field]: value } })"
        @done="done"
      />
      <ColourField
        label="Colour"
        :model-value="wash.edgeShade.colour"
        @change="(colour) => set('shade colour', { edgeShade: { ...wash.edgeShade!, colour } })"
        @done="done"
      />
    </template>
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
