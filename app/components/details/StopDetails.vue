<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { computed, ref } from 'vue'
import { formatCoordinates, readCoordinates } from '#core/formats/coordinates'
import type { StopPatch } from '#core/journey/edits'
import { dressStopsLike, editStop, moveVisit, setLayover } from '#core/journey/edits'
import { removeStop } from '#core/journey/trip-edits'
import type { Pin, Stop } from '#core/journey/schema'
import ColourField from '~/components/fields/ColourField.vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberSlider from '~/components/fields/NumberSlider.vue'
import PictureChoice from '~/components/fields/PictureChoice.vue'
import PinPicture from '~/components/fields/PinPicture.vue'
import { useFieldEdits } from '~/composables/use-field-edits'
import { useEditor } from '~/stores/editor'
import PostcardFields from './PostcardFields.vue'
import SidePicker from './SidePicker.vue'

const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const { change, done } = useFieldEdits(() => `stop ${props.stop.id}`)
const patch = (field: string, values: StopPatch) => change(field, (journey) => editStop(journey, props.stop.id, values))

const visits = computed(() => editor.traveller!.visits)
const place = computed(() => visits.value.findIndex((visit) => visit.stop === props.stop.id))
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
    <v-text-field
      label="Name"
      class="name serif"
      data-testid="stop-name"
      :model-value="stop.name"
      maxlength="120"
      @update:model-value="(name) => patch('name', { name })"
      @blur="done"
    />
    <p class="quiet figures order">
      Stop {{ place + 1 }} of {{ visits.length }}
      <button type="button" :disabled="place === 0" @click="editor.edit((j) => moveVisit(j, place, place - 1, editor.traveller!.id))">
        earlier
      </button>
      <button
        type="button"
        :disabled="place === visits.length - 1"
        @click="editor.edit((j) => moveVisit(j, place, place + 1, editor.traveller!.id))"
      >
        later
      </button>
    </p>
    <NumberSlider
      label="Layover"
      :model-value="visits[place]!.layover"
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
        size="small"
        variant="outlined"
        color="error"
        :prepend-icon="mdiDeleteOutline"
        @click="editor.edit((j) => removeStop(j, stop.id, editor.traveller!.id)) && editor.select({ kind: 'journey' })"
      >
        {{ isShared ? 'Leave out of this trip' : 'Delete stop' }}
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
