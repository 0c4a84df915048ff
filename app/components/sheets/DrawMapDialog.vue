<script setup lang="ts">
import { refDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { DrawnMap, MapStyle } from '#core/journey/schema'
import { drawnMapSchema } from '#core/journey/schema'
import { MEAN_RADIUS } from '#core/geo/earth'
import { hasMapNames } from '#core/journey/lookup'
import { layoutMap } from '#core/maps/layout'
import { inStyle } from '#core/maps/map-styles'
import { hasOneScale } from '#core/maps/scale-bar'
import { movedRegion, regionAround, withMargin } from '#core/maps/region'
import { creditOfMap } from '#core/sheet/credits'
import { IMAGERY_PIXELS, imageryOf } from '#core/sheet/imagery'
import DialogSheet from '~/components/DialogSheet.vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import PlaceSearch from '~/components/places/PlaceSearch.vue'
import MapStyleChoice from './MapStyleChoice.vue'
import RegionPicture from './RegionPicture.vue'
import type { Country } from '~/services/api'
import { ApiError, listCountries, previewMap } from '~/services/api'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'

/** Chooses what a generated map shows and how, with a live preview. `from` is the map to redraw, if any. */
const props = defineProps<{ from: DrawnMap | null }>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ draw: [map: DrawnMap, name: string, isNamed: boolean] }>()
const editor = useEditor()
const stage = useStage()

const EUROPE = { west: -12, south: 35, east: 32, north: 61 }
const aspect = () => stage.reference.width / stage.reference.height
const fresh = (): DrawnMap =>
  drawnMapSchema.parse({
    region: regionOfStops() ?? EUROPE,
    projection: 'conic',
    style: 'atlas',
    borders: true,
    graticule: false,
    aspect: aspect(),
  })

const map = ref<DrawnMap>(fresh())
const name = ref('')
/** Whether it bears the names of countries and seas, which are laid over it and no part of it. */
const isNamed = ref(true)
const countries = ref<Country[]>([])
const picture = ref('')
const problem = ref('')
const drawing = ref(false)
/** A warning if the coasts are too coarse for the region. */
const coarse = ref('')

/** Segments of coast longer than this, in pixels of a film 1920 wide, look like a polygon; pixels of imagery wider than this look blurred. */
const ROUGH = 14
const BLURRED = 4
const FILM = 1920

/** What is to be said of a map that is too coarse for its region. @param metres between points of its coasts, null without any */
function coarseness(drawn: DrawnMap, metres: number | null): string {
  const { georeference, size } = layoutMap(drawn)
  // The plane of a drawn map has the Earth's radius as its unit.
  const metresToPixel = (georeference.matrix[0] * MEAN_RADIUS * Math.max(size.width, size.height)) / FILM
  if (imageryOf(drawn.style)) {
    const wide = (2 * Math.PI * MEAN_RADIUS) / IMAGERY_PIXELS / metresToPixel
    return wide < BLURRED
      ? ''
      : `A pixel of this imagery is 10 km wide, ${Math.round(wide)} px of the film: it is made for continents and the globe.`
  }
  if (metres === null) return 'No coast or lake lies in this region, so there is little to see. For a hike import a detailed map.'
  const apart = metres / metresToPixel
  if (apart < ROUGH) return ''
  const words = metres < 1000 ? `${Math.round(metres / 10) * 10} m` : `${(metres / 1000).toFixed(1)} km`
  return `The coasts known here have a point every ${words}, ${Math.round(apart)} px of the film: too coarse for so small a region. For a hike import a detailed map.`
}

/** The region around the stops, if their places on the Earth are known. */
function regionOfStops() {
  const places = editor.journey!.stops.flatMap((stop) => editor.geo?.toLonLat(stop.at) ?? [])
  return places.length > 0 ? withMargin(regionAround(places), 0.25) : undefined
}

watch(
  open,
  async (isOpen) => {
    if (!isOpen) return
    map.value = props.from ? { ...props.from, aspect: aspect() } : fresh()
    townsByHand = props.from ? props.from.towns : undefined
    name.value = 'Generated map'
    isNamed.value = props.from === null || hasMapNames(editor.journey!)
    problem.value = ''
    if (countries.value.length === 0) countries.value = await listCountries().catch(() => [])
  },
  { immediate: true },
)

const PROJECTIONS = [
  { value: 'conic', title: 'Conic' },
  { value: 'mercator', title: 'Mercator' },
  { value: 'equirectangular', title: 'Plate' },
  { value: 'orthographic', title: 'Globe' },
] as const

function showCountry(id: string | null) {
  const country = countries.value.find((entry) => entry.id === id)
  if (!country) return
  map.value = { ...map.value, region: withMargin(country.region, 0.12) }
  name.value = country.name
}
function showPlace(place: { name: string; lon: number; lat: number }) {
  map.value = { ...map.value, region: regionAround([place], 6) }
  if (place.name) name.value = `Around ${place.name}`
}
function showStops() {
  const region = regionOfStops()
  if (region) map.value = { ...map.value, region }
}
function showWorld() {
  const isGlobe = map.value.projection === 'orthographic'
  map.value = {
    ...map.value,
    region: { west: -180, south: isGlobe ? -90 : -62, east: 180, north: isGlobe ? 90 : 80 },
    projection: map.value.projection === 'conic' ? 'equirectangular' : map.value.projection,
  }
  name.value = 'The world'
}
/** Styles of the night show towns by their light, unless that is chosen otherwise. */
let townsByHand: boolean | undefined
function setStyle(style: MapStyle) {
  const styled = inStyle(map.value, style)
  map.value = { ...styled, towns: townsByHand ?? styled.towns }
}
function showTowns(towns: boolean) {
  townsByHand = towns
  map.value = { ...map.value, towns }
}
const SIDES = [
  { side: 'west', label: 'West', most: 180 },
  { side: 'south', label: 'South', most: 90 },
  { side: 'east', label: 'East', most: 180 },
  { side: 'north', label: 'North', most: 90 },
] as const

/** The map if it can be drawn, else the problem. */
const checked = computed(() => drawnMapSchema.safeParse(map.value))
const move = (right: number, down: number, larger: number) =>
  (map.value = { ...map.value, region: movedRegion(map.value.region, right, -down, larger) })

const asked = refDebounced(map, 150)
/** Whether the preview is out of date. */
watch(map, () => {
  drawing.value = true
  problem.value = ''
})
let control: AbortController | undefined
watch(
  [asked, open],
  async () => {
    control?.abort()
    if (!open.value) return
    if (!checked.value.success) {
      problem.value = 'South must be below north, and west and east must differ.'
      drawing.value = false
      return
    }
    control = new AbortController()
    const { signal } = control
    drawing.value = true
    try {
      const drawn = checked.value.data
      const { blob, coastMetres } = await previewMap(drawn, signal)
      coarse.value = coarseness(drawn, coastMetres)
      URL.revokeObjectURL(picture.value)
      picture.value = URL.createObjectURL(blob)
      problem.value = ''
    } catch (error) {
      if (!signal.aborted) problem.value = error instanceof ApiError ? error.message : String(error)
    } finally {
      if (!signal.aborted) drawing.value = false
    }
  },
  { immediate: true },
)
onBeforeUnmount(() => URL.revokeObjectURL(picture.value))

function draw() {
  if (!checked.value.success) return
  open.value = false
  emit('draw', checked.value.data, name.value.trim() || 'Generated map', isNamed.value)
}
</script>

<template>
  <DialogSheet v-model="open" title="Generate a map" :width="980">
    <div class="desk">
      <RegionPicture class="picture" :aspect="map.aspect" :is-busy="drawing" @move="move">
        <img v-if="picture && !drawing && problem === ''" :src="picture" alt="The map as it will be drawn" data-testid="map-preview" />
        <p v-else-if="problem === ''" class="busy" role="status">
          <v-progress-circular indeterminate size="28" color="primary" /> Drawing …
        </p>
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <p v-if="coarse && !drawing" class="coarse" role="status" data-testid="coarse">{{ coarse }}</p>
      </RegionPicture>
      <div class="fields">
        <v-autocomplete
          label="A country"
          :disabled="countries.length === 0"
          :model-value="null"
          :items="countries"
          item-title="name"
          item-value="id"
          data-testid="map-country"
          @update:model-value="showCountry"
        />
        <PlaceSearch label="Around a place" :near="undefined" @choose="showPlace" />
        <div class="buttons">
          <v-btn size="small" variant="outlined" @click="showWorld">The world</v-btn>
          <v-btn v-if="editor.geo && editor.journey!.stops.length > 0" size="small" variant="outlined" @click="showStops"
            >Around my stops</v-btn
          >
        </div>
        <div class="box" role="group" aria-label="Region in degrees">
          <NumberField
            v-for="{ side, label, most } in SIDES"
            :key="side"
            :label="label"
            :model-value="map.region[side]"
            :min="-most"
            :max="most"
            :step="0.1"
            :precision="4"
            unit="°"
            @change="(value) => (map = { ...map, region: { ...map.region, [side]: value } })"
          />
        </div>
        <ChoiceRow
          label="Projection"
          :model-value="map.projection"
          :choices="PROJECTIONS"
          @change="(projection) => (map = { ...map, projection })"
        />
        <MapStyleChoice :model-value="map.style" @change="setStyle" />
        <div class="switches">
          <v-switch v-model="map.borders" label="Borders" />
          <v-switch v-model="map.rivers" label="Rivers" />
          <v-switch :model-value="map.towns" label="Towns" @update:model-value="(on) => showTowns(on === true)" />
          <v-switch v-model="map.graticule" label="Degrees" />
          <v-switch v-model="isNamed" label="Names of countries and seas" class="wide" />
          <v-switch
            v-model="map.scaleBar"
            :disabled="!hasOneScale(map)"
            :label="hasOneScale(map) ? 'Scale and north' : 'Scale and north (no one scale here)'"
          />
        </div>
        <p class="quiet">
          {{ creditOfMap(map).author }}: noted as the map’s credit. Names show in the film, where they have room beside yours.
        </p>
      </div>
    </div>
    <template #actions>
      <v-btn variant="text" @click="open = false">Cancel</v-btn>
      <v-btn color="accent" variant="flat" :disabled="!checked.success || problem !== ''" data-testid="draw-map" @click="draw"
        >Generate it</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 18px;
  align-items: start;
}
.picture {
  /* In a low window it stays in sight while the fields are gone through. */
  position: sticky;
  top: 0;
  max-height: 62vh;
}
.busy {
  display: flex;
  gap: 12px;
  align-items: center;
  color: var(--quiet);
}
.coarse {
  position: absolute;
  inset: auto 8px 8px;
  padding: 6px 10px;
  font-size: 13px;
  border-left: 4px solid rgb(var(--v-theme-warning));
  background: var(--surface);
}
.problem {
  position: absolute;
  padding: 10px 14px;
  max-width: 80%;
  background: var(--surface);
  color: rgb(var(--v-theme-error));
  border-radius: 4px;
}
.fields {
  display: grid;
  gap: 10px;
}
.buttons {
  display: flex;
  gap: 8px;
}
.switches {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.switches > :last-child,
.switches > .wide {
  grid-column: 1 / -1;
}
.box {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.quiet {
  font-size: 13px;
  color: var(--quiet);
}
</style>
