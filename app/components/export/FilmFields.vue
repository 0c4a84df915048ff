<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { FilmFormatId, Quality } from '#core/film/formats'
import { FILM_FORMAT_IDS, FILM_FORMATS, rateInFile } from '#core/film/formats'
import { passesOf } from '#core/film/passes'
import type { FilmSettings } from '#core/film/settings'
import { checkFilm, estimate, isHeard, wholeFilm } from '#core/film/settings'
import { JourneyError } from '#core/error'
import { least } from '#core/geometry/extremes'
import { setFrame } from '#core/edits/journey'
import { LIMITS } from '#core/journey/schema'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount, rateLabel } from '#core/pace/rate'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { megabytes } from '~/services/sizes'
import { useFilmCost } from '~/composables/use-film-cost'
import { useLastFrame } from '~/composables/use-last-frame'
import { useEditor } from '~/stores/editor'
import { useExports } from '~/stores/exports'
import { usePlayback } from '~/stores/playback'

/** How a film is exported: its format, size and part, and the name of its file. The model is undefined while the choices do not go together. */
const settings = defineModel<FilmSettings | undefined>({ required: true })
const title = defineModel<string>('title', { required: true })
/** Whether each pass of the picture is a film of its own. */
const inPasses = defineModel<boolean>('inPasses', { required: true })
const props = defineProps<{ journeyId: string }>()
const exports = useExports()
const editor = useEditor()
const playback = usePlayback()
const lastFrame = useLastFrame()

const journey = computed(() => editor.journey!)
const format = ref<FilmFormatId>('mp4')
const quality = ref<Quality>('good')
const shows = ref<'all' | 'over' | 'passes'>('all')
const sound = ref(true)
const part = ref<'whole' | 'part'>('whole')
const from = ref(0)
const to = ref(journey.value.seconds)
const chosen = computed(() => FILM_FORMATS[format.value])
const hasPicture = computed(() => chosen.value.encoder.kind !== 'sound')

const formats = FILM_FORMAT_IDS.map((value) => ({ value, title: FILM_FORMATS[value].name, props: { subtitle: FILM_FORMATS[value].use } }))
/** The rate is the journey's, so that what is watched while editing is what is exported: to be matched to the footage. */
const rates = FRAME_RATES.map((rate) => ({ value: rate, title: `${rateLabel(rate)} frames a second` }))
function setRate(rate: FrameRate) {
  if (editor.edit((j) => setFrame(j, { ...j.frame, rate }))) lastFrame.used(journey.value.frame)
}

const QUALITY_NAMES = [
  { value: 'draft', title: 'Draft' },
  { value: 'good', title: 'Good' },
  { value: 'best', title: 'Best' },
] as const

/** Sizes of the frame's shape by their shorter side, the journey's own first. */
const SHORT_SIDES = [360, 540, 720, 1080, 1440, 2160]
const sizes = computed(() => {
  const { width, height } = journey.value.frame
  const short = Math.min(width, height)
  const scaled = [short, ...SHORT_SIDES.filter((side) => side !== short)].map((side) => {
    const even = (value: number) => 2 * Math.round((value * side) / short / 2)
    return { width: even(width), height: even(height) }
  })
  return scaled
    .filter((size) => Math.max(size.width, size.height) <= (chosen.value.most?.side ?? LIMITS.side))
    .map((size, i) => ({
      value: `${size.width}x${size.height}`,
      title: `${size.width} × ${size.height}${i === 0 && size.width === width ? ' (as the journey)' : ''}`,
    }))
})
const size = ref('')
watch(
  sizes,
  (list) => {
    if (!list.some(({ value }) => value === size.value)) size.value = list[0]!.value
  },
  { immediate: true },
)
watch(format, () => {
  if (!chosen.value.alpha) shows.value = 'all'
})
watch(shows, () => (inPasses.value = shows.value === 'passes'), { immediate: true })
const SHOWN_NAMES = [
  { value: 'all', title: 'Whole' },
  { value: 'over', title: 'Without map' },
  { value: 'passes', title: 'In passes' },
] as const
const glows = computed(() => journey.value.travellers.some(({ legs }) => legs.some(({ ink }) => ink.glow)))
const SHOWN_NOTES = {
  all: '',
  over: 'Only what travels and marks the way; all else is transparent.',
  passes:
    'The map, lines, pins, vehicles, names, cards and titles as files of their own, without the colour grade, to be laid over one another.',
} as const

/** The shorter side of a film to be looked at on a telephone. */
const TELEPHONE = 720
/** A small film, quickly made, to be sent and looked at. */
const isDraft = computed(() => format.value === 'mp4' && quality.value === 'draft' && size.value === telephoneSize.value)
const telephoneSize = computed(() => {
  const of = (value: string) => least(value.split('x').map(Number))
  return sizes.value.find(({ value }) => of(value) === TELEPHONE)?.value
})
function makeDraft() {
  format.value = 'mp4'
  quality.value = 'draft'
  void nextTick(() => (size.value = telephoneSize.value ?? size.value))
}

const wanted = computed<FilmSettings>(() => {
  const [width, height] = size.value.split('x').map(Number) as [number, number]
  const whole = wholeFilm(journey.value, format.value)
  const { rate } = journey.value.frame
  const span =
    chosen.value.encoder.kind === 'picture'
      ? { from: playback.frame, to: playback.frame + 1 }
      : part.value === 'part'
        ? { from: frameCount(from.value, rate), to: frameCount(to.value, rate) }
        : {}
  return { ...whole, quality: quality.value, shows: shows.value === 'over' ? 'over' : 'all', sound: sound.value, width, height, ...span }
})
/** Why these choices do not go together, as a sentence. */
const problem = computed(() => {
  try {
    checkFilm(journey.value, wanted.value)
    return ''
  } catch (error) {
    if (error instanceof JourneyError) return error.message
    throw error
  }
})
watch([wanted, problem], () => (settings.value = problem.value === '' ? wanted.value : undefined), { immediate: true })

/** A few frames are made meanwhile, to tell what all of them take; not while the dialog is closed, or a film is made. */
const measured = computed(() =>
  exports.isWatched && !exports.running && !inPasses.value && problem.value === '' && chosen.value.encoder.kind !== 'sound'
    ? wanted.value
    : undefined,
)
const { cost, isMeasuring } = useFilmCost(props.journeyId, measured)
const about = computed(() => {
  // A film of the same journey tells something until then; those of others do not.
  if (isMeasuring.value && !exports.paces.some(({ journey, format: of }) => journey === props.journeyId && of === format.value))
    return 'making a few of them to see how long it takes'
  const { bytes, seconds } = cost.value ?? estimate(wanted.value, journey.value.frame.rate, exports.paces, props.journeyId)
  const time = seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`
  const size = bytes < 1e7 ? megabytes(bytes) : `${Number((bytes / 1e6).toPrecision(2))} MB`
  return `about ${size} and ${time}`
})
const isHalved = computed(() => rateInFile(format.value, journey.value.frame.rate) !== journey.value.frame.rate)
const frames = computed(() => wanted.value.to - wanted.value.from)
</script>

<template>
  <div class="fields">
    <FieldRow v-slot="{ id }" label="Format">
      <v-select v-model="format" :aria-labelledby="id" :items="formats" data-testid="film-format" />
    </FieldRow>
    <div v-if="!isDraft" class="buttons">
      <v-btn size="small" variant="outlined" data-testid="film-draft" @click="makeDraft">A draft for the telephone (720p)</v-btn>
    </div>
    <p class="quiet">{{ chosen.use[0]!.toUpperCase() + chosen.use.slice(1) }}.</p>
    <p v-if="isHalved" class="quiet" data-testid="film-halved">
      It has every second frame: players slow down a {{ chosen.name }} of more than {{ chosen.mostRate }} frames a second.
    </p>
    <ChoiceRow
      v-if="chosen.hasQuality"
      label="Quality"
      :model-value="quality"
      :choices="QUALITY_NAMES"
      @change="(value) => (quality = value)"
    />
    <FieldRow v-if="hasPicture" v-slot="{ id }" label="Size">
      <v-select v-model="size" :aria-labelledby="id" :items="sizes" data-testid="film-size" />
    </FieldRow>
    <FieldRow v-if="hasPicture && chosen.encoder.kind !== 'picture'" v-slot="{ id }" label="Frame rate">
      <v-select
        :aria-labelledby="id"
        :items="rates"
        :model-value="journey.frame.rate"
        data-testid="film-rate"
        @update:model-value="setRate"
      />
    </FieldRow>
    <template v-if="chosen.encoder.kind !== 'picture'">
      <ChoiceRow
        label="Part"
        :model-value="part"
        :choices="[
          { value: 'whole', title: 'Whole film' },
          { value: 'part', title: 'From … to' },
        ]"
        @change="(value) => (part = value)"
      />
      <div v-if="part === 'part'" class="pair">
        <FieldRow v-slot="{ id }" label="From">
          <NumberField
            :labelledby="id"
            data-testid="film-from"
            :model-value="from"
            :min="0"
            :max="journey.seconds"
            :step="0.5"
            :precision="2"
            unit="s"
            @change="(value) => (from = value)"
          />
        </FieldRow>
        <FieldRow v-slot="{ id }" label="To">
          <NumberField
            :labelledby="id"
            data-testid="film-to"
            :model-value="to"
            :min="0"
            :max="journey.seconds"
            :step="0.5"
            :precision="2"
            unit="s"
            @change="(value) => (to = value)"
          />
        </FieldRow>
      </div>
    </template>
    <v-switch
      v-if="hasPicture && chosen.sound && isHeard(journey)"
      v-model="sound"
      label="With music and sounds"
      data-testid="film-sound"
    />
    <template v-if="hasPicture && chosen.alpha">
      <ChoiceRow
        label="Picture"
        :model-value="shows"
        :choices="SHOWN_NAMES"
        data-testid="film-shows"
        @change="(value) => (shows = value)"
      />
      <p v-if="SHOWN_NOTES[shows]" class="quiet" data-testid="film-shows-note">
        {{ SHOWN_NOTES[shows] }}
        {{ glows ? 'The light of glowing lines looks a little different there, as no transparent film can hold all of it.' : '' }}
      </p>
    </template>
    <FieldRow v-slot="{ id }" label="File name">
      <v-text-field v-model="title" :aria-labelledby="id" maxlength="120" :suffix="chosen.ending" data-testid="film-title" />
    </FieldRow>
    <p v-if="problem" class="problem" role="status" data-testid="film-problem">{{ problem }}</p>
    <p v-else class="figures quiet" data-testid="film-estimate">
      {{ frames === 1 ? 'One frame' : `${frames} frames`
      }}{{ inPasses ? ` in each of ${passesOf(editor.compiled!).length} films` : `: ${about}` }}
    </p>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 6px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
}
.quiet {
  color: var(--quiet);
  font-size: 14px;
}
.problem {
  color: rgb(var(--v-theme-error));
}
</style>
