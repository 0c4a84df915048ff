<script setup lang="ts" generic="T extends string">
/** Chooses one of the places round, or in, something: three rows of three. Where there is no choice in the middle, what it is about is shown there. */
defineProps<{ modelValue: T | null; places: readonly (T | null)[] }>()
const emit = defineEmits<{ change: [place: T] }>()
</script>

<template>
  <div class="grid" role="radiogroup">
    <template v-for="place in places" :key="place ?? 'middle'">
      <button
        v-if="place"
        type="button"
        role="radio"
        :aria-checked="place === modelValue"
        :aria-label="place.replace('-', ' ')"
        :title="place.replace('-', ' ')"
        :class="{ chosen: place === modelValue }"
        @click="emit('change', place)"
      >
        <span />
      </button>
      <i v-else aria-hidden="true" />
    </template>
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
  width: 21px;
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
i {
  place-self: center;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: var(--ink);
}
</style>
