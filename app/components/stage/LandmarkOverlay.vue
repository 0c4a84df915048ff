<script setup lang="ts">
import { computed } from 'vue'
import { editLandmark } from '#core/edits/marks/landmarks'
import { radians } from '#core/geometry/angle'
import { clamp } from '#core/geometry/clamp'
import type { Point } from '#core/geometry/point'
import { add, distance, rotate } from '#core/geometry/point'
import type { Landmark } from '#core/journey/schema'
import { followPointer } from '~/composables/use-pointer-drag'
import { useEditor } from '~/stores/editor'
import type { StageSpace } from './stage-space'
import { draggedBy, perPixel, toStage } from './stage-space'

/** Handles of what is beside the way, to be dragged over the map. */
const props = defineProps<{ space: StageSpace }>()
const editor = useEditor()

const seen = computed(() =>
  editor.journey!.landmarks.flatMap((landmark) =>
    props.space.projection.clearance(landmark.at) >= 0 ? [{ landmark, at: toStage(props.space, landmark.at) }] : [],
  ),
)

function press(event: PointerEvent, { id, at }: Landmark) {
  event.stopPropagation()
  editor.select({ kind: 'landmark', id })
  const { space } = props
  followPointer(event, {
    move: (by) => editor.edit((journey) => editLandmark(journey, id, { at: draggedBy(space, at, by) }), `drag landmark ${id}`),
    end: () => editor.endGesture(),
  })
}

/** Where a picture is dragged larger or smaller: its upper right corner. */
const corner = computed(() => {
  const { selectedLandmark: landmark } = editor
  if (!landmark || landmark.kind === 'mark' || props.space.projection.clearance(landmark.at) < 0) return undefined
  const { picture, at, width } = landmark
  const height = (width * picture.height) / picture.width
  if (landmark.kind === 'lying') {
    const turned = rotate({ x: width / 2, y: -height / 2 }, radians(landmark.rotation))
    return { landmark, at: toStage(props.space, add(at, turned)) }
  }
  const foot = toStage(props.space, at)
  const k = 1 / perPixel(props.space, at)
  const { anchor } = landmark
  return { landmark, at: { x: foot.x + (1 - anchor.x) * width * k, y: foot.y - anchor.y * height * k } }
})
function pressCorner(event: PointerEvent, { id, width, at }: Exclude<Landmark, { kind: 'mark' }>, from: Point) {
  event.stopPropagation()
  const home = toStage(props.space, at)
  followPointer(event, {
    move(by) {
      const k = distance(add(from, by), home) / Math.max(1, distance(from, home))
      editor.edit((journey) => editLandmark(journey, id, { width: clamp(width * k, 0.01, 1e6) }), `resize landmark ${id}`)
    },
    end: () => editor.endGesture(),
  })
}
</script>

<template>
  <g
    v-for="{ landmark, at } in seen"
    :key="landmark.id"
    class="landmark"
    :class="{ selected: editor.selection.kind === 'landmark' && editor.selection.id === landmark.id }"
    :transform="`translate(${at.x} ${at.y})`"
    tabindex="0"
    role="button"
    :aria-label="`Landmark: ${landmark.name || 'unnamed'}`"
    :data-landmark="landmark.id"
    data-testid="landmark-handle"
    @pointerdown="press($event, landmark)"
    @focus="editor.select({ kind: 'landmark', id: landmark.id })"
  >
    <title>{{ landmark.name || 'Landmark' }}: drag it over the map</title>
    <circle class="grab" r="13" />
    <path class="under" d="M-6-6H6V6H-6Z" />
    <path class="square" d="M-6-6H6V6H-6Z" />
  </g>
  <g
    v-if="corner"
    class="landmark corner"
    :transform="`translate(${corner.at.x} ${corner.at.y})`"
    data-testid="landmark-corner"
    @pointerdown="pressCorner($event, corner.landmark, corner.at)"
  >
    <title>Drag to make the picture larger or smaller</title>
    <circle class="grab" r="13" />
    <path class="square" d="M-5-5H5V5H-5Z" />
  </g>
</template>

<style scoped>
.landmark {
  pointer-events: auto;
  cursor: move;
}
.landmark:focus {
  outline: none;
}
.grab {
  fill: transparent;
}
.landmark:focus-visible .grab {
  stroke: #ff8a70;
  stroke-width: 2;
}
.corner {
  cursor: nesw-resize;
}
.corner .square {
  fill: #fdf8ec;
  stroke: #14233a;
}
.under {
  fill: rgba(253, 248, 236, 0.25);
  stroke: #14233a;
  stroke-width: 4.4;
}
.square {
  fill: none;
  stroke: #fdf8ec;
  stroke-width: 2.2;
}
.selected .square {
  stroke: #ff8a70;
}
.landmark:hover .square {
  stroke-width: 3.2;
}
</style>
