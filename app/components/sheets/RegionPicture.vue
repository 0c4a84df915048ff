<script setup lang="ts">
import { followPointer } from '~/composables/use-pointer-drag'

/** A picture of a region of the Earth, moved by dragging or with the arrow keys, and scaled with the wheel or plus and minus. */
defineProps<{ aspect: number; isBusy: boolean }>()
/** How far the region moves to the right and down, as shares of its size, and how many times larger it becomes. */
const emit = defineEmits<{ move: [right: number, down: number, larger: number] }>()

function press(event: PointerEvent) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  followPointer(event, {
    move: () => undefined,
    end(dragged, up) {
      if (dragged) emit('move', -(up.clientX - event.clientX) / box.width, -(up.clientY - event.clientY) / box.height, 1)
    },
  })
}
const turnWheel = (event: WheelEvent) => emit('move', 0, 0, Math.exp(event.deltaY * 0.0015))

/** What a press of a key does: a share of the picture, and a factor. */
const STEP = 0.15
const FACTOR = 1.4
const KEYS: Readonly<Record<string, [right: number, down: number, larger: number]>> = {
  ArrowLeft: [-STEP, 0, 1],
  ArrowRight: [STEP, 0, 1],
  ArrowUp: [0, -STEP, 1],
  ArrowDown: [0, STEP, 1],
  '+': [0, 0, 1 / FACTOR],
  '-': [0, 0, FACTOR],
}
function pressKey(event: KeyboardEvent) {
  const step = KEYS[event.key]
  if (!step) return
  event.preventDefault()
  emit('move', ...step)
}
</script>

<template>
  <div
    class="picture"
    tabindex="0"
    role="application"
    aria-label="The region: arrow keys move it, plus and minus zoom"
    title="Drag to move the region, turn the wheel to zoom"
    :style="{ aspectRatio: aspect }"
    :aria-busy="isBusy"
    @pointerdown="press"
    @wheel.prevent="turnWheel"
    @keydown="pressKey"
  >
    <slot />
  </div>
</template>

<style scoped>
.picture {
  position: relative;
  display: grid;
  place-items: center;
  max-width: 100%;
  margin: 0 auto;
  overflow: hidden;
  border: 1px solid var(--rule);
  background: var(--paper);
  cursor: grab;
  touch-action: none;
}
.picture :slotted(img) {
  width: 100%;
  height: 100%;
  object-fit: contain;
}
</style>
