<script setup lang="ts">
import { mdiMapMarkerPlusOutline } from '@mdi/js'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useLegSpots } from '~/composables/use-leg-spots'

/** A spot of a leg by when its traveller is there, or by a click on the map. Emits the share of the leg's length. */
const props = defineProps<{ leg: string; modelValue: number }>()
const emit = defineEmits<{ change: [share: number]; done: [] }>()
const { shareAt, timeAt, pick, isPicking } = useLegSpots(() => props.leg)

function place(share: number) {
  emit('change', share)
  emit('done')
}
</script>

<template>
  <FieldRow v-slot="{ id }" label="At">
    <div class="spot">
      <NumberField
        :labelledby="id"
        :model-value="Math.round(1000 * timeAt(modelValue)) / 1000"
        :step="0.1"
        :precision="3"
        unit="s"
        data-testid="spot-time"
        @change="(time) => emit('change', shareAt(time))"
        @done="emit('done')"
      />
      <v-btn
        :icon="mdiMapMarkerPlusOutline"
        size="x-small"
        variant="text"
        :color="isPicking() ? 'primary' : undefined"
        :aria-pressed="isPicking()"
        aria-label="Click a spot on the map"
        title="Click a spot on the map"
        data-testid="spot-on-map"
        @click="pick(place)"
      />
    </div>
  </FieldRow>
</template>

<style scoped>
.spot {
  display: flex;
  align-items: center;
  gap: 4px;
}
.spot > :first-child {
  flex: 1;
}
</style>
