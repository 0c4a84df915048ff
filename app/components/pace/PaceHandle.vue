<script setup lang="ts">
import { computed } from 'vue'
import { frameTime } from '#core/pace/rate'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** A duration on the strip, changed by dragging its end or with the arrow keys, in whole frames. The slot draws the handle. */
const props = defineProps<{ label: string; title: string; seconds: number; end: number; perSecond: number }>()
/** `end` is the new end of the dragged part, in seconds of the film. */
const emit = defineEmits<{ change: [end: number, gesture: string] }>()
const editor = useEditor()
const playback = usePlayback()

const frame = computed(() => frameTime(1, playback.rate))

const set = (end: number, gesture: string) => emit('change', Math.round(end / frame.value) * frame.value, gesture)

function press(event: PointerEvent) {
  const from = props.end
  followPointer(event, {
    move: (by) => set(from + by.x / props.perSecond, `drag ${props.label}`),
    end: () => editor.endGesture(),
  })
}

function nudge(event: KeyboardEvent) {
  const direction = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (direction === 0) return
  event.preventDefault()
  event.stopPropagation()
  set(props.end + direction * (event.shiftKey ? 10 : 1) * frame.value, `nudge ${props.label}`)
}
</script>

<template>
  <g
    class="handle"
    role="slider"
    tabindex="0"
    :aria-label="label"
    :aria-valuenow="seconds"
    :aria-valuemin="0"
    :aria-valuemax="editor.journey!.seconds"
    :aria-valuetext="`${seconds.toFixed(2)} seconds`"
    @pointerdown.stop="press"
    @keydown="nudge"
  >
    <title>{{ title }}</title>
    <slot />
  </g>
</template>

<style scoped>
.handle {
  cursor: ew-resize;
}
.handle :deep(.grab) {
  fill: transparent;
}
.handle :deep(path) {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
  opacity: 0.55;
}
.handle :deep(.edge) {
  stroke: #fff;
  stroke-width: 3;
  opacity: 0.9;
  stroke-linecap: round;
}
.handle:hover :deep(path),
.handle:focus-visible :deep(path) {
  opacity: 1;
  stroke: var(--vermilion);
}
</style>
