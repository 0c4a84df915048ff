<script setup lang="ts">
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import { upwardBow } from '#core/geometry/bow'
import { laySideBySide } from '#core/edits/trips/aside'
import { insertNode, makeDrawn } from '#core/edits/lines/courses'
import { keepAsLine } from '#core/edits/lines/networks'
import { boundsOf } from '#core/journey/bounds'
import type { Leg, NetworkMode } from '#core/journey/schema'
import { courseSchema, legSchema, NETWORK_MODES } from '#core/journey/schema'
import { legEnds, nameOfStop } from '#core/journey/lookup'
import { countIn } from '#core/journey/track-line'
import { MODE_NAMES } from '#core/network/modes'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import FoldedSection from '~/components/fields/FoldedSection.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useLegEdits } from '~/composables/use-leg-edits'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import CourseFields from './CourseFields.vue'
import InkFields from '../ink/InkFields.vue'
import LegPaceFields from './LegPaceFields.vue'
import NetworkFields from '../journey/NetworkFields.vue'
import ValueSection from '../values/ValueSection.vue'
import VehicleFields from '../vehicle/VehicleFields.vue'

const props = defineProps<{ leg: Leg }>()
const editor = useEditor()
const stage = useStage()
const { patch, set, done } = useLegEdits(() => props.leg)

const index = computed(() => editor.traveller!.legs.findIndex((leg) => leg.id === props.leg.id))
const ends = computed(() => [0, 1].map((k) => nameOfStop(editor.itinerary!.visits[index.value + k]!.stop)))

const SHAPES = [
  { value: 'straight', title: 'Straight' },
  { value: 'bowed', title: 'Bowed' },
  { value: 'drawn', title: 'Drawn' },
] as const
/** Courses derived from something else: the Earth, a recorded track, or the lines of a network. */
const others = computed(() => {
  const modes = new Set(editor.journey!.networks.map(({ mode }) => mode))
  return [
    ...(editor.geo || props.leg.course.kind === 'great-circle' ? [{ value: 'great-circle' as const, title: 'Great circle' }] : []),
    ...(props.leg.course.kind === 'track' ? [{ value: 'track' as const, title: 'A recorded track' }] : []),
    ...NETWORK_MODES.filter((mode) => modes.has(mode)).map((mode) => ({ value: mode, title: WAYS[mode] })),
  ]
})
const other = computed(() => (props.leg.course.kind === 'network' ? props.leg.course.mode : props.leg.course.kind) as OtherShape)
const WAYS: Record<NetworkMode, string> = { road: 'Roads', rail: 'Railways', water: 'Ferries' }
type OtherShape = 'great-circle' | 'track' | NetworkMode
function setOther(kind: OtherShape) {
  if (kind === other.value || kind === 'track') return
  if (kind === 'great-circle') return set({ course: { kind } })
  const by = props.leg.course.kind === 'network' ? props.leg.course.by : 'time'
  set({ course: { kind: 'network', mode: kind, by, vias: [] } })
}

function setShape(kind: 'straight' | 'bowed' | 'drawn') {
  if (kind === props.leg.course.kind) return
  // A drawn course starts with the present shape, and a node to drag.
  if (kind === 'drawn') editor.edit((journey) => insertNode(makeDrawn(journey, props.leg.id), props.leg.id, { segment: 0, u: 0.5 }))
  else
    set({ course: kind === 'straight' ? { kind } : { kind, bow: upwardBow(...legEnds(editor.journey!, props.leg.id)!, 0.18, editor.geo) } })
}
</script>

<template>
  <div>
    <p v-if="editor.selectedIds.length > 1" class="several" role="status" data-testid="several">
      {{ editor.selectedIds.length }} legs are selected: vehicle, ink and pace change for all of them.
    </p>
    <h2>{{ ends[0] }} <span class="arrow" aria-label="to">→</span> {{ ends[1] }}</h2>
    <ChoiceRow label="Course" :model-value="leg.course.kind as 'drawn'" :choices="SHAPES" @change="setShape" />
    <FieldRow v-if="others.length > 0" v-slot="{ id }" label="or along">
      <v-select
        :aria-labelledby="id"
        data-testid="course-along"
        :items="others"
        :model-value="others.some(({ value }) => value === other) ? other : null"
        placeholder="Roads, great circle …"
        @update:model-value="(value) => value && setOther(value)"
      />
    </FieldRow>
    <p v-if="leg.course.kind === 'great-circle' && !editor.geo" class="quiet">No map here is georeferenced, so the leg is straight.</p>
    <p v-if="leg.course.kind === 'track'" class="quiet figures" data-testid="track-points">
      {{ countIn(leg.course.points).toLocaleString('en') }} recorded points<template v-if="leg.course.times">, with their times</template>.
    </p>
    <NetworkFields v-if="leg.course.kind === 'network'" :leg="leg" :course="leg.course" />
    <NumberSlider
      v-if="leg.course.kind === 'bowed'"
      label="Bow"
      :model-value="Math.round(leg.course.bow * 100)"
      v-bind="boundsOf(courseSchema, 'bow', 100)"
      unit="%"
      @change="(value) => patch('bow', { course: { kind: 'bowed', bow: value / 100 } })"
      @done="done"
    />
    <CourseFields v-if="leg.course.kind === 'drawn'" :leg="leg" :course="leg.course" />
    <div class="buttons">
      <v-btn size="small" variant="outlined" :active="stage.tool === 'draw'" @click="stage.toggleTool('draw')">Redraw</v-btn>
      <v-btn size="small" variant="outlined" :active="stage.tool === 'freehand'" @click="stage.toggleTool('freehand')">Freehand</v-btn>
      <v-btn
        size="small"
        variant="outlined"
        :active="stage.tool === 'follow'"
        :disabled="editor.journey!.sheets.length === 0"
        data-testid="along-picture"
        @click="stage.toggleTool('follow')"
        >Follow a road</v-btn
      >
    </div>
    <h3>Ink</h3>
    <InkFields :leg="leg" />
    <h3>Vehicle</h3>
    <VehicleFields :leg="leg" />
    <h3>Pace</h3>
    <LegPaceFields :leg="leg" :index="index" />
    <ValueSection :leg="leg.id" :traveller="editor.traveller!.id" />
    <FoldedSection title="Side by side, networks" :note="leg.aside === 0 ? 'on its course' : `${leg.aside} px`">
      <NumberSlider
        label="Aside"
        :model-value="leg.aside"
        v-bind="boundsOf(legSchema, 'aside')"
        :precision="1"
        unit="px"
        @change="(aside) => patch('aside', { aside })"
        @done="done"
      />
      <p class="quiet">
        Positive values shift the line to the right, negative ones to the left. It leaves its course after one stop and rejoins it before
        the next.
      </p>
      <div class="buttons">
        <v-btn size="small" variant="outlined" data-testid="side-by-side" @click="editor.edit((j) => laySideBySide(j, leg.id))">
          Run legs that share this route side by side
        </v-btn>
        <v-menu v-if="leg.course.kind !== 'network'">
          <template #activator="{ props: menu }">
            <v-btn v-bind="menu" size="small" variant="text" data-testid="keep-as-line">Add to a network …</v-btn>
          </template>
          <v-list density="compact">
            <v-list-item
              v-for="mode in NETWORK_MODES"
              :key="mode"
              :title="`The ${MODE_NAMES[mode].toLowerCase()} network`"
              @click="editor.edit((j) => keepAsLine(j, leg.id, mode, nanoid(10)))"
            />
          </v-list>
        </v-menu>
      </div>
    </FoldedSection>
  </div>
</template>

<style scoped>
.several {
  margin-bottom: 10px;
  padding-left: 10px;
  border-left: 4px solid var(--vermilion);
}
.arrow {
  color: var(--vermilion);
}
</style>
