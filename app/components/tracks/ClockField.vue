<script setup lang="ts">
import { computed } from 'vue'
import FieldRow from '~/components/fields/FieldRow.vue'
import NumberField from '~/components/fields/NumberField.vue'

/** How far a camera's clock is off: seconds to be added to its times, set in minutes. */
const seconds = defineModel<number>({ required: true })

const MINUTE = 60
const HOUR = 60 * MINUTE
/** To a tenth of a minute; until another is set the seconds stay what they are. */
const minutes = computed(() => Math.round((10 * seconds.value) / MINUTE) / 10)
</script>

<template>
  <FieldRow v-slot="{ id }" label="Clock">
    <div class="clock">
      <NumberField
        :labelledby="id"
        :model-value="minutes"
        :min="-1440"
        :max="1440"
        :step="1"
        :precision="1"
        unit="min to add"
        data-testid="clock-minutes"
        @change="(value) => (seconds = value * MINUTE)"
      />
      <v-btn size="small" variant="outlined" @click="seconds -= HOUR">1 h earlier</v-btn>
      <v-btn size="small" variant="outlined" @click="seconds += HOUR">1 h later</v-btn>
    </div>
  </FieldRow>
</template>

<style scoped>
.clock {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
</style>
