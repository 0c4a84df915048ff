<script setup lang="ts">
import { computed } from 'vue'
import { setDepth } from '#core/edits/journey'
import { nameOfStop } from '#core/journey/lookup'
import type { Depth, Sky } from '#core/journey/schema'
import { depthSchema } from '#core/journey/schema'
import FieldList from '~/components/fields/FieldList.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import OptionalGroup from '~/components/fields/OptionalGroup.vue'
import type { FieldSpec } from '~/components/fields/field-list'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** How what is further away looks under a tilted camera, soft focus and haze, and what is round the globe. */
type SoftFocus = NonNullable<Depth['softFocus']>
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'depth')
const depth = computed(() => editor.journey!.depth)
const INITIAL = depthSchema.parse({ softFocus: {}, haze: {} })

const SOFT_FIELDS: readonly FieldSpec<SoftFocus>[] = [
  { key: 'strength', label: 'Strength', as: 'percent' },
  { key: 'far', label: 'Behind', as: 'percent' },
  { key: 'near', label: 'In front', as: 'percent' },
]
const HAZE_FIELDS: readonly FieldSpec<NonNullable<Depth['haze']>>[] = [
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'strength', label: 'Strength', as: 'percent' },
]

const SKY_FIELDS: readonly FieldSpec<Sky>[] = [
  { key: 'colour', label: 'Sky', as: 'colour' },
  { key: 'air', label: 'Air', as: 'colour' },
  { key: 'clouds', label: 'Clouds', as: 'percent' },
]

/** What is in focus, as the value of a list, and back. */
const choices = computed(() => [
  { value: 'traveller', title: 'The traveller' },
  { value: 'middle', title: 'The middle of the frame' },
  ...editor.journey!.stops.map((stop) => ({ value: `stop ${stop.id}`, title: nameOfStop(stop) })),
])
const chosen = computed(() => {
  const on = depth.value.softFocus?.on
  return on?.kind === 'stop' ? `stop ${on.stop}` : (on?.kind ?? 'traveller')
})
function focusOn(value: string) {
  const [kind, stop] = value.split(' ')
  const on: SoftFocus['on'] = stop === undefined ? { kind: kind as 'traveller' | 'middle' } : { kind: 'stop', stop }
  editor.edit((journey) => setDepth(journey, { softFocus: { ...depth.value.softFocus!, on } }))
}
</script>

<template>
  <p class="quiet">Soft focus and haze show when the camera is tilted; the sky shows with the globe.</p>
  <OptionalGroup
    label="Soft focus"
    :model-value="depth.softFocus"
    :initial="INITIAL.softFocus!"
    :fields="SOFT_FIELDS"
    @toggle="(softFocus) => editor.edit((j) => setDepth(j, { softFocus }))"
    @change="(softFocus, fields) => change(`soft ${fields}`, (j) => setDepth(j, { softFocus }))"
    @done="done"
  />
  <FieldRow v-if="depth.softFocus" v-slot="{ id }" label="In focus">
    <v-select :aria-labelledby="id" :items="choices" :model-value="chosen" data-testid="in-focus" @update:model-value="focusOn" />
  </FieldRow>
  <OptionalGroup
    label="Haze"
    :model-value="depth.haze"
    :initial="INITIAL.haze!"
    :fields="HAZE_FIELDS"
    @toggle="(haze) => editor.edit((j) => setDepth(j, { haze }))"
    @change="(haze, fields) => change(`haze ${fields}`, (j) => setDepth(j, { haze }))"
    @done="done"
  />
  <FieldList
    :model-value="depth.sky"
    :fields="SKY_FIELDS"
    @change="(fields) => change(`sky ${Object.keys(fields).join()}`, (j) => setDepth(j, { sky: { ...depth.sky, ...fields } }))"
    @done="done"
  />
</template>
