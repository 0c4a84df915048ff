<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import { followPointer } from '~/composables/use-pointer-drag'

/** The edge of a panel, to its left or above it: dragging resizes the panel, a double click or Enter folds and unfolds it. */
const props = defineProps<{ axis: 'x' | 'y'; label: string; min: number; max: number; usual: number }>()
const size = defineModel<number>({ required: true })

const clamped = (value: number) => (value < props.min / 2 ? 0 : clamp(value, props.min, props.max))
const fold = () => (size.value = size.value === 0 ? props.usual : 0)

function press(event: PointerEvent) {
  const from = size.value
  followPointer(event, { move: (by) => (size.value = clamped(from - (props.axis === 'x' ? by.x : by.y))) })
}

function key(event: KeyboardEvent) {
  const [larger, smaller] = props.axis === 'x' ? ['ArrowLeft', 'ArrowRight'] : ['ArrowUp', 'ArrowDown']
  if (event.key === 'Enter') fold()
  else if (event.key === larger) size.value = clamped(Math.max(props.min, size.value + 16))
  else if (event.key === smaller) size.value = clamped(size.value - 16)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div
    class="divider"
    :class="[axis, { folded: size === 0 }]"
    role="separator"
    tabindex="0"
    :aria-orientation="axis === 'x' ? 'vertical' : 'horizontal'"
    :aria-label="label"
    :aria-valuenow="size"
    :aria-valuemin="0"
    :aria-valuemax="max"
    :title="min < max ? 'Drag to resize, double-click to collapse' : 'Double-click to collapse'"
    @pointerdown.prevent="press"
    @dblclick="fold"
    @keydown="key"
  />
</template>

<style scoped>
.divider {
  position: relative;
  z-index: 3;
}
.divider::after {
  content: '';
  position: absolute;
  background: transparent;
  transition: background 0.15s;
}
.x {
  width: 10px;
  height: 100%;
  margin-left: -5px;
  cursor: col-resize;
}
.x::after {
  inset: 0 3px;
}
.x.folded {
  margin-left: -10px;
}
.y {
  width: 100%;
  height: 10px;
  margin-top: -5px;
  cursor: row-resize;
}
.y::after {
  inset: 3px 0;
}
.y.folded {
  margin-top: -10px;
}
.divider:hover::after,
.divider:focus-visible::after {
  background: var(--vermilion);
}
.folded::after {
  background: var(--brass);
}
</style>
