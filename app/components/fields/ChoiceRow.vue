<script setup lang="ts" generic="T extends string">
import { useId } from 'vue'

/** One of a few words, side by side. */
defineProps<{ label: string; modelValue: T; choices: readonly { value: T; title: string }[] }>()
const emit = defineEmits<{ change: [value: T] }>()
const id = useId()
</script>

<template>
  <div class="field" role="radiogroup" :aria-labelledby="id">
    <span :id="id" class="label">{{ label }}</span>
    <div class="choices">
      <button
        v-for="choice in choices"
        :key="choice.value"
        type="button"
        role="radio"
        :aria-checked="choice.value === modelValue"
        :class="{ chosen: choice.value === modelValue }"
        @click="emit('change', choice.value)"
      >
        {{ choice.title }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 84px 1fr;
  align-items: center;
  gap: 8px;
  min-height: 40px;
}
.label {
  font-size: 14px;
}
.choices {
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 4px;
  overflow: hidden;
}
button {
  flex: 1;
  min-height: 30px;
  padding: 0 4px;
  font-size: 13px;
  cursor: pointer;
}
button + button {
  border-left: 1px solid var(--rule);
}
.chosen {
  background: var(--sea);
  color: rgb(var(--v-theme-on-primary));
}
</style>
