<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed, ref, watch } from 'vue'
import { LEAST_PAUSE, USUAL_PAUSE } from '#core/tracks/measure'
import DialogSheet from '~/components/DialogSheet.vue'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { durationWords, kilometres } from '~/services/distance-words'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import type { LayBy } from '~/stores/tracks'
import { useTracks } from '~/stores/tracks'
import TrackPicture from './TrackPicture.vue'

/** Options for a recorded track: which part is kept, its stops, its traveller, and how it is placed on the ground. */
const editor = useEditor()
const stage = useStage()
const tracks = useTracks()

const open = computed({
  get: () => tracks.overview !== undefined && stage.tool !== 'match-track',
  set: (shown) => !shown && tracks.close(),
})

const segment = ref<number | null>(null)
const range = ref<[number, number]>([0, 100])
/** Steps of the tolerance: 0, then from a tenth of a metre to ten kilometres. */
const step = ref(0)
const metres = computed(() => (step.value === 0 ? 0 : Number((0.1 * 10 ** ((step.value - 1) / 10)).toPrecision(2))))
const marked = ref(true)
const paused = ref(true)
const reversed = ref(false)
const atPace = ref(false)
const use = ref<'go-on' | 'leg' | 'own'>('go-on')
const by = ref<LayBy>('earth')
const kept = ref<{ points: number; metres: number }>()
/** The shortest pause that becomes a stop, in minutes. */
const pauseMinutes = ref(USUAL_PAUSE / 60)

const waypoints = computed(() => tracks.overview?.places.filter(({ isMarked }) => isMarked) ?? [])
const allPauses = computed(() => tracks.overview?.places.filter(({ isMarked }) => !isMarked) ?? [])
const pauses = computed(() => allPauses.value.filter(({ seconds }) => seconds >= 60 * pauseMinutes.value))

watch(
  () => tracks.overview,
  (overview) => {
    if (!overview) return
    segment.value = null
    range.value = [0, 100]
    // A short track is kept as it is; a longer one is simplified to about what is visible.
    step.value =
      overview.points < 2000 ? 0 : Math.max(1, Math.round(1 + 10 * Math.log10(Math.max(0.1, overview.lengthMetres / 20_000) / 0.1)))
    marked.value = waypoints.value.length > 0
    pauseMinutes.value = USUAL_PAUSE / 60
    paused.value = pauses.value.length > 0
    reversed.value = false
    atPace.value = overview.hasTimes
    use.value = editor.selectedLeg ? 'leg' : editor.traveller!.visits.length > 0 ? 'own' : 'go-on'
    by.value = tracks.usualWay
  },
)

const options = computed(() => ({
  segment: segment.value,
  from: range.value[0] / 100,
  to: Math.max(range.value[1] / 100, range.value[0] / 100 + 1e-6),
  reversed: reversed.value,
  metres: metres.value,
  stops:
    use.value === 'leg'
      ? []
      : [...(marked.value ? waypoints.value : []), ...(paused.value ? pauses.value : [])].map(({ lon, lat, name }) => ({ lon, lat, name })),
}))
const recount = useDebounceFn(async () => {
  if (!tracks.overview) return
  const asked = options.value
  const count = await tracks.count(asked)
  if (count !== undefined && asked === options.value) kept.value = count
}, 120)
watch(options, () => void recount())

const segments = computed(() => [
  { value: null, title: `All ${tracks.overview!.segments.length}, joined` },
  ...tracks.overview!.segments.map((points, i) => ({ value: i, title: `Segment ${i + 1}: ${points} points` })),
])

const uses = computed(() => [
  ...(editor.selectedLeg ? [{ value: 'leg' as const, title: 'This leg' }] : []),
  { value: 'go-on' as const, title: editor.traveller!.visits.length > 0 ? 'Continue the trip' : 'A trip' },
  ...(editor.traveller!.visits.length > 0 ? [{ value: 'own' as const, title: 'New traveller' }] : []),
])
const ways = computed(() => [
  ...(editor.geo ? [{ value: 'earth' as const, title: 'On the Earth' }] : []),
  { value: 'places' as const, title: 'By clicked places' },
  { value: 'frame' as const, title: 'To fit the frame' },
])

function lay() {
  const target =
    use.value === 'leg'
      ? ({ use: 'leg', leg: editor.selectedLeg!.id } as const)
      : ({ use: use.value, traveller: use.value === 'own' ? nanoid(10) : editor.traveller!.id } as const)
  void tracks.lay(options.value, target, atPace.value && tracks.overview!.hasTimes, by.value)
}

const duration = computed(() => {
  const { start, end } = tracks.overview!
  return start === null || end === null ? 'no times' : durationWords(end - start)
})
const plural = (n: number, one: string, many: string) => `${n.toLocaleString('en')} ${n === 1 ? one : many}`
</script>

<template>
  <DialogSheet v-model="open" title="Import a track" :width="760">
    <div v-if="tracks.overview" class="columns">
      <div>
        <TrackPicture :overview="tracks.overview" :places="by === 'places' ? 3 : 0" :from="range[0] / 100" :to="range[1] / 100" />
        <p class="figures facts" data-testid="track-facts">
          <strong>{{ tracks.name }}</strong><br />
          {{ plural(tracks.overview.points, 'point', 'points') }}, {{ kilometres(tracks.overview.lengthMetres) }}, {{ duration
          }}{{ tracks.overview.hasHeights ? ', with heights' : '' }}
        </p>
        <p v-if="tracks.overview.badTimes > 0" class="note warn" role="status" data-testid="bad-times">
          {{ plural(tracks.overview.badTimes, 'time', 'times') }} could not be right and
          {{ tracks.overview.badTimes === 1 ? 'was' : 'were' }} filled in from the points beside.
        </p>
      </div>
      <div>
        <FieldRow v-if="tracks.overview.segments.length > 1" v-slot="{ id }" label="Segments">
          <v-select v-model="segment" :aria-labelledby="id" :items="segments" />
        </FieldRow>
        <FieldRow v-slot="{ id }" label="Trim">
          <v-range-slider v-model="range" :aria-labelledby="id" :min="0" :max="100" :step="0.5" strict />
        </FieldRow>
        <FieldRow v-slot="{ id }" label="Simplify">
          <v-slider v-model="step" :aria-labelledby="id" :min="0" :max="51" :step="1" data-testid="track-simplify" />
        </FieldRow>
        <p class="quiet figures note" data-testid="track-kept" aria-live="polite">
          {{ metres === 0 ? 'Every point' : `To ${metres < 1000 ? `${metres} m` : `${metres / 1000} km`}`
          }}<template v-if="kept">: {{ plural(kept.points, 'point', 'points') }} left, {{ kilometres(kept.metres) }}</template>
        </p>
        <v-switch v-model="reversed" label="Reverse it" />
        <template v-if="use !== 'leg'">
          <v-switch
            v-if="waypoints.length > 0"
            v-model="marked"
            :label="`${plural(waypoints.length, 'marked place becomes a stop', 'marked places become stops')}`"
          />
          <v-switch
            v-if="allPauses.length > 0"
            v-model="paused"
            :label="`${plural(pauses.length, 'long pause becomes a stop', 'long pauses become stops')}`"
          />
          <FieldRow v-if="allPauses.length > 0 && paused" v-slot="{ id }" label="Pauses of">
            <NumberField
              :labelledby="id"
              :model-value="pauseMinutes"
              :min="LEAST_PAUSE / 60"
              :max="1440"
              :step="1"
              unit="min or more"
              data-testid="pause-minutes"
              @change="(minutes) => (pauseMinutes = minutes)"
            />
          </FieldRow>
        </template>
        <v-switch v-if="tracks.overview.hasTimes" v-model="atPace" label="Keep the recorded pace" />
        <ChoiceRow label="Use it as" :model-value="use" :choices="uses" @change="(value) => (use = value)" />
        <ChoiceRow label="Place it" :model-value="by" :choices="ways" @change="(value) => (by = value)" />
        <p v-if="by === 'places'" class="quiet note">You will click two or three of its places, A, B and C, on the map.</p>
      </div>
    </div>
    <template #actions>
      <v-btn variant="text" @click="tracks.close()">Cancel</v-btn>
      <v-btn color="accent" variant="flat" :loading="tracks.busy" data-testid="lay-track" @click="lay">Add the track</v-btn>
    </template>
  </DialogSheet>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: 240px 1fr;
  gap: 22px;
}
.facts {
  margin-top: 8px;
  font-size: 14px;
  overflow-wrap: anywhere;
}
.warn {
  padding-left: 8px;
  border-left: 3px solid rgb(var(--v-theme-warning));
}
.note {
  margin: -2px 0 6px;
  font-size: 13px;
}
</style>
