<script setup lang="ts">
import { setHandheld } from '#core/edits/journey'
import { boundsOf } from '#core/journey/bounds'
import type { Journey } from '#core/journey/schema'
import { handheldSchema } from '#core/journey/schema'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** Whether the camera sways as if it was held by hand, and how much. */
type Handheld = NonNullable<Journey['handheld']>
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'handheld')

const FIELDS: readonly FieldSpec<Handheld>[] = [
  { key: 'px', label: 'Sway', as: 'number', ...boundsOf(handheldSchema, 'px'), usual: [0, 30], step: 0.5, precision: 1, unit: 'px' },
  {
    key: 'degrees',
    label: 'Roll',
    as: 'number',
    ...boundsOf(handheldSchema, 'degrees'),
    usual: [0, 2],
    step: 0.05,
    precision: 2,
    unit: '°',
  },
  { key: 'seed', label: 'Take', as: 'number', ...boundsOf(handheldSchema, 'seed'), usual: [0, 20] },
]
</script>

<template>
  <OptionalGroup
    label="Handheld"
    :model-value="editor.journey!.handheld"
    :initial="handheldSchema.parse({})"
    :fields="FIELDS"
    @change="(handheld, field) => change(field, (journey) => setHandheld(journey, handheld))"
    @toggle="(handheld) => editor.edit((journey) => setHandheld(journey, handheld))"
    @done="done"
  />
  <p v-if="editor.journey!.handheld" class="quiet">
    The frame is a little closer, so that nothing beyond it comes into sight. Another take sways in another way.
  </p>
</template>
