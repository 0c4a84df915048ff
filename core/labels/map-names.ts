import { greatest } from '../geometry/extremes'
import type { Projection } from '../camera/projection-type'
import { groundSeen } from '../camera/projection'
import { projectionAt } from '../camera/view-track'
import type { Box } from '../geometry/box'
import { lengthInside, movedBox, scaledBox } from '../geometry/box'
import { clamp } from '../geometry/clamp'
import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import { MEAN_RADIUS } from '../geo/earth'
import { geoOfSheet, groundGeo } from '../geo/ground'
import { radians } from '../geometry/angle'
import type { MapNames, Sheet, TextStyle } from '../journey/schema'
import type { EarthName, NamePlace } from '../maps/earth-names'
import { EARTH_NAMES } from '../maps/earth-names'
import { nameColours } from '../maps/name-colours'
import { cardBox } from '../marks/card-layout'
import { isWhole, labelBox } from '../marks/label-layout'
import { pinBox } from '../marks/pins'
import { hasMapNames } from '../journey/lookup'
import { remembered } from '../remembered'
import type { CompiledJourney } from '../trips/compiled'
import { numberAt } from '../trips/values'
import type { TextBlock } from '../type/block'
import { setBlock } from '../type/block'
import { captionsAt, sizeOf } from './captions'
import { labelIn } from './label-fit'

/**
 * The names of countries and seas in a film: each where it has room on the Earth, and only while it has room in the frame too, beside the names of stops, pins,
 * cards and titles. They are placed after those, the largest first, and never change a journey's own names.
 */
interface MapName {
  id: string
  kind: EarthName['kind']
  at: Point
  block: TextBlock
  style: TextStyle
  /** Half the room for it, in ground units. */
  half: number
  /** When it is seen. */
  spans: NameSpan[]
}

interface NameSpan {
  from: number
  to: number
  /** Whether it is there, and goes, at once: with the film, or with a cut of the camera. */
  beginsAtOnce: boolean
  endsAtOnce: boolean
}

/** A name at a moment: its size, as a share of its letters', and how much of it is seen. */
export interface SeenName {
  name: MapName
  scale: number
  opacity: number
}

/** The film is looked at this often, in seconds, and less often if it is long. */
const STEP = 0.25
const MOST_LOOKS = 240

/** A name that would be seen for less than this is not, in seconds: it could not be read. It comes and goes in so long. */
const SHORTEST = 1.2
const FADE = 0.4

/** A name fits if it is at most this share of its room; with more room it grows, up to this. */
const FITS = 0.92
const LARGEST = 1.6
const GROWTH = 0.45

/** How far names keep off one another, off stops' names, off lines and off the frame's edges, in letter sizes. */
const AIR = 0.5

/** On a globe names keep so far off its edge, in reference pixels: what stands nearer to it fades, and its ground is seen from aside. */
const GLOBE_EDGE = 60

/** So many points of all lines together are looked at in a frame. */
const MOST_POINTS = 360

/** Seas are set wider than countries, as mapmakers do (common practice, no source). Sizes are shares of the journey's. */
const SETTINGS = {
  country: { weight: 700, spacing: 0.14, case: 'capitals', size: 1 },
  sea: { weight: 500, spacing: 0.22, case: 'as-written', size: 1.08 },
} as const

/** The faces that names on the map are set in. */
export const mapNameFaces = (names: MapNames | null) =>
  names ? Object.values(SETTINGS).map(({ weight }) => ({ family: names.family, weight })) : []

/** A name is broken into lines between words where it is wider than this, in letter sizes. */
const WIDEST = 9

/** A place that a name may have on a journey's ground. */
interface Placed extends Omit<MapName, 'spans'> {
  /** What it covers about its place at its own size, with some air. */
  spaced: Box
}

/** The names that a map may bear, each set and with its places on the ground, the largest first. */
const placedNames = remembered((sheet: Sheet, names: MapNames): readonly Placed[][] => {
  const geo = geoOfSheet(sheet)
  const colours = nameColours(names.colour, sheet)
  return EARTH_NAMES.filter(({ kind }) => (kind === 'country' ? names.countries : names.seas)).flatMap((name) => {
    const style = styleOf(name.kind, names, colours[name.kind])
    const block = blockOf(name.name, style)
    const own = labelBox({ block, ...middleOf(block) }, style)
    const air = AIR * style.size
    const spaced = { left: own.left - air, right: own.right + air, top: own.top - air, bottom: own.bottom + air }
    const placed = name.places.flatMap((place, i) => {
      const ground = geo && onGround(place, geo.toGround)
      return ground ? [{ id: `${name.name} ${i}`, kind: name.kind, block, style, spaced, ...ground }] : []
    })
    return placed.length > 0 ? [placed] : []
  })
})

/** The names of a film; none where they are not asked for, or the map's place on the Earth is not known. */
const mapNames = remembered((compiled: CompiledJourney): readonly MapName[] => {
  const { names } = compiled.journey.ground
  const sheet = hasMapNames(compiled.journey) ? groundGeo(compiled.journey)?.sheet : undefined
  if (!names || !sheet) return []
  const looks = looksOf(compiled)
  const found: MapName[] = []
  const taken = looks.map((): Box[] => [])
  for (const placed of placedNames(sheet, names)) {
    const free = placed.map((place) => looks.map((look, k) => freeAt(place, look, taken[k]!)))
    for (const { which, first, last } of runsOf(free, looks)) {
      const place = placed[which]!
      const known = found.find(({ id }) => id === place.id)
      const span = spanOf(looks, first, last)
      if (known) known.spans.push(span)
      else found.push({ ...place, spans: [span] })
      for (let k = first; k <= last; k++) taken[k]!.push(free[which]![k]!)
    }
  }
  return found
})

/** The names seen at a moment. */
export function mapNamesAt(compiled: CompiledJourney, time: number, projection: Projection): SeenName[] {
  return mapNames(compiled).flatMap((name): SeenName[] => {
    const shown = greatest([0, ...name.spans.map((span) => shareOf(span, time))])
    if (shown === 0 || projection.clearance(name.at) < 0) return []
    return [{ name, scale: growth(shareOfRoom(name, projection)), opacity: shown }]
  })
}

/** How much of a name is seen by its span; nothing at the ends of that, as only from there to there it is free. */
function shareOf({ from, to, beginsAtOnce, endsAtOnce }: NameSpan, time: number): number {
  if (time < from || (endsAtOnce ? time >= to : time > to)) return 0
  return Math.min(1, beginsAtOnce ? 1 : (time - from) / FADE, endsAtOnce ? 1 : (to - time) / FADE)
}

const styleOf = (kind: EarthName['kind'], { size, family }: MapNames, colour: { letters: string; rim: string }): TextStyle => {
  const { size: share, ...setting } = SETTINGS[kind]
  return {
    family,
    ...setting,
    size: size * share,
    colour: colour.letters,
    halo: { colour: colour.rim, width: 0.11 },
    plate: null,
    shadow: 0,
  }
}

function blockOf(name: string, style: TextStyle): TextBlock {
  const words = name.split(' ').map((word) => setBlock([{ text: word }], style, Infinity).width)
  return setBlock([{ text: name }], style, greatest([WIDEST * style.size, ...words]))
}

/** A place on the ground, and half its room there. */
function onGround([lon, lat, halfKm]: NamePlace, toGround: (at: { lon: number; lat: number }) => Point | undefined) {
  const east = ((halfKm * 1000) / (MEAN_RADIUS * Math.cos(radians(lat)))) * (180 / Math.PI)
  // A tenth of it, as maps bend and end.
  const [at, beside] = [toGround({ lon, lat }), toGround({ lon: lon + east / 10, lat })]
  const half = at && beside && 10 * Math.hypot(beside.x - at.x, beside.y - at.y)
  return half && Number.isFinite(half) && half > 0 ? { at, half } : undefined
}

/** Which share of its room a name takes up in a view at its own size. */
const shareOfRoom = ({ at, half, block }: Pick<MapName, 'at' | 'half' | 'block'>, projection: Projection): number =>
  (Math.sqrt(projection.depthScale(at)) * (block.width / 2)) / (half * projection.scaleAt(at))

/** How large it is then, as a share of its own size. */
const growth = (share: number): number => clamp((FITS / share) ** GROWTH, 1, LARGEST)

/** How a name's block lies about its place. */
export const middleOf = ({ height }: TextBlock) => ({ align: 'center' as const, x: 0, top: -height / 2 })

/** A moment of the film, and what is there that names keep off. */
interface Look {
  time: number
  /** Whether the camera jumps between the one before and this one. */
  isCut: boolean
  projection: Projection
  /** The box about the ground that is seen; undefined where that has no end. */
  seen: Box | undefined
  obstacles: Box[]
  /** The lines of all travellers in the frame. */
  lines: { points: number[]; box: Box }[]
}

/** Moments of the film, with both sides of each cut. */
function looksOf(compiled: CompiledJourney): Look[] {
  const { views, lastTime } = compiled
  const count = clamp(Math.ceil(lastTime / STEP), 1, MOST_LOOKS)
  const times = Array.from({ length: count + 1 }, (_, k) => ({ time: (lastTime * k) / count, isCut: false }))
  for (const { start, end } of views.shots)
    if (start === end && start > 0 && start < lastTime) times.push({ time: start - 1e-6, isCut: false }, { time: start, isCut: true })
  times.sort((a, b) => a.time - b.time)
  const courses = compiled.travellers.filter(({ traveller }) => traveller.shown).flatMap(({ legs }) => legs.map(({ course }) => course))
  const each = Math.max(2, Math.floor(MOST_POINTS / Math.max(1, courses.length)))
  const ways = courses.map((course) => Array.from({ length: each }, (_, k) => pointAt(course, (course.length * k) / (each - 1))))
  return times.map(({ time, isCut }) => {
    const projection = projectionAt(compiled, time)
    return {
      time,
      isCut,
      projection,
      seen: groundSeen(projection, 0),
      obstacles: obstaclesAt(compiled, time, projection),
      lines: ways.map((way) => lineIn(way, projection)),
    }
  })
}

/** Where a line is in a view, x, y, x, y, …, as far as it lies before the camera. */
function lineIn(way: readonly Point[], { clearance, toScreen }: Projection): Look['lines'][number] {
  const points: number[] = []
  const box = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  for (const p of way) {
    if (clearance(p) < 0) {
      points.push(NaN, NaN)
      continue
    }
    const { x, y } = toScreen(p)
    points.push(x, y)
    box.left = Math.min(box.left, x)
    box.right = Math.max(box.right, x)
    box.top = Math.min(box.top, y)
    box.bottom = Math.max(box.bottom, y)
  }
  return { points, box }
}

/** The boxes of what stands in the frame at a moment. */
function obstaclesAt(compiled: CompiledJourney, time: number, projection: Projection): Box[] {
  const { reference, values } = compiled
  const boxes: Box[] = []
  for (const mark of compiled.marks) {
    const { stop, label, postcards, shown } = mark
    if (projection.clearance(stop.at) < 0 || time < shown.from || time > shown.to) continue
    const { x, y } = projection.toScreen(stop.at)
    const standing = Math.sqrt(projection.depthScale(stop.at))
    // A pin that is not there yet will be: a name that gave way to it at that moment would jump aside.
    if (stop.pin.shape !== 'none') boxes.push(movedBox(scaledBox(pinBox(stop.pin), standing), x, y))
    if (label) {
      const size = numberAt(values, 'name-size', time, stop.id)
      const { by, isWhole: isSeen } = labelIn(mark, label, projection, size)
      const k = standing * size
      if (isSeen) boxes.push(movedBox(scaledBox(labelBox(label, stop.label.style), k), x + by.x * k, y + by.y * k))
    }
    for (const { postcard, clearOf, from, to } of postcards)
      if (time >= from - FADE && time <= to + FADE) {
        const box = cardBox(postcard, { pin: stop.pin, clearOf }, { x, y, scale: standing }, reference)
        boxes.push(movedBox(scaledBox(box, standing), x, y))
      }
  }
  for (const { figure, at, style } of captionsAt(compiled, time, projection, 0)) {
    const { width, height } = sizeOf(figure, { style })
    boxes.push({ left: at.x, right: at.x + width, top: at.y, bottom: at.y + height })
  }
  return boxes
}

/** Where a name is in the frame at a moment, with some air, if it is free there. */
function freeAt(place: Placed, { projection, seen, obstacles, lines }: Look, taken: readonly Box[]): Box | undefined {
  if (seen && !isInBox(place.at, seen)) return undefined
  if (projection.clearance(place.at) < (projection.bent ? GLOBE_EDGE : 0)) return undefined
  const share = shareOfRoom(place, projection)
  if (share > FITS) return undefined
  const { x, y } = projection.toScreen(place.at)
  const k = growth(share) * Math.sqrt(projection.depthScale(place.at))
  const { left, right, top, bottom } = place.spaced
  const box = { left: x + k * left, right: x + k * right, top: y + k * top, bottom: y + k * bottom }
  if (!isWhole(box, projection.reference) || meets(box, obstacles) || meets(box, taken)) return undefined
  return lines.some((line) => crosses(line, box)) ? undefined : box
}

function meets(box: Box, others: readonly Box[]): boolean {
  for (const other of others) if (overlap(box, other)) return true
  return false
}

const isInBox = ({ x, y }: Point, { left, right, top, bottom }: Box): boolean => x >= left && x <= right && y >= top && y <= bottom

const overlap = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom

function crosses({ points, box: all }: Look['lines'][number], box: Box): boolean {
  if (!overlap(all, box)) return false
  for (let i = 0; i + 3 < points.length; i += 2)
    if (lengthInside(box, points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!) > 0) return true
  return false
}

/** Stretches of looks in which one of the places of a name is free, the longest first and none at the same time as another. */
function runsOf(free: readonly (readonly (Box | undefined)[])[], looks: readonly Look[]): { which: number; first: number; last: number }[] {
  const runs: { which: number; first: number; last: number; seconds: number }[] = []
  free.forEach((places, which) => {
    for (let first = 0; first < places.length; first++) {
      if (!places[first]) continue
      let last = first
      while (places[last + 1] && !looks[last + 1]!.isCut) last++
      const seconds = looks[last]!.time - looks[first]!.time
      if (seconds >= SHORTEST || last - first === places.length - 1) runs.push({ which, first, last, seconds })
      first = last
    }
  })
  runs.sort((a, b) => b.seconds - a.seconds || a.which - b.which)
  const chosen: typeof runs = []
  for (const run of runs) if (!chosen.some(({ first, last }) => run.first <= last && first <= run.last)) chosen.push(run)
  return chosen
}

function spanOf(looks: readonly Look[], first: number, last: number): NameSpan {
  const [begin, end, next] = [looks[first]!, looks[last]!, looks[last + 1]]
  const endsAtOnce = !next || next.isCut
  return {
    from: begin.time,
    to: next ? (next.isCut ? next.time : end.time) : Infinity,
    beginsAtOnce: first === 0 || begin.isCut,
    endsAtOnce,
  }
}
