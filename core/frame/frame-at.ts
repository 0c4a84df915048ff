import { append } from '../geometry/extremes'
import { clamp } from '../geometry/clamp'
import type { Point } from '../geometry/point'
import type { Projection } from '../camera/projection-type'
import type { View } from '../camera/view'
import { isMovingAt, projectionAt } from '../camera/view-track'
import { creditLine } from '../sheet/credits'
import { cardPoseAt } from '../marks/card-times'
import type { CompiledJourney, CompiledLeg, CompiledMark, CompiledTraveller } from '../trips/compiled'
import type {
  CarriedItem,
  CreditItem,
  DepthItem,
  DimItem,
  Frame,
  FrameItem,
  InkItem,
  LabelItem,
  MapNameItem,
  ParticlesItem,
  PlannedItem,
  PinItem,
  PostcardItem,
  SheetItem,
  StandingItem,
  VehicleItem,
} from './frame'
import { IS_GROUND } from './frame'
import { circleAt, pinAppearanceAt, SETTLED } from '../marks/pins'
import { inksOf } from '../journey/lookup'
import type { Depth, Journey, Layer, Pin, Sheet } from '../journey/schema'
import { remembered } from '../remembered'
import type { Motion } from '../trips/motion'
import type { LineOfLeg } from './ink-at'
import { inkAt, plannedAt } from './ink-at'
import { particlesAt } from './particles'
import { CLIMB, motionAt } from '../trips/motion'
import { besideOthers } from './side-by-side'
import { captionsAt } from '../labels/captions'
import { labelFit, labelIn } from '../labels/label-fit'
import { mapNamesAt } from '../labels/map-names'
import { movedLabel } from '../marks/label-layout'
import { revealSeconds } from '../marks/reveal'
import { remainingAt, visibilityAt } from '../trips/span'
import type { ValueTracks } from '../trips/values'
import { lineValuesAt, numberAt } from '../trips/values'

/** The frame of a compiled journey at a time in seconds, clamped to the film. The same time always gives the same frame. */
export function frameAt(compiled: CompiledJourney, seconds: number): Frame {
  const { journey, lastTime, values } = compiled
  const time = clamp(seconds, 0, lastTime)
  const travellers = compiled.travellers.filter(({ traveller }) => traveller.shown)
  const projection = projectionAt(compiled, time)
  const motions = travellers.map((traveller) => motionAt(traveller, time, lastTime))
  const marks = byDepth(compiled, projection)
  const items: FrameItem[] = [
    ...ground(compiled, time, projection),
    ...depth(compiled, projection, motions),
    ...beforeGlobe(mapNameItems(compiled, time, projection), projection),
  ]
  const layers: Readonly<Record<Layer, () => FrameItem[]>> = {
    lines: () => [
      ...travellers.flatMap((of) => planned({ compiled: of, values, time }, lastTime, projection)),
      ...travellers.flatMap((of) => inks({ compiled: of, values, time }, lastTime, projection)),
      ...travellers.flatMap((of) => particles({ compiled: of, values, time }, projection)),
    ],
    marks: () => standing(compiled, marks, time, projection),
    vehicles: () => {
      const places = besideOthers(travellers, motions, time, projection)
      return travellers.flatMap((of, i) => vehicles({ compiled: of, values, time }, motions[i], places[i]))
    },
    labels: () => labels(compiled, marks, time, projection),
    cards: () => cards(marks, time),
  }
  for (const layer of journey.order) append(items, beforeGlobe(layers[layer](), projection))
  append(items, captionsAt(compiled, time, projection, journey.creditLine ? CREDIT_ROOM : 0))
  append(items, credits(compiled, time))
  return {
    time,
    size: { width: journey.frame.width, height: journey.frame.height },
    scale: compiled.scale,
    reference: compiled.reference,
    view: projection.view,
    isMoving: compiled.views.handheld !== null || isMovingAt(compiled, time),
    sun: journey.sun,
    items,
    motions,
  }
}

/** A frame as shown on the table: in another view, without what belongs to the lens. */
export const onTable = (frame: Frame, view: View): Frame => ({
  ...frame,
  view,
  isMoving: false,
  items: frame.items.flatMap((item): FrameItem[] => {
    switch (item.kind) {
      case 'edge-shade':
      case 'map-name':
      case 'map-dim':
      case 'depth':
      case 'dim':
      case 'caption':
      case 'credit':
        return []
      case 'label':
        return [{ ...item, ...item.free }]
      default:
        return [item]
    }
  }),
})

/** A frame of what travels and marks the way alone, to be laid over something else: the ground, what is written on it and what darkens it, and the line that names its sources, are left out. */
export const withoutGround = (frame: Frame): Frame => ({
  ...frame,
  items: frame.items.filter(({ kind }) => !IS_GROUND[kind] && kind !== 'map-name' && kind !== 'dim' && kind !== 'credit'),
})

/** A frame with the tracing sheets over the others, as it is worked on; a film never shows them. */
export function withTracing(frame: Frame, { journey }: CompiledJourney): Frame {
  const tracing = journey.sheets.flatMap((sheet): FrameItem[] =>
    sheet.tracing ? [{ kind: 'sheet', sheet, opacity: sheet.opacity, edge: 'plain', panel: null }] : [],
  )
  if (tracing.length === 0) return frame
  const above = frame.items.findLastIndex((item) => item.kind === 'ground' || item.kind === 'sheet' || item.kind === 'area') + 1
  return { ...frame, items: [...frame.items.slice(0, above), ...tracing, ...frame.items.slice(above)] }
}

/** What stands behind the edge of the globe is not seen; near it, it fades. */
function beforeGlobe(items: FrameItem[], { bent, clearance }: Projection): FrameItem[] {
  if (!bent) return items
  return items.flatMap((item): FrameItem[] => {
    if (!('at' in item) || !('opacity' in item)) return [item]
    const seen = clamp(clearance(item.at) / GLOBE_FADE, 0, 1)
    return seen === 0 ? [] : seen === 1 ? [item] : [{ ...item, opacity: item.opacity * seen }]
  })
}

/** Over so many reference pixels above the edge of the globe what stands there fades. */
const GLOBE_FADE = 60

/** Degrees by which clouds drift in a second. */
const DRIFT = 0.8

function ground(
  { journey, sheets, lying: compiledLying, areas, values }: CompiledJourney,
  time: number,
  { bent }: Projection,
): FrameItem[] {
  const { ground } = journey
  const { sky } = journey.depth
  const laid = sheets.flatMap(({ sheet, shown }, i): FrameItem[] => {
    const opacity = sheet.opacity * visibilityAt(shown, time) * numberAt(values, 'sheet-opacity', time, sheet.id)
    if (opacity <= 0) return []
    const edge = i === 0 ? ground.edge : 'plain'
    return partlyWashed(
      { kind: 'sheet', sheet, opacity, edge, panel: edge === 'panel' ? ground.panel : null },
      numberAt(values, 'wash', time, sheet.id),
    )
  })
  const lying = compiledLying.flatMap(({ sheet, shown }): FrameItem[] => {
    const opacity = sheet.opacity * visibilityAt(shown, time)
    return opacity > 0 ? [{ kind: 'sheet', sheet, opacity, edge: 'plain', panel: null }] : []
  })
  const lit = areas.flatMap(({ area, shown }): FrameItem[] => {
    const opacity = visibilityAt(shown, time)
    return opacity > 0 ? [{ kind: 'area', area, opacity }] : []
  })
  const first = sheets[0]?.sheet
  const shade = first?.wash?.edgeShade
  const shaded = shade ? numberAt(values, 'wash', time, first.id) * numberAt(values, 'edge-shade', time, first.id) : 0
  const dim = numberAt(values, 'map-dim', time)
  const air: FrameItem[] = bent ? [{ kind: 'air', sky, drift: DRIFT * time }] : []
  return [
    { kind: 'ground', ground },
    ...laid,
    ...lit,
    ...lying,
    ...air,
    ...(shade && shaded > 0 ? [{ kind: 'edge-shade', shade, opacity: shaded } as const] : []),
    ...(dim > 0 ? [{ kind: 'map-dim', opacity: dim } as const] : []),
  ]
}

/** The names of countries and seas; as dark as the map where that is darkened. */
function mapNameItems(compiled: CompiledJourney, time: number, projection: Projection): MapNameItem[] {
  const dim = numberAt(compiled.values, 'map-dim', time)
  return mapNamesAt(compiled, time, projection).map(({ name: { id, at, block, style }, scale, opacity }) => ({
    kind: 'map-name',
    id,
    at,
    block,
    style,
    scale,
    opacity: opacity * (1 - dim),
  }))
}

const unwashed = remembered((sheet: Sheet): Sheet => ({ ...sheet, wash: null }))

/** A sheet of whose wash a share is seen: with it, over itself without it. Both together are as opaque as it is. */
function partlyWashed(item: SheetItem, share: number): SheetItem[] {
  const { sheet, opacity } = item
  if (!sheet.wash || share >= 1) return [item]
  const plain = { ...item, sheet: unwashed(sheet) }
  if (share <= 0) return [plain]
  const washed = opacity * share
  return [
    { ...plain, opacity: (opacity - washed) / (1 - washed) },
    { ...item, opacity: washed, panel: null },
  ]
}

/** What is in focus is told in steps so fine that nobody sees them, so that a camera that rests with what it looks at stays as it is. */
const FOCUS_STEP = 0.002

/** Soft focus and haze; nothing where the camera looks straight down, as all is equally far away. */
function depth({ journey }: CompiledJourney, projection: Projection, motions: readonly (Motion | undefined)[]): DepthItem[] {
  const { softFocus, haze } = journey.depth
  if (projection.isFlat || (!softFocus && !haze)) return []
  // Both are those of a plain: they go as the ground is bent.
  const share = 1 - (projection.bent?.share ?? 0)
  if (share <= 0) return []
  const soft = softFocus && softFocusOf(softFocus, journey, projection, motions)
  return [
    {
      kind: 'depth',
      softFocus: soft && { ...soft, strength: soft.strength * share },
      haze: haze && share < 1 ? { ...haze, strength: haze.strength * share } : haze,
    },
  ]
}

function softFocusOf(
  { strength, far, near, on }: NonNullable<Depth['softFocus']>,
  { stops }: Journey,
  projection: Projection,
  motions: readonly (Motion | undefined)[],
) {
  const spot =
    on.kind === 'traveller'
      ? motions.find((motion) => motion)?.position
      : on.kind === 'stop'
        ? stops.find(({ id }) => id === on.stop)?.at
        : undefined
  const at = spot ? 1 / projection.depthScale(spot) : 1
  return { strength, far, near, at: Math.round(at / FOCUS_STEP) * FOCUS_STEP }
}

/** The credit line is shown in the last second, and fades in during the quarter of a second before it. */
const CREDIT_SECONDS = 1
const CREDIT_FADE = 0.25

/** What captions at the lower right leave for it, in reference pixels. */
const CREDIT_ROOM = 20

function credits({ journey, lastTime }: CompiledJourney, time: number): CreditItem[] {
  const opacity = Math.min(1, (time - (lastTime - CREDIT_SECONDS - CREDIT_FADE)) / CREDIT_FADE)
  if (!journey.creditLine || opacity <= 0) return []
  const text = creditLine(journey)
  return text === '' ? [] : [{ kind: 'credit', text, opacity }]
}

/** Marks from the furthest to the nearest, so that nearer ones stand before others; in the order of the trip where the view is flat. */
function byDepth({ marks }: CompiledJourney, { isFlat, toScreen }: Projection): readonly CompiledMark[] {
  if (isFlat) return marks
  return marks
    .map((mark) => ({ mark, y: toScreen(mark.stop.at).y }))
    .sort((a, b) => a.y - b.y)
    .map(({ mark }) => mark)
}

/** The pins of marks, and the pictures that stand on the ground: under the pins where the view is flat, else by their distance, too. */
function standing(
  compiled: CompiledJourney,
  marks: readonly CompiledMark[],
  time: number,
  { isFlat, toScreen, clearance }: Projection,
): FrameItem[] {
  const items: (PinItem | StandingItem)[] = []
  for (const { picture, shown } of compiled.standing) {
    const opacity = picture.opacity * visibilityAt(shown, time)
    if (opacity > 0 && clearance(picture.at) >= 0) items.push({ kind: 'standing', id: picture.id, at: picture.at, picture, opacity })
  }
  const isMixed = items.length > 0 && !isFlat
  for (const mark of marks) {
    const item = pin(mark, time, compiled.lastTime, numberAt(compiled.values, 'pin-size', time, mark.stop.id))
    if (item) items.push(item)
  }
  return isMixed ? items.map((item) => ({ item, y: toScreen(item.at).y })).sort((a, b) => a.y - b.y).map(({ item }) => item) : items // prettier-ignore
}

/** A traveller at a moment. */
interface TravellerAt {
  compiled: CompiledTraveller
  values: ValueTracks
  time: number
}

/**
 * What is seen of a traveller's lines, layer by layer: where legs meet or cross, the centre lines of roads lie over the roads of all.
 * @param at what is seen of one of them
 */
function eachLine<T>({ compiled, values, time }: TravellerAt, legs: readonly CompiledLeg[], at: (line: LineOfLeg) => T | undefined): T[] {
  const vehicleSize = numberAt(values, 'vehicle-size', time, compiled.traveller.id)
  const valuesOf = legs.map(({ leg }) => lineValuesAt(values, leg.id, time))
  const layers = 1 + legs.reduce((most, { leg }) => Math.max(most, leg.over.length), 0)
  const items: T[] = []
  for (let layer = 0; layer < layers; layer++)
    for (let i = 0; i < legs.length; i++) {
      const ink = inksOf(legs[i]!.leg)[layer]
      const item = ink && at({ compiled, i, layer, ink, values: valuesOf[i]!, vehicleSize })
      if (item) items.push(item)
    }
  return items
}

function inks(traveller: TravellerAt, lastTime: number, projection: Projection): InkItem[] {
  const { time, compiled } = traveller
  const next = compiled.legs.findIndex(({ depart }) => depart > time)
  const begun = next < 0 ? compiled.legs : compiled.legs.slice(0, next)
  return eachLine(traveller, begun, (line) => inkAt(line, time, lastTime, projection))
}

function particles(traveller: TravellerAt, projection: Projection): ParticlesItem[] {
  const { time, compiled } = traveller
  if (!compiled.legs.some(({ leg }) => inksOf(leg).some((ink) => ink.particles))) return []
  return eachLine(traveller, compiled.legs, (line) => particlesAt(line, time, projection))
}

function planned(traveller: TravellerAt, lastTime: number, projection: Projection): PlannedItem[] {
  const { time, compiled } = traveller
  if (!compiled.legs.some(({ leg }) => inksOf(leg).some((ink) => ink.planned))) return []
  return eachLine(traveller, compiled.legs, (line) => plannedAt(line, time, lastTime, projection))
}

/** Pins and labels that have settled look the same from then on: a journey has many of them. */
const settledPins = new WeakMap<CompiledMark, PinItem>()
const settledLabels = new WeakMap<CompiledMark, { by: Point; item: LabelItem }>()

function pin(mark: CompiledMark, time: number, lastTime: number, size: number): PinItem | undefined {
  const { stop, arrive, number, shown } = mark
  const { pin: look } = stop
  const remaining = remainingAt(shown, time)
  const seen = look.shape === 'none' || remaining <= 0 || size <= 0 ? undefined : pinAppearanceAt(time, arrive, lastTime, look)
  if (!seen) return undefined
  // A circle may still be on its way when the pin has settled.
  const rests = seen === SETTLED && remaining === 1 && !look.circle && size === 1
  const known = rests ? settledPins.get(mark) : undefined
  if (known) return known
  const item: PinItem = {
    kind: 'pin',
    stop: stop.id,
    at: stop.at,
    pin: look,
    inside: insideOf(look, number),
    circle: (look.circle && circleAt(look.circle, time, arrive, lastTime, look.delay)) ?? null,
    ...seen,
    scale: seen.scale * size,
    opacity: seen.opacity * remaining,
  }
  if (rests) settledPins.set(mark, item)
  return item
}

/** What is written in a pin; a mark beside the way has no number. */
function insideOf({ inside }: Pin, number: number): string {
  switch (inside?.kind) {
    case 'number':
      return number > 0 ? String(number) : ''
    case 'letters':
      return inside.text
    case 'icon':
    case undefined:
      return ''
    default:
      return inside satisfies never
  }
}

function labels(compiled: CompiledJourney, marks: readonly CompiledMark[], time: number, projection: Projection): LabelItem[] {
  const fit = labelFit(compiled)
  const items: LabelItem[] = []
  for (const mark of marks) {
    const { stop, label: home, shown } = mark
    if (!home || time <= home.from) continue
    const own = remainingAt(shown, time)
    const scale = numberAt(compiled.values, 'name-size', time, stop.id)
    if (own <= 0 || scale <= 0) continue
    const { style, appears } = stop.label
    const { by, isWhole } = labelIn(mark, home, projection, scale)
    const opacity = own * fit.shareAt(mark, time, isWhole)
    const passed = time - home.from
    const elapsed = passed >= revealSeconds(appears, home.parts) ? null : passed
    const known = settledLabels.get(mark)
    const isKnown = elapsed === null && known?.item.opacity === opacity && known.item.free.opacity === own && known.item.scale === scale
    if (isKnown && isSame(known.by, by)) {
      items.push(known.item)
      continue
    }
    const label = by.x === 0 && by.y === 0 ? home : movedLabel(home, by, stop.pin, style)
    const free = { label: home, opacity: own }
    const item: LabelItem = { kind: 'label', stop: stop.id, at: stop.at, label, style, appears, scale, elapsed, opacity, free }
    if (elapsed === null) settledLabels.set(mark, { by, item })
    items.push(item)
  }
  return items
}

const isSame = (a: Point, b: Point): boolean => a.x === b.x && a.y === b.y

/** The postcards, and what darkens the map behind them. */
function cards(marks: readonly CompiledMark[], time: number): (DimItem | PostcardItem)[] {
  const items: PostcardItem[] = []
  let dim = 0
  for (const { stop, postcards } of marks) {
    for (const { postcard, clearOf, ...times } of postcards) {
      const pose = cardPoseAt(time, times, postcard)
      if (!pose) continue
      items.push({ kind: 'postcard', stop: stop.id, at: stop.at, postcard, pin: stop.pin, clearOf, ...pose })
      dim = Math.max(dim, postcard.dims * pose.opacity)
    }
  }
  return dim > 0 ? [{ kind: 'dim', opacity: dim }, ...items] : items
}

/** The vehicles of a traveller, and over them what they carry. @param at where they are seen */
function vehicles(
  { compiled, values, time }: TravellerAt,
  motion: Motion | undefined,
  at: Point | undefined,
): (VehicleItem | CarriedItem)[] {
  const size = numberAt(values, 'vehicle-size', time, compiled.traveller.id)
  if (!motion || !at || size <= 0) return []
  const ridden = motion.vehicles.map((state): VehicleItem => {
    const { vehicle, lies, rotation, mirrored, isGoing, opacity, altitude, rise, wheels } = state
    const { leg } = compiled.legs[state.leg]!
    const scale = state.scale * size
    return { kind: 'vehicle', leg: leg.id, isGoing, at, vehicle, lies, rotation, mirrored, opacity, scale, altitude, rise, wheels }
  })
  const carried = ridden.flatMap((item): CarriedItem[] => {
    const { leg, isGoing, vehicle, scale, opacity } = item
    return vehicle.carries ? [{ kind: 'carried', leg, isGoing, at, carried: vehicle.carries, foot: topOf(item), scale, opacity }] : []
  })
  return [...ridden, ...carried]
}

/** How far the top of a vehicle is above its place, in reference pixels. */
function topOf({ vehicle: { size, posture }, scale, altitude, rise }: VehicleItem): number {
  const { view, bounds } = posture
  const above = view === 'above' ? Math.min(-bounds.top, bounds.right) : -bounds.top
  return size * scale * (above / 100 + rise) * (1 + CLIMB * altitude)
}
