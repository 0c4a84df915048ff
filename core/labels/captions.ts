import type { Projection } from '../camera/projection-type'
import { degrees } from '../geometry/angle'
import type { Point } from '../geometry/point'
import type { Size } from '../geometry/size'
import type { Appears, Caption, CaptionContent, Corner, Measures, TextStyle } from '../journey/schema'
import { nameOfStop } from '../journey/lookup'
import { geodesicDistance } from '../geo/geodesic'
import type { Align, Part, TextBlock } from '../type/block'
import { setBlock } from '../type/block'
import type { CompiledCaption, CompiledJourney, CompiledTraveller } from '../trips/compiled'
import { formatDate, tripDayAt } from '../trips/dates'
import { textBox } from '../marks/label-layout'
import type { Ruler } from '../trips/metres'
import { formatDistance, formatHeight, heightAt, METRES, metresAlong, UNIT_SIGNS } from '../trips/metres'
import { countParts, revealSeconds } from '../marks/reveal'
import { visibilityAt } from '../trips/span'
import { motionAt } from '../trips/motion'

/** Captions keep so far from the frame's edges, as a share of its width and height: the safe area for titles (EBU R 95, 2017; from memory). */
const SAFE = 0.05

/** The room between captions at one place, in letter sizes of the lower one, and the widest text, as a share of the frame. */
const STACK_GAP = 0.55
const WIDEST = 0.8

/** What a caption shows at a moment. */
export type CaptionFigure =
  | { kind: 'text'; block: TextBlock }
  /** A bar so many reference pixels long, and what it stands for. */
  | { kind: 'scale-bar'; length: number; block: TextBlock }
  /** An arrow to the north, in degrees clockwise from upright. */
  | { kind: 'north-arrow'; bearing: number }

/** A title or a readout, a scale bar or an arrow to the north: it stands in the frame, not on the ground. */
export interface CaptionItem {
  kind: 'caption'
  id: string
  figure: CaptionFigure
  style: TextStyle
  appears: Appears
  /** Its upper left corner, in reference pixels from the frame's, and how its lines are aligned. */
  at: Point
  align: Align
  elapsed: number | null
  opacity: number
}

/** The captions of a frame, the lowest first. @param bottom how much of the frame's lower right corner is taken, in reference pixels */
export function captionsAt(compiled: CompiledJourney, time: number, projection: Projection, bottom: number): CaptionItem[] {
  const { captions, reference } = compiled
  const used: Record<string, number> = { 'bottom-right': bottom }
  const items: CaptionItem[] = []
  for (const entry of captions) {
    const { caption, shown } = entry
    const opacity = visibilityAt(shown, time)
    if (opacity <= 0) continue
    const figure = figureAt(compiled, entry, time, projection)
    if (!figure) continue
    const { corner, style } = caption
    const size = sizeOf(figure, caption)
    const taken = used[corner] ?? 0
    items.push({
      kind: 'caption',
      id: caption.id,
      figure,
      style,
      appears: caption.appears,
      ...placeIn(corner, size, taken, reference),
      elapsed: elapsedAt(caption, figure, shown.from, time),
      opacity,
    })
    used[corner] = taken + size.height + STACK_GAP * style.size
  }
  return items
}

/** How long a caption has been appearing; null once it has settled. What is shown during the whole film is there from the first frame on. */
function elapsedAt({ appears, shown }: Caption, figure: CaptionFigure, from: number, time: number): number | null {
  const parts = figure.kind === 'text' ? countParts(figure.block, appears.by) : 1
  const elapsed = time - Math.max(0, from)
  return shown === null || elapsed >= revealSeconds(appears, parts) ? null : elapsed
}

/** Where a caption of a size lies: its upper left corner, and how its lines are aligned. */
function placeIn(corner: Corner, { width, height }: Size, taken: number, reference: Size): { at: Point; align: Align } {
  const [aside, above] = [SAFE * reference.width, SAFE * reference.height]
  const align: Align = corner.endsWith('left') ? 'left' : corner.endsWith('right') ? 'right' : 'center'
  const x = align === 'left' ? aside : align === 'right' ? reference.width - aside - width : (reference.width - width) / 2
  const y = corner.startsWith('top')
    ? above + taken
    : corner.startsWith('bottom')
      ? reference.height - above - taken - height
      : (reference.height - height) / 2 + taken
  return { at: { x, y }, align }
}

/** How large an arrow is, and how high a bar with its figure, in letter sizes. */
const ARROW_SIZE = 2.2
export const BAR_HEIGHT = 0.5

/** What a caption covers, with its plate. */
export function sizeOf(figure: CaptionFigure, { style }: Pick<Caption, 'style'>): Size {
  switch (figure.kind) {
    case 'text': {
      const box = textBox(figure.block, style)
      return { width: box.right - box.left, height: box.bottom - box.top }
    }
    case 'scale-bar':
      return { width: figure.length, height: figure.block.height + BAR_HEIGHT * style.size }
    case 'north-arrow':
      return { width: ARROW_SIZE * style.size, height: ARROW_SIZE * style.size }
    default:
      return figure satisfies never
  }
}

function figureAt(
  compiled: CompiledJourney,
  { caption, ruler }: CompiledCaption,
  time: number,
  projection: Projection,
): CaptionFigure | undefined {
  const { content } = caption
  switch (content.kind) {
    case 'scale-bar':
      return scaleBar(caption, projection, ruler, compiled.journey.measures)
    case 'north-arrow':
      return { kind: 'north-arrow', bearing: northAt(projection, ruler) }
    default: {
      const parts = textAt(compiled, content, ruler, time)
      if (!parts) return undefined
      const heading: Part[] = caption.heading === '' ? [] : [{ text: caption.heading, isSmall: true }]
      return { kind: 'text', block: setBlock([...heading, ...parts], caption.style, WIDEST * compiled.reference.width) }
    }
  }
}

type TextContent = Exclude<CaptionContent, { kind: 'scale-bar' | 'north-arrow' }>

/** What a title or readout says at a moment; undefined where it has nothing to say. */
function textAt(compiled: CompiledJourney, content: TextContent, ruler: Ruler | undefined, time: number): Part[] | undefined {
  if (content.kind === 'title') {
    const { text, second } = content
    return text.trim() === '' && second.trim() === '' ? undefined : [{ text }, { text: second, isSmall: true }]
  }
  const text = readout(compiled, content, ruler, time)
  return text === undefined ? undefined : [{ text, isTabular: true }]
}

/** The running figure of a traveller; undefined where it is not known. */
function readout(
  compiled: CompiledJourney,
  content: Exclude<TextContent, { kind: 'title' }>,
  ruler: Ruler | undefined,
  time: number,
): string | undefined {
  const trip = travellerFor(compiled, content.traveller)
  if (!trip) return undefined
  const { visits, legs } = trip
  switch (content.kind) {
    case 'distance':
      return ruler && formatDistance(metresTravelled(trip, time, compiled.lastTime, ruler), compiled.journey.measures.unit, true)
    case 'date': {
      const day = tripDayAt(visits, time)
      return day && formatDate(day.date)
    }
    case 'day': {
      const day = tripDayAt(visits, time)
      return day && `Day ${day.number}`
    }
    case 'height': {
      const motion = motionAt(trip, time, compiled.lastTime)
      const on = motion && legs[motion.leg]
      const metres = on && heightAt(on.leg, on.course, motion.s)
      return metres === undefined ? undefined : formatHeight(metres, content.unit)
    }
    case 'leg': {
      const i = Math.max(
        0,
        legs.findLastIndex(({ depart }) => depart <= time),
      )
      const [from, to] = [visits[i], visits[i + 1]]
      return from && to && `${nameOfStop(from.stop)} – ${nameOfStop(to.stop)}`
    }
    case 'place': {
      const reached = visits.findLast(({ arrive }) => arrive <= time) ?? visits[0]
      return reached && nameOfStop(reached.stop)
    }
    default:
      return content satisfies never
  }
}

/** The traveller that a readout follows: the one named, else the first that is in the film. */
const travellerFor = ({ travellers }: CompiledJourney, id: string | null): CompiledTraveller | undefined =>
  travellers.find(({ traveller }) => (id === null ? traveller.shown : traveller.id === id))

/** The metres that a traveller has come at a time. */
function metresTravelled(trip: CompiledTraveller, time: number, lastTime: number, ruler: Ruler): number {
  const motion = motionAt(trip, time, lastTime)
  if (!motion) return 0
  return trip.legs
    .slice(0, motion.leg + 1)
    .reduce((sum, { course }, i) => sum + metresAlong(course, i < motion.leg ? course.length : motion.s, ruler), 0)
}

/** The longest that a bar may be, in letter sizes. A bar stands for 1, 2 or 5 times a power of ten (common practice, no source). */
const LONGEST_BAR = 7
const ROUND = [5, 2, 1] as const

/** A bar at the scale of the frame's middle. There is none while the view is tilted, as the frame is at one scale only where it is flat. */
function scaleBar(caption: Caption, projection: Projection, ruler: Ruler | undefined, { unit }: Measures): CaptionFigure | undefined {
  if (!ruler || !projection.isFlat) return undefined
  const perPixel = metresPerPixel(projection, ruler)
  if (!perPixel) return undefined
  const most = (LONGEST_BAR * caption.style.size * perPixel) / METRES[unit]
  const power = 10 ** Math.floor(Math.log10(most))
  const value = power * ROUND.find((k) => k * power <= most)!
  const text = `${value >= 1 ? value.toLocaleString('en') : String(Number(value.toPrecision(1)))} ${UNIT_SIGNS[unit]}`
  const length = (value * METRES[unit]) / perPixel
  return { kind: 'scale-bar', length, block: setBlock([{ text, isSmall: true }], caption.style, Infinity) }
}

/** Metres to the reference pixel at the frame's middle, across it. */
function metresPerPixel({ view, reference, toGround }: Projection, ruler: Ruler): number | undefined {
  if ('metresPerUnit' in ruler) return ruler.metresPerUnit / view.zoom
  const aside = 50
  const [a, b] = [-aside, aside].map((x) => {
    const at = toGround({ x: reference.width / 2 + x, y: reference.height / 2 })
    return at && ruler.geo.toLonLat(at)
  })
  return a && b && geodesicDistance(a, b) / (2 * aside)
}

/** The direction of north at the frame's middle, in degrees clockwise from upright: the map's own up where its place on the Earth is not known. */
function northAt({ view, reference, toScreen }: Projection, ruler: Ruler | undefined): number {
  const here = ruler && 'geo' in ruler ? ruler.geo.toLonLat(view.centre) : undefined
  const north = here && ruler && 'geo' in ruler ? ruler.geo.toGround({ ...here, lat: Math.min(89.9, here.lat + 1e-3) }) : undefined
  if (!north) return -view.bearing
  const { x, y } = toScreen(north)
  return degrees(Math.atan2(x - reference.width / 2, reference.height / 2 - y))
}
