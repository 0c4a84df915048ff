<script setup lang="ts">
import { mdiRestore } from '@mdi/js'
import { computed } from 'vue'
import FieldRow from './FieldRow.vue'
import NumberField from './NumberField.vue'

/** How long something takes, in seconds: as long as is usual until it is set, and again once it is reset. Emits `change`, and `done` at the end of a gesture. */
const props = withDefaults(defineProps<{ label: string; modelValue: number | undefined; usual: number; min?: number; max?: number }>(), {
  min: 0.05,
  max: 10,
})
const emit = defineEmits<{ change: [seconds: number | undefined]; done: [] }>()
const isSet = computed(() => props.modelValue !== undefined)
/** The usual length, typed or not, is that. */
const take = (seconds: number) => emit('change', seconds === props.usual && !isSet.value ? undefined : seconds)
function reset() {
  emit('change', undefined)
  emit('done')
}
</script>

<template>
  <FieldRow v-slot="{ id }" :label="label">
    <div class="lasts">
      <NumberField
        :labelledby="id"
        :model-value="modelValue ?? usual"
        :min="min"
        :max="max"
        :step="0.05"
        :precision="3"
        unit="s"
        @change="take"
        @done="emit('done')"
      />
      <v-btn
        v-if="isSet"
        :icon="mdiRestore"
        size="x-small"
        variant="text"
        :aria-label="`${label}: back to ${usual} s`"
        :title="`Back to ${usual} s`"
        @click="reset"
      />
    </div>
  </FieldRow>
</template>

<style scoped>
.lasts {
  display: flex;
  align-items: center;
  gap: 4px;
}
.lasts > :first-child {
  flex: 1;
}
</style>
