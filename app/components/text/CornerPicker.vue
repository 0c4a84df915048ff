<script setup lang="ts">
import type { Corner } from '#core/journey/schema'
import { CORNER_GRID } from './caption-kinds'

/** Chooses where in the frame a caption stands. */
defineProps<{ modelValue: Corner }>()
const emit = defineEmits<{ change: [corner: Corner] }>()
</script>

<template>
  <div class="grid" role="radiogroup">
    <button
      v-for="corner in CORNER_GRID.flat()"
      :key="corner"
      type="button"
      role="radio"
      :aria-checked="corner === modelValue"
      :aria-label="corner.replace('-', ' ')"
      :title="corner.replace('-', ' ')"
      :class="{ chosen: corner === modelValue }"
      @click="emit('change', corner)"
    >
      <span />
    </button>
  </div>
</template>

<style scoped>
.grid {
  display: inline-grid;
  grid-template-columns: repeat(3, 34px);
  grid-auto-rows: 24px;
  gap: 1px;
  padding: 2px;
  border: 1px solid var(--rule);
  border-radius: 4px;
}
button {
  display: grid;
  place-items: center;
  border-radius: 3px;
  cursor: pointer;
}
span {
  width: 20px;
  height: 6px;
  border-radius: 2px;
  background: var(--rule);
}
button:hover span {
  background: var(--quiet);
}
.chosen span {
  background: var(--vermilion) !important;
}
</style>
