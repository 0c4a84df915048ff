<script setup lang="ts">
import { HOUSE_COLOURS } from '#core/journey/values'
import FieldRow from './FieldRow.vue'

/** A colour: one of six of the house, or any other. Emits `change` during a choice and `done` at its end. */
const props = defineProps<{ label: string; modelValue: string }>()
const emit = defineEmits<{ change: [value: string]; done: [] }>()

function pick(value: string) {
  if (value !== props.modelValue) emit('change', value.toLowerCase())
}
</script>

<template>
  <FieldRow :label="label" role="group">
    <div class="swatches">
      <button
        v-for="colour in HOUSE_COLOURS"
        :key="colour"
        type="button"
        :class="{ chosen: colour === modelValue }"
        :style="{ background: colour }"
        :aria-label="`${label} ${colour}`"
        :aria-pressed="colour === modelValue"
        @click="(pick(colour), emit('done'))"
      />
      <input
        type="color"
        :value="modelValue"
        :aria-label="`${label}, any colour`"
        title="Any colour"
        @input="pick(($event.target as HTMLInputElement).value)"
        @change="emit('done')"
      />
    </div>
  </FieldRow>
</template>

<style scoped>
.swatches {
  display: flex;
  gap: 3px;
  align-items: center;
}
button {
  width: 24px;
  height: 24px;
  flex: none;
  border-radius: 50%;
  border: 1px solid var(--quiet);
  cursor: pointer;
}
.chosen {
  box-shadow:
    0 0 0 2px var(--surface),
    0 0 0 4px var(--vermilion);
}
input {
  flex: none;
  width: 28px;
  height: 26px;
  padding: 0;
  border: 1px solid var(--rule);
  border-radius: 4px;
  background: none;
  cursor: pointer;
}
</style>
