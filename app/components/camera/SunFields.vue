<script setup lang="ts">
import { setSun } from '#core/edits/journey'
import { boundsOf } from '#core/journey/bounds'
import type { Journey } from '#core/journey/schema'
import { sunSchema } from '#core/journey/schema'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** The light in which everything casts its shadow. */
type Sun = NonNullable<Journey['sun']>
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'sun')

const FIELDS: readonly FieldSpec<Sun>[] = [
  { key: 'bearing', label: 'From', as: 'number', ...boundsOf(sunSchema, 'bearing'), unit: '°' },
  { key: 'height', label: 'Height', as: 'number', ...boundsOf(sunSchema, 'height'), unit: '°' },
  { key: 'softness', label: 'Softness', as: 'percent' },
  { key: 'strength', label: 'Darkness', as: 'percent' },
]
</script>

<template>
  <OptionalGroup
    label="Sun"
    :model-value="editor.journey!.sun"
    :initial="sunSchema.parse({})"
    :fields="FIELDS"
    @change="(sun, field) => change(field, (journey) => setSun(journey, sun))"
    @toggle="(sun) => editor.edit((journey) => setSun(journey, sun))"
    @done="done"
  />
  <p v-if="editor.journey!.sun" class="quiet">
    Pins, vehicles and pictures cast their shadow on the map; 0° is the top of the map, 90° its right.
  </p>
</template>
