<script setup lang="ts">
import { tryGeoSheet } from '#core/geo/georeference'
import { mdiDeleteOutline } from '@mdi/js'
import { computed } from 'vue'
import { editSheet, removeSheet } from '#core/edits/ground/sheets'
import { hasMapNames } from '#core/journey/lookup'
import { SHEET_FORMAT_WORDS } from '#core/sheet/limits'
import { hasPixels } from '#core/sheet/sharpness'
import ValueSection from '~/components/details/values/ValueSection.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import AreaFields from './AreaFields.vue'
import CreditFields from './CreditFields.vue'
import FrameFields from './FrameFields.vue'
import GeoFields from './GeoFields.vue'
import GroundFields from './GroundFields.vue'
import NamesFields from './NamesFields.vue'
import PlacementFields from './PlacementFields.vue'
import SheetStack from './SheetStack.vue'
import ShapeFields from './ShapeFields.vue'
import WashFields from './WashFields.vue'

/** The sheets of the journey, and the settings of the selected one: the most used on top, the rest folded. */
const emit = defineEmits<{ import: [replaces?: string]; draw: [replaces?: string]; tiles: [replaces?: string]; credits: [] }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'sheet')

const sheet = computed(() => editor.selectedSheet)
const isFirst = computed(() => editor.journey!.sheets[0] === sheet.value)
/** "Known" is only claimed for what was checked, or stated by the user. */
const geoNote = computed(() => {
  const georeference = sheet.value?.georeference
  if (!georeference) return 'not known'
  const geo = tryGeoSheet(georeference, sheet.value!)
  if (!geo) return 'needs more points'
  if (geo.doubt) return 'in doubt'
  return georeference.kind === 'affine' || geo.residuals ? 'known' : 'not checked'
})
const namesNote = computed(() => {
  const names = editor.journey!.ground.names
  if (!names || !hasMapNames(editor.journey!)) return 'none'
  return names.countries && names.seas ? 'countries and seas' : names.countries ? 'countries' : 'seas'
})
function replace() {
  const { id, drawn, taken } = sheet.value!
  if (drawn) emit('draw', id)
  else if (taken) emit('tiles', id)
  else emit('import', id)
}
const replaceWords = computed(() => (sheet.value?.drawn ? 'Redraw …' : sheet.value?.taken ? 'Take more …' : 'Replace …'))
/** What is known of a sheet of tiles. */
const takenWords = computed(() => {
  const taken = sheet.value?.taken
  if (!taken) return ''
  const { service, finest, missing } = taken
  const level = `Tiles of ${service.name}, up to level ${service.grid.levels[finest]?.id ?? finest}`
  return missing === 0 ? level : `${level}; ${missing === 1 ? 'one did' : `${missing} did`} not come`
})

function remove() {
  if (editor.edit((journey) => removeSheet(journey, sheet.value!.id))) editor.select({ kind: 'sheet' })
}
</script>

<template>
  <div v-if="sheet" :key="sheet.id">
    <SheetStack @import="emit('import')" @draw="emit('draw')" @tiles="emit('tiles')" />

    <v-text-field
      label="Name"
      class="name serif"
      :model-value="sheet.name"
      maxlength="255"
      @update:model-value="(name) => name.trim() !== '' && change('name', (j) => editSheet(j, sheet!.id, { name }))"
      @blur="done"
    />
    <p class="quiet figures size">
      <template v-if="!hasPixels(sheet)">Vector, sharp at any zoom</template>
      <template v-else>{{ sheet.width }} × {{ sheet.height }} pixels</template>
    </p>
    <p v-if="takenWords" class="quiet size" data-testid="taken">{{ takenWords }}</p>

    <template v-if="!sheet.tracing">
      <h3>Wash</h3>
      <WashFields :sheet="sheet" />
    </template>

    <FrameFields v-if="isFirst" :sheet="sheet" />
    <PlacementFields v-else :sheet="sheet" />

    <div class="folds">
      <FoldedSection title="Turn, straighten, crop"><ShapeFields :sheet="sheet" /></FoldedSection>
      <FoldedSection title="Georeference" :note="geoNote"><GeoFields :sheet="sheet" /></FoldedSection>
      <FoldedSection v-if="isFirst" title="Names on the map" :note="namesNote"><NamesFields /></FoldedSection>
      <FoldedSection v-if="isFirst" title="Beyond the edge"><GroundFields /></FoldedSection>
      <FoldedSection v-if="!sheet.tracing" title="Highlighted countries"><AreaFields :sheet="sheet" /></FoldedSection>
      <ValueSection v-if="!sheet.tracing" :sheet="sheet.id" />
      <FoldedSection title="Source and licence" :note="sheet.credit.licence || 'not noted'">
        <CreditFields :sheet="sheet" @credits="emit('credits')" />
      </FoldedSection>
    </div>

    <div class="buttons">
      <v-btn size="small" variant="outlined" data-testid="replace-sheet" @click="replace">{{ replaceWords }}</v-btn>
      <v-btn size="small" variant="outlined" color="error" :prepend-icon="mdiDeleteOutline" @click="remove">Remove</v-btn>
    </div>
  </div>
  <div v-else>
    <h2>No map yet</h2>
    <p>Bring in a map: {{ SHEET_FORMAT_WORDS }}, up to 600 megapixels. You can also drop it on the stage. Or have one drawn.</p>
    <div class="buttons">
      <v-btn color="accent" variant="flat" @click="emit('import')">Choose a map</v-btn>
      <v-btn variant="outlined" @click="emit('draw')">Generate a map</v-btn>
      <v-btn variant="outlined" @click="emit('tiles')">From a tile service</v-btn>
    </div>
    <h3>Ground</h3>
    <GroundFields />
  </div>
</template>

<style scoped>
.name {
  margin-top: 10px;
}
.name :deep(input) {
  font-family: var(--serif);
  font-size: 20px;
  font-weight: 700;
}
.size {
  margin-top: 4px;
}
.folds {
  margin-top: 14px;
  border-bottom: 1px solid var(--rule);
}
</style>
