<script setup lang="ts">
import { useId } from 'vue'

/** A colour: six of the house, or any other. */
const props = defineProps<{ label: string; modelValue: string }>()
const emit = defineEmits<{ change: [value: string]; done: [] }>()
const id = useId()

const HOUSE = ['#d8412f', '#17646b', '#27406b', '#c9962b', '#14233a', '#fbf6ea']

function pick(value: string) {
  if (value !== props.modelValue) emit('change', value.toLowerCase())
}
</script>

<template>
  <div class="field" role="group" :aria-labelledby="id">
    <span :id="id" class="label">{{ label }}</span>
    <div class="row">
      <button
        v-for="colour in HOUSE"
        :key="colour"
        type="button"
        class="swatch"
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
  </div>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 84px 1fr;
  align-items: center;
  gap: 8px;
  min-height: 36px;
}
.label {
  font-size: 14px;
}
.row {
  display: flex;
  gap: 3px;
  align-items: center;
}
.swatch {
  width: 24px;
  height: 24px;
  flex: none;
  border-radius: 50%;
  border: 1px solid var(--quiet);
  cursor: pointer;
}
.swatch.chosen {
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
