<script setup lang="ts">
import { mdiChevronRight } from '@mdi/js'
import { nanoid } from 'nanoid'
import { computed, ref } from 'vue'
import type { Aspect } from '#core/journey/create'
import { FRAME_SIZES } from '#core/journey/create'
import type { RouteFormat } from '#core/formats/route'
import { ROUTE_FORMATS, routeOf } from '#core/formats/route'
import { TRACK_EXTENSIONS } from '#core/tracks/track'
import { moveLayer, routeView, setFrame } from '#core/edits/journey'
import { scaleTimes, setSeconds, setShareExponent } from '#core/edits/pace'
import { addTraveller, editTraveller, nameOfTraveller } from '#core/edits/travellers'
import { reverseTrip } from '#core/edits/trips'
import type { Layer } from '#core/journey/schema'
import { LAYERS, LIMITS } from '#core/journey/schema'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, rateLabel } from '#core/pace/rate'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import NumberField from '~/components/fields/NumberField.vue'
import SortableList from '~/components/fields/SortableList.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { chooseFiles } from '~/services/choose-files'
import { saveText } from '~/services/save-text'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePhotos } from '~/stores/photos'
import { useStage } from '~/stores/stage'
import { useTracks } from '~/stores/tracks'
import CaptionList from '~/components/text/CaptionList.vue'
import ItineraryList from './ItineraryList.vue'
import LandmarkList from './LandmarkList.vue'
import LookList from './LookList.vue'
import NetworkList from './NetworkList.vue'
import TravellerList from './TravellerList.vue'
import { CHANGE_STYLES, ENTERS, LEAVES } from './vehicle-views'

const emit = defineEmits<{ import: []; draw: []; credits: [] }>()
const editor = useEditor()
const stage = useStage()
const camera = useCamera()
const tracks = useTracks()
const photos = usePhotos()
const { change, done } = useFieldEdits(() => 'journey')

const journey = computed(() => editor.journey!)
const traveller = computed(() => editor.traveller!)

const LAYER_NAMES: Readonly<Record<Layer, string>> = {
  lines: 'Lines',
  marks: 'Pins and pictures',
  vehicles: 'Vehicles',
  labels: 'Names',
  cards: 'Postcards',
}
/** As one sees them: the uppermost first. */
const layers = computed(() => journey.value.order.toReversed().map((id) => ({ id, name: LAYER_NAMES[id] })))
const isUsualOrder = computed(() => journey.value.order.every((layer, i) => layer === LAYERS[i]))

const aspects = Object.keys(FRAME_SIZES) as Aspect[]
const aspect = computed(() => aspects.find((name) => sizesOf(name).some((size) => size.value === sizeValue.value)))
const sizeValue = computed(() => `${journey.value.frame.width}x${journey.value.frame.height}`)
const sizesOf = (name: Aspect) =>
  FRAME_SIZES[name].map(([title, width, height]) => ({ value: `${width}x${height}`, title: `${title} (${width} × ${height})` }))
const sizes = computed(() =>
  aspect.value ? sizesOf(aspect.value) : [{ value: sizeValue.value, title: sizeValue.value.replace('x', ' × ') }],
)
const rates = FRAME_RATES.map((rate) => ({ value: rate, title: `${rateLabel(rate)} frames a second` }))

function setAspect(name: Aspect) {
  const list = sizesOf(name)
  const [, width, height] = FRAME_SIZES[name][Math.min(1, list.length - 1)]!
  editor.edit((j) => setFrame(j, { ...j.frame, width, height }))
}
function setSize(value: string) {
  const [width, height] = value.split('x').map(Number)
  editor.edit((j) => setFrame(j, { ...j.frame, width: width!, height: height! }))
}
/** Whether the length is too short for the set times. */
const tooShort = ref<number>()
function setLength(value: number) {
  tooShort.value = change('seconds', (j) => setSeconds(j, value)) ? undefined : value
}
function scaleAll() {
  const seconds = tooShort.value!
  tooShort.value = undefined
  editor.edit((j) => scaleTimes(j, seconds))
}
/** Legs with automatic times that are too short to follow by eye; half a second is common practice, no source. */
const hurried = computed(
  () => editor.itinerary!.legs.filter(({ leg, depart, arrive }) => leg.travel === null && arrive - depart < 0.5).length,
)

const setRate = (rate: FrameRate) => editor.edit((j) => setFrame(j, { ...j.frame, rate }))

function fit() {
  const view = routeView(editor.journey!)
  if (view) camera.look(() => view)
}

/** Downloads the whole route in an open format. */
function saveRoute(format: RouteFormat) {
  const route = routeOf(editor.compiled!, editor.geo?.toLonLat)
  saveText(`${journey.value.name}${format.ending}`, format.write(route))
}

const chooseTrack = () => chooseFiles(TRACK_EXTENSIONS, false, ([file]) => tracks.open(file!))

/** Adds a traveller, whose trip is drawn next. */
function another() {
  const id = nanoid(10)
  if (!editor.edit((j) => addTraveller(j, id))) return
  editor.chooseTraveller(id)
  stage.setTool('stop')
}

const shares = [
  { value: '0', title: 'Equal' },
  { value: '0.5', title: 'Mixed' },
  { value: '1', title: 'Distance' },
] as const

/** What to do next: only the first thing missing, in the order of the work. */
const next = computed(() => {
  if (journey.value.sheets.length === 0)
    return {
      text: 'Import your map, or generate one. The journey is laid out on it.',
      action: 'Choose a map',
      run: () => emit('import'),
    }
  if (journey.value.stops.length < 2)
    return { text: 'Click your stops on the map, in the order of the trip.', action: 'Place stops', run: () => stage.setTool('stop') }
  if (traveller.value.legs.every((leg) => leg.vehicle === null)) {
    return {
      text: 'Choose a vehicle for each leg, and drag the legs by their middle to bend them.',
      action: 'Style the first leg',
      run: () => editor.select({ kind: 'leg', id: traveller.value.legs[0]!.id }),
    }
  }
  return undefined
})
</script>

<template>
  <div>
    <section v-if="next" class="next" aria-label="What to do next">
      <p>{{ next.text }}</p>
      <v-btn size="small" color="accent" variant="flat" :append-icon="mdiChevronRight" @click="next.run()">{{ next.action }}</v-btn>
      <v-btn v-if="journey.sheets.length === 0" size="small" variant="outlined" class="other" @click="emit('draw')">Generate a map</v-btn>
    </section>

    <h3 class="first">Film</h3>
    <FieldRow v-slot="{ id }" label="Length">
      <NumberField
        :labelledby="id"
        data-testid="length"
        :model-value="journey.seconds"
        :min="1"
        :max="600"
        :step="0.5"
        :precision="2"
        unit="s"
        @change="setLength"
        @done="done"
      />
    </FieldRow>
    <FieldRow v-slot="{ id }" label="Shape">
      <v-select
        :aria-labelledby="id"
        :items="aspects"
        :model-value="aspect ?? null"
        placeholder="Custom size"
        @update:model-value="(value) => value && setAspect(value)"
      />
    </FieldRow>
    <FieldRow v-slot="{ id }" label="Size">
      <v-select :aria-labelledby="id" :items="sizes" :model-value="sizeValue" @update:model-value="setSize" />
    </FieldRow>
    <FieldRow v-slot="{ id }" label="Rate">
      <v-select :aria-labelledby="id" :items="rates" :model-value="journey.frame.rate" @update:model-value="setRate" />
    </FieldRow>
    <p v-if="tooShort !== undefined" class="flag" role="status">
      The set times do not fit into {{ tooShort }} s.
      <v-btn size="small" variant="outlined" data-testid="scale-times" @click="scaleAll">Scale the set times to fit</v-btn>
    </p>
    <p class="quiet figures">{{ editor.compiled!.frames }} frames</p>
    <p v-if="hurried > 0" class="flag" role="status" data-testid="hurried">
      {{ hurried === 1 ? 'One leg takes' : `${hurried} legs take` }} less than half a second: make the film longer to see
      {{ hurried === 1 ? 'it' : 'them' }}.
    </p>

    <template v-if="journey.travellers.length > 1">
      <h3>Travellers</h3>
      <TravellerList />
    </template>

    <h3>{{ journey.travellers.length > 1 ? `Itinerary of ${nameOfTraveller(journey, traveller)}` : 'Itinerary' }}</h3>
    <ItineraryList :key="traveller.id" />

    <div class="buttons">
      <v-btn
        v-if="traveller.legs.length > 0"
        size="small"
        variant="outlined"
        data-testid="reverse-trip"
        @click="editor.edit((j) => reverseTrip(j, traveller.id))"
      >
        Reverse the trip
      </v-btn>
      <v-btn
        v-if="traveller.legs.length > 0 && journey.travellers.length < LIMITS.travellers"
        size="small"
        variant="outlined"
        data-testid="add-traveller"
        @click="another"
      >
        Add a traveller
      </v-btn>
      <v-btn size="small" variant="outlined" data-testid="open-track" @click="chooseTrack">Import a track …</v-btn>
      <v-btn v-if="editor.geo" size="small" variant="outlined" data-testid="photo-stops" @click="photos.chooseStops"
        >Stops from photos …</v-btn
      >
      <v-btn v-if="journey.stops.length > 0" size="small" variant="outlined" data-testid="fit-route" @click="fit"
        >Fit the route into the frame</v-btn
      >
      <v-menu v-if="traveller.legs.length > 0">
        <template #activator="{ props: menu }">
          <v-btn v-bind="menu" size="small" variant="outlined" data-testid="save-route">Save the route …</v-btn>
        </template>
        <v-list density="compact">
          <v-list-item
            v-for="format in ROUTE_FORMATS"
            :key="format.ending"
            :title="format.title"
            :disabled="format.onEarth && !editor.geo"
            :subtitle="format.onEarth && !editor.geo ? 'Needs a georeferenced sheet' : undefined"
            @click="saveRoute(format)"
          />
        </v-list>
      </v-menu>
      <v-btn size="small" variant="outlined" @click="emit('credits')">Credits …</v-btn>
    </div>

    <FoldedSection class="networks" title="Looks" note="of the whole journey"><LookList /></FoldedSection>
    <FoldedSection title="Titles and readouts" :note="journey.captions.length > 0 ? String(journey.captions.length) : 'none'"
      ><CaptionList
    /></FoldedSection>
    <FoldedSection title="Landmarks" :note="journey.landmarks.length > 0 ? String(journey.landmarks.length) : 'none'"
      ><LandmarkList
    /></FoldedSection>
    <FoldedSection title="Layer order" :note="isUsualOrder ? 'default' : 'changed'">
      <SortableList
        label="From the uppermost to the lowest"
        testid="layer"
        is-plain
        :entries="layers"
        @move="(from, to) => editor.edit((j) => moveLayer(j, j.order.length - 1 - from, j.order.length - 1 - to))"
      />
      <p class="quiet">Titles are over all of it, the map is under it.</p>
    </FoldedSection>
    <FoldedSection title="Networks" :note="journey.networks.length > 0 ? String(journey.networks.length) : 'none'"
      ><NetworkList
    /></FoldedSection>

    <h3>Pace</h3>
    <ChoiceRow
      label="Split time by"
      :model-value="String(journey.shareExponent)"
      :choices="shares"
      @change="(value) => editor.edit((j) => setShareExponent(j, Number(value)))"
    />
    <FieldRow v-slot="{ id }" label="Start delay">
      <NumberField
        :labelledby="id"
        :model-value="traveller.startDelay"
        :min="0"
        :max="60"
        :step="0.1"
        :precision="2"
        unit="s"
        @change="(value) => change('delay', (j) => editTraveller(j, traveller.id, { startDelay: value }))"
        @done="done"
      />
    </FieldRow>
    <FoldedSection title="Vehicles coming and going" :note="traveller.atEnd === 'stays' ? 'the last stays' : 'the last leaves'">
      <ChoiceRow
        label="At the end"
        :model-value="traveller.atEnd"
        :choices="[
          { value: 'leaves', title: 'Vehicle leaves' },
          { value: 'stays', title: 'Vehicle stays' },
        ]"
        @change="(atEnd) => editor.edit((j) => editTraveller(j, traveller.id, { atEnd }))"
      />
      <ChoiceRow
        label="First comes"
        :model-value="traveller.enters"
        :choices="ENTERS"
        @change="(enters) => editor.edit((j) => editTraveller(j, traveller.id, { enters }))"
      />
      <ChoiceRow
        label="Changes"
        :model-value="traveller.changes"
        :choices="CHANGE_STYLES"
        @change="(changes) => editor.edit((j) => editTraveller(j, traveller.id, { changes }))"
      />
      <ChoiceRow
        v-if="traveller.atEnd === 'leaves'"
        label="Last leaves"
        :model-value="traveller.leaves"
        :choices="LEAVES"
        @change="(leaves) => editor.edit((j) => editTraveller(j, traveller.id, { leaves }))"
      />
    </FoldedSection>
  </div>
</template>

<style scoped>
.next {
  padding: 10px 12px 12px;
  margin-bottom: 12px;
  border-left: 4px solid var(--vermilion);
  background: color-mix(in srgb, var(--vermilion) 9%, transparent);
}
/* An emphasised line. */
.flag {
  margin: 8px 0;
  padding-left: 10px;
  border-left: 4px solid rgb(var(--v-theme-warning));
}
.other {
  margin-left: 8px;
}
.next p {
  margin-bottom: 8px;
}
/* Space below the buttons. */
.networks {
  margin-top: 14px;
}
.first {
  margin-top: 0 !important;
  padding-top: 0 !important;
  border-top: 0 !important;
}
</style>
