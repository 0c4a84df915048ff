<script setup lang="ts">
import { mdiRestore } from '@mdi/js'
import PercentSlider from './PercentSlider.vue'

/** How dark a thing's own shadow is: as dark as usual until it is set, and again once it is reset. Emits `change`, and `done` at the end of a gesture. */
defineProps<{ modelValue: number | undefined; usual: number }>()
const emit = defineEmits<{ change: [darkness: number | undefined]; done: [] }>()
function reset() {
  emit('change', undefined)
  emit('done')
}
</script>

<template>
  <div class="shadow">
    <PercentSlider label="Shadow" :model-value="modelValue ?? usual" @change="(share) => emit('change', share)" @done="emit('done')" />
    <v-btn
      v-if="modelValue !== undefined"
      :icon="mdiRestore"
      size="x-small"
      variant="text"
      aria-label="Shadow: back to the usual"
      title="Back to the usual"
      @click="reset"
    />
  </div>
</template>

<style scoped>
.shadow {
  display: flex;
  align-items: center;
  gap: 4px;
}
.shadow > :first-child {
  flex: 1;
}
</style>
