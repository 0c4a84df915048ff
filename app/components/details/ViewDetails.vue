<script setup lang="ts">
import { computed } from 'vue'
import type { View } from '#core/camera/view'
import { GREATEST_PITCH } from '#core/camera/view'
import { routeView } from '#core/edits/journey'
import { CURVE_NAMES } from '#core/journey/schema'
import type { ViewAtMoment } from '#core/journey/schema'
import { editView, removeView, setCamera } from '#core/edits/views'
import { fillingView } from '#core/sheet/framing'
import FieldRow from '~/components/fields/FieldRow.vue'
import MomentFields from '~/components/fields/MomentFields.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'

/** A view of the camera: the one with which the film begins, or one that it takes up at a moment. */
const props = defineProps<{ entry: ViewAtMoment | undefined }>()
const editor = useEditor()
const camera = useCamera()
const stage = useStage()
const playback = usePlayback()
const { change, done } = useFieldEdits(() => `view ${props.entry?.id ?? ''}`)

const view = computed<View>(() => props.entry?.view ?? editor.journey!.camera)
function set(field: string, next: View) {
  const id = props.entry?.id
  change(field, (journey) => (id === undefined ? setCamera(journey, next) : editView(journey, id, { view: next })))
}
const setEntry = (field: string, patch: Partial<ViewAtMoment>) => change(field, (journey) => editView(journey, props.entry!.id, patch))
function setOnce(next: View) {
  set('once', next)
  done()
}

/** At 100 % the first sheet just fills the frame; without a sheet a ground unit is a reference pixel. */
const whole = computed(() => {
  const sheet = editor.journey!.sheets[0]
  return sheet ? fillingView(sheet, stage.reference).zoom : 1
})
const percent = computed(() => Math.round((view.value.zoom / whole.value) * 1000) / 10)

/** When the camera has got there. */
const arrival = computed(() => editor.compiled!.views.moves.find(({ id }) => id === props.entry?.id)?.end ?? 0)
const isShown = computed(() => camera.move?.id === props.entry?.id && playback.time >= arrival.value - 1e-9)
function show() {
  stage.setMode('lens')
  playback.goToTime(arrival.value)
}

function fit() {
  const route = routeView(editor.journey!)
  if (route) setOnce(route)
}
function remove() {
  if (editor.edit((journey) => removeView(journey, props.entry!.id))) editor.select({ kind: 'journey' })
}

const EASINGS = { linear: 'Even', 'ease-in': 'Starts slowly', 'ease-out': 'Ends slowly', 'ease-in-out': 'Slow at both ends' } as const
const easings = CURVE_NAMES.map((value) => ({ value, title: EASINGS[value] }))
</script>

<template>
  <div>
    <h2>{{ entry ? 'View' : 'Opening view' }}</h2>
    <p class="quiet">Drag the map in the lens to move it, turn the wheel to zoom, drag with Shift to turn and tilt.</p>
    <div v-if="!isShown" class="buttons">
      <v-btn size="small" variant="outlined" data-testid="show-view" @click="show">Show this view</v-btn>
    </div>
    <NumberSlider
      label="Zoom"
      :model-value="percent"
      :min="10"
      :max="1000"
      :step="1"
      :precision="1"
      unit="%"
      @change="(value) => set('zoom', { ...view, zoom: (whole * value) / 100 })"
      @done="done"
    />
    <NumberSlider
      label="Turn"
      data-testid="view-bearing"
      :model-value="view.bearing"
      :min="-180"
      :max="180"
      :step="1"
      :precision="1"
      unit="°"
      @change="(bearing) => set('bearing', { ...view, bearing })"
      @done="done"
    />
    <NumberSlider
      label="Tilt"
      data-testid="view-pitch"
      :model-value="view.pitch"
      :min="0"
      :max="GREATEST_PITCH"
      :step="1"
      :precision="1"
      unit="°"
      @change="(pitch) => set('pitch', { ...view, pitch })"
      @done="done"
    />
    <div class="buttons">
      <v-btn
        v-if="view.bearing !== 0 || view.pitch !== 0"
        size="small"
        variant="outlined"
        data-testid="straighten-view"
        @click="setOnce({ ...view, bearing: 0, pitch: 0 })"
        >Straight down</v-btn
      >
      <v-btn v-if="editor.journey!.stops.length > 0" size="small" variant="outlined" @click="fit">Fit the route</v-btn>
    </div>

    <template v-if="entry">
      <h3>When</h3>
      <MomentFields label="Starts at" :model-value="entry.at" @change="(at) => setEntry('moment', { at })" @done="done" />
      <NumberSlider
        label="Takes"
        data-testid="view-transition"
        :model-value="entry.transition"
        :min="0"
        :max="20"
        :step="0.1"
        :precision="1"
        unit="s"
        @change="(transition) => setEntry('transition', { transition })"
        @done="done"
      />
      <FieldRow v-slot="{ id }" label="Motion">
        <v-select
          :aria-labelledby="id"
          :items="easings"
          :model-value="entry.easing"
          @update:model-value="(easing) => editor.edit((j) => editView(j, entry!.id, { easing }))"
        />
      </FieldRow>
      <div class="buttons">
        <v-btn size="small" variant="outlined" data-testid="remove-view" @click="remove">Remove this view</v-btn>
      </div>
    </template>
  </div>
</template>
