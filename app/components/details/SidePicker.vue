<script setup lang="ts">
import type { Side } from '#core/journey/schema'

/** Chooses on which of the eight sides of its pin a label lies. */
defineProps<{ modelValue: Side }>()
const emit = defineEmits<{ change: [side: Side] }>()

const GRID: readonly (Side | null)[] = ['top-left', 'top', 'top-right', 'left', null, 'right', 'bottom-left', 'bottom', 'bottom-right']
</script>

<template>
  <div class="grid" role="radiogroup">
    <template v-for="side in GRID" :key="side ?? 'pin'">
      <button
        v-if="side"
        type="button"
        role="radio"
        :aria-checked="side === modelValue"
        :aria-label="side.replace('-', ' ')"
        :title="side.replace('-', ' ')"
        :class="{ chosen: side === modelValue }"
        @click="emit('change', side)"
      >
        <span />
      </button>
      <i v-else aria-hidden="true" />
    </template>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(3, 34px);
  grid-auto-rows: 26px;
  gap: 2px;
}
button {
  display: grid;
  place-items: center;
  border-radius: 3px;
  cursor: pointer;
}
button span {
  width: 22px;
  height: 7px;
  border-radius: 2px;
  background: var(--rule);
}
button:hover span {
  background: var(--quiet);
}
.chosen span {
  background: var(--vermilion) !important;
}
i {
  justify-self: center;
  align-self: center;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: var(--ink);
}
</style>
