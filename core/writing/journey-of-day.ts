import { format, parseISO } from 'date-fns'
import { setPlan } from '../edits/camera/shots'
import { addSheet, setGround } from '../edits/ground/sheets'
import type { TrackOnGround } from '../edits/lines/tracks'
import { addTrack } from '../edits/lines/tracks'
import { addCaption, editCaption } from '../edits/marks/captions'
import type { TripPhoto } from '../edits/marks/photo-stops'
import { addPhotoStops, inOrder, isPlaceable } from '../edits/marks/photo-stops'
import { editPostcard } from '../edits/marks/postcards'
import { setLayover } from '../edits/pace/pace'
import { setVisitDate } from '../edits/trips/visits'
import { firstLeg, vehicleAtSpeed } from '../dress/first-leg'
import { clamp } from '../geometry/clamp'
import { createJourney } from '../journey/create'
import type { CaptionContent, Corner, DrawnMap, FrameFormat, Journey, Sheet } from '../journey/schema'
import { mapNamesSchema } from '../journey/schema'
import { geodesicDistance } from '../geo/geodesic'
import { groundGeo } from '../geo/ground'
import type { LonLat } from '../geo/lon-lat'
import { USUAL_CARD } from '../marks/card-times'
import { usualLayover } from '../pace/layovers'
import { dressOf, mapOfTrip } from './make-journey'
import type { Mode } from './modes'

/** A film of what was recorded: tracks, photos taken on the way, or photos alone. */
export interface RecordedDay {
  name: string
  /** The day on which it began, as year-month-day; null where that is not known. */
  date: string | null
  /** In the order in which they were travelled, as they lie on the map's ground. */
  tracks: readonly DayTrack[]
  /** The `name` of each is that of the stop that it becomes; '' for none. */
  photos: readonly TripPhoto[]
  /** Seconds by which the camera's clock is behind the recorded times. */
  offset: number
}

export type DayTrack = Pick<TrackOnGround, 'stops' | 'courses'> & {
  /** The mean speed while moving, in km/h; null where it is not known. */
  speed: number | null
  hasTimes: boolean
  hasHeights: boolean
}

/** The least that a map of a day shows, in degrees of longitude: about two kilometres. */
const SMALLEST = 0.02

/** The map on which all that was recorded is seen. @param places the corners of the tracks, and where photos were taken */
export const mapOfDay = (places: readonly LonLat[], frame: Pick<FrameFormat, 'width' | 'height'>): DrawnMap =>
  mapOfTrip(places, frame, SMALLEST)

/** How long a film is, in seconds; of that so long on the way, and so much more for each leg. */
const FILM = { least: 12, most: 60 } as const
const TRAVEL = { least: 8, leg: 0.8, most: 24 } as const

/** How long a photo is seen, and that with its coming and going. */
const SEEN_FOR = 2
const CARD_SECONDS = SEEN_FOR + USUAL_CARD.coming + USUAL_CARD.going

/** So many photos have room in a film of the greatest length. */
export const MOST_CARDS = Math.floor((FILM.most - TRAVEL.most - 4) / (CARD_SECONDS + 0.2))

/**
 * Of many photos so many as are best spread over the day, in their order: the first, then again and again that which is furthest in time from those chosen; photos
 * without a time count as evenly spaced.
 */
export function bestSpread(photos: readonly TripPhoto[], most: number): TripPhoto[] {
  const ordered = inOrder(photos)
  if (ordered.length <= most) return ordered
  const isTimed = ordered.every(({ time }) => time !== null)
  const at = ordered.map(({ time }, i) => (isTimed ? time! : i))
  const apart = at.map((value) => Math.abs(value - at[0]!))
  const chosen = new Set([0])
  while (chosen.size < most) {
    let next = -1
    for (let i = 0; i < at.length; i++) if (!chosen.has(i) && (next < 0 || apart[i]! > apart[next]!)) next = i
    chosen.add(next)
    for (let i = 0; i < at.length; i++) apart[i] = Math.min(apart[i]!, Math.abs(at[i]! - at[next]!))
  }
  return ordered.filter((_, i) => chosen.has(i))
}

/** Of a journey that has just been made there is one traveller. */
const whoOf = (journey: Journey): string => journey.travellers[0]!.id

/** The tracks of a day on its map, without its photos: enough to ask where photos were taken. */
export function journeyOfTracks({ name, tracks }: Pick<RecordedDay, 'name' | 'tracks'>, sheet: Sheet, frame: FrameFormat): Journey {
  const ground = { edge: 'held', names: mapNamesSchema.parse({}) } as const
  const empty = addSheet(setPlan(setGround(createJourney(name, frame, FILM.least), ground), 'calm'), sheet)
  return tracks.reduce((journey, { stops, courses, speed, hasTimes }, k) => {
    const dress = ({ colour }: { colour: string }) => firstLeg(colour, speed === null ? undefined : vehicleAtSpeed(speed))
    // The pace of each leg is the recorded one; how long it takes goes by its length, so that the film need not be as long as the day.
    const target = { use: 'go-on', traveller: whoOf(journey) } as const
    const laid = addTrack(journey, { stops, courses, dress, seconds: null }, target, idsOf(`track-${k}`, stops))
    return hasTimes ? atRecordedPace(laid) : laid
  }, empty)
}

const idsOf = (prefix: string, things: readonly unknown[]) =>
  things.map((_, i) => ({ stop: `${prefix}-stop-${i}`, leg: `${prefix}-leg-${i}` }))

const atRecordedPace = (journey: Journey): Journey => ({
  ...journey,
  travellers: journey.travellers.map((traveller) => ({
    ...traveller,
    legs: traveller.legs.map((leg) => (leg.course.kind === 'track' && leg.course.times !== null ? { ...leg, easing: 'recorded' } : leg)),
  })),
})

/**
 * Makes the journey: the tracks, a stop for each place at which photos were taken, with these as cards, a title with the day, the distance and the height, on a map
 * and filmed by the calm plan. The same day gives the same journey.
 * @throws JourneyError if what was recorded does not lie on the map
 */
export function journeyOfDay(day: RecordedDay, sheet: Sheet, frame: FrameFormat): Journey {
  const tracked = journeyOfTracks(day, sheet, frame)
  const who = whoOf(tracked)
  const photos = day.photos.filter((photo) => isPlaceable(tracked, photo, who, day.offset))
  const dress = dressOf(modeOver(photos, sheet), tracked.travellers[0]!.colour)
  const shown = addPhotoStops(tracked, photos, who, idsOf('photo', photos), { offset: day.offset, dress })
  const dated = day.date === null ? shown : setVisitDate(shown, 0, day.date, who)
  return captioned(inItsTime(withoutLastCards(dated)), day)
}

/** Up to so many km from photo to photo one is on foot, and beyond so many one flies (common practice, no source). */
const WALKED = 4
const FLOWN = 900

/** How one got from photo to photo, where no track says it: by how far they usually are apart. */
function modeOver(photos: readonly TripPhoto[], sheet: Sheet): Mode {
  const geo = groundGeo({ sheets: [sheet] })
  const places = inOrder(photos).flatMap(({ at }) => (at && geo?.toLonLat(at)) ?? [])
  const km = places.slice(1).map((place, i) => geodesicDistance(places[i]!, place) / 1000)
  const usual = km.sort((a, b) => a - b)[km.length >> 1] ?? 0
  return usual <= WALKED ? 'walk' : usual <= FLOWN ? 'drive' : 'fly'
}

/** So long the whole way is seen in the end, after the last card, in seconds. */
const LAST_LOOK = 2.6

/** The cards of the last stop go before the end, so that the whole way is seen. */
function withoutLastCards(journey: Journey): Journey {
  const last = journey.travellers[0]!.visits.at(-1)?.stop
  const cards = journey.stops.find(({ id }) => id === last)?.postcards ?? []
  return cards.reduce((now, { id }) => editPostcard(now, last!, id, { stays: SEEN_FOR }), journey)
}

/** Gives stops with cards the time that these need, and the film a length in which all has room. */
function inItsTime(journey: Journey): Journey {
  const { visits, legs } = journey.travellers[0]!
  const cardsOf = (stop: string) => journey.stops.find(({ id }) => id === stop)?.postcards.length ?? 0
  const seen = new Set<string>()
  const rests = visits.map(({ stop }, i) => {
    const cards = seen.has(stop) ? 0 : cardsOf(stop)
    seen.add(stop)
    const after = i === visits.length - 1 ? LAST_LOOK : 0.4
    return cards === 0 ? null : Math.round((after + cards * CARD_SECONDS) * 10) / 10
  })
  const travel = clamp(TRAVEL.least + TRAVEL.leg * legs.length, TRAVEL.least, TRAVEL.most)
  const resting = rests.reduce<number>((sum, rest, i) => sum + (rest ?? usualLayover(i, visits.length, FILM.most)), 0)
  const seconds = clamp(Math.ceil(travel + resting), FILM.least, Math.max(FILM.most, Math.ceil(TRAVEL.least + resting)))
  return rests.reduce<Journey>((now, rest, i) => (rest === null ? now : setLayover(now, i, rest, whoOf(journey))), { ...journey, seconds })
}

/** The title at the beginning, and the running figures that are known. */
function captioned(journey: Journey, { name, date, tracks }: RecordedDay): Journey {
  const second = date === null ? '' : format(parseISO(date), 'd MMMM yyyy')
  const title = { from: { at: 'start', offset: 0 }, to: { at: 'start', offset: 2.6 }, fade: 0.5 } as const
  const after = { from: { at: 'start', offset: 2.8 }, to: { at: 'end', offset: 0 }, fade: 0.5 } as const
  const add = (now: Journey, id: string, content: CaptionContent, corner: Corner, shown: typeof title | typeof after) =>
    editCaption(addCaption(now, id, content), id, { corner, shown })
  const named = add(journey, 'title', { kind: 'title', text: name, second }, 'bottom', title)
  if (tracks.length === 0) return named
  const measured = add(named, 'distance', { kind: 'distance', traveller: null }, 'top-left', after)
  return tracks.some(({ hasHeights }) => hasHeights) ? add(measured, 'height', { kind: 'height', traveller: null, unit: 'm' }, 'top-right', after) : measured // prettier-ignore
}
