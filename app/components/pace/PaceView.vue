<script setup lang="ts">
import { clamp } from '#core/geometry/clamp'
import { computed } from 'vue'
import type { ViewMove } from '#core/camera/view-track'
import { editView } from '#core/edits/views'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { useStrip } from './use-strip'

/** A view on the strip: a bar while the camera goes there, and a mark where it has arrived. Without a move it is the opening view. */
const props = defineProps<{ move?: ViewMove; number: number; selected: boolean }>()
const emit = defineEmits<{ select: [] }>()
const editor = useEditor()
const camera = useCamera()
const strip = useStrip()
const { x } = strip

const start = computed(() => props.move?.start ?? 0)
const end = computed(() => props.move?.end ?? 0)
const label = computed(() => (props.move ? `View ${props.number}` : 'Opening view'))

function moveTo(time: number, gesture: string) {
  const { move } = props
  if (!move) return
  const kept = clamp(time, 0, editor.compiled!.lastTime)
  editor.edit((journey) => editView(journey, move.id, { at: camera.momentOf(kept) }), gesture)
}

function press(event: PointerEvent) {
  emit('select')
  if (props.move) strip.drag(event, { from: start.value, move: (time) => moveTo(time, `drag view ${props.move?.id}`) })
}

function nudge(event: KeyboardEvent) {
  const by = strip.stepOf(event)
  if (by !== undefined) moveTo(start.value + by, `nudge view ${props.move?.id}`)
}
</script>

<template>
  <g
    class="view"
    :class="{ selected, fixed: !move }"
    role="button"
    tabindex="0"
    :aria-label="`${label}, at ${end.toFixed(2)} seconds`"
    :data-testid="move ? 'pace-view' : 'pace-opening-view'"
    @pointerdown.stop="press"
    @keydown.enter="emit('select')"
    @keydown="nudge"
  >
    <title>{{ move ? `${label}: drag to move it, click to change it` : 'The view with which the film begins' }}</title>
    <rect class="grab" :x="x(start) - 12" y="24" :width="x(end) - x(start) + 24" height="18" />
    <rect v-if="end > start" class="way" :x="x(start)" y="31" :width="x(end) - x(start)" height="4" rx="2" />
    <path class="mark" :d="`M${x(end) - 7} 27h14v8l-7 5l-7-5Z`" />
  </g>
</template>

<style scoped>
.view {
  cursor: ew-resize;
}
.view:focus {
  outline: none;
}
.fixed {
  cursor: pointer;
}
.grab {
  fill: transparent;
}
.way {
  fill: color-mix(in srgb, var(--sea) 45%, transparent);
}
.mark {
  fill: var(--sea);
  stroke: var(--surface);
  stroke-width: 1.5;
}
.selected .mark {
  fill: var(--vermilion);
}
.view:hover .mark,
.view:focus-visible .mark {
  stroke: var(--ink);
}
</style>
