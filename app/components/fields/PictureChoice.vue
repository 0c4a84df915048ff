<script setup lang="ts" generic="T extends string | null">
import { mdiChevronDown, mdiChevronUp } from '@mdi/js'
import { useSessionStorage } from '@vueuse/core'
import { computed } from 'vue'

/**
 * A choice between pictures in a grid; the slot draws the picture of a choice. More than two rows fold to one, in which the chosen one comes first; whether all are
 * shown is remembered while the window is.
 */
const props = defineProps<{ label: string; modelValue: T; choices: readonly { value: T; title: string }[]; columns: number }>()
const emit = defineEmits<{ change: [value: T] }>()

const MOST_ROWS = 2
const folds = computed(() => props.choices.length > MOST_ROWS * props.columns)
const isOpen = useSessionStorage(`zephyrine-all-${props.label}`, false)
const shown = computed(() => {
  if (!folds.value || isOpen.value) return props.choices
  const chosen = props.choices.filter(({ value }) => value === props.modelValue)
  const others = props.choices.filter(({ value }) => value !== props.modelValue)
  return [...chosen, ...others].slice(0, props.columns - 1)
})
</script>

<template>
  <div class="grid" :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }">
    <div class="choices" role="radiogroup" :aria-label="label">
      <button
        v-for="choice in shown"
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
    <button
      v-if="folds"
      type="button"
      class="all"
      :aria-expanded="isOpen"
      :aria-label="isOpen ? `${label}: show fewer` : `${label}: show all ${choices.length}`"
      :data-testid="`all-${label}`"
      @click="isOpen = !isOpen"
    >
      <v-icon :icon="isOpen ? mdiChevronUp : mdiChevronDown" size="18" />
      {{ isOpen ? 'Fewer' : `All ${choices.length}` }}
    </button>
  </div>
</template>

<style scoped>
.choices {
  display: contents;
}
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
.all {
  align-content: center;
  border-style: dashed;
  background: none;
}
.chosen {
  border-color: var(--vermilion);
  box-shadow: inset 0 0 0 1px var(--vermilion);
}
</style>
