<script setup lang="ts">
import { mergeProps } from 'vue'

/** A small button of the bars: an icon, optionally with text, and a tooltip with its key. */
withDefaults(defineProps<{ icon: string; label: string; keys?: string; pressed?: boolean; disabled?: boolean }>(), {
  keys: '',
  pressed: undefined,
})
defineOptions({ inheritAttrs: false })
</script>

<template>
  <v-tooltip :text="keys ? `${label} (${keys})` : label">
    <template #activator="{ props: tip }">
      <button
        v-bind="mergeProps(tip, $attrs)"
        type="button"
        class="tool"
        :class="{ pressed }"
        :aria-label="label"
        :aria-pressed="pressed === undefined ? undefined : pressed"
        :disabled="disabled"
      >
        <v-icon :icon="icon" size="20" />
        <span v-if="$slots.default"><slot /></span>
      </button>
    </template>
  </v-tooltip>
</template>

<style scoped>
.tool {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-width: 34px;
  min-height: 32px;
  padding: 0 7px;
  justify-content: center;
  border-radius: 4px;
  font-size: 14px;
  font-weight: 600;
  white-space: nowrap;
  cursor: pointer;
}
.tool:hover:not(:disabled) {
  background: color-mix(in srgb, var(--sea) 14%, transparent);
}
.tool:disabled {
  opacity: 0.35;
  cursor: default;
}
.pressed {
  background: color-mix(in srgb, var(--vermilion) 18%, transparent);
  box-shadow: inset 0 -3px 0 var(--vermilion);
}
</style>
