<script setup lang="ts">
import { mdiChevronRight } from '@mdi/js'
import { nanoid } from 'nanoid'
import type { ComponentPublicInstance } from 'vue'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import type { RouteFormat } from '#core/formats/route'
import { ROUTE_FORMATS, routeOf } from '#core/formats/route'
import type { WordsFormat } from '#core/formats/words'
import { WORDS, WORDS_FORMATS } from '#core/formats/words'
import { writeStopsTable } from '#core/writing/stops-table'
import { TRACK_EXTENSIONS } from '#core/tracks/track'
import { isHeard } from '#core/film/settings'
import { moveLayer, routeView } from '#core/edits/journey'
import { addTraveller, editTraveller, nameOfTraveller } from '#core/edits/trips/travellers'
import { reverseTrip } from '#core/edits/trips/trips'
import { USUAL_VEHICLE } from '#core/trips/motion'
import type { Layer } from '#core/journey/schema'
import { LAYERS, LIMITS } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import LastsField from '~/components/fields/LastsField.vue'
import SortableList from '~/components/fields/SortableList.vue'
import { chooseFiles } from '~/services/choose-files'
import { saveText } from '~/services/save-text'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePhotos } from '~/stores/photos'
import { useStage } from '~/stores/stage'
import { useTracks } from '~/stores/tracks'
import { useVersions } from '~/stores/versions'
import { useChecks } from '~/stores/checks'
import CheckList from '~/components/checks/CheckList.vue'
import CaptionList from '~/components/text/CaptionList.vue'
import CameraPlan from '~/components/camera/CameraPlan.vue'
import DepthFields from '~/components/camera/DepthFields.vue'
import HandheldFields from '~/components/camera/HandheldFields.vue'
import SunFields from '~/components/camera/SunFields.vue'
import { PLANS } from '~/components/camera/shot-names'
import FilmSection from './FilmSection.vue'
import GradeFields from './GradeFields.vue'
import VersionList from './VersionList.vue'
import ItineraryList from './ItineraryList.vue'
import JourneyPace from './JourneyPace.vue'
import LandmarkList from './LandmarkList.vue'
import LookList from './LookList.vue'
import NetworkList from './NetworkList.vue'
import SoundFields from './SoundFields.vue'
import TravellerList from './TravellerList.vue'
import { CHANGE_STYLES, ENTERS, LEAVES } from '../vehicle/vehicle-views'

const emit = defineEmits<{ import: []; draw: []; credits: [] }>()
const editor = useEditor()
const stage = useStage()
const camera = useCamera()
const versions = useVersions()
const checks = useChecks()
const tracks = useTracks()
const photos = usePhotos()

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

function fit() {
  const view = routeView(editor.journey!)
  if (view) camera.show(view)
}

/** Downloads the whole route in an open format. */
function saveRoute(format: RouteFormat) {
  const route = routeOf(editor.compiled!, editor.geo?.toLonLat)
  saveText(`${journey.value.name}${format.ending}`, format.write(route))
}

/** Downloads when the film is at which stop. */
const saveWords = (format: WordsFormat) => saveText(`${journey.value.name}.${format}`, WORDS[format].write(editor.compiled!))

const chooseTrack = () => chooseFiles(TRACK_EXTENSIONS, false, ([file]) => tracks.open(file!))

/** Adds a traveller, whose trip is drawn next. */
function another() {
  const id = nanoid(10)
  if (!editor.edit((j) => addTraveller(j, id))) return
  editor.chooseTraveller(id)
  stage.setTool('stop')
}

const list = useTemplateRef<ComponentPublicInstance>('list')
watch(
  () => checks.isWanted,
  async (isWanted) => {
    if (!isWanted) return
    checks.isWanted = false
    await nextTick()
    ;(list.value?.$el as HTMLElement | undefined)?.scrollIntoView({ block: 'start' })
  },
  { immediate: true, flush: 'post' },
)
const checksNote = computed(() => (checks.count === 0 ? 'nothing found' : `${checks.count} to look at`))

/** How the camera films, in a word, and how many problems there are. */
const cameraNote = computed(() => {
  const { plan, shots } = journey.value
  const problems = camera.checks.length > 0 ? `, ${camera.checks.length} to look at` : ''
  const byHand = shots.length === 1 ? '1 shot' : `${shots.length} shots`
  return `${plan.temperament === null ? byHand : PLANS.find(({ value }) => value === plan.temperament)!.title.toLowerCase()}${problems}`
})

/** What is on of sun, soft focus and haze. */
const depthNote = computed(() => {
  const { sun, depth } = journey.value
  return [sun && 'sun', depth.softFocus && 'soft focus', depth.haze && 'haze'].filter(Boolean).join(', ') || 'none'
})

/** How many versions there are, once they have been read, and whether one is compared. */
const versionsNote = computed(() => {
  const { compared, versions: kept } = versions
  return compared ? `comparing “${compared.version.name}”` : kept && kept.length > 0 ? String(kept.length) : ''
})

/** What is done to the colours. */
const gradeNote = computed(() => {
  const { grade } = journey.value
  if (!grade) return 'none'
  const { lut, vignette, grain } = grade
  return [lut?.name, vignette && 'vignette', grain && 'grain'].filter(Boolean).join(', ') || 'changed'
})

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

    <FilmSection />

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
      <v-btn size="small" variant="outlined" data-testid="photo-stops" @click="photos.chooseStops">Stops from photos …</v-btn>
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
      <v-menu>
        <template #activator="{ props: menu }">
          <v-btn v-bind="menu" size="small" variant="outlined" data-testid="save-words" :disabled="journey.stops.length === 0"
            >Save stops …</v-btn
          >
        </template>
        <v-list density="compact">
          <v-list-item v-for="format in WORDS_FORMATS" :key="format" :title="WORDS[format].title" @click="saveWords(format)" />
          <v-list-item
            title="Stops as a trip (CSV)"
            subtitle="Can be opened again by Write a trip"
            @click="saveText(`${journey.name} stops.csv`, writeStopsTable(journey, traveller))"
          />
        </v-list>
      </v-menu>
      <v-btn size="small" variant="outlined" @click="emit('credits')">Credits …</v-btn>
    </div>

    <FoldedSection v-if="journey.stops.length > 0" ref="list" class="networks" title="Checks" :note="checksNote" data-testid="checks"
      ><CheckList
    /></FoldedSection>
    <FoldedSection v-if="journey.stops.length > 0" title="Camera" :note="cameraNote"><CameraPlan /><HandheldFields /></FoldedSection>
    <FoldedSection v-if="journey.stops.length > 0" title="Sun, focus, haze, sky" :note="depthNote"
      ><SunFields /><DepthFields
    /></FoldedSection>
    <FoldedSection :class="{ networks: journey.stops.length === 0 }" title="Colour grade" :note="gradeNote"><GradeFields /></FoldedSection>
    <FoldedSection title="Looks" note="of the whole journey"><LookList /></FoldedSection>
    <FoldedSection title="Titles and readouts" :note="journey.captions.length > 0 ? String(journey.captions.length) : 'none'"
      ><CaptionList
    /></FoldedSection>
    <FoldedSection title="Landmarks" :note="journey.landmarks.length > 0 ? String(journey.landmarks.length) : 'none'"
      ><LandmarkList
    /></FoldedSection>
    <FoldedSection title="Music and sounds" :note="isHeard(journey) ? 'on' : 'silent'"><SoundFields /></FoldedSection>
    <FoldedSection title="Layer order" :note="isUsualOrder ? 'default' : 'changed'">
      <SortableList
        label="Top layer first"
        testid="layer"
        is-plain
        :entries="layers"
        @move="(from, to) => editor.edit((j) => moveLayer(j, j.order.length - 1 - from, j.order.length - 1 - to))"
      />
      <p class="quiet">Titles stay on top, the map at the bottom.</p>
    </FoldedSection>
    <FoldedSection title="Networks" :note="journey.networks.length > 0 ? String(journey.networks.length) : 'none'"
      ><NetworkList
    /></FoldedSection>

    <FoldedSection title="Versions" :note="versionsNote"><VersionList /></FoldedSection>

    <JourneyPace />
    <FoldedSection title="How vehicles appear and leave" :note="traveller.atEnd === 'stays' ? 'the last stays' : 'the last leaves'">
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
        label="First appears"
        :model-value="traveller.enters"
        :choices="ENTERS"
        @change="(enters) => editor.edit((j) => editTraveller(j, traveller.id, { enters }))"
      />
      <LastsField
        v-if="traveller.enters !== 'none'"
        label="Takes"
        :model-value="traveller.entersIn"
        :usual="USUAL_VEHICLE.enters"
        @change="(entersIn) => editor.edit((j) => editTraveller(j, traveller.id, { entersIn }), 'entersIn')"
        @done="editor.endGesture()"
      />
      <ChoiceRow
        label="Changes"
        :model-value="traveller.changes"
        :choices="CHANGE_STYLES"
        @change="(changes) => editor.edit((j) => editTraveller(j, traveller.id, { changes }))"
      />
      <LastsField
        v-if="traveller.changes !== 'cut'"
        label="Takes"
        :model-value="traveller.changesIn"
        :usual="traveller.changes === 'pop' ? USUAL_VEHICLE.pops : USUAL_VEHICLE.fades"
        @change="(changesIn) => editor.edit((j) => editTraveller(j, traveller.id, { changesIn }), 'changesIn')"
        @done="editor.endGesture()"
      />
      <ChoiceRow
        v-if="traveller.atEnd === 'leaves'"
        label="Last leaves"
        :model-value="traveller.leaves"
        :choices="LEAVES"
        @change="(leaves) => editor.edit((j) => editTraveller(j, traveller.id, { leaves }))"
      />
      <LastsField
        v-if="traveller.atEnd === 'leaves' && traveller.leaves !== 'none'"
        label="Takes"
        :model-value="traveller.leavesIn"
        :usual="USUAL_VEHICLE.leaves"
        @change="(leavesIn) => editor.edit((j) => editTraveller(j, traveller.id, { leavesIn }), 'leavesIn')"
        @done="editor.endGesture()"
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
</style>
