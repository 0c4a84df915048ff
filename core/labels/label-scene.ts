import type { Projection } from '../camera/projection-type'
import { projectionAt } from '../camera/view-track'
import type { Box } from '../geometry/box'
import { movedBox, unionOf } from '../geometry/box'
import type { Course } from '../geometry/course'
import { pointAt } from '../geometry/course'
import type { Side } from '../journey/schema'
import type { Vehicle } from '../dress/vehicle'
import { captionsAt, sizeOf } from './captions'
import type { Home } from '../marks/card-layout'
import { cardBox } from '../marks/card-layout'
import type { CompiledJourney, CompiledMark, Ride } from '../trips/compiled'
import type { FoundPlace } from '../marks/label-layout'
import { besideAt, labelBox, LED_FROM } from '../marks/label-layout'
import type { LabelScene, SceneLine, SceneSample } from './label-solver'
import { placeLabels } from './label-solver'
import { pinBox } from '../marks/pins'

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

/** A line in the frame keeps every so many reference pixels a point. */
const GRAIN = 12
const MOST_POINTS = 160

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
  return {
    frame: compiled.reference,
    labels: marks.map((mark) => ({ stop: mark.stop.id, appears: Math.max(0, mark.label!.from), candidates: candidatesOf(mark) })),
    samples: spansOfViews(compiled).map((span) => sampleOf(compiled, marks, span)),
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
  if (place.kind !== 'automatic') return [{ box: spaced(label!), cost: 0 }]
  const { block } = label!
  return PLACES.filter(({ further }) => leader || further < LED_FROM).map(({ side, further, cost }) => ({
    box: spaced({ block, ...besideAt(stop.pin, side, style, block, further) }),
    cost,
  }))
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

function sampleOf(compiled: CompiledJourney, marks: readonly CompiledMark[], { from, to, at }: ViewSpan): SceneSample {
  const { reference } = compiled
  const projection = projectionAt(compiled, at)
  const home = ({ stop }: CompiledMark) => {
    if (projection.clearance(stop.at) < 0) return null
    const { x, y } = projection.toScreen(stop.at)
    const isSeen = x >= 0 && y >= 0 && x <= reference.width && y <= reference.height
    return isSeen ? { x, y, scale: Math.sqrt(projection.depthScale(stop.at)) } : null
  }
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
    for (const { postcard, from: first, to: last } of postcards)
      standing(place, cardBox(postcard, stop.pin, place, reference), null, first, last)
  }
  for (const { caption, shown } of compiled.captions) {
    const [first, last] = [Math.max(from, shown.from), Math.min(to, shown.to, compiled.lastTime)]
    const item = first < last ? captionsAt(compiled, (first + last) / 2, projection, 0).find(({ id }) => id === caption.id) : undefined
    if (!item) continue
    const { width, height } = sizeOf(item.figure, item)
    obstacles.push({ box: movedBox({ left: 0, right: width, top: 0, bottom: height }, item.at.x, item.at.y), own: null, to: last })
  }
  const lines = compiled.travellers
    .filter(({ traveller }) => traveller.shown)
    .flatMap(({ legs }) =>
      legs.flatMap(({ leg, course, depart, arrive, rides }): SceneLine[] => {
        const line = inFrame(course, projection)
        const ink = leg.ink.line.kind === 'hidden' ? 0 : leg.ink.width / 2
        return line.shares.length > 1 ? [{ ...line, depart, arrive, ink, vehicle: coverOfAll(rides) }] : []
      }),
    )
  return { from, to, places: marks.map(home), obstacles, lines }
}

/** What the vehicles of a leg cover about their place on the line; null without any. */
function coverOfAll(rides: readonly Ride[]): Box | null {
  const covers = rides.flatMap(({ vehicle }) => (vehicle ? [coverOf(vehicle)] : []))
  return covers.length > 0 ? unionOf(covers) : null
}

/** What a vehicle covers about its place on the line, whichever way it faces. */
function coverOf({ size, posture: { view, bounds } }: Vehicle): Box {
  const k = size / 100
  const aside = Math.max(-bounds.left, bounds.right) * k
  // One from above turns; the others keep their feet on the line.
  return view === 'above'
    ? { left: -aside, right: aside, top: -aside, bottom: aside }
    : { left: -aside, right: aside, top: bounds.top * k, bottom: bounds.bottom * k }
}

/** A course in the frame, with as many points as tell apart there. */
function inFrame(course: Course, projection: Projection): Pick<SceneLine, 'points' | 'shares'> {
  const { length } = course
  if (length === 0) return { points: [], shares: [] }
  const count = Math.min(MOST_POINTS, Math.max(2, Math.ceil((length * projection.view.zoom) / GRAIN)))
  const points: number[] = []
  const shares: number[] = []
  for (let k = 0; k <= count; k++) {
    const at = pointAt(course, (length * k) / count)
    if (projection.clearance(at) < 0) continue
    const { x, y } = projection.toScreen(at)
    points.push(x, y)
    shares.push(k / count)
  }
  return { points, shares }
}
