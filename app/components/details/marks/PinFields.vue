<script setup lang="ts">
import { computed } from 'vue'
import type { Marked } from '#core/trips/compiled'
import { boundsOf } from '#core/journey/bounds'
import type { Pin, PinCircle } from '#core/journey/schema'
import { PIN_ICONS, pinSchema } from '#core/journey/schema'
import { PIN_SHADOW, USUAL_PIN_COMING } from '#core/marks/pins'
import { pinDrawing } from '#core/pins/catalogue'
import { PIN_ICON_PATHS } from '#draw/marks/pin-icons'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import FieldRow from '~/components/fields/FieldRow.vue'
import LastsField from '~/components/fields/LastsField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import ShadowField from '~/components/fields/ShadowField.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import { useMarkEdits } from '~/composables/use-mark-edits'
import { useEditor } from '~/stores/editor'

/** What is in a pin, round it, and when it is there. */
const props = defineProps<{ stop: Marked; isBeside?: boolean }>()
const { patch, set, done } = useMarkEdits(() => props.stop)

const editor = useEditor()
const pin = computed(() => props.stop.pin)
const drawing = computed(() => (pin.value.shape === 'none' || pin.value.shape === 'own' ? undefined : pinDrawing(pin.value.shape)))

const INSIDES = [
  { value: 'nothing', title: 'Nothing' },
  { value: 'number', title: 'Number' },
  { value: 'letters', title: 'Letters' },
  { value: 'icon', title: 'Picture' },
] as const
/** A mark beside the way is not reached, so it has no number. */
const insides = computed(() => (props.isBeside ? INSIDES.filter(({ value }) => value !== 'number') : INSIDES))
const ICONS = PIN_ICONS.map((value) => ({ value, title: value }))
function setInside(kind: (typeof INSIDES)[number]['value']) {
  const first = props.stop.name.trim().slice(0, 1).toUpperCase() || 'A'
  const made = {
    nothing: null,
    number: { kind: 'number' },
    letters: { kind: 'letters', text: first },
    icon: { kind: 'icon', icon: PIN_ICONS[0] },
  } as const satisfies Record<typeof kind, Pin['inside']>
  set({ pin: { inside: made[kind] } })
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
  { key: 'radius', label: 'Radius', as: 'number', ...boundsOf(pinSchema, 'circle.radius'), step: 0.05, precision: 2, unit: '×' },
]
const COMINGS = [
  { value: 'pop', title: 'Pops up' },
  { value: 'grow', title: 'Grows' },
  { value: 'fade', title: 'Fades in' },
  { value: 'drop', title: 'Drops' },
  { value: 'none', title: 'Appears' },
] as const satisfies readonly { value: Pin['comes']; title: string }[]
const BEFORE = [
  { value: 'hidden', title: 'Hidden' },
  { value: 'faint', title: 'Faint' },
  { value: 'shown', title: 'Shown' },
] as const satisfies readonly { value: Pin['before']; title: string }[]
</script>

<template>
  <template v-if="drawing?.face">
    <ChoiceRow label="Inside" :model-value="pin.inside?.kind ?? 'nothing'" :choices="insides" @change="setInside" />
    <FieldRow v-if="pin.inside?.kind === 'letters'" v-slot="{ id }" label="Letters">
      <v-text-field
        :aria-labelledby="id"
        :model-value="pin.inside.text"
        maxlength="3"
        @update:model-value="(text: string) => setLetters(text)"
        @blur="done"
      />
    </FieldRow>
    <PictureChoice
      v-else-if="pin.inside?.kind === 'icon'"
      v-slot="{ choice }"
      label="Picture in it"
      :model-value="pin.inside.icon"
      :choices="ICONS"
      :columns="8"
      @change="(icon) => set({ pin: { inside: { kind: 'icon', icon } } })"
    >
      <v-icon :icon="PIN_ICON_PATHS[choice.value]" size="20" />
    </PictureChoice>
  </template>
  <v-switch
    v-if="drawing?.isCentred"
    label="Lies flat on the ground"
    :model-value="pin.lies"
    @update:model-value="(lies) => set({ pin: { lies: lies === true } })"
  />
  <NumberSlider
    v-if="!pin.lies || !drawing?.isCentred"
    label="Raised by"
    :model-value="pin.lift"
    v-bind="boundsOf(pinSchema, 'lift')"
    :usual="[0, 3]"
    :step="0.05"
    :precision="2"
    unit="×"
    data-testid="pin-lift"
    @change="(lift) => patch('lift', { pin: { lift } })"
    @done="done"
  />
  <v-switch
    v-if="pin.lift > 0 && (!pin.lies || !drawing?.isCentred)"
    label="On a stem"
    :model-value="pin.stem"
    @update:model-value="(stem) => set({ pin: { stem: stem === true } })"
  />
  <ShadowField
    :model-value="pin.shadow"
    :usual="editor.journey!.sun?.strength ?? PIN_SHADOW"
    @change="(shadow) => patch('shadow', { pin: { shadow } })"
    @done="done"
  />
  <OptionalGroup
    label="Circle around it"
    :model-value="pin.circle"
    :initial="{ kind: 'pulse', colour: pin.colour, radius: 0.8 }"
    :fields="CIRCLE_FIELDS"
    @change="(circle, field) => patch(`circle ${field}`, { pin: { circle } })"
    @toggle="(circle) => set({ pin: { circle } })"
    @done="done"
  />
  <template v-if="!isBeside">
    <ChoiceRow label="Before" :model-value="pin.before" :choices="BEFORE" @change="(before) => set({ pin: { before } })" />
    <FieldRow v-slot="{ id }" label="Comes">
      <v-select
        :aria-labelledby="id"
        :items="COMINGS"
        :model-value="pin.comes"
        data-testid="pin-comes"
        @update:model-value="(comes) => set({ pin: { comes: comes as Pin['comes'] } })"
      />
    </FieldRow>
    <LastsField
      v-if="pin.comes !== 'none'"
      label="Takes"
      :model-value="pin.comesIn"
      :usual="USUAL_PIN_COMING"
      data-testid="pin-takes"
      @change="(comesIn) => patch('comes in', { pin: { comesIn } })"
      @done="done"
    />
    <NumberSlider
      label="Delay"
      :model-value="pin.delay"
      v-bind="boundsOf(pinSchema, 'delay')"
      :usual="[-5, 5]"
      :step="0.1"
      :precision="1"
      unit="s"
      @change="(delay) => patch('delay', { pin: { delay } })"
      @done="done"
    />
  </template>
</template>
