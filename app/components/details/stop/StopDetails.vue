<script setup lang="ts">
import { mdiDeleteOutline } from '@mdi/js'
import { refThrottled } from '@vueuse/core'
import { computed, ref } from 'vue'
import { formatCoordinates, readCoordinates } from '#core/formats/coordinates'
import { dressStopsLike, editStop } from '#core/edits/marks/stops'
import { removeStop } from '#core/edits/trips/trips'
import type { Stop } from '#core/journey/schema'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { READABLE_PACE } from '~/components/fields/readable-pace'
import { useMarkEdits } from '~/composables/use-mark-edits'
import { useEditor } from '~/stores/editor'
import ValueSection from '../values/ValueSection.vue'
import LabelFields from '../marks/LabelFields.vue'
import PinSection from '../marks/PinSection.vue'
import PostcardFields from '../cards/PostcardFields.vue'
import TogetherFields from './TogetherFields.vue'
import StopName from './StopName.vue'
import VisitFields from './VisitFields.vue'

const props = defineProps<{ stop: Stop }>()
const editor = useEditor()
const { patch, done } = useMarkEdits(() => props.stop)

/** Whether another traveller comes here as well. */
const isShared = computed(
  () => editor.journey!.travellers.filter((other) => other.visits.some((visit) => visit.stop === props.stop.id)).length > 1,
)
/** The stop's place on the Earth, if the ground is georeferenced. */
const onEarth = computed(() => {
  const place = editor.geo?.toLonLat(props.stop.at)
  return place && formatCoordinates(place)
})
const coordinates = refThrottled(onEarth, READABLE_PACE)
const coordinateProblem = ref('')
function moveTo(text: string) {
  const place = readCoordinates(text)
  const at = place && editor.geo?.toGround(place)
  coordinateProblem.value = at ? '' : 'Write it like 47.5, 8.25 or 47°30′ N 8°15′ E.'
  if (at && place) editor.edit((j) => editStop(j, props.stop.id, { at, place }))
}
</script>

<template>
  <div>
    <p v-if="editor.selectedIds.length > 1" class="several" role="status" data-testid="several">
      {{ editor.selectedIds.length }} stops are selected: the looks of pin and label change for all of them.
    </p>
    <TogetherFields v-if="editor.selectedIds.length > 1" />
    <StopName :stop="stop" />
    <VisitFields :stop="stop" />

    <h3>Pin</h3>
    <PinSection :stop="stop" />

    <h3>Label</h3>
    <LabelFields :stop="stop" />

    <h3>Postcards</h3>
    <PostcardFields :stop="stop" />

    <ValueSection :stop="stop.id" />

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

    <FieldRow v-if="coordinates" v-slot="{ id }" label="On Earth">
      <v-text-field
        :aria-labelledby="id"
        class="figures"
        data-testid="stop-coordinates"
        :model-value="coordinates"
        :error-messages="coordinateProblem"
        @change="(event: Event) => moveTo((event.target as HTMLInputElement).value)"
      />
    </FieldRow>

    <div class="buttons">
      <v-btn size="small" variant="outlined" @click="editor.edit((j) => dressStopsLike(j, stop.id))">Use this style for all stops</v-btn>
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
/* Room for the label above the first field. */
.several {
  margin-bottom: 10px;
  padding-left: 10px;
  border-left: 4px solid var(--vermilion);
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
</style>
