<script setup lang="ts">
import { computed } from 'vue'
import { nearestOnChain } from '#core/geometry/nearest'
import type { Point } from '#core/geometry/point'
import { add, subtract } from '#core/geometry/point'
import type { HandleOf } from '#core/edits/lines/courses'
import {
  handleOf,
  insertNode,
  legCubics,
  moveNodes,
  nodeBefore,
  nodeCubics,
  pullHandle,
  pullSegment,
  sharpCorners,
} from '#core/edits/lines/courses'
import { legEnds } from '#core/journey/lookup'
import type { DrawnCourse, Leg } from '#core/journey/schema'
import { followPointer } from '~/composables/use-pointer-drag'
import { useSnapping } from '~/composables/use-snapping'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import type { StageSpace } from './stage-space'
import { chainOnStage, draggedBy, fromStage, placeOnStage, pointerOn, toStage } from './stage-space'

/** The nodes and handles of the selected leg's drawn course. Dragging the line bends it; a double click on it adds a node. */
const props = defineProps<{ space: StageSpace; leg: Leg; course: DrawnCourse }>()
const editor = useEditor()
const stage = useStage()
const { snap } = useSnapping(() => props.space)

const ends = computed(() => legEnds(editor.journey!, props.leg.id)!)
const cubics = computed(() => nodeCubics(editor.journey!, props.leg.id))
const sharp = computed(() => new Set(sharpCorners(cubics.value).map((segment) => nodeBefore(props.course, segment) + 1)))
const xy = (p: Point) => placeOnStage(props.space, p)
/** The line as it is seen, which smoothing may part from the nodes. */
const line = computed(() => chainOnStage(props.space, legCubics(editor.journey!, props.leg.id)))
/** Straight over each break. */
const breaks = computed(() => {
  const { nodes } = props.course
  return nodes.map((node, i) => (node.break ? `M${xy(node.at)}L${xy(nodes[i + 1]!.at)}` : '')).join('')
})

/** The handles that are shown: those of the chosen nodes, and of the stops while no node is chosen. */
const handles = computed(() => {
  const { nodes } = props.course
  const chosen = [...stage.nodes].filter((i) => i < nodes.length)
  const list: { handle: HandleOf; from: Point; to: Point }[] = []
  const show = (handle: HandleOf, from: Point) => {
    const offset = handleOf(props.course, handle)
    if (offset.x !== 0 || offset.y !== 0) list.push({ handle, from, to: add(from, offset) })
  }
  for (const node of chosen) for (const of of ['before', 'after'] as const) show({ of, node }, nodes[node]!.at)
  if (chosen.length === 0) {
    show({ of: 'leave' }, ends.value[0])
    show({ of: 'arrive' }, ends.value[1])
  }
  return list
})

const groundOf = (event: PointerEvent | MouseEvent): Point =>
  fromStage(props.space, pointerOn((event.currentTarget as SVGElement).ownerSVGElement!, event))
/** Drags something from a spot on the ground; `move` gets how far it has come there. */
function drag(event: PointerEvent, from: Point, move: (by: Point, now: PointerEvent) => void, click?: () => void) {
  event.stopPropagation()
  const { space } = props
  followPointer(event, {
    move: (by, now) => move(subtract(draggedBy(space, from, by), from), now),
    end(dragged) {
      editor.endGesture()
      if (!dragged) click?.()
    },
  })
}

/** Chooses a node; with Shift it is added to the chosen ones, or taken from them. */
function choose(node: number, more: boolean) {
  const chosen = new Set(more ? stage.nodes : [])
  if (more && stage.nodes.has(node)) chosen.delete(node)
  else chosen.add(node)
  stage.nodes = chosen
}

function pressNode(event: PointerEvent, node: number) {
  if (!stage.nodes.has(node)) choose(node, event.shiftKey)
  const { id } = props.leg
  const from = props.course.nodes[node]!.at
  let moved: Point = { x: 0, y: 0 }
  const { shiftKey } = event
  const wasChosen = stage.nodes.has(node)
  drag(
    event,
    from,
    (by, now) => {
      const to = snap(add(from, by), { ctrlKey: now.ctrlKey, shiftKey: false }, undefined, id).at
      const whole = subtract(to, from)
      const step = subtract(whole, moved)
      if (editor.edit((journey) => moveNodes(journey, id, stage.nodes, step), `nodes ${id}`)) moved = whole
    },
    () => !shiftKey && wasChosen && choose(node, false),
  )
}

function pressHandle(event: PointerEvent, { handle, from, to }: { handle: HandleOf; from: Point; to: Point }) {
  const { id } = props.leg
  drag(event, to, (by) => editor.edit((journey) => pullHandle(journey, id, handle, subtract(add(to, by), from)), `handle ${id}`))
}

function pressLine(event: PointerEvent) {
  const { id } = props.leg
  const from = groundOf(event)
  const spot = nearestOnChain(cubics.value, from)
  const before = editor.journey!
  drag(event, from, (by) =>
    editor.edit((journey) => ({ ...journey, travellers: pullSegment(before, id, spot, by).travellers }), `pull ${id}`),
  )
}

function addNode(event: MouseEvent) {
  const { id } = props.leg
  const spot = nearestOnChain(cubics.value, groundOf(event))
  if (editor.edit((journey) => insertNode(journey, id, spot))) stage.nodes = new Set([nodeBefore(props.course, spot.segment) + 1])
}
</script>

<template>
  <g class="course">
    <path class="break" :d="breaks" data-testid="course-breaks" />
    <path class="pull" :d="line" data-testid="course-line" @pointerdown="pressLine" @dblclick.stop="addNode" />
    <g v-for="entry in handles" :key="`${entry.handle.of} ${'node' in entry.handle ? entry.handle.node : ''}`">
      <line
        :x1="toStage(space, entry.from).x"
        :y1="toStage(space, entry.from).y"
        :x2="toStage(space, entry.to).x"
        :y2="toStage(space, entry.to).y"
      />
      <g class="grip" :transform="`translate(${xy(entry.to)})`" data-testid="node-handle" @pointerdown="pressHandle($event, entry)">
        <circle class="grab" r="12" />
        <circle class="knob" r="4" />
      </g>
    </g>
    <g
      v-for="(node, i) in course.nodes"
      :key="i"
      class="grip node"
      :class="{ chosen: stage.nodes.has(i) }"
      :transform="`translate(${xy(node.at)})`"
      data-testid="course-node"
      tabindex="0"
      role="button"
      :aria-label="`Node ${i + 1}, ${node.kind}`"
      @focus="stage.nodes.has(i) || choose(i, false)"
      @pointerdown="pressNode($event, i)"
    >
      <title>{{ sharp.has(i) ? 'Round this corner: it is too sharp for the vehicle' : node.kind }}</title>
      <circle class="grab" r="12" />
      <path v-if="sharp.has(i)" class="sharp" d="M0-13L11 7H-11Z" />
      <rect v-if="node.kind === 'corner'" x="-5" y="-5" width="10" height="10" />
      <circle v-else class="dot" r="5" />
    </g>
  </g>
</template>

<style scoped>
.pull {
  fill: none;
  stroke: transparent;
  stroke-width: 16;
  pointer-events: stroke;
  cursor: move;
}
.break {
  fill: none;
  stroke: #fdf8ec;
  stroke-width: 1.5;
  stroke-linecap: round;
  stroke-dasharray: 0 6;
}
.grip {
  pointer-events: auto;
  cursor: move;
}
.grab {
  fill: transparent;
}
line {
  stroke: #fdf8ec;
  stroke-width: 1.2;
}
.knob,
rect,
.dot {
  fill: #fdf8ec;
  stroke: #14233a;
  stroke-width: 1.5;
}
.chosen :is(rect, .dot) {
  fill: #ff8a70;
}
.sharp {
  fill: #e5b567;
  stroke: #14233a;
  stroke-width: 1.2;
}
</style>
