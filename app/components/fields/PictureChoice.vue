<script setup lang="ts" generic="T extends string | null">
/** A choice between pictures in a grid; the slot draws the picture of a choice. */
defineProps<{ label: string; modelValue: T; choices: readonly { value: T; title: string }[]; columns: number }>()
const emit = defineEmits<{ change: [value: T] }>()
</script>

<template>
  <div class="grid" role="radiogroup" :aria-label="label" :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }">
    <button
      v-for="choice in choices"
      :key="choice.value ?? 'none'"
      type="button"
      role="radio"
      :aria-checked="choice.value === modelValue"
      :aria-label="choice.title"
      :title="choice.title"
      :class="{ chosen: choice.value === modelValue }"
      @click="emit('change', choice.value)"
    >
      <slot :choice="choice">{{ choice.title }}</slot>
    </button>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  gap: 5px;
  margin: 6px 0;
}
button {
  height: 54px;
  display: grid;
  place-items: center;
  border: 1px solid var(--rule);
  border-radius: 4px;
  font-size: 13px;
  cursor: pointer;
  background: color-mix(in srgb, var(--sea) 10%, transparent);
}
button :deep(svg) {
  max-width: 46px;
  height: 46px;
}
.chosen {
  border-color: var(--vermilion);
  box-shadow: inset 0 0 0 1px var(--vermilion);
}
</style>
