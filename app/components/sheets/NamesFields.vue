<script setup lang="ts">
import { computed } from 'vue'
import { setMapNames } from '#core/edits/ground/sheets'
import { groundGeo } from '#core/geo/ground'
import { hasMapNames } from '#core/journey/lookup'
import { boundsOf } from '#core/journey/bounds'
import type { MapNames } from '#core/journey/schema'
import { mapNamesSchema } from '#core/journey/schema'
import { nameColours } from '#core/maps/name-colours'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { FAMILY_CHOICES } from '~/components/text/text-fields'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'

/** The names of countries and seas on the map. */
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'names on the map')

const names = computed(() => editor.journey!.ground.names)
const sheet = computed(() => groundGeo(editor.journey!)?.sheet)
const set = (field: string, patch: Partial<MapNames>) => change(field, (journey) => setMapNames(journey, patch))
const setOnce = (patch: Partial<MapNames>) => editor.edit((journey) => setMapNames(journey, patch))
/** What one's own colour begins with: that which the names have. */
const suiting = () => (sheet.value ? nameColours(null, sheet.value).country.letters : '#fbf6ea')
</script>

<template>
  <p v-if="!sheet" class="quiet">Names need a map whose place on the Earth is known: see “Georeference”.</p>
  <template v-else>
    <v-switch
      label="Countries"
      :model-value="names?.countries ?? false"
      @update:model-value="(on) => setOnce({ countries: on === true })"
    />
    <v-switch label="Seas" :model-value="names?.seas ?? false" @update:model-value="(on) => setOnce({ seas: on === true })" />
    <p class="quiet">Each shows while it has room beside your stops’ names and lines.</p>
    <template v-if="names && hasMapNames(editor.journey!)">
      <NumberSlider
        label="Size"
        :model-value="names.size"
        v-bind="boundsOf(mapNamesSchema, 'size')"
        :usual="[12, 60]"
        unit="px"
        @change="(size) => set('size', { size })"
        @done="done"
      />
      <FieldRow v-slot="{ id }" label="Typeface">
        <v-select
          :aria-labelledby="id"
          :items="FAMILY_CHOICES"
          :model-value="names.family"
          @update:model-value="(family) => setOnce({ family })"
        />
      </FieldRow>
      <v-switch
        label="Colours that suit the map"
        :model-value="names.colour === null"
        @update:model-value="(on) => setOnce({ colour: on ? null : suiting() })"
      />
      <ColourField
        v-if="names.colour !== null"
        label="Colour"
        :model-value="names.colour"
        @change="(colour) => set('colour', { colour })"
        @done="done"
      />
    </template>
  </template>
</template>
