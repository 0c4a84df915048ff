<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { nanoid } from 'nanoid'
import { computed, nextTick, onMounted, ref } from 'vue'
import { tryGeoSheet } from '#core/geo/georeference'
import { regionsShownBy } from '#core/geo/shown-region'
import { sheetToGround } from '#core/sheet/place'
import { addArea, editArea, removeArea } from '#core/edits/ground/sheets'
import { boundsOf } from '#core/journey/bounds'
import type { Area, Sheet } from '#core/journey/schema'
import { areaSchema } from '#core/journey/schema'
import ColourField from '~/components/fields/ColourField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PercentSlider from '~/components/fields/PercentSlider.vue'
import SpanFields from '~/components/fields/SpanFields.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import type { Country } from '~/services/api'
import { ApiError, countryOutline, listCountries } from '~/services/api'
import { useEditor } from '~/stores/editor'

/** Countries that are filled and outlined on the map, each from a moment of its own if wanted. */
const props = defineProps<{ sheet: Sheet }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => 'area')
const countries = ref<Country[]>([])
const problem = ref('')
const busy = ref(false)
const typed = ref('')

onMounted(async () => {
  countries.value = await listCountries().catch((error: unknown) => {
    problem.value = error instanceof ApiError ? error.message : String(error)
    return []
  })
})

async function light(id: string | null) {
  if (id === null) return
  void nextTick(() => (typed.value = ''))
  problem.value = ''
  busy.value = true
  const { opening } = editor
  const { place } = props.sheet
  try {
    const { name, rings } = await countryOutline(id, props.sheet)
    const onGround = rings.map((ring) => {
      const moved: number[] = []
      for (let i = 0; i + 1 < ring.length; i += 2) {
        const { x, y } = sheetToGround(place, { x: ring[i]!, y: ring[i + 1]! })
        moved.push(x, y)
      }
      return moved
    })
    if (editor.opening === opening) editor.edit((journey) => addArea(journey, areaSchema.parse({ id: nanoid(10), name, rings: onGround })))
  } catch (error) {
    if (!(error instanceof ApiError)) throw error
    problem.value = error.message
  } finally {
    busy.value = false
  }
}

/** The countries of which the map shows anything. */
const offered = computed(() => {
  const geo = tryGeoSheet(props.sheet.georeference, props.sheet)
  if (!geo) return []
  const isShown = regionsShownBy(geo, props.sheet)
  return countries.value.filter(({ region }) => isShown(region))
})

const set = (area: Area, field: string, patch: Parameters<typeof editArea>[2]) =>
  change(`${area.id} ${field}`, (journey) => editArea(journey, area.id, patch))
</script>

<template>
  <p v-if="!sheet.georeference" class="quiet">Georeference this map first.</p>
  <p v-else-if="countries.length > 0 && offered.length === 0" class="quiet">No country lies on this map.</p>
  <v-autocomplete
    v-else
    v-model:search="typed"
    label="Highlight a country"
    :model-value="null"
    :items="offered"
    item-title="name"
    item-value="id"
    :loading="busy"
    data-testid="light-country"
    @update:model-value="light"
  />
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  <section v-for="area in editor.journey!.areas" :key="area.id" class="area" :aria-label="area.name">
    <header>
      <strong>{{ area.name }}</strong>
      <button type="button" :aria-label="`Remove ${area.name}`" @click="editor.edit((journey) => removeArea(journey, area.id))">
        <v-icon :icon="mdiDeleteOutline" size="18" />
      </button>
    </header>
    <ColourField
      label="Fill"
      :model-value="area.fill.colour"
      @change="(colour) => set(area, 'fill', { fill: { ...area.fill, colour } })"
      @done="done"
    />
    <PercentSlider
      label="Opacity"
      :model-value="area.fill.opacity"
      @change="(value) => set(area, 'opacity', { fill: { ...area.fill, opacity: value } })"
      @done="done"
    />
    <ColourField
      label="Outline"
      :model-value="area.outline.colour"
      @change="(colour) => set(area, 'outline', { outline: { ...area.outline, colour } })"
      @done="done"
    />
    <NumberSlider
      label="Width"
      :model-value="area.outline.width"
      v-bind="boundsOf(areaSchema, 'outline.width')"
      :step="0.5"
      :precision="1"
      unit="px"
      @change="(width) => set(area, 'width', { outline: { ...area.outline, width } })"
      @done="done"
    />
    <SpanFields :model-value="area.shown" @change="(shown) => set(area, 'shown', { shown })" @done="done" />
  </section>
</template>

<style scoped>
.area {
  margin-top: 12px;
  padding-top: 8px;
  border-top: 1px solid var(--rule);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
header button {
  width: 28px;
  height: 28px;
  cursor: pointer;
}
.problem {
  margin-top: 6px;
  color: rgb(var(--v-theme-error));
}
</style>
