import { greatest } from '../geometry/extremes'
import type { Projection } from '../camera/projection-type'
import { groundSeen } from '../camera/projection'
import { projectionAt } from '../camera/view-track'
import { remembered } from '../remembered'
import type { Box } from '../geometry/box'
import { movedBox, unionOf } from '../geometry/box'
import type { Course } from '../geometry/course'
import { pointAt } from '../geometry/course'
import { inksOf } from '../journey/lookup'
import type { Side } from '../journey/schema'
import { captionsAt, sizeOf } from './captions'
import type { Home } from '../marks/card-layout'
import { cardBox } from '../marks/card-layout'
import type { CompiledJourney, CompiledMark, Ride } from '../trips/compiled'
import type { FoundPlace } from '../marks/label-layout'
import { besideAt, labelBox, LED_FROM, playBeside } from '../marks/label-layout'
import type { LabelScene, SceneLine, SceneSample } from './label-solver'
import { placeLabels } from './label-solver'
import { pinBox } from '../marks/pins'
import { coverOf } from '../marks/vehicle-cover'

/**
 * How little each side is liked where several are free: right and above first, as cartographers prefer (after Imhof, Positioning names on maps, 1975, and
 * Yoeli, The logic of automated map lettering, 1972; the order from memory).
 */
const SIDE_COST: Readonly<Record<Side, number>> = {
  right: 0,
  'top-right': 0.1,
  top: 0.25,
  'bottom-right': 0.3,
  bottom: 0.4,
  left: 0.45,
  'top-left': 0.5,
  'bottom-left': 0.6,
}

/** How much further away a label may lie where there is no room beside its pin and a line may lead to it, in letter sizes, and how little that is liked. */
const FURTHER = [0, 0.6, 1.6] as const
const FURTHER_COST = 0.25

/** What is tried for every automatic label, in this order; the first is what a new label would have without any search. */
export const PLACES: readonly (FoundPlace & { cost: number })[] = FURTHER.flatMap((further) =>
  (Object.keys(SIDE_COST) as Side[]).map((side) => ({ side, further, cost: SIDE_COST[side] + FURTHER_COST * further })),
)

/** The usual place of a label, where nothing speaks against it. */
export const USUAL_PLACE: FoundPlace = PLACES[0]!

/** Where the automatic labels of a journey lie, by their stops. */
export type LabelPlaces = ReadonlyMap<string, FoundPlace>

/** No places: all automatic labels are at their usual ones. */
export const NO_PLACES: LabelPlaces = new Map()

/** A move of the camera is looked at so often, in seconds, and in no more steps. */
const STEP = 0.5
const MOST_STEPS = 12

/** The film is looked at no more often than this, and less often where many labels are seen at once: at so many in all of it. */
const MOST_SAMPLES = 240
const MOST_LOOKS = 1500

/** A line in the frame is looked at every so many reference pixels; a point that is closer to the line between those about it is left out, up to so many in a row. */
const GRAIN = 12
const MOST_POINTS = 160
const STRAIGHT = 0.5
const MOST_SKIPPED = 12

/** What is further from the frame than this, in reference pixels, is in nobody's way: no vehicle reaches so far. */
const BESIDE = 400

/** Finds the places of the automatic labels. The same journey gives the same places, whatever they were before. */
export function findLabelPlaces(compiled: CompiledJourney): LabelPlaces {
  const isAny = compiled.marks.some(({ stop, label }) => label !== undefined && stop.label.place.kind === 'automatic')
  const scene = isAny ? labelScene(compiled) : undefined
  return scene ? placesOf(scene, placeLabels(scene)) : new Map()
}

/** The places that a solution of a scene stands for. */
export const placesOf = ({ labels }: Pick<LabelScene, 'labels'>, chosen: readonly number[]): LabelPlaces =>
  new Map(labels.flatMap(({ stop, candidates }, i) => (candidates.length > 1 ? [[stop, PLACES[chosen[i]!]!] as const] : [])))

/** What a journey's labels, and what is in their way, look like over the film; undefined where there is no label. */
export function labelScene(compiled: CompiledJourney): LabelScene | undefined {
  const marks = compiled.marks.filter(({ label }) => label !== undefined)
  if (marks.length === 0) return undefined
  const seen = ({ at, to }: ViewSpan) => {
    const projection = projectionAt(compiled, at)
    return marks.filter((mark) => mark.label!.from < to && homeIn(mark, projection)).length
  }
  return {
    frame: compiled.reference,
    labels: marks.map((mark) => ({
      stop: mark.stop.id,
      appears: Math.max(0, mark.label!.from),
      leads: mark.stop.label.leader ? { pin: pinBox(mark.stop.pin), size: mark.stop.label.style.size } : null,
      candidates: candidatesOf(mark),
    })),
    samples: thinned(spansOfViews(compiled), seen).map((span) => sampleOf(compiled, marks, span)),
  }
}

/** The air round a label, in letter sizes. */
const AIR = 0.1

/** The places that a label may take: one, where it is set by hand. */
function candidatesOf({ stop, label }: CompiledMark): LabelScene['labels'][number]['candidates'] {
  const { style, place, leader } = stop.label
  const spaced = (at: Parameters<typeof labelBox>[0]): Box => {
    const { left, right, top, bottom } = labelBox(at, style)
    const air = AIR * style.size
    return { left: left - air, right: right + air, top: top - air, bottom: bottom + air }
  }
  if (place.kind !== 'automatic') return [{ box: spaced(label!), play: label!.play, cost: 0 }]
  const { block } = label!
  return PLACES.filter(({ further }) => leader || further < LED_FROM).map(({ side, further, cost }) => {
    const laid = { block, ...besideAt(stop.pin, side, style, block, further) }
    return { box: spaced(laid), play: playBeside(side, labelBox(laid, style), stop.pin), cost }
  })
}

interface ViewSpan {
  from: number
  to: number
  /** At which time the view is looked at. */
  at: number
}

/** The film cut where the camera begins and ceases to move; where it moves it is cut finer. */
function spansOfViews({ views: { shots }, lastTime }: CompiledJourney): ViewSpan[] {
  const spans: ViewSpan[] = []
  const add = (from: number, to: number, isMoving: boolean) => {
    if (to <= from) return
    const count = isMoving ? Math.min(MOST_STEPS, Math.ceil((to - from) / STEP)) : 1
    for (let k = 0; k < count; k++) {
      const [a, b] = [from + ((to - from) * k) / count, from + ((to - from) * (k + 1)) / count]
      spans.push({ from: a, to: b, at: isMoving ? (a + b) / 2 : a })
    }
  }
  let now = 0
  shots.forEach(({ start, end, look }, i) => {
    add(now, Math.min(start, lastTime), false)
    const until = Math.min(look.isStill ? end : Infinity, shots[i + 1]?.start ?? Infinity, lastTime)
    add(Math.max(0, start), until, true)
    now = Math.max(0, until)
  })
  add(now, lastTime + 1e-6, false)
  return spans
}

/** Of too many spans several become one, which is looked at as the one in their middle. @param seen how many labels are seen in a span */
function thinned(spans: readonly ViewSpan[], seen: (span: ViewSpan) => number): ViewSpan[] {
  const looks = spans.reduce((sum, span) => sum + seen(span), 0)
  const most = Math.min(MOST_SAMPLES, Math.ceil((spans.length * MOST_LOOKS) / Math.max(looks, MOST_LOOKS)))
  if (spans.length <= most) return [...spans]
  return Array.from({ length: most }, (_, k) => {
    const [first, end] = [Math.floor((k * spans.length) / most), Math.floor(((k + 1) * spans.length) / most)]
    return { from: spans[first]!.from, to: spans[end - 1]!.to, at: spans[(first + end) >> 1]!.at }
  })
}

/** Where a mark is in a view, and how large what stands there looks; null outside the frame. */
function homeIn({ stop: { at } }: CompiledMark, { clearance, toScreen, depthScale, reference }: Projection) {
  if (clearance(at) < 0) return null
  const { x, y } = toScreen(at)
  const isSeen = x >= 0 && y >= 0 && x <= reference.width && y <= reference.height
  return isSeen ? { x, y, scale: Math.sqrt(depthScale(at)) } : null
}

function sampleOf(compiled: CompiledJourney, marks: readonly CompiledMark[], { from, to, at }: ViewSpan): SceneSample {
  const { reference } = compiled
  const projection = projectionAt(compiled, at)
  const home = (mark: CompiledMark) => homeIn(mark, projection)
  const obstacles: SceneSample['obstacles'] = []
  const standing = ({ x, y, scale: k }: Home, box: Box, own: number | null, first: number, last: number) => {
    if (last <= from || first >= to) return
    const large = { left: k * box.left, right: k * box.right, top: k * box.top, bottom: k * box.bottom }
    obstacles.push({ box: movedBox(large, x, y), own, to: last })
  }
  for (const mark of compiled.marks) {
    const { stop, arrive, postcards } = mark
    const i = marks.indexOf(mark)
    const { shape, before } = stop.pin
    const place = home(mark)
    if (!place) continue
    if (shape !== 'none') standing(place, pinBox(stop.pin), i < 0 ? null : i, before === 'hidden' ? arrive : 0, mark.shown.to)
    for (const { postcard, clearOf, from: first, to: last } of postcards)
      standing(place, cardBox(postcard, { pin: stop.pin, clearOf }, place, reference), null, first, last)
  }
  for (const { caption, shown } of compiled.captions) {
    const [first, last] = [Math.max(from, shown.from), Math.min(to, shown.to, compiled.lastTime)]
    const item = first < last ? captionsAt(compiled, (first + last) / 2, projection, 0).find(({ id }) => id === caption.id) : undefined
    if (!item) continue
    const { width, height } = sizeOf(item.figure, item)
    obstacles.push({ box: movedBox({ left: 0, right: width, top: 0, bottom: height }, item.at.x, item.at.y), own: null, to: last })
  }
  const seen = groundSeen(projection, BESIDE)
  const lines = compiled.travellers
    .filter(({ traveller }) => traveller.shown)
    .flatMap(({ legs }) =>
      legs.flatMap(({ leg, course, depart, arrive, rides }): SceneLine[] => {
        // One that is not there yet, and is not on its way meanwhile, is in nobody's way either.
        if (depart >= to || (seen && !touches(boxOf(course), seen))) return []
        const ink = greatest(inksOf(leg).map(({ line, width }) => (line.kind === 'hidden' ? 0 : width / 2)))
        const vehicle = coverOfAll(rides)
        return inFrame(course, projection).map((line) => ({ ...line, depart, arrive, ink, vehicle }))
      }),
    )
  return { from, to, places: marks.map(home), obstacles, lines }
}

/** What the vehicles of a leg cover about their place on the line; null without any. */
function coverOfAll(rides: readonly Ride[]): Box | null {
  const covers = rides.flatMap(({ vehicle }) => (vehicle ? [coverOf(vehicle)] : []))
  return covers.length > 0 ? unionOf(covers) : null
}

const boxOf = remembered(({ points }: Course): Box => {
  const box = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  for (let k = 0; k < points.length; k += 2) {
    box.left = Math.min(box.left, points[k]!)
    box.right = Math.max(box.right, points[k]!)
    box.top = Math.min(box.top, points[k + 1]!)
    box.bottom = Math.max(box.bottom, points[k + 1]!)
  }
  return box
})

const touches = (a: Box, b: Box): boolean => a.left <= b.right && a.right >= b.left && a.top <= b.bottom && a.bottom >= b.top

/** The parts of a course that are in the frame or beside it, with as many points as tell apart there. */
function inFrame(course: Course, projection: Projection): Pick<SceneLine, 'points' | 'shares'>[] {
  const { length } = course
  if (length === 0) return []
  const { width, height } = projection.reference
  const count = Math.min(MOST_POINTS, Math.max(2, Math.ceil((length * projection.view.zoom) / GRAIN)))
  const parts: Pick<SceneLine, 'points' | 'shares'>[] = []
  /** The part that goes on; and the point before, where it is beside the frame, as a piece may lead into it. */
  let part: Pick<SceneLine, 'points' | 'shares'> | undefined
  let before: { x: number; y: number; share: number } | undefined
  for (let k = 0; k <= count; k++) {
    const at = pointAt(course, (length * k) / count)
    if (projection.clearance(at) < 0) {
      part = before = undefined
      continue
    }
    const { x, y } = projection.toScreen(at)
    const share = k / count
    if (x >= -BESIDE && y >= -BESIDE && x <= width + BESIDE && y <= height + BESIDE) {
      if (!part) parts.push((part = before ? { points: [before.x, before.y], shares: [before.share] } : { points: [], shares: [] }))
      part.points.push(x, y)
      part.shares.push(share)
    } else if (part) {
      part.points.push(x, y)
      part.shares.push(share)
      part = undefined
    }
    before = { x, y, share }
  }
  return parts.filter(({ shares }) => shares.length > 1).map(withoutStraight)
}

/** A part of a line without the points that lie on it. */
function withoutStraight({ points, shares }: Pick<SceneLine, 'points' | 'shares'>): Pick<SceneLine, 'points' | 'shares'> {
  const kept: Pick<SceneLine, 'points' | 'shares'> = { points: points.slice(0, 2), shares: shares.slice(0, 1) }
  const last = shares.length - 1
  for (let from = 0; from < last;) {
    let to = from + 1
    while (to < last && to - from < MOST_SKIPPED && isStraight(points, from, to + 1)) to++
    kept.points.push(points[2 * to]!, points[2 * to + 1]!)
    kept.shares.push(shares[to]!)
    from = to
  }
  return kept
}

/** Whether the points between two of a line are close to the straight line from one to the other. */
function isStraight(points: readonly number[], from: number, to: number): boolean {
  const [ax, ay] = [points[2 * from]!, points[2 * from + 1]!]
  const [dx, dy] = [points[2 * to]! - ax, points[2 * to + 1]! - ay]
  const length = Math.hypot(dx, dy)
  for (let k = from + 1; k < to; k++) {
    const [x, y] = [points[2 * k]! - ax, points[2 * k + 1]! - ay]
    if (Math.abs(x * dy - y * dx) > STRAIGHT * length || x * dx + y * dy < 0) return false
  }
  return true
}
