<script setup lang="ts">
import { useEditor } from '~/stores/editor'
import { useStrip } from './use-strip'

/** A moment on the strip, such as the end of a leg, changed by dragging it or with the arrow keys, in whole frames. The slot draws the handle. */
const props = defineProps<{ label: string; title: string; seconds: number; end: number }>()
/** `end` is the new moment, in seconds of the film. */
const emit = defineEmits<{ change: [end: number, gesture: string] }>()
const editor = useEditor()
const strip = useStrip()

function press(event: PointerEvent) {
  const { seconds, end: from } = props
  strip.drag(event, {
    from,
    move: (time) => emit('change', time, `drag ${props.label}`),
    tells: (time) => `${(seconds + time - from).toFixed(2)} s · ends at ${time.toFixed(2)} s`,
  })
}
function nudge(event: KeyboardEvent) {
  const by = strip.stepOf(event)
  if (by !== undefined) emit('change', props.end + by, `nudge ${props.label}`)
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
