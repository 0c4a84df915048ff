import { clamp } from '../../geometry/clamp'
import simplify from 'simplify-js'
import { compiledCourse, courseGround, cubicsOf, curveCubics, isCurve } from '../../courses/compile-course'
import { radians } from '../../geometry/angle'
import type { Course } from '../../geometry/course'
import { partsOf } from '../../geometry/course'
import type { Cubic } from '../../geometry/cubic'
import { cubicPoint, isBreak, reversedCubic, splitCubic } from '../../geometry/cubic'
import { fitStroke } from '../../geometry/fit-stroke'
import type { OnChain } from '../../geometry/nearest'
import type { Point } from '../../geometry/point'
import { add, distance, scaleBy, subtract } from '../../geometry/point'
import { editLeg } from './legs'
import { JourneyError } from '../../error'
import { findLeg, legEnds } from '../../journey/lookup'
import type { CourseNode, CourseShape, DrawnCourse, Journey, NodeKind } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'

/** Changes to the course of a leg, node by node: pure functions, journey in, journey out, as in journey.ts. */

/** Handles whose directions differ by less than this, in radians, make a smooth node. */
const SMOOTH = 0.02

const NONE: Point = { x: 0, y: 0 }

/** A chain of cubics as a drawn course, broken where one does not start where the one before ends; its ends are the stops. */
export function drawnCourse(cubics: readonly Cubic[]): DrawnCourse {
  const nodes = cubics.slice(1).flatMap((next, i): CourseNode[] => {
    const [, , into, at] = cubics[i]!
    const before = subtract(into, at)
    const after = subtract(next[1], next[0])
    if (!isBreak(cubics, i + 1)) return [{ at, kind: kindOf(before, after), before, after }]
    return [
      { at, kind: 'corner', before, after: NONE, break: true },
      { at: next[0], kind: 'corner', before: NONE, after },
    ]
  })
  if (nodes.length > LIMITS.nodes)
    throw new JourneyError(`A course has at most ${LIMITS.nodes} nodes: draw it in several legs, or smooth it more.`)
  const [first, last] = [cubics[0]!, cubics.at(-1)!]
  return { kind: 'drawn', leave: subtract(first[1], first[0]), nodes, arrive: subtract(last[2], last[3]) }
}

function kindOf(before: Point, after: Point): NodeKind {
  const [a, b] = [Math.hypot(before.x, before.y), Math.hypot(after.x, after.y)]
  if (a === 0 || b === 0) return 'corner'
  const along = -(before.x * after.x + before.y * after.y) / (a * b)
  return along > Math.cos(SMOOTH) ? 'smooth' : 'corner'
}

const shapeOf = (journey: Journey, id: string): CourseShape | undefined => findLeg(journey, id)?.leg.course

/** The cubics of a leg's course, as it is seen. */
export function legCubics(journey: Journey, id: string): Cubic[] {
  const [ends, shape] = [legEnds(journey, id), shapeOf(journey, id)]
  return ends && shape ? cubicsOf(shape, ...ends, courseGround(journey)) : []
}

/** The cubics of a leg's course from node to node, before smoothing: the segments that nodes and handles bound. */
export function nodeCubics(journey: Journey, id: string): Cubic[] {
  const [ends, shape] = [legEnds(journey, id), shapeOf(journey, id)]
  return ends && shape && isCurve(shape) ? curveCubics(shape, ...ends) : legCubics(journey, id)
}

/** The compiled course of a leg. */
export function legCourse(journey: Journey, id: string): Course | undefined {
  const [ends, shape] = [legEnds(journey, id), shapeOf(journey, id)]
  return ends && shape && compiledCourse(shape, ...ends, courseGround(journey))
}

/** Tolerance in reference pixels for turning lines of many points into curves. */
const LINE_TOLERANCE = 0.75

/** Gives a leg a drawn course of exactly its present shape, or nearly that for a line of many points. */
export function makeDrawn(journey: Journey, id: string): Journey {
  const [shape, course] = [shapeOf(journey, id), legCourse(journey, id)]
  if (!shape || !course || shape.kind === 'drawn') return journey
  if (isCurve(shape)) return editLeg(journey, id, { course: drawnCourse(legCubics(journey, id)) })
  const tolerance = LINE_TOLERANCE / journey.camera.zoom
  const parts = partsOf(course).filter((part) => part.length > 1)
  return editLeg(journey, id, { course: drawnCourse(parts.flatMap((part) => fitStroke(simplify(part, tolerance / 4, true), tolerance))) })
}

/** Gives a leg a course through the nodes that were drawn, corners or smooth. */
export const setNodes = (journey: Journey, id: string, { leave, nodes, arrive }: Omit<DrawnCourse, 'kind'>): Journey =>
  editLeg(journey, id, { course: { kind: 'drawn', leave, nodes, arrive } })

/**
 * Gives a leg the course of a stroke drawn by hand from its first stop to its second: fitted with few nodes.
 * @param tolerance how far the course may lie off the stroke, in gu
 */
export function drawStroke(journey: Journey, id: string, stroke: readonly Point[], tolerance: number): Journey {
  const ends = legEnds(journey, id)
  if (!ends || stroke.length === 0) return journey
  return editLeg(journey, id, { course: drawnCourse(fitStroke([ends[0], ...stroke, ends[1]], tolerance)) })
}

/** Redraws the part of a leg's course between the spots where a stroke begins and ends; the rest stays as it is. */
export function redrawPart(journey: Journey, id: string, stroke: readonly Point[], from: OnChain, to: OnChain, tolerance: number): Journey {
  const cubics = legCubics(journey, id)
  if (cubics.length === 0 || stroke.length < 2) return journey
  const isForward = from.segment < to.segment || (from.segment === to.segment && from.u <= to.u)
  const [first, last] = isForward ? [from, to] : [to, from]
  const points = isForward ? stroke : [...stroke].reverse()
  const before = [...cubics.slice(0, first.segment), splitCubic(cubics[first.segment]!, first.u)[0]]
  const after = [splitCubic(cubics[last.segment]!, last.u)[1], ...cubics.slice(last.segment + 1)]
  const between = fitStroke([first.at, ...points, last.at], tolerance)
  const chain = [...before, ...between, ...after].filter(([a, , , d]) => distance(a, d) > 1e-9)
  return editLeg(journey, id, { course: drawnCourse(chain) })
}

/** Smooths the line of a drawn leg, to within about so many gu of its nodes; 0 leaves it as it was drawn. */
export const setSmoothing = (journey: Journey, id: string, within: number): Journey =>
  withNodes(journey, id, ({ kind, leave, nodes, arrive }) => ({ kind, leave, nodes, arrive, ...(within > 0 && { smoothing: within }) }))

/** The number of the node at which a segment of a drawn course begins; -1 for the first stop. Gaps are no segments. */
export function nodeBefore({ nodes }: DrawnCourse, segment: number): number {
  const starts = [-1, ...nodes.keys()].filter((i) => !nodes[i]?.break)
  return starts[segment]!
}

/** Puts a node on a leg's course, which keeps its shape exactly. */
export function insertNode(journey: Journey, id: string, { segment, u }: Pick<OnChain, 'segment' | 'u'>): Journey {
  const cubics = nodeCubics(journey, id)
  const cubic = cubics[segment]
  if (!cubic) return journey
  const course = drawnCourse([...cubics.slice(0, segment), ...splitCubic(cubic, u), ...cubics.slice(segment + 1)])
  return editLeg(journey, id, { course: keepKinds(course, shapeOf(journey, id)!) })
}

/** Existing nodes keep their kind, whatever their handles look like now, and the line its smoothing. */
export function keepKinds(course: DrawnCourse, old: CourseShape): DrawnCourse {
  if (old.kind !== 'drawn') return course
  const kinds = new Map(old.nodes.map((node) => [`${node.at.x} ${node.at.y}`, node.kind]))
  const { smoothing } = old
  const nodes = course.nodes.map((node) => ({ ...node, kind: kinds.get(`${node.at.x} ${node.at.y}`) ?? node.kind }))
  return { ...course, nodes, ...(smoothing !== undefined && { smoothing }) }
}

/** A node with or without a break after it. */
export const withBreak = ({ at, kind, before, after }: CourseNode, isBroken: boolean): CourseNode => ({
  at,
  kind,
  before,
  after,
  ...(isBroken ? { break: true } : {}),
})

/** Changes the nodes of a drawn leg; other legs are left alone. */
export function withNodes(journey: Journey, id: string, change: (course: DrawnCourse) => DrawnCourse): Journey {
  const course = shapeOf(journey, id)
  return course?.kind === 'drawn' ? editLeg(journey, id, { course: change(course) }) : journey
}

/** Removes nodes; the handles of their neighbours stay, so that the course bends much as it did. A break goes with either of its ends. */
export const removeNodes = (journey: Journey, id: string, gone: ReadonlySet<number>): Journey =>
  withNodes(journey, id, (course) => ({
    ...course,
    nodes: course.nodes.flatMap((node, i) => {
      if (gone.has(i)) return []
      return [node.break && gone.has(i + 1) ? withBreak(node, false) : node]
    }),
  }))

/** Moves nodes, their handles with them. */
export const moveNodes = (journey: Journey, id: string, moved: ReadonlySet<number>, by: Point): Journey =>
  withNodes(journey, id, (course) => ({
    ...course,
    nodes: course.nodes.map((node, i) => (moved.has(i) ? { ...node, at: add(node.at, by) } : node)),
  }))

/** Makes nodes corners, smooth or symmetric; handles are aligned as needed, and added where there are none. */
export function setNodeKind(journey: Journey, id: string, chosen: ReadonlySet<number>, kind: NodeKind): Journey {
  const ends = legEnds(journey, id)
  if (!ends) return journey
  return withNodes(journey, id, (course) => {
    const places = [ends[0], ...course.nodes.map((node) => node.at), ends[1]]
    return { ...course, nodes: course.nodes.map((node, i) => (chosen.has(i) ? ofKind(node, kind, places[i]!, places[i + 2]!) : node)) }
  })
}

/** What is shorter than this, in ground units, has no direction. */
const TINY = 1e-9

/** The length of a new handle: a third of the way to the neighbour. */
const THIRD = 1 / 3

function ofKind(node: CourseNode, kind: NodeKind, previous: Point, next: Point): CourseNode {
  if (kind === 'corner') return { ...node, kind }
  const length = (p: Point) => Math.hypot(p.x, p.y)
  // Along the handles if there are any, else along the line between the neighbours.
  const handles = subtract(node.after, node.before)
  const chord = subtract(next, previous)
  const along = length(handles) > TINY ? handles : length(chord) > TINY ? chord : { x: 1, y: 0 }
  const unit = scaleBy(along, 1 / length(along))
  const before = length(node.before) || THIRD * distance(node.at, previous)
  const after = length(node.after) || THIRD * distance(node.at, next)
  const [into, out] = kind === 'symmetric' ? [(before + after) / 2, (before + after) / 2] : [before, after]
  return { ...node, kind, before: scaleBy(unit, -into), after: scaleBy(unit, out) }
}

/** Identifies a handle: of the first stop, of the last, or of a node on its near or far side. */
export type HandleOf = { of: 'leave' } | { of: 'arrive' } | { of: 'before' | 'after'; node: number }

/** Pulls a handle to an offset from its node; the other one follows by the node's kind. */
export function pullHandle(journey: Journey, id: string, handle: HandleOf, to: Point): Journey {
  return withNodes(journey, id, (course) => {
    if (handle.of === 'leave' || handle.of === 'arrive') return { ...course, [handle.of]: to }
    return { ...course, nodes: course.nodes.map((node, i) => (i === handle.node ? pulled(node, handle.of, to) : node)) }
  })
}

function pulled(node: CourseNode, side: 'before' | 'after', to: Point): CourseNode {
  const other = side === 'before' ? 'after' : 'before'
  const length = Math.hypot(to.x, to.y)
  if (node.kind === 'corner' || length < TINY) return { ...node, [side]: to }
  const opposite = node.kind === 'symmetric' ? length : Math.hypot(node[other].x, node[other].y)
  return { ...node, [side]: to, [other]: scaleBy(to, -opposite / length) }
}

/** Nearer to an end of its curve nothing is pulled, as a share of it: the handles would have to go ever further to move a point there. */
const LEAST_PULL = 0.02

/**
 * Pulls a spot of a leg's course to a position, bending only the segment that it lies on; handles move so that smooth ends stay smooth.
 * Source of the shares: the cubic's own weights at that parameter (Bernstein form), the smaller move of both handles that does it.
 */
export function pullSegment(journey: Journey, id: string, { segment, u }: Pick<OnChain, 'segment' | 'u'>, by: Point): Journey {
  const drawn = makeDrawn(journey, id)
  const at = clamp(u, LEAST_PULL, 1 - LEAST_PULL)
  const k1 = 3 * (1 - at) * (1 - at) * at
  const k2 = 3 * (1 - at) * at * at
  const share = k1 * k1 + k2 * k2
  const course = shapeOf(drawn, id)
  if (course?.kind !== 'drawn') return journey
  const [first, second] = [scaleBy(by, k1 / share), scaleBy(by, k2 / share)]
  const node = nodeBefore(course, segment)
  const start: HandleOf = node === -1 ? { of: 'leave' } : { of: 'after', node }
  const end: HandleOf = node + 1 === course.nodes.length ? { of: 'arrive' } : { of: 'before', node: node + 1 }
  return pullHandle(pullHandle(drawn, id, start, add(handleOf(course, start), first)), id, end, add(handleOf(course, end), second))
}

export function handleOf(course: DrawnCourse, handle: HandleOf): Point {
  return handle.of === 'leave' || handle.of === 'arrive' ? course[handle.of] : course.nodes[handle.node]![handle.of]
}

/** The turn between a cubic of a chain and the next, in radians: 0 straight on, π back. */
function turnAfter(cubics: readonly Cubic[], i: number): number {
  const [before, after] = [cubics[i], cubics[i + 1]]
  if (!before || !after || isBreak(cubics, i + 1)) return 0
  const into = directionAtEnd(before)
  const out = scaleBy(directionAtEnd(reversedCubic(after)), -1)
  const cos = (into.x * out.x + into.y * out.y) / (Math.hypot(into.x, into.y) * Math.hypot(out.x, out.y) || 1)
  return Math.acos(clamp(cos, -1, 1))
}

/** The direction in which a cubic ends, from the last control point apart from its end. */
function directionAtEnd([a, b, c, d]: Cubic): Point {
  const from = [c, b, a].find((p) => distance(p, d) > 1e-9) ?? a
  return subtract(d, from)
}

/** A corner sharper than this spins a vehicle, in radians. */
const SHARP = radians(50)

/** Indexes of the cubics of a chain after which it turns so sharply that a vehicle would spin. */
export const sharpCorners = (cubics: readonly Cubic[]): number[] =>
  cubics.slice(1).flatMap((_, i) => (turnAfter(cubics, i) > SHARP ? [i] : []))

/**
 * Rounds the sharp corners of a leg with a radius in gu; corners too close to each other share the room between them.
 * A corner between straight lines becomes an arc (a fillet); one between curves becomes a bend tangent to both.
 */
export function roundCorners(journey: Journey, id: string, radius: number): Journey {
  const cubics = legCubics(journey, id)
  const sharp = new Set(sharpCorners(cubics))
  if (sharp.size === 0 || radius <= 0) return journey
  const rounded: Cubic[] = []
  let rest: Cubic = cubics[0]!
  cubics.slice(1).forEach((next, i) => {
    if (!sharp.has(i)) {
      rounded.push(rest)
      rest = next
      return
    }
    const turn = turnAfter(cubics, i)
    const cut = Math.min(radius * Math.tan(turn / 2), 0.45 * distance(rest[0], rest[3]), 0.45 * distance(next[0], next[3]))
    const [before] = splitCubic(rest, 1 - parameterAt(reversedCubic(rest), cut))
    const [, after] = splitCubic(next, parameterAt(next, cut))
    const corner = next[0]
    // Handle of an arc's cubic: (4/3) tan(angle/4) of the radius, which here is the cut over tan(angle/2).
    const reach = ((4 / 3) * Math.tan(turn / 4)) / Math.tan(turn / 2)
    rounded.push(before, [
      before[3],
      add(before[3], scaleBy(subtract(corner, before[3]), reach)),
      add(after[0], scaleBy(subtract(corner, after[0]), reach)),
      after[0],
    ])
    rest = after
  })
  rounded.push(rest)
  return editLeg(journey, id, { course: drawnCourse(rounded) })
}

/** The parameter at which a cubic is at a distance from its start, by bisection; up to half the chord the distance only grows. */
export function parameterAt(cubic: Cubic, reach: number): number {
  let [low, high] = [0, 1]
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2
    if (distance(cubicPoint(cubic, middle), cubic[0]) < reach) low = middle
    else high = middle
  }
  return low
}
