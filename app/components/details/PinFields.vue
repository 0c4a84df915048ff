<script setup lang="ts">
import { computed } from 'vue'
import type { Pin, PinCircle, Stop } from '#core/journey/schema'
import { PIN_DRAWINGS } from '#draw/pin-drawings'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import { useStopEdits } from '~/composables/use-stop-edits'

/** What is in a pin, round it, and when it is there. */
const props = defineProps<{ stop: Stop }>()
const { patch, set, done } = useStopEdits(() => props.stop)

const pin = computed(() => props.stop.pin)
const drawing = computed(() => (pin.value.shape === 'none' ? undefined : PIN_DRAWINGS[pin.value.shape]))

const INSIDES = [
  { value: 'nothing', title: 'Nothing' },
  { value: 'number', title: 'Number' },
  { value: 'letters', title: 'Letters' },
] as const
function setInside(kind: (typeof INSIDES)[number]['value']) {
  const first = props.stop.name.trim().slice(0, 1).toUpperCase() || 'A'
  set({ pin: { inside: kind === 'nothing' ? null : kind === 'number' ? { kind } : { kind, text: first } } })
}
/** Letters that are being typed are kept only once there are any. */
function setLetters(text: string) {
  if (text.trim() !== '') patch('letters inside', { pin: { inside: { kind: 'letters', text: text.trim() } } })
}

const CIRCLE_FIELDS: readonly FieldSpec<PinCircle>[] = [
  {
    key: 'kind',
    label: 'Kind',
    as: 'choice',
    choices: [
      { value: 'pulse', title: 'Pulse' },
      { value: 'settling', title: 'Settling' },
      { value: 'by-hand', title: 'By hand' },
    ],
  },
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'radius', label: 'Radius', as: 'number', min: 0.3, max: 4, step: 0.05, precision: 2, unit: '×' },
]
const BEFORE = [
  { value: 'hidden', title: 'Hidden' },
  { value: 'faint', title: 'Faint' },
  { value: 'shown', title: 'Shown' },
] as const satisfies readonly { value: Pin['before']; title: string }[]
</script>

<template>
  <template v-if="drawing?.face">
    <ChoiceRow label="Inside" :model-value="pin.inside?.kind ?? 'nothing'" :choices="INSIDES" @change="setInside" />
    <FieldRow v-if="pin.inside?.kind === 'letters'" v-slot="{ id }" label="Letters">
      <v-text-field
        :aria-labelledby="id"
        :model-value="pin.inside.text"
        maxlength="3"
        @update:model-value="(text: string) => setLetters(text)"
        @blur="done"
      />
    </FieldRow>
  </template>
  <v-switch
    v-if="drawing?.isCentred"
    label="Lies flat on the ground"
    :model-value="pin.lies"
    @update:model-value="(lies) => set({ pin: { lies: lies === true } })"
  />
  <OptionalGroup
    label="A circle round it"
    :model-value="pin.circle"
    :initial="{ kind: 'pulse', colour: pin.colour, radius: 0.8 }"
    :fields="CIRCLE_FIELDS"
    @change="(circle, field) => patch(`circle ${field}`, { pin: { circle } })"
    @toggle="(circle) => set({ pin: { circle } })"
    @done="done"
  />
  <ChoiceRow label="Before" :model-value="pin.before" :choices="BEFORE" @change="(before) => set({ pin: { before } })" />
  <NumberSlider
    label="Delay"
    :model-value="pin.delay"
    :min="-5"
    :max="5"
    :step="0.1"
    :precision="1"
    unit="s"
    @change="(delay) => patch('delay', { pin: { delay } })"
    @done="done"
  />
</template>
