<script setup lang="ts">
import { mdiArrowLeftRight, mdiContentCut, mdiContentDuplicate, mdiSwapHorizontal } from '@mdi/js'
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import {
  backToPlan,
  isOfPlan,
  putShot,
  removeShot,
  reversedShot,
  setCamera,
  splitShot,
  swapShots,
  takingSeconds,
  addShot,
} from '#core/edits/camera/shots'
import { runAt, viewAt } from '#core/camera/view-track'
import type { CompiledShot } from '#core/trips/compiled'
import { frameTime } from '#core/pace/rate'
import { boundsOf } from '#core/journey/bounds'
import type { Shot, ShotKind } from '#core/journey/schema'
import { MOTION_NAMES, shotOfKind, shotSchema } from '#core/journey/schema'
import ToolButton from '~/components/stage/ToolButton.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import MomentFields from '~/components/fields/MomentFields.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import CameraChecks from './CameraChecks.vue'
import CameraPlan from './CameraPlan.vue'
import ShotAim from './ShotAim.vue'
import ShotMoves from './ShotMoves.vue'
import ViewFields from './ViewFields.vue'
import WayFields from './WayFields.vue'
import { MOTION_TITLES } from './shot-fields'
import { nameOfShot, SHOT_CHOICES } from './shot-names'

/** A shot of the camera, or the view with which the film begins. */
const props = defineProps<{ entry: CompiledShot | undefined }>()
const editor = useEditor()
const camera = useCamera()
const stage = useStage()
const playback = usePlayback()
const { change, done } = useFieldEdits(() => `shot ${props.entry?.shot.id ?? ''}`)

const set = (field: string, shot: Shot) => change(field, (journey) => putShot(journey, shot))
function setOnce(shot: Shot) {
  set('once', shot)
  done()
}
function become(kind: ShotKind) {
  show()
  const made = camera.asKind(props.entry!.shot, kind)
  if (made) setOnce(made)
}

const isShown = computed(() => {
  const { entry } = props
  return camera.shot?.shot.id === entry?.shot.id && playback.time > (entry?.end ?? 0) - frameTime(1, playback.rate)
})
/** Goes to where the camera has got there, unless it is there now. */
function show() {
  stage.setMode('lens')
  if (!isShown.value) playback.goToTime(props.entry?.end ?? 0)
}

const index = computed(() => editor.compiled!.shots.findIndex(({ shot }) => shot.id === props.entry?.shot.id))
const neighbour = (by: number) => editor.compiled!.shots[index.value + by]?.shot
function swap(by: number) {
  const other = neighbour(by)
  if (other && editor.edit((journey) => swapShots(journey, props.entry!.shot, other))) editor.select({ kind: 'shot', id: other.id })
}
function duplicate() {
  const { shot, start, until } = props.entry!
  const id = nanoid(10)
  if (editor.edit((journey) => addShot(journey, { ...shot, id, at: camera.momentOf((start + until) / 2) })))
    editor.select({ kind: 'shot', id })
}
/** The camera goes from the first shot's view to the opening one, and not the other way: the shot is one of a view from then on. */
function reverseOpening() {
  const [first] = editor.compiled!.shots
  const turned = first && shotOfKind(first.shot, 'free', { seen: editor.journey!.camera })
  if (turned) editor.edit((journey) => putShot(setCamera(journey, viewAt(editor.compiled!, first.end)), turned))
}
const canSplit = computed(() => props.entry && playback.time > props.entry.end && playback.time < props.entry.until)
function split() {
  const id = nanoid(10)
  const { shot, start } = props.entry!
  const at = camera.momentOf(playback.time)
  if (editor.edit((journey) => splitShot(journey, shot, at, playback.time - start, id))) editor.select({ kind: 'shot', id })
}
function remove() {
  if (editor.edit((journey) => removeShot(journey, props.entry!.shot.id))) editor.select({ kind: 'journey' })
}
const isChanged = computed(() => {
  const { entry } = props
  return entry && !entry.isPlanned && isOfPlan(entry.shot.id) && editor.journey!.plan.temperament !== null
})

/** The shots that the camera passes together with it, if it does. */
const run = computed(() => runAt(editor.compiled!.views, index.value))
const way = computed(() => run.value && editor.compiled!.shots.slice(run.value.first, run.value.last + 1))
const isPassed = computed(() => run.value !== undefined && index.value < run.value.last)

const motions = MOTION_NAMES.map((value) => ({ value, title: MOTION_TITLES[value] }))
const checks = computed(() => camera.checks.filter(({ shot }) => shot === props.entry?.shot.id))
</script>

<template>
  <div>
    <h2>{{ entry ? nameOfShot(editor.journey!, entry.shot) : 'Opening view' }}</h2>
    <p class="quiet">
      <template v-if="entry?.isPlanned">Planned. Your changes here are kept when the plan is updated. </template>
      Drag the map in the lens to move it, turn the wheel to zoom, drag with Shift to change bearing and pitch.
    </p>
    <CameraChecks v-if="checks.length > 0" :checks="checks" />
    <div v-if="!isShown" class="buttons">
      <v-btn size="small" variant="outlined" data-testid="show-shot" @click="show">Show it</v-btn>
    </div>

    <template v-if="!entry">
      <ViewFields
        :view="editor.journey!.camera"
        @change="(view, field) => change(field, (journey) => setCamera(journey, view))"
        @done="done"
      />
      <div v-if="editor.compiled!.shots.length > 0" class="tools" role="group" aria-label="The opening view">
        <ToolButton :icon="mdiSwapHorizontal" label="Reverse the camera motion" data-testid="reverse-opening" @click="reverseOpening" />
      </div>
      <CameraPlan />
    </template>
    <template v-else>
      <FieldRow v-slot="{ id }" label="Shot">
        <v-select
          :aria-labelledby="id"
          data-testid="shot-kind"
          :items="SHOT_CHOICES"
          :model-value="entry.shot.kind"
          @update:model-value="(kind) => become(kind)"
        />
      </FieldRow>
      <ShotAim :shot="entry.shot" @change="(shot, field) => set(field, shot)" @done="done" />

      <h3>When</h3>
      <MomentFields label="Starts at" :model-value="entry.shot.at" @change="(at) => set('moment', { ...entry!.shot, at })" @done="done" />
      <NumberSlider
        label="Takes"
        data-testid="shot-transition"
        :model-value="entry.shot.transition"
        v-bind="boundsOf(shotSchema, 'transition')"
        :usual="[0, 20]"
        :step="0.1"
        :precision="1"
        unit="s"
        @change="(seconds) => set('transition', takingSeconds(entry!.shot, seconds, entry!.start))"
        @done="done"
      />
      <p v-if="entry.shot.transition === 0" class="quiet">A cut, without a transition.</p>
      <FieldRow v-else-if="!run" v-slot="{ id }" label="Pace">
        <v-select
          :aria-labelledby="id"
          :items="motions"
          :model-value="entry.shot.easing"
          @update:model-value="(easing) => setOnce({ ...entry!.shot, easing })"
        />
      </FieldRow>
      <p v-else class="quiet" data-testid="in-run">
        {{
          isPassed
            ? 'The camera passes it on one smooth path, at the time it would have arrived.'
            : 'The smooth path through the shots before it ends here.'
        }}
      </p>
      <v-switch
        v-if="entry.shot.kind === 'free'"
        label="Pass through without a stop"
        data-testid="passes"
        :model-value="entry.shot.passes"
        @update:model-value="(passes) => entry!.shot.kind === 'free' && setOnce({ ...entry!.shot, passes: passes === true })"
      />
      <p v-if="entry.shot.kind === 'free' && entry.shot.passes && !isPassed" class="quiet" role="status">
        The camera still stops here: it can only go on to a next shot that stands still and is neither a cut nor the globe.
      </p>

      <WayFields v-if="way" :way="way" />

      <h3>Camera moves</h3>
      <ShotMoves :shot="entry.shot" @change="(shot, field) => set(field, shot)" @done="done" />

      <div class="tools" role="group" aria-label="This shot">
        <ToolButton
          :icon="mdiContentCut"
          label="Split at the play position"
          data-testid="split-shot"
          :disabled="!canSplit"
          @click="split"
        />
        <ToolButton :icon="mdiContentDuplicate" label="Duplicate" data-testid="duplicate-shot" @click="duplicate" />
        <ToolButton
          :icon="mdiSwapHorizontal"
          label="Reverse the camera motion"
          data-testid="reverse-shot"
          :disabled="entry.shot.orbit === 0 && entry.shot.dolly === null"
          @click="setOnce(reversedShot(entry.shot))"
        />
        <ToolButton
          :icon="mdiArrowLeftRight"
          label="Swap with the next shot"
          data-testid="swap-shot"
          :disabled="!neighbour(1)"
          @click="swap(1)"
        />
      </div>
      <div class="buttons">
        <v-btn v-if="isChanged" size="small" variant="outlined" @click="editor.edit((j) => backToPlan(j, entry!.shot.id))"
          >Back to the plan</v-btn
        >
        <v-btn size="small" variant="outlined" data-testid="remove-shot" @click="remove">Remove this shot</v-btn>
      </div>
    </template>
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 2px;
  margin-top: 10px;
}
</style>
