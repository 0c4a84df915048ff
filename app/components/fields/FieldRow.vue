<script setup lang="ts">
import { useId } from 'vue'

/** A label and its field, on one line of the details. The slot gets the label's id. */
defineProps<{ label: string; role?: 'group' | 'radiogroup' }>()
const id = useId()
</script>

<template>
  <div class="row" :role="role" :aria-labelledby="role ? id : undefined">
    <span :id="id">{{ label }}</span>
    <div class="content"><slot :id="id" /></div>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
  min-height: 42px;
  font-size: 14px;
}
</style>
