<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { nanoid } from 'nanoid'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { readControlPoints } from '#core/formats/control-points'
import { formatCoordinates, readCoordinates } from '#core/formats/coordinates'
import { writeWorldFile } from '#core/formats/world-file'
import type { FitKind } from '#core/geo/fit'
import { FEWEST_MATCHES, FIT_KINDS } from '#core/geo/fit'
import { planeName } from '#core/geo/plane'
import { geoSheet } from '#core/geo/georeference'
import { worldFileOf } from '#core/formats/world-file-georeference'
import type { LonLat } from '#core/geo/lon-lat'
import { JourneyError } from '#core/error'
import { editSheet, placedStops } from '#core/edits/ground/sheets'
import type { ControlPoint, Georeference, Sheet } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import PlaceSearch from '~/components/places/PlaceSearch.vue'
import { saveText } from '~/services/save-text'
import { chooseFiles } from '~/services/choose-files'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import { SYSTEM_FILES, useWorldFile, WORLD_FILES } from '~/stores/world-file'

/** How a sheet lies on the Earth: control points with their errors, or a world file. */
const props = defineProps<{ sheet: Sheet }>()
const editor = useEditor()
const stage = useStage()
const worldFile = useWorldFile()
const problem = ref('')

type ByPoints = Extract<Georeference, { kind: 'points' }>
const EMPTY: ByPoints = { kind: 'points', plane: null, fit: null, points: [] }
const SOURCES = {
  'world-file': 'a world file',
  geotiff: 'the tags of its TIFF',
  mbtiles: 'its MBTiles file',
  tiles: 'its tile service',
  drawn: 'the way it was drawn',
} as const

const georeference = computed(() => props.sheet.georeference)
const byPoints = computed(() => (georeference.value?.kind === 'points' ? georeference.value : undefined))
/** The resulting georeference, or why there is none yet. */
const result = computed(() => {
  if (!georeference.value) return { geo: undefined, reason: '' }
  try {
    return { geo: geoSheet(georeference.value, props.sheet), reason: '' }
  } catch (error) {
    if (!(error instanceof JourneyError)) throw error
    return { geo: undefined, reason: error.message }
  }
})
const residuals = computed(() => result.value.geo?.residuals)
const residualOf = (point: ControlPoint) => residuals.value?.each.find((residual) => residual.point === point)
const middle = computed(
  () => result.value.geo?.toLonLat({ x: props.sheet.width / 2, y: props.sheet.height / 2 }) ?? editor.geo?.toLonLat(stage.view.centre),
)

function set(next: Georeference | null): boolean {
  const done = editor.edit((journey) => editSheet(journey, props.sheet.id, { georeference: next }))
  if (done) offerPlaces()
  return done
}

/** Offers to move stops with a known place on the Earth after the georeference has changed; undone in one step. */
function offerPlaces() {
  const moved = placedStops(editor.journey!)
  const count = moved.stops.filter((stop, i) => stop !== editor.journey!.stops[i]).length
  if (count === 0) return
  editor.notice = {
    text: `${count === 1 ? 'One stop was' : `${count} stops were`} found by name or read from a file, and ${count === 1 ? 'lies' : 'lie'} elsewhere on the map now.`,
    action: { title: count === 1 ? 'Move it there' : 'Move them there', run: () => editor.edit(placedStops) },
  }
}
const setPoints = (points: ControlPoint[]) => set({ ...(byPoints.value ?? EMPTY), points })

function marking(on: boolean) {
  problem.value = ''
  stage.setTool(on ? 'control-point' : 'select')
}
/** Adds a control point from the marked spot and the chosen place. */
function give(place: LonLat & { name: string }) {
  const at = stage.spot
  if (!at) return
  const points = byPoints.value?.points ?? []
  const name = place.name || `Point ${points.length + 1}`
  if (setPoints([...points, { id: nanoid(10), name, at, lon: place.lon, lat: place.lat }])) stage.spot = undefined
}
function move(point: ControlPoint, text: string) {
  const place = readCoordinates(text)
  problem.value = place ? '' : `“${text}” is not a place in degrees: write it like 47.5, 8.25 or 47°30' N 8°15' E.`
  if (place) setPoints(byPoints.value!.points.map((other) => (other === point ? { ...point, ...place } : other)))
}
const remove = (point: ControlPoint) => setPoints(byPoints.value!.points.filter((other) => other !== point))

const FITS: Record<FitKind, string> = { similarity: 'Similarity', affine: 'Affine', projective: 'Projective' }
const fits = computed(() => [
  { value: 'auto', title: 'Automatic' },
  ...FIT_KINDS.filter((kind) => (byPoints.value?.points.length ?? 0) >= FEWEST_MATCHES[kind]).map((kind) => ({
    value: kind,
    title: FITS[kind],
  })),
])
const PLANES = [
  { value: 'auto', title: 'Automatic' },
  { value: 'mercator', title: 'Mercator' },
  { value: 'degrees', title: 'Degrees' },
] as const

const PLANE_WORDS = { mercator: 'in Mercator’s projection', degrees: 'in even degrees' } as const

const chooseFile = () => chooseFiles([...WORLD_FILES, ...SYSTEM_FILES, '.json'], true, readFiles)
async function readFiles(files: File[]) {
  const file = files[0]!
  problem.value = ''
  try {
    if (file.size > 1024 ** 2) throw new JourneyError(`“${file.name}” is too large for a world file or a list of control points.`)
    const isList = file.name.toLowerCase().endsWith('.json')
    const next = isList ? { ...EMPTY, points: readControlPoints(await file.text(), file.name) } : await worldFile.read(files, props.sheet)
    if (next) set(next)
  } catch (error) {
    if (!(error instanceof JourneyError)) throw error
    problem.value = error.message
  }
}
const writable = computed(() => result.value.geo && worldFileOf(result.value.geo))
const writeFile = () => saveText(`${props.sheet.name}.wld`, writeWorldFile(writable.value!))

const kilometres = (metres: number) => (metres < 1000 ? `${metres.toFixed(0)} m` : `${(metres / 1000).toFixed(metres < 1e5 ? 1 : 0)} km`)
/** After marking a spot, focus its name field. */
const search = useTemplateRef<{ focus: () => void }>('search')
watch(
  () => stage.spot,
  async (spot) => {
    if (!spot) return
    await nextTick()
    search.value?.focus()
  },
)
watch(
  () => props.sheet.id,
  () => (problem.value = ''),
)
</script>

<template>
  <p v-if="!georeference" class="quiet">Mark two spots whose place you know, and places can be found by name.</p>
  <template v-else-if="georeference.kind === 'affine'">
    <p>Known by {{ SOURCES[georeference.source] }}: {{ planeName(georeference.plane) }}.</p>
    <p v-if="middle" class="quiet figures">Its middle is at {{ formatCoordinates(middle) }}.</p>
  </template>
  <template v-if="byPoints">
    <p v-if="result.reason" class="flag" role="status">{{ result.reason }}</p>
    <p v-else-if="residuals" class="figures" data-testid="residuals">
      The points agree to {{ residuals.rmsPx.toFixed(1) }} px ({{ kilometres(residuals.rmsMetres) }}). Worst:
      {{ residuals.worst.point.name }}, off by {{ residuals.worst.px.toFixed(1) }} px ({{ kilometres(residuals.worst.metres) }}).
    </p>
    <p v-else-if="result.geo" class="flag" role="status" data-testid="unchecked">
      This cannot be checked: {{ byPoints.points.length === 2 ? 'two points' : `${byPoints.points.length} points` }} always fit. Mark
      another.
    </p>
    <p v-if="result.geo?.doubt" class="flag" role="status" data-testid="doubt">
      The points do not tell whether the map is {{ PLANE_WORDS[result.geo.doubt.plane] }} (as is taken now) or
      {{ PLANE_WORDS[result.geo.doubt.other] }}; places may be off by up to {{ result.geo.doubt.px.toFixed(0) }} px. Choose below, or mark
      another.
    </p>
    <ul aria-label="Control points">
      <li v-for="(point, i) in byPoints.points" :key="point.id" :class="{ worst: point === residuals?.worst.point }">
        <span class="number figures">{{ i + 1 }}</span>
        <span class="what">
          <span class="name">{{ point.name }}</span>
          <span v-if="residualOf(point)" class="quiet figures">{{ residualOf(point)!.px.toFixed(1) }} px</span>
        </span>
        <input
          class="figures"
          :aria-label="`Place of ${point.name} in degrees`"
          :value="formatCoordinates(point)"
          @change="move(point, ($event.target as HTMLInputElement).value)"
        />
        <button type="button" :aria-label="`Remove ${point.name}`" @click="remove(point)">
          <v-icon :icon="mdiDeleteOutline" size="18" />
        </button>
      </li>
    </ul>
    <template v-if="byPoints.points.length > 1">
      <FieldRow v-slot="{ id }" label="Fit">
        <v-select
          :aria-labelledby="id"
          :items="fits"
          :model-value="byPoints.fit ?? 'auto'"
          @update:model-value="(fit) => set({ ...byPoints!, fit: fit === 'auto' ? null : (fit as FitKind) })"
        />
      </FieldRow>
      <ChoiceRow
        label="Projection"
        :model-value="byPoints.plane ?? 'auto'"
        :choices="PLANES"
        @change="(plane) => set({ ...byPoints!, plane: plane === 'auto' ? null : plane })"
      />
      <p v-if="byPoints.plane === null && result.geo && !result.geo.doubt" class="quiet">
        By its points the map is {{ PLANE_WORDS[result.geo.toPlane.plane.kind as 'mercator'] }}.
      </p>
    </template>
  </template>

  <div v-if="stage.tool === 'control-point'" class="marking">
    <p v-if="!stage.spot" role="status">Click a spot on the map whose place you know: a town, a cape, a crossing.</p>
    <template v-else>
      <p>Which place is the marked spot?</p>
      <PlaceSearch ref="search" label="Name, or degrees" :near="middle" @choose="give" />
    </template>
  </div>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  <div class="buttons">
    <v-btn
      v-if="georeference?.kind !== 'affine'"
      size="small"
      :variant="georeference ? 'outlined' : 'flat'"
      :color="georeference ? undefined : 'accent'"
      data-testid="mark-point"
      @click="marking(stage.tool !== 'control-point')"
    >
      {{ stage.tool === 'control-point' ? 'Done marking' : 'Mark a point' }}
    </v-btn>
    <v-btn size="small" variant="outlined" @click="chooseFile()">Read from a file …</v-btn>
    <v-btn v-if="writable" size="small" variant="outlined" data-testid="write-world-file" @click="writeFile">Save a world file</v-btn>
    <v-btn v-if="georeference && !sheet.drawn" size="small" variant="text" @click="set(null)">Remove the georeference</v-btn>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
li {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) 28px;
  gap: 0 6px;
  align-items: center;
  padding: 4px 0;
  border-top: 1px solid var(--rule);
}
li .number {
  grid-row: span 2;
  font-weight: 600;
  color: var(--sea);
}
li .what {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  font-size: 14px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li button {
  grid-row: 1 / span 2;
  grid-column: 3;
  height: 28px;
  cursor: pointer;
}
li input {
  grid-column: 2;
  width: 100%;
  min-height: 24px;
  font-size: 13px;
  color: var(--quiet);
}
li input:focus {
  color: var(--ink);
}
.worst .name {
  text-decoration: underline wavy rgb(var(--v-theme-warning));
}
.marking {
  display: grid;
  gap: 6px;
  margin-top: 8px;
  padding-left: 10px;
  border-left: 4px solid var(--vermilion);
}
.problem {
  margin-top: 6px;
  color: rgb(var(--v-theme-error));
}
</style>
