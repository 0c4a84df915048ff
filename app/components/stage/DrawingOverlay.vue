<script setup lang="ts">
import { nanoid } from 'nanoid'
import { computed, ref, shallowRef, watch } from 'vue'
import { nearestOnChain } from '#core/geometry/nearest'
import type { Point } from '#core/geometry/point'
import { distance, scaleBy, subtract } from '#core/geometry/point'
import { drawStroke, legCubics, makeDrawn, redrawPart, setNodes } from '#core/edits/lines/courses'
import { goOnTo } from '#core/edits/trips/visits'
import { legEnds } from '#core/journey/lookup'
import type { CourseNode, Journey } from '#core/journey/schema'
import { useFirstLeg } from '~/composables/use-first-leg'
import { followPointer } from '~/composables/use-pointer-drag'
import { SNAP, useSnapping } from '~/composables/use-snapping'
import { useToolKeys } from '~/composables/use-tool-keys'
import { useEditor } from '~/stores/editor'
import { useStage } from '~/stores/stage'
import type { StageSpace } from './stage-space'
import { fromStage, placeOnStage, pointerOn, toStage } from './stage-space'

/**
 * Draws a course: node by node (a click for a corner, a press and drag for a smooth node with handles) or freehand. With a leg selected its course
 * is redrawn from stop to stop; otherwise the trip continues from its last stop to a new one where the drawing ends.
 */
const props = defineProps<{ space: StageSpace }>()
const editor = useEditor()
const firstLeg = useFirstLeg()
const stage = useStage()
const { snap, gu } = useSnapping(() => props.space)

/** How far the fitted course may lie off what was drawn by hand, in CSS pixels. */
const TOLERANCE = 2.5

const nodes = shallowRef<readonly CourseNode[]>([])
const cursor = shallowRef<Point>()
const stroke = shallowRef<readonly Point[]>([])
/** The start of a trip without stops. */
const begun = shallowRef<Point>()

const leg = computed(() => editor.selectedLeg)
const ends = computed(() => (leg.value ? legEnds(editor.journey!, leg.value.id) : undefined))
const lastStop = computed(() => editor.itinerary?.visits.at(-1)?.stop)
const start = computed<Point | undefined>(() => ends.value?.[0] ?? lastStop.value?.at ?? begun.value)
const previous = computed(() => nodes.value.at(-1)?.at ?? start.value)

const NONE = { x: 0, y: 0 }
const clear = () => {
  nodes.value = []
  stroke.value = []
  begun.value = undefined
}
watch([() => stage.tool, () => leg.value?.id], clear)

const placeOf = (event: PointerEvent): Point => pointerOn((event.currentTarget as Element | null) ?? board.value!, event)
const board = ref<SVGSVGElement>()
const groundAt = (event: PointerEvent) => fromStage(props.space, pointerOn(board.value!, event))

function hover(event: PointerEvent) {
  cursor.value = snap(fromStage(props.space, placeOf(event)), event, previous.value, leg.value?.id).at
}

function press(event: PointerEvent) {
  if (event.button !== 0) return
  event.stopPropagation()
  if (stage.tool === 'freehand') pressFreehand(event)
  else pressNode(event)
}

function pressNode(event: PointerEvent) {
  const { at, stop } = snap(groundAt(event), event, previous.value, leg.value?.id)
  if (!start.value) {
    begun.value = at
    return
  }
  const isEnd = ends.value ? distance(at, ends.value[1]) < gu(SNAP) : stop !== undefined && nodes.value.length > 0
  if (ends.value && isEnd) return finish()
  const node: CourseNode = { at, kind: 'corner', before: NONE, after: NONE }
  const placed = nodes.value.length
  nodes.value = [...nodes.value, node]
  followPointer(event, {
    move(_by, now) {
      const after = subtract(groundAt(now), at)
      nodes.value = nodes.value.map((other, i) =>
        i === placed ? { ...node, kind: 'symmetric', after, before: scaleBy(after, -1) } : other,
      )
    },
  })
}

/** Enter or a double click: a leg ends at its stop, a continued trip in a new one. */
function finish() {
  const drawn = nodes.value
  const selected = leg.value
  if (selected) {
    const done = editor.edit((journey) => setNodes(journey, selected.id, { leave: NONE, nodes: [...drawn], arrive: NONE }))
    clear()
    if (done) stage.setTool('select')
    return
  }
  const end = drawn.at(-1)
  if (!end || !start.value) return clear()
  goOn(end.at, (journey, legId) => setNodes(journey, legId, { leave: NONE, nodes: drawn.slice(0, -1), arrive: end.before }))
}

/** Adds a stop (and a first one, if there is none) and gives the leg between them its course, undone in one step. */
function goOn(to: Point, draw: (journey: Journey, legId: string) => Journey) {
  const ids = { stop: nanoid(10), leg: nanoid(10) }
  const first = begun.value
  const who = { traveller: editor.traveller!.id, dress: firstLeg.dressFor(editor.traveller!) }
  editor.edit((journey) => {
    const begunAt = first ? goOnTo(journey, first, { stop: nanoid(10), leg: nanoid(10) }, who) : journey
    return draw(goOnTo(begunAt, to, ids, { ...who, isLoop: true }), ids.leg)
  })
  clear()
}

function pressFreehand(event: PointerEvent) {
  const from = groundAt(event)
  const points = [from]
  stroke.value = points
  followPointer(event, {
    move(_by, now) {
      points.push(groundAt(now))
      stroke.value = [...points]
    },
    end(dragged) {
      stroke.value = []
      if (!dragged || points.length < 3) return
      if (leg.value) redraw(leg.value.id, points)
      else {
        if (!start.value) begun.value = from
        goOn(snap(points.at(-1)!, { ctrlKey: false, shiftKey: false }).at, (journey, legId) =>
          drawStroke(journey, legId, points, gu(TOLERANCE)),
        )
      }
    },
  })
}

/** A stroke that begins and ends on the course redraws the part between; any other stroke redraws all of it. */
function redraw(id: string, points: readonly Point[]) {
  editor.edit((before) => {
    const journey = makeDrawn(before, id)
    const cubics = legCubics(journey, id)
    const [from, to] = [nearestOnChain(cubics, points[0]!), nearestOnChain(cubics, points.at(-1)!)]
    const isPart = from.distance < gu(SNAP) && to.distance < gu(SNAP) && distance(from.at, to.at) > gu(SNAP)
    const isWhole = ends.value && distance(from.at, ends.value[0]) < gu(SNAP) && distance(to.at, ends.value[1]) < gu(SNAP)
    return isPart && !isWhole ? redrawPart(journey, id, points, from, to, gu(TOLERANCE)) : drawStroke(journey, id, points, gu(TOLERANCE))
  })
}

useToolKeys(({ key }) => {
  if (nodes.value.length === 0 && !begun.value) return undefined
  return { Enter: finish, Backspace: () => (nodes.value = nodes.value.slice(0, -1)), Escape: clear }[key]
})

/** A preview of the next click, as SVG path data on the stage. */
const rubber = computed(() => {
  if (stage.tool === 'freehand') return stroke.value.map((p, i) => `${i === 0 ? 'M' : 'L'}${xy(p)}`).join('')
  const from = start.value
  if (!from) return ''
  const knots = [{ at: from, before: NONE, after: NONE }, ...nodes.value]
  const tip = cursor.value ? [{ at: cursor.value, before: NONE, after: NONE }] : []
  const all = [...knots, ...tip]
  return `M${xy(from)}${all
    .slice(1)
    .map((to, i) => {
      const a = all[i]!
      return `C${xy({ x: a.at.x + a.after.x, y: a.at.y + a.after.y })} ${xy({ x: to.at.x + to.before.x, y: to.at.y + to.before.y })} ${xy(to.at)}`
    })
    .join('')}`
})
const xy = (p: Point) => placeOnStage(props.space, p)
const hint = computed(() => {
  if (stage.tool === 'freehand')
    return leg.value
      ? 'Draw the leg freehand; start and end on it to redraw only a part.'
      : 'Draw freehand; the trip continues to where you let go.'
  if (!start.value) return 'Click where the trip begins.'
  if (nodes.value.length === 0)
    return leg.value ? 'Click for corners, drag for curves, and end on the leg’s second stop.' : 'Click for corners, drag for curves.'
  return `${leg.value ? 'Click the second stop, or press Enter' : 'Double-click, or press Enter'} to finish. Backspace removes the last node, Esc all of them.`
})
</script>

<template>
  <svg
    ref="board"
    class="drawing"
    data-testid="drawing"
    @pointermove="hover"
    @pointerleave="cursor = undefined"
    @pointerdown="press"
    @dblclick.stop="finish"
  >
    <path class="under" :d="rubber" />
    <path class="line" :d="rubber" />
    <template v-for="(node, i) in nodes" :key="i">
      <line
        v-if="node.kind !== 'corner'"
        class="arm"
        :x1="toStage(space, { x: node.at.x + node.before.x, y: node.at.y + node.before.y }).x"
        :y1="toStage(space, { x: node.at.x + node.before.x, y: node.at.y + node.before.y }).y"
        :x2="toStage(space, { x: node.at.x + node.after.x, y: node.at.y + node.after.y }).x"
        :y2="toStage(space, { x: node.at.x + node.after.x, y: node.at.y + node.after.y }).y"
      />
      <rect
        class="mark"
        width="9"
        height="9"
        :x="toStage(space, node.at).x - 4.5"
        :y="toStage(space, node.at).y - 4.5"
        :rx="node.kind === 'corner' ? 0 : 4.5"
      />
    </template>
    <circle v-if="cursor && stage.tool === 'draw'" class="tip" r="4" :cx="toStage(space, cursor).x" :cy="toStage(space, cursor).y" />
  </svg>
  <p class="hint" role="status">{{ hint }}</p>
</template>

<style scoped>
.drawing {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
path {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.under {
  stroke: rgba(13, 21, 34, 0.55);
  stroke-width: 4;
}
.line {
  stroke: #ff8a70;
  stroke-width: 2;
}
.arm {
  stroke: #fdf8ec;
  stroke-width: 1.2;
}
.mark,
.tip {
  fill: #fdf8ec;
  stroke: #14233a;
  stroke-width: 1.5;
}
.hint {
  position: absolute;
  left: 50%;
  bottom: 10px;
  transform: translateX(-50%);
  padding: 2px 12px 3px;
  border-radius: 3px;
  background: rgba(13, 21, 34, 0.78);
  color: #fdf8ec;
  font-size: 13px;
  white-space: nowrap;
  pointer-events: none;
}
</style>
