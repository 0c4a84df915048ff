import { addDays, format, parseISO } from 'date-fns'
import { setPlan } from '../edits/camera/shots'
import { setGround, addSheet } from '../edits/ground/sheets'
import { editLeg } from '../edits/lines/legs'
import { addCaption, editCaption } from '../edits/marks/captions'
import { editStop } from '../edits/marks/stops'
import { setLayover } from '../edits/pace/pace'
import { addStop, visitStop, setVisitDate } from '../edits/trips/visits'
import { JourneyError } from '../error'
import { firstLeg } from '../dress/first-leg'
import { geodesicDistance } from '../geo/geodesic'
import { groundGeo } from '../geo/ground'
import type { LonLat } from '../geo/lon-lat'
import { clamp } from '../geometry/clamp'
import { greatest, least } from '../geometry/extremes'
import { seedOf } from '../geometry/noise'
import { createJourney } from '../journey/create'
import type { DrawnMap, FrameFormat, Journey, Leg, Sheet } from '../journey/schema'
import { drawnMapSchema, mapNamesSchema, sheetSchema, vehicleSchema } from '../journey/schema'
import { layoutMap } from '../maps/layout'
import { lonWidth, regionAround, withMargin } from '../maps/region'
import { creditOfMap } from '../sheet/credits'
import type { Mode } from './modes'
import { MODES } from './modes'

/** A journey made of places, with what was written of them. */

/** A place of the trip that is known. */
export interface TripPlace {
  /** Which place it is: one that comes again is the same stop. */
  key: string
  name: string
  place: LonLat
  /** Whether it comes from the list of places. */
  isListed: boolean
  /** How one gets there from the place before; null where that was not written. */
  by: Mode | null
  nights: number | null
  /** As year-month-day. */
  date: string | null
  note: string
}

/** Beyond so many km one flies, where nothing is said (common practice, no source). */
const FLIES_FROM = 900

/** How one gets from one place to another: as written, or what is likely over that distance. */
export const modeBetween = (a: LonLat, b: LonLat, by: Mode | null): Mode =>
  by ?? (geodesicDistance(a, b) / 1000 > FLIES_FROM ? 'fly' : 'drive')

/** What is seen round the places, as a share of how far they lie apart, and the least that a map shows, in degrees of longitude. */
const MARGIN = 0.35
const SMALLEST = 3
/** Wider trips need a map of the world; those further from the equator than this have it in a conic projection. */
const WORLD_FROM = 150
const CONIC_FROM = 25
/** The latitudes of a map of the world: what lies beyond is not travelled (but where a place is there). */
const WORLD = { south: -60, north: 80 } as const

/**
 * The map on which all of a trip is seen: its region, and the projection that suits it.
 * @param smallest the least that it shows, in degrees of longitude
 */
export function mapOfTrip(places: readonly LonLat[], frame: Pick<FrameFormat, 'width' | 'height'>, smallest = SMALLEST): DrawnMap {
  const close = withMargin(regionAround(places, smallest), MARGIN)
  const lats = places.map(({ lat }) => lat)
  const isWorld = lonWidth(regionAround(places, smallest)) > WORLD_FROM
  const region = isWorld
    ? { west: -180, east: 180, south: Math.min(WORLD.south, least(lats) - 5), north: Math.max(WORLD.north, greatest(lats) + 5) }
    : close
  const middle = (region.south + region.north) / 2
  const isConic = Math.abs(middle) > CONIC_FROM && region.south * region.north > 0
  return drawnMapSchema.parse({
    region: { ...region, south: Math.max(-90, region.south), north: Math.min(90, region.north) },
    projection: isWorld ? 'equirectangular' : isConic ? 'conic' : 'mercator',
    style: 'atlas',
    borders: true,
    graticule: false,
    aspect: clamp(frame.width / frame.height, 0.2, 5),
  })
}

/** The sheet of a generated map. @param image the SHA-256 of its recipe's file */
export function sheetOfMap(map: DrawnMap, image: string): Sheet {
  const { size, georeference } = layoutMap(map)
  return sheetSchema.parse({ id: 'map', name: 'Generated map', image, ...size, vector: true, georeference, credit: creditOfMap(map), drawn: map }) // prettier-ignore
}

/** Seconds of the film: a beginning and an end, and for each stop long enough to be read (common practice: two seconds at least). */
const FILM = { least: 12, most: 60 } as const
const secondsFor = (places: number): number => Math.round(4 + 3 * places)
const secondsOfTrip = (places: number): number => clamp(secondsFor(places), FILM.least, FILM.most)
/** How long the last stop is seen in a film that is as long as can be, in seconds. */
const LAST_STOP = 1.2

/** What a trip is called: from where to where. */
export function nameOfTrip(places: readonly { name: string }[]): string {
  const [first, last] = [places[0]?.name ?? '', places.at(-1)?.name ?? '']
  return (first === last || last === '' ? first || 'New journey' : `${first} to ${last}`).slice(0, 120)
}

/**
 * Makes the journey: stops, legs with their vehicles and courses, days, and a title, on a map, filmed by the calm plan. The same places give the same journey.
 * @param sheet the map, which must say where it lies on the Earth
 * @throws JourneyError if a place does not lie on it
 */
export function journeyOfTrip(places: readonly TripPlace[], sheet: Sheet, frame: FrameFormat): Journey {
  const name = nameOfTrip(places)
  const seconds = secondsOfTrip(places.length)
  const ground = { edge: 'held', names: mapNamesSchema.parse({}) } as const
  const empty = setPlan(setGround(createJourney(name, frame, seconds), ground), 'calm')
  const mapped = addSheet(empty, sheet)
  const geo = groundGeo(mapped)
  const traveller = mapped.travellers[0]!
  const made = places.reduce((journey, place, i) => {
    const at = geo?.toGround(place.place)
    if (!at) throw new JourneyError(`“${place.name}” does not lie on the map.`)
    const before = places[i - 1]
    const [stop, leg] = [`stop-${place.key}`, `leg-${i}`]
    const by = before && modeBetween(before.place, place.place, place.by)
    const dress = by && dressOf(by, traveller.colour)
    const known = journey.stops.some(({ id }) => id === stop)
    // A place that follows itself is one stop: one stays there.
    if (before?.key === place.key) return withNote(journey, stop, place)
    const visited = known
      ? visitStop(journey, stop, leg, traveller.id, dress)
      : addStop(journey, at, { stop, leg }, { name: place.name, place: place.place, found: place.isListed, dress, traveller: traveller.id })
    const travelled = dress && by ? editLeg(visited, leg, { ...dress, course: courseOf(by, before.place, place.place, `${before.key} ${place.key}`) }) : visited // prettier-ignore
    return withNote(travelled, stop, place)
  }, mapped)
  // In a film that cannot be any longer the last stop would be gone at once.
  const visits = made.travellers[0]!.visits.length
  const held = secondsFor(places.length) > FILM.most ? setLayover(made, visits - 1, LAST_STOP, traveller.id) : made
  return titled(dated(held, places), name)
}

export function dressOf(by: Mode, colour: string): Pick<Leg, 'ink' | 'vehicle'> {
  const { vehicle } = MODES[by]
  const { ink } = firstLeg(colour)
  const line: Leg['ink']['line'] =
    by === 'fly'
      ? { kind: 'dashed', dash: 30, space: 20, fitted: true }
      : by === 'ferry' || by === 'sail'
        ? { kind: 'dotted', space: 16, fitted: true }
        : { kind: 'solid' }
  return { ink: { ...ink, line }, vehicle: vehicleSchema.parse({ kind: 'catalogue', artwork: vehicle, colour, size: 110 }) }
}

/** From so many km on a flight follows the great circle, which is seen to be bent on a map. */
const GREAT_CIRCLE_FROM = 1500
/** How much a way that is not known is bent, as a share of its length: over land a little to this side or that, always the same for the same leg. */
const BOWS = { fly: 0.16, ferry: 0.1, land: 0.06 } as const

function courseOf(by: Mode, a: LonLat, b: LonLat, key: string): Leg['course'] {
  if (by === 'fly' && geodesicDistance(a, b) / 1000 > GREAT_CIRCLE_FROM) return { kind: 'great-circle' }
  if (by === 'fly' || by === 'ferry' || by === 'sail')
    return { kind: 'bowed', bow: (by === 'fly' ? BOWS.fly : BOWS.ferry) * (b.lon < a.lon ? -1 : 1) }
  return { kind: 'bowed', bow: BOWS.land * (Math.abs(seedOf(key)) % 2 === 0 ? 1 : -1) }
}

/** A note is the line under the name. */
const withNote = (journey: Journey, stop: string, { note }: TripPlace): Journey =>
  note === '' ? journey : editStop(journey, stop, { label: { second: { kind: 'note', text: note.slice(0, 120) } } })

/** The days of the visits: as written, or so many nights after the last one that is known. */
function dated(journey: Journey, places: readonly TripPlace[]): Journey {
  const traveller = journey.travellers[0]!.id
  const seen = places.filter((place, i) => place.key !== places[i - 1]?.key)
  let next: string | null = null
  return seen.reduce((now, { date, nights }, i) => {
    const day = date ?? next
    next = day !== null && nights !== null ? daysAfter(day, nights) : null
    return day === null ? now : setVisitDate(now, i, day, traveller)
  }, journey)
}

const daysAfter = (day: string, count: number): string => format(addDays(parseISO(day), count), 'yyyy-MM-dd')

/** The title at the beginning, and the day of the trip where days are known. */
function titled(journey: Journey, name: string): Journey {
  const until = { from: { at: 'start', offset: 0 }, to: { at: 'start', offset: 2.6 }, fade: 0.5 } as const
  const withTitle = editCaption(addCaption(journey, 'title', { kind: 'title', text: name, second: '' }), 'title', { corner: 'bottom', shown: until }) // prettier-ignore
  const hasDays = withTitle.travellers[0]!.visits.filter(({ date }) => date !== null).length > 1
  if (!hasDays) return withTitle
  const shown = { from: { at: 'start', offset: 2.8 }, to: { at: 'end', offset: 0 }, fade: 0.5 } as const
  return editCaption(addCaption(withTitle, 'date', { kind: 'date', traveller: null }), 'date', { corner: 'top-left', shown })
}
