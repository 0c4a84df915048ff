<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { computed } from 'vue'
import { editValueMark, removeValueMark } from '#core/edits/pace/values'
import { nameOfTraveller } from '#core/edits/trips/travellers'
import { boundsOf } from '#core/journey/bounds'
import { findLeg, markedOf, nameOfStop, travellerOf, VALUE_NAMES } from '#core/journey/lookup'
import type { ValueMark } from '#core/journey/schema'
import { ownerOf, valueMarkSchema } from '#core/journey/schema'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import MomentFields from '~/components/fields/MomentFields.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import { VALUE_CHOICES } from './value-fields'

/** A mark at which a value goes to another one. */
const props = defineProps<{ mark: ValueMark }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `value ${props.mark.id}`)
const edit = (patch: Parameters<typeof editValueMark>[2]) =>
  change(Object.keys(patch).join(), (journey) => editValueMark(journey, props.mark.id, patch))

/** The stops that a leg leads from and to. */
function legName(id: string): string {
  const { traveller, index } = findLeg(editor.journey!, id)!
  return [0, 1].map((k) => nameOfStop(editor.journey!.stops.find((stop) => stop.id === traveller.visits[index + k]!.stop)!)).join(' → ')
}

/** What has the value, and how to come back to it. */
const owner = computed(() => {
  const journey = editor.journey!
  const of = ownerOf(props.mark)
  if (!of) return { name: 'The whole map', show: () => editor.select({ kind: 'sheet' }) }
  switch (of.kind) {
    case 'leg':
      return { name: legName(of.id), show: () => editor.select({ kind: 'leg', id: of.id }) }
    case 'traveller':
      return { name: nameOfTraveller(journey, travellerOf(journey, of.id)), show: () => editor.chooseTraveller(of.id) }
    case 'stop': {
      const kind = journey.stops.some(({ id }) => id === of.id) ? 'stop' : 'landmark'
      return { name: nameOfStop(markedOf(journey).find(({ id }) => id === of.id)!), show: () => editor.select({ kind, id: of.id }) }
    }
    case 'sheet':
      return {
        name: journey.sheets.find(({ id }) => id === of.id)!.name,
        show: () => editor.select({ kind: 'sheet', id: of.id }),
      }
    default:
      return of.kind satisfies never
  }
})
const percent = computed(() => {
  const [least, most] = VALUE_CHOICES[props.mark.value].usual
  return { ...boundsOf(valueMarkSchema, `${props.mark.value}.to`, 100), usual: [100 * least, 100 * most] as [number, number] }
})

const EASINGS = [
  { value: 'ease-in-out', title: 'Softly' },
  { value: 'linear', title: 'Evenly' },
  { value: 'ease-in', title: 'Slowly at first' },
  { value: 'ease-out', title: 'Slowly at the end' },
] as const satisfies readonly { value: ValueMark['easing']; title: string }[]
</script>

<template>
  <div>
    <h2>{{ VALUE_NAMES[mark.value] }}</h2>
    <p>
      <button type="button" class="owner" @click="owner.show">{{ owner.name }}</button>
    </p>
    <ColourField v-if="mark.value === 'line-colour'" label="To" :model-value="mark.to" @change="(to) => edit({ to })" @done="done" />
    <NumberSlider
      v-else
      label="To"
      data-testid="value-to"
      :model-value="Math.round(1000 * mark.to) / 10"
      v-bind="percent"
      :precision="1"
      unit="%"
      @change="(to) => edit({ to: to / 100 })"
      @done="done"
    />
    <MomentFields label="From" :model-value="mark.at" @change="(at) => edit({ at })" @done="done" />
    <NumberSlider
      label="Within"
      data-testid="value-within"
      :model-value="mark.within"
      v-bind="boundsOf(valueMarkSchema, `${mark.value}.within`)"
      :usual="[0, 6]"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="(within) => edit({ within })"
      @done="done"
    />
    <FieldRow v-slot="{ id }" label="Goes">
      <v-select :aria-labelledby="id" :items="EASINGS" :model-value="mark.easing" @update:model-value="(easing) => edit({ easing })" />
    </FieldRow>
    <p class="quiet">
      {{
        mark.value === 'map-dim' || mark.value === 'line-colour'
          ? 'It stays so until the next change.'
          : '100 % is what is set in the details. It stays so until the next change.'
      }}
    </p>
    <div class="buttons">
      <v-btn
        size="small"
        variant="outlined"
        :prepend-icon="mdiDeleteOutline"
        @click="editor.edit((j) => removeValueMark(j, mark.id)) && owner.show()"
        >Delete</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.owner {
  color: var(--sea);
  text-decoration: underline;
  cursor: pointer;
}
</style>
