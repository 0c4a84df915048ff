<script setup lang="ts">
import {
  mdiArrowDown,
  mdiArrowUp,
  mdiDeleteOutline,
  mdiDotsVertical,
  mdiEyeOffOutline,
  mdiEyeOutline,
  mdiPlusBoxMultipleOutline,
} from '@mdi/js'
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import type { Traveller } from '#core/journey/schema'
import {
  colourTraveller,
  duplicateTraveller,
  editTraveller,
  moveTraveller,
  nameOfTraveller,
  removeTraveller,
} from '#core/edits/trips/travellers'
import ColourField from '~/components/fields/ColourField.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** The travellers of the journey, later ones over earlier ones; the selected one has its name and colour below. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => `traveller ${active.value.id}`)

const travellers = computed(() => editor.journey!.travellers)
const active = computed(() => editor.traveller!)
const nameOf = (traveller: Traveller) => nameOfTraveller(editor.journey!, traveller)

function duplicate({ id, legs }: Traveller) {
  const copy = nanoid(10)
  const legIds = legs.map(() => nanoid(10))
  if (editor.edit((journey) => duplicateTraveller(journey, id, copy, legIds))) editor.chooseTraveller(copy)
}

const actionsOf = (traveller: Traveller, i: number) => [
  { title: 'Duplicate', icon: mdiPlusBoxMultipleOutline, disabled: false, run: () => duplicate(traveller) },
  { title: 'Earlier', icon: mdiArrowUp, disabled: i === 0, run: () => editor.edit((j) => moveTraveller(j, i, i - 1)) },
  {
    title: 'Later',
    icon: mdiArrowDown,
    disabled: i === travellers.value.length - 1,
    run: () => editor.edit((j) => moveTraveller(j, i, i + 1)),
  },
  { title: 'Delete', icon: mdiDeleteOutline, disabled: false, run: () => editor.edit((j) => removeTraveller(j, traveller.id)) },
]
</script>

<template>
  <ul class="rows" aria-label="Travellers">
    <li
      v-for="(traveller, i) in travellers"
      :key="traveller.id"
      :class="{ chosen: traveller.id === active.id, hidden: !traveller.shown }"
      data-testid="traveller"
    >
      <button type="button" class="choose" :aria-pressed="traveller.id === active.id" @click="editor.chooseTraveller(traveller.id)">
        <span class="chip" :style="{ background: traveller.colour }" />
        <span class="name">{{ nameOf(traveller) }}</span>
        <span class="note figures">{{ traveller.visits.length }} {{ traveller.visits.length === 1 ? 'stop' : 'stops' }}</span>
      </button>
      <button
        type="button"
        class="act"
        :aria-pressed="traveller.shown"
        :aria-label="`Show ${nameOf(traveller)} in the film`"
        :title="traveller.shown ? 'In the film' : 'Not in the film'"
        @click="editor.edit((j) => editTraveller(j, traveller.id, { shown: !traveller.shown }))"
      >
        <v-icon :icon="traveller.shown ? mdiEyeOutline : mdiEyeOffOutline" size="17" />
      </button>
      <v-menu>
        <template #activator="{ props: menu }">
          <button v-bind="menu" type="button" class="act" :aria-label="`More for ${nameOf(traveller)}`">
            <v-icon :icon="mdiDotsVertical" size="17" />
          </button>
        </template>
        <v-list density="compact">
          <v-list-item
            v-for="action in actionsOf(traveller, i)"
            :key="action.title"
            :title="action.title"
            :prepend-icon="action.icon"
            :disabled="action.disabled"
            @click="action.run()"
          />
        </v-list>
      </v-menu>
    </li>
  </ul>
  <v-text-field
    label="Name"
    class="field"
    data-testid="traveller-name"
    :model-value="active.name"
    :placeholder="nameOf(active)"
    maxlength="60"
    @update:model-value="(name) => change('name', (j) => editTraveller(j, active.id, { name }))"
    @blur="done"
  />
  <ColourField
    label="Colour"
    :model-value="active.colour"
    @change="(colour) => change('colour', (j) => colourTraveller(j, active.id, colour))"
    @done="done"
  />
</template>

<style scoped>
.rows {
  margin-bottom: 10px;
}
.hidden .name {
  color: var(--quiet);
  text-decoration: line-through;
}
.chip {
  width: 14px;
  height: 14px;
  border-radius: 50%;
  border: 1px solid var(--rule);
}
.field {
  margin-bottom: 4px;
}
</style>
