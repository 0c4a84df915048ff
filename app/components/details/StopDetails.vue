<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import type { LonLat } from '#core/geo/lon-lat'
import { geodesicDistance } from '#core/geo/geodesic'
import type { Point } from '#core/geometry/point'
import { formatCoordinates, readCoordinates } from '#core/formats/coordinates'
import type { StopPatch } from '#core/journey/edits'
import { dressStopsLike, editStop } from '#core/journey/edits'
import { setLayover } from '#core/journey/pace-edits'
import { moveVisit, visitsOf } from '#core/journey/visit-edits'
import { removeStop, removeVisit } from '#core/journey/trip-edits'
import type { Pin, Stop } from '#core/journey/schema'
import ChoiceRow from '~/components/fields/ChoiceRow.vue'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import PinPicture from '~/components/fields/PinPicture.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import type { Place } from '~/services/api'
import { placeAt } from '~/services/api'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import PostcardFields from './PostcardFields.vue'
import SidePicker from './SidePicker.vue'

const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const stage = useStage()
const { change, done } = useFieldEdits(() => `stop ${props.stop.id}`)
/** Of the look of pins and labels all selected stops take a change; name and place are one stop's own. */
const patch = (field: string, values: StopPatch) =>
  change(field, (journey) => {
    const isOwn = values.name !== undefined || values.at !== undefined || !editor.selectedIds.includes(props.stop.id)
    return (isOwn ? [props.stop.id] : editor.selectedIds).reduce((j, id) => editStop(j, id, values), journey)
  })

const visits = computed(() => editor.traveller!.visits)
/** The places in the itinerary at which the trip comes here, and the one that is being dealt with. */
const places = computed(() => visitsOf(editor.traveller!, props.stop.id))
const place = computed(() => editor.selectedVisit ?? places.value[0]!)
const layover = computed(() => visits.value[place.value]!.layover)
/** Seconds spent there now, set or shared out. */
const rests = computed(() => {
  const { arrive, leave } = editor.itinerary!.visits[place.value]!
  return Math.round((leave - arrive) * 100) / 100
})
const setRest = (value: number | null) => editor.edit((j) => setLayover(j, place.value, value, editor.traveller!.id))
function moveBy(step: number) {
  const to = place.value + step
  if (editor.edit((j) => moveVisit(j, place.value, to, editor.traveller!.id))) editor.select({ kind: 'stop', id: props.stop.id, visit: to })
}
/** The name of the place that the stop lies on, if the list knows one there and the stop has no name of its own yet. */
const offered = ref<Place>()
const nameField = useTemplateRef<{ focus: () => void; $el: HTMLElement }>('nameField')
watch(
  () => [stage.naming, props.stop.id] as const,
  async ([naming, id]) => {
    if (naming !== id) return
    stage.naming = undefined
    await nextTick()
    nameField.value?.$el.querySelector('input')?.select()
    const { geo } = editor
    const here = geo?.toLonLat(props.stop.at)
    const place = here && (await placeAt(here, reachAround(props.stop.at, here)).catch(() => undefined))
    if (props.stop.id === id) offered.value = place
  },
  { immediate: true },
)
/** How many kilometres a click may be off: so many pixels of the stage, and no less than a town is wide. */
const REACH = 14
const SMALLEST_TOWN = 2
function reachAround({ x, y }: Point, here: LonLat): number {
  const aside = editor.geo!.toLonLat({ x: x + REACH / (stage.view.zoom * editor.compiled!.scale), y })
  return Math.min(200, Math.max(SMALLEST_TOWN, aside ? geodesicDistance(here, aside) / 1000 : 0))
}
function takeName() {
  const { name } = offered.value!
  offered.value = undefined
  editor.edit((j) => editStop(j, props.stop.id, { name, found: true }))
}
const leaveField = (event: KeyboardEvent) => (event.target as HTMLElement).blur()
const ordinal = (n: number) => `${n}${['th', 'st', 'nd', 'rd'][n % 100 > 10 && n % 100 < 14 ? 0 : n % 10] ?? 'th'}`
/** Whether another traveller comes here as well. */
const isShared = computed(
  () => editor.journey!.travellers.filter((other) => other.visits.some((visit) => visit.stop === props.stop.id)).length > 1,
)
/** Where the stop lies on the Earth, if that is known of the ground. */
const onEarth = computed(() => editor.geo?.toLonLat(props.stop.at))
const coordinateProblem = ref('')
function moveTo(text: string) {
  const place = readCoordinates(text)
  const at = place && editor.geo?.toGround(place)
  coordinateProblem.value = at ? '' : 'Write it like 47.5, 8.25 or 47°30′ N 8°15′ E.'
  if (at) editor.edit((j) => editStop(j, props.stop.id, { at }))
}
const PINS: readonly { value: Pin['shape']; title: string }[] = [
  { value: 'lantern', title: 'Lantern' },
  { value: 'pennant', title: 'Pennant' },
  { value: 'bead', title: 'Bead' },
  { value: 'none', title: 'No pin' },
]
</script>

<template>
  <div>
    <p v-if="editor.selectedIds.length > 1" class="several" role="status" data-testid="several">
      {{ editor.selectedIds.length }} stops are selected: the looks of pin and label change for all of them.
    </p>
    <v-text-field
      ref="nameField"
      label="Name"
      class="name serif"
      data-testid="stop-name"
      :model-value="stop.name"
      maxlength="120"
      @update:model-value="(name) => patch('name', { name })"
      @keydown.enter="leaveField"
      @keydown.esc.stop="leaveField"
      @blur="done"
    />
    <v-btn v-if="offered" size="small" variant="tonal" class="offer" data-testid="offered-name" @click="takeName"
      >Call it “{{ offered.name }}”</v-btn
    >
    <p class="quiet figures order">
      Stop {{ place + 1 }} of {{ visits.length }}
      <button type="button" :disabled="place === 0" @click="moveBy(-1)">Move up</button>
      <button type="button" :disabled="place === visits.length - 1" @click="moveBy(1)">Move down</button>
    </p>
    <ChoiceRow
      v-if="places.length > 1"
      label="Visit"
      :model-value="String(place)"
      :choices="places.map((visit, i) => ({ value: String(visit), title: ordinal(i + 1) }))"
      @change="(visit) => editor.select({ kind: 'stop', id: stop.id, visit: Number(visit) })"
    />
    <ChoiceRow
      label="Layover"
      :model-value="layover === null ? 'free' : 'set'"
      :choices="[
        { value: 'free', title: 'Automatic' },
        { value: 'set', title: 'Set' },
      ]"
      @change="(value) => setRest(value === 'set' ? rests : null)"
    />
    <p v-if="layover === null" class="quiet figures">Stays {{ rests.toFixed(2) }} s</p>
    <NumberSlider
      v-else
      label="Stays"
      :model-value="layover"
      :min="0"
      :max="30"
      :step="0.1"
      :precision="2"
      unit="s"
      @change="(value) => change('layover', (j) => setLayover(j, place, value, editor.traveller!.id))"
      @done="done"
    />

    <h3>Pin</h3>
    <PictureChoice
      v-slot="{ choice }"
      label="Pin"
      :model-value="stop.pin.shape"
      :choices="PINS"
      :columns="4"
      @change="(shape) => (patch('pin', { pin: { shape } }), done())"
    >
      <PinPicture v-if="choice.value !== 'none'" :shape="choice.value" :colour="stop.pin.colour" />
      <template v-else>None</template>
    </PictureChoice>
    <template v-if="stop.pin.shape !== 'none'">
      <ColourField
        label="Colour"
        :model-value="stop.pin.colour"
        @change="(colour) => patch('pin colour', { pin: { colour } })"
        @done="done"
      />
      <NumberSlider
        label="Size"
        :model-value="stop.pin.size"
        :min="16"
        :max="200"
        unit="px"
        @change="(size) => patch('pin size', { pin: { size } })"
        @done="done"
      />
    </template>

    <h3>Label</h3>
    <v-switch
      label="Show the name"
      :model-value="stop.label.shown"
      @update:model-value="(shown) => patch('shown', { label: { shown: shown === true } })"
    />
    <template v-if="stop.label.shown">
      <FieldRow v-slot="{ id }" label="Side">
        <SidePicker :aria-labelledby="id" :model-value="stop.label.side" @change="(side) => (patch('side', { label: { side } }), done())" />
      </FieldRow>
      <NumberSlider
        label="Size"
        :model-value="stop.label.size"
        :min="16"
        :max="140"
        unit="px"
        @change="(size) => patch('label size', { label: { size } })"
        @done="done"
      />
      <ColourField
        label="Letters"
        :model-value="stop.label.colour"
        @change="(colour) => patch('letters', { label: { colour } })"
        @done="done"
      />
      <ColourField label="Halo" :model-value="stop.label.halo" @change="(halo) => patch('halo', { label: { halo } })" @done="done" />
    </template>

    <h3>Postcard</h3>
    <PostcardFields :stop="stop" />

    <h3>Place</h3>
    <FieldRow label="Ground" role="group">
      <div class="pair">
        <NumberField
          label="x"
          :model-value="stop.at.x"
          :precision="1"
          @change="(x) => patch('x', { at: { ...stop.at, x } })"
          @done="done"
        />
        <NumberField
          label="y"
          :model-value="stop.at.y"
          :precision="1"
          @change="(y) => patch('y', { at: { ...stop.at, y } })"
          @done="done"
        />
      </div>
    </FieldRow>

    <FieldRow v-if="onEarth" v-slot="{ id }" label="On Earth">
      <v-text-field
        :aria-labelledby="id"
        class="figures"
        data-testid="stop-coordinates"
        :model-value="formatCoordinates(onEarth)"
        :error-messages="coordinateProblem"
        @change="(event: Event) => moveTo((event.target as HTMLInputElement).value)"
      />
    </FieldRow>

    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="editor.edit((j) => dressStopsLike(j, stop.id))">Use this look for all stops</v-btn>
      <v-btn
        v-if="places.length > 1"
        size="small"
        variant="outlined"
        @click="editor.edit((j) => removeVisit(j, place, editor.traveller!.id)) && editor.select({ kind: 'journey' })"
        >Remove this visit</v-btn
      >
      <v-btn
        size="small"
        variant="outlined"
        color="error"
        :prepend-icon="mdiDeleteOutline"
        @click="editor.edit((j) => removeStop(j, stop.id, editor.traveller!.id)) && editor.select({ kind: 'journey' })"
      >
        {{ isShared ? 'Remove from this trip' : 'Delete stop' }}
      </v-btn>
    </div>
  </div>
</template>

<style scoped>
.name :deep(input) {
  font-family: var(--serif);
  font-size: 20px;
  font-weight: 700;
}
/* Room for the label above the first field. */
.several {
  margin-bottom: 10px;
  padding-left: 10px;
  border-left: 4px solid var(--vermilion);
}
.offer {
  margin-top: 6px;
}
.order {
  margin: 6px 0;
}
.order button {
  margin-left: 10px;
  min-height: 24px;
  text-decoration: underline;
  cursor: pointer;
  color: var(--sea);
}
.order button:disabled {
  color: var(--quiet);
  text-decoration: none;
  cursor: default;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
</style>
