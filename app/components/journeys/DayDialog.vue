<script setup lang="ts">
import { computed, watch } from 'vue'
import { USUAL_PAUSE } from '#core/tracks/measure'
import { TRACK_EXTENSIONS } from '#core/tracks/track'
import DialogSheet from '~/components/DialogSheet.vue'
import ClockField from '~/components/tracks/ClockField.vue'
import TrackPicture from '~/components/tracks/TrackPicture.vue'
import MapStyleChoice from '~/components/sheets/MapStyleChoice.vue'
import { bearsImagery, useMapStyle } from '~/composables/use-map-style'
import { useRecordedDay } from '~/composables/use-recorded-day'
import { chooseFiles } from '~/services/choose-files'
import { durationWords, kilometres } from '~/services/distance-words'
import { PLACED_PHOTOS } from '~/services/photo-upload'

/** A film of a day that was recorded: what is in the files is said, and one click makes it. Emits the id of the journey. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ files: readonly File[] }>()
const emit = defineEmits<{ made: [id: string] }>()
const day = useRecordedDay()
const { styleOn, choose: chooseStyle } = useMapStyle()
const { running, problems, swappable, tracks, draft, name, offset, known, byClock, isClockAsked, placed, shown } = day

watch(
  [open, () => props.files],
  ([isOpen, files]) => {
    if (!isOpen) day.close()
    else if (files.length > 0) void day.open(files)
  },
  { immediate: true },
)

const choose = () => chooseFiles([...TRACK_EXTENSIONS, ...PLACED_PHOTOS, '.zip'], true, (files) => day.open(files))

async function make() {
  const id = await day.make()
  if (id === undefined) return
  open.value = false
  emit('made', id)
}

const plural = (n: number, one: string, many: string) => `${n.toLocaleString('en')} ${n === 1 ? one : many}`
/** What is said of each track. */
const facts = computed(() =>
  tracks.value.map(({ name: file, overview }) => {
    const { lengthMetres, start, end, hasHeights, badTimes, places } = overview
    const pauses = places.filter(({ isMarked, seconds }) => !isMarked && seconds >= USUAL_PAUSE).length
    return {
      file,
      overview,
      words: [
        kilometres(lengthMetres),
        start === null || end === null ? 'no times' : durationWords(end - start),
        ...(pauses > 0 ? [plural(pauses, 'pause', 'pauses')] : []),
        ...(hasHeights ? ['with heights'] : []),
      ].join(', '),
      warning:
        badTimes > 0 ? `${plural(badTimes, 'time', 'times')} could not be right, and ${badTimes === 1 ? 'was' : 'were'} filled in.` : '',
    }
  }),
)
const photoWords = computed(() => {
  const all = draft.value?.photos.length ?? 0
  if (all === 0) return ''
  const lost = all - placed.value.length
  const left = placed.value.length - shown.value.length
  return [
    left > 0
      ? `${shown.value.length} of ${all} photos are shown, spread over the day: more have no room in a minute.`
      : `${plural(shown.value.length, 'photo is', 'photos are')} shown where ${shown.value.length === 1 ? 'it was' : 'they were'} taken.`,
    ...(lost > 0 ? [`${plural(lost, 'photo', 'photos')} without a place or a fitting time ${lost === 1 ? 'is' : 'are'} left out.`] : []),
  ].join(' ')
})
</script>

<template>
  <DialogSheet v-model="open" title="A film of your day" :width="720">
    <div v-if="running" class="running" role="status">
      <span>{{ running.what }} …</span>
      <v-progress-linear :model-value="100 * running.share" :indeterminate="running.share >= 1" color="accent" />
    </div>
    <template v-else-if="!draft">
      <p>
        Choose or drop a recorded track (GPX, KML, KMZ, GeoJSON), the photos of the day, or both; a folder or a ZIP file of them is fine.
      </p>
    </template>
    <div v-if="draft" class="day">
      <ul v-if="facts.length > 0" class="tracks">
        <li v-for="{ file, overview, words, warning } in facts" :key="file">
          <TrackPicture class="outline" :overview="overview" :places="0" :from="0" :to="1" />
          <div>
            <strong class="file">{{ file }}</strong>
            <p class="figures" data-testid="day-track">{{ words }}</p>
            <p v-if="warning" class="quiet">{{ warning }}</p>
          </div>
        </li>
      </ul>
      <p v-if="photoWords" data-testid="day-photos">{{ photoWords }}</p>
      <template v-if="isClockAsked">
        <p v-if="known" class="quiet">
          How far the camera’s clock is off is estimated from {{ plural(known.photos, 'photo that says', 'photos that say') }} both where
          and when.
        </p>
        <p v-else class="quiet" data-testid="day-clock">
          {{ plural(byClock.length, 'photo says', 'photos say') }} only when: the camera’s clock is assumed to be set to this computer’s
          time zone. If it was not, set how far it is off.
        </p>
        <ClockField v-model="offset" />
      </template>
      <v-text-field v-model="name" label="Title" maxlength="120" hide-details :disabled="running !== undefined" data-testid="day-title" />
      <MapStyleChoice :model-value="styleOn(draft.map)" in-one-row :has-imagery="bearsImagery(draft.map)" @change="chooseStyle" />
      <p class="quiet">
        The map shows coasts, lakes and borders, and little else from near. In the editor you can lay a better one under all of it.
      </p>
    </div>
    <ul v-if="problems.length > 0" class="problems" role="alert">
      <li v-for="problem in problems" :key="problem">{{ problem }}</li>
    </ul>
    <v-btn v-if="swappable.length > 0" size="small" variant="outlined" @click="day.open(swappable, true)"
      >Read it with latitude and longitude swapped</v-btn
    >
    <template #actions>
      <v-btn variant="text" @click="open = false">Cancel</v-btn>
      <v-btn variant="outlined" :disabled="running !== undefined" data-testid="choose-day" @click="choose">{{
        draft ? 'Other files …' : 'Choose files …'
      }}</v-btn>
      <v-btn color="accent" variant="flat" data-testid="make-day" :disabled="!draft || running !== undefined" @click="make"
        >Make the film</v-btn
      >
    </template>
  </DialogSheet>
</template>

<style scoped>
.running,
.day {
  display: grid;
  gap: 12px;
}
.tracks,
.problems {
  list-style: none;
  padding: 0;
}
.tracks li {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 16px;
  align-items: center;
}
.file {
  overflow-wrap: anywhere;
}
.problems {
  margin-top: 10px;
  color: var(--vermilion);
}
</style>
