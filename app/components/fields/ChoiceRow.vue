<script setup lang="ts" generic="T extends string">
import FieldRow from './FieldRow.vue'

/** A choice between a few words, side by side. */
defineProps<{ label: string; modelValue: T; choices: readonly { value: T; title: string }[] }>()
const emit = defineEmits<{ change: [value: T] }>()
</script>

<template>
  <FieldRow :label="label" role="radiogroup">
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
  </FieldRow>
</template>

<style scoped>
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
