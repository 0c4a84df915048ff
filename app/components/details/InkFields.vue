<script setup lang="ts">
import { computed } from 'vue'
import { inkLegsLike } from '#core/edits/legs'
import type { Glow, Ink, Leg } from '#core/journey/schema'
import { glowSchema } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const { patch, set, done } = useLegEdits(() => props.leg)

const ink = computed(() => props.leg.ink)
const setInk = (values: Partial<Ink>) => patch(Object.keys(values).join(), { ink: values })
const setGlow = (values: Partial<Glow>) => patch(`glow ${Object.keys(values).join()}`, { ink: { glow: { ...ink.value.glow!, ...values } } })

const LINES = [
  { value: 'solid', title: 'Solid' },
  { value: 'dashed', title: 'Dashed' },
  { value: 'dotted', title: 'Dotted' },
] as const
const CAPS = [
  { value: 'round', title: 'Round' },
  { value: 'butt', title: 'Flat' },
  { value: 'square', title: 'Square' },
] as const
</script>

<template>
  <ColourField label="Colour" :model-value="ink.colour" @change="(colour) => setInk({ colour })" @done="done" />
  <NumberSlider
    label="Width"
    :model-value="ink.width"
    :min="1"
    :max="40"
    :step="0.5"
    :precision="1"
    unit="px"
    @change="(width) => setInk({ width })"
    @done="done"
  />
  <ChoiceRow label="Line" :model-value="ink.line" :choices="LINES" @change="(line) => set({ ink: { line } })" />
  <NumberSlider
    v-if="ink.line === 'dashed'"
    label="Dash"
    :model-value="ink.dash"
    :min="2"
    :max="120"
    unit="px"
    @change="(dash) => setInk({ dash })"
    @done="done"
  />
  <NumberSlider
    v-if="ink.line !== 'solid'"
    label="Gap"
    :model-value="ink.gap"
    :min="2"
    :max="120"
    unit="px"
    @change="(gap) => setInk({ gap })"
    @done="done"
  />
  <ChoiceRow v-if="ink.line !== 'dotted'" label="Ends" :model-value="ink.cap" :choices="CAPS" @change="(cap) => set({ ink: { cap } })" />
  <v-switch
    label="Glow"
    :model-value="ink.glow !== null"
    @update:model-value="(on) => set({ ink: { glow: on ? glowSchema.parse({}) : null } })"
  />
  <template v-if="ink.glow">
    <ColourField label="Light" :model-value="ink.glow.colour" @change="(colour) => setGlow({ colour })" @done="done" />
    <NumberSlider
      label="Reach"
      :model-value="ink.glow.radius"
      :min="2"
      :max="100"
      unit="px"
      @change="(radius) => setGlow({ radius })"
      @done="done"
    />
    <PercentSlider label="Strength" :model-value="ink.glow.strength" @change="(value) => setGlow({ strength: value })" @done="done" />
  </template>
  <div class="buttons">
    <v-btn size="small" variant="outlined" @click="editor.edit((journey) => inkLegsLike(journey, leg.id))">Use this ink for all legs</v-btn>
  </div>
</template>
