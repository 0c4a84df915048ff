<script setup lang="ts">
import { mdiAlertOutline, mdiClose } from '@mdi/js'
import { refDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { JourneyError } from '#core/error'
import { formatCoordinates } from '#core/formats/coordinates'
import type { TripPlace } from '#core/writing/make-journey'
import { journeyOfTrip, mapOfTrip, modeBetween, sheetOfMap } from '#core/writing/make-journey'
import type { Mode } from '#core/writing/modes'
import { MODE_IDS, MODES } from '#core/writing/modes'
import { readTrip } from '#core/writing/read-trip'
import { tripPlaces } from '#core/writing/trip-places'
import { MOST_PLACES, MOST_TRIP_TEXT, whyUnread } from '#core/writing/written-trip'
import DialogSheet from '~/components/DialogSheet.vue'
import MapStyleChoice from '~/components/sheets/MapStyleChoice.vue'
import { useLastFrame } from '~/composables/use-last-frame'
import { bearsImagery, useMapStyle } from '~/composables/use-map-style'
import type { Place, ResolvedPlace } from '~/services/api'
import { ApiError, createJourney, drawMap, followImport, resolveTrip } from '~/services/api'
import { chooseFiles } from '~/services/choose-files'
import { TEXT_FILES } from '~/services/dropped-files'

/** A trip in a few words becomes a journey on a generated map. What was chosen is shown first, and chosen otherwise at a click. Emits the id of the journey. */
const open = defineModel<boolean>({ required: true })
const { file } = defineProps<{
  /** A file with a trip, which was dropped. */
  file: File | undefined
}>()
const emit = defineEmits<{ made: [id: string] }>()
const { frame } = useLastFrame()
const { styleOn, styled, choose: chooseStyle } = useMapStyle()

const EXAMPLE = 'Lisbon\nby train to Madrid, 2 nights\nfly to Marrakesh: the old town'
/** The text is read when it has rested for so long, in milliseconds. */
const REST = 250

const text = ref('')
const written = refDebounced(text, REST)
const trip = computed(() => readTrip(written.value.slice(0, MOST_TRIP_TEXT)))
const resolved = shallowRef<readonly ResolvedPlace[]>([])
const problem = ref('')
const isLooking = ref(false)
/** What has been chosen by hand, by the name that was written, so that it is kept while the text is edited: `option` is the place's number in the list. */
interface ByHand {
  option?: number
  by?: Mode
  isLeftOut?: boolean
}
const chosen = ref<Record<string, ByHand>>({})
let control: AbortController | undefined

watch(trip, async ({ places }) => {
  control?.abort()
  problem.value = ''
  if (places.length === 0) {
    isLooking.value = false
    return void (resolved.value = [])
  }
  const own = (control = new AbortController())
  isLooking.value = true
  try {
    const found = await resolveTrip(
      places.map(({ name, within, at, by }) => ({ name, within: [...within], at, by })),
      own.signal,
    )
    if (!own.signal.aborted) resolved.value = found
  } catch (error) {
    if (!own.signal.aborted) problem.value = error instanceof ApiError ? error.message : String(error)
  } finally {
    if (control === own) isLooking.value = false
  }
})

/** A name that is written again is another visit. */
const keyOf = ({ name }: ResolvedPlace, i: number): string =>
  `${name} ${resolved.value.slice(0, i).filter((before) => before.name === name).length}`

/** What the columns of a table were taken for, and those of which nothing is read. */
const columns = computed(() => trip.value.table?.filter(({ as }) => as !== null))
const ignored = computed(() => trip.value.table?.flatMap(({ heading, as }) => (as === null && heading !== '' ? [heading] : [])) ?? [])

async function readFile(from: File | undefined) {
  if (!from) return
  // Each character has four bytes at most.
  if (from.size > 4 * MOST_TRIP_TEXT) {
    problem.value = `“${from.name}” is longer than a trip can be (${MOST_TRIP_TEXT.toLocaleString('en')} characters).`
    return
  }
  text.value = (await from.text()).slice(0, MOST_TRIP_TEXT)
}
watch([open, () => file], () => open.value && file && readFile(file), { immediate: true })
const chooseFile = () => chooseFiles(TEXT_FILES, false, ([chosenFile]) => readFile(chosenFile))

/** The places as they are chosen now, with what was written of them. */
const rows = computed(() =>
  resolved.value.flatMap((place, i) => {
    const said = trip.value.places[place.from]
    if (!said) return []
    const key = keyOf(place, i)
    const own = chosen.value[key]
    const byHand = place.options.find(({ id }) => id === own?.option)
    const option = byHand ?? place.options[0]
    const isFirstOfIts = resolved.value[i - 1]?.from !== place.from
    return [
      {
        key,
        place,
        said,
        option,
        at: place.at ?? option,
        isLeftOut: own?.isLeftOut === true || (place.at === null && !option),
        isUncertain: place.isUncertain && !byHand,
        by: own?.by ?? (isFirstOfIts ? said.by : null),
      },
    ]
  }),
)
const travelled = computed(() => rows.value.filter(({ isLeftOut }) => !isLeftOut))
const uncertain = computed(() => rows.value.filter((row) => row.isUncertain && !row.isLeftOut).length)
const unknown = computed(() => rows.value.filter(({ place }) => place.at === null && place.options.length === 0))
const isTooLong = computed(() => trip.value.places.length >= MOST_PLACES)

/** How one gets to a place from the one before that is not left out; undefined for the first. */
function modeTo(key: string): Mode | undefined {
  const i = travelled.value.findIndex((row) => row.key === key)
  const [before, here] = [travelled.value[i - 1]?.at, travelled.value[i]]
  return before && here?.at ? modeBetween(before, here.at, here.by) : undefined
}
const choose = (key: string, choice: ByHand) => (chosen.value = { ...chosen.value, [key]: { ...chosen.value[key], ...choice } })

const whereabouts = ({ region, country }: Place): string => [region, country].filter(Boolean).join(', ')
const titleOf = (place: Place): string => `${place.known}, ${whereabouts(place)}`
const MODE_CHOICES = MODE_IDS.map((value) => ({ value, title: MODES[value].title }))

/** The trip as it will be made. */
const places = computed(() =>
  tripPlaces(
    travelled.value.map(({ place, said, option, by }) => ({ name: place.name, said, at: place.at, option, by })),
    new Date().getFullYear(),
  ),
)

const mapOf = (all: readonly TripPlace[]) =>
  mapOfTrip(
    all.map(({ place }) => place),
    frame(),
  )
const map = computed(() => (places.value.length > 1 ? mapOf(places.value) : undefined))

const making = ref<{ stage: string; share: number }>()
let cancelling: AbortController | undefined
async function make() {
  problem.value = ''
  const own = (cancelling = new AbortController())
  try {
    making.value = { stage: 'Drawing the map', share: 0 }
    const chosenMap = styled(mapOf(places.value))
    const id = await drawMap(chosenMap)
    const image = await followImport(id, (share) => making.value && (making.value.share = share), own.signal)
    const sheet = sheetOfMap(chosenMap, image.hash)
    making.value = { stage: 'Making the journey', share: 1 }
    const made = await createJourney(journeyOfTrip(places.value, sheet, frame()))
    if (own.signal.aborted) return
    open.value = false
    emit('made', made.id)
  } catch (error) {
    if (!(error instanceof ApiError || error instanceof JourneyError)) throw error
    if (!own.signal.aborted) problem.value = error.message
  } finally {
    if (cancelling === own) making.value = undefined
  }
}
function stop() {
  cancelling?.abort()
  making.value = undefined
}
watch(open, (isOpen) => !isOpen && stop())
onBeforeUnmount(() => {
  control?.abort()
  stop()
})
</script>

<template>
  <DialogSheet v-model="open" title="Write a trip" :width="860">
    <div class="trip">
      <v-textarea
        v-model="text"
        label="Your trip"
        :placeholder="EXAMPLE"
        persistent-placeholder
        autofocus
        no-resize
        rows="13"
        :maxlength="MOST_TRIP_TEXT"
        data-testid="trip-text"
        hint="A place a line, or several with dashes or arrows between them. Say how you travel, nights, days; a note after a colon. Or paste a table with headings."
        persistent-hint
      />
      <div class="found" aria-live="polite">
        <p v-if="rows.length === 0" class="quiet">{{ isLooking ? 'Looking up the places …' : 'The places that are found appear here.' }}</p>
        <ol v-else class="places" data-testid="trip-places">
          <li v-for="row in rows" :key="row.key" :class="{ out: row.isLeftOut }" data-testid="trip-place">
            <div v-if="modeTo(row.key)" class="way">
              <v-select
                :model-value="modeTo(row.key)"
                :items="MODE_CHOICES"
                density="compact"
                variant="plain"
                hide-details
                :aria-label="`How you get to ${row.place.name}`"
                @update:model-value="(by: Mode) => choose(row.key, { by })"
              />
              <span v-if="row.by === null" class="quiet">guessed</span>
            </div>
            <div class="place">
              <span class="name">{{ row.place.name || formatCoordinates(row.at!) }}</span>
              <span v-if="row.place.at" class="quiet figures">{{ formatCoordinates(row.place.at) }}</span>
              <span v-else-if="!row.option" class="unknown">not found: write it otherwise, or add its coordinates</span>
              <v-menu v-else-if="row.place.options.length > 1">
                <template #activator="{ props: menu }">
                  <button v-bind="menu" type="button" class="which" :class="{ uncertain: row.isUncertain }" data-testid="trip-option">
                    <v-icon v-if="row.isUncertain" :icon="mdiAlertOutline" size="16" aria-label="Not certain" />
                    {{ row.option.known === row.place.name ? whereabouts(row.option) : titleOf(row.option) }}
                  </button>
                </template>
                <v-list density="compact">
                  <v-list-item
                    v-for="option in row.place.options"
                    :key="option.id"
                    :title="titleOf(option)"
                    :subtitle="option.population > 0 ? `${option.population.toLocaleString('en')} inhabitants` : undefined"
                    :active="option === row.option"
                    @click="choose(row.key, { option: option.id })"
                  />
                </v-list>
              </v-menu>
              <span v-else class="quiet">{{ whereabouts(row.option) }}</span>
              <v-btn
                v-if="row.at"
                :icon="mdiClose"
                size="x-small"
                variant="text"
                :aria-label="row.isLeftOut ? `Take ${row.place.name} in again` : `Leave out ${row.place.name}`"
                :aria-pressed="row.isLeftOut"
                @click="choose(row.key, { isLeftOut: !row.isLeftOut })"
              />
            </div>
          </li>
        </ol>
      </div>
    </div>
    <p v-if="columns" class="quiet" data-testid="trip-columns">
      Read as a table:
      {{ columns.map(({ heading, as }) => (heading.toLowerCase() === as ? heading : `${heading} as ${as}`)).join(', ') }}.
      <template v-if="ignored.length > 0">Not used: {{ ignored.join(', ') }}.</template>
    </p>
    <ul v-if="trip.unread.length > 0" class="unread">
      <li v-for="entry in trip.unread" :key="`${entry.line} ${entry.text}`">
        {{ whyUnread(entry) }}
      </li>
    </ul>
    <p v-if="uncertain > 0" class="quiet">
      {{ uncertain === 1 ? 'One place is' : `${uncertain} places are` }} not certain: click to choose another.
    </p>
    <p v-if="unknown.length > 0" class="quiet">What is not found is left out.</p>
    <p v-if="isTooLong" class="quiet">Only the first {{ MOST_PLACES }} places are taken.</p>
    <MapStyleChoice v-if="map" :model-value="styleOn(map)" in-one-row :has-imagery="bearsImagery(map)" @change="chooseStyle" />
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <div v-if="making" class="making" role="status">
      <span>{{ making.stage }} …</span>
      <v-progress-linear :model-value="100 * making.share" color="accent" />
    </div>
    <template #actions>
      <v-btn variant="text" @click="making ? stop() : (open = false)">Cancel</v-btn>
      <v-btn variant="outlined" data-testid="trip-file" :disabled="making !== undefined" @click="chooseFile">Open a file …</v-btn>
      <v-btn
        color="accent"
        variant="flat"
        data-testid="make-trip"
        :disabled="travelled.length < 2 || isLooking || making !== undefined || text !== written"
        @click="make"
        >Make the film</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.trip {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
}
@media (width < 700px) {
  .trip {
    grid-template-columns: 1fr;
  }
}
.found {
  max-height: 380px;
  overflow-y: auto;
}
.places,
.unread {
  list-style: none;
  margin: 0;
  padding: 0;
}
.place {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 2px 8px;
  min-height: 32px;
}
.name {
  font-weight: 600;
}
.which {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  color: var(--sea);
  text-align: left;
  text-decoration: underline;
  cursor: pointer;
}
.uncertain,
.unknown,
.unread,
.problem {
  color: var(--vermilion);
}
.out .name {
  text-decoration: line-through;
}
.way {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-left: 6px;
  padding-left: 10px;
  border-left: 2px solid var(--rule);
  font-size: 14px;
}
.way > :first-child {
  flex: 0 1 150px;
}
.making {
  display: grid;
  gap: 6px;
}
</style>
