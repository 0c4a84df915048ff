import { differenceInCalendarDays, parseISO } from 'date-fns'
import ICAL from 'ical.js'
import type { LonLat } from '../geo/lon-lat'
import type { WrittenDay } from './dates'
import { isoDay } from './dates'
import type { Mode } from './modes'
import { MODE_PATTERN, modeOf } from './modes'
import type { Unread, WrittenPlace, WrittenTrip } from './written-trip'
import { LONGEST_NAME, LONGEST_WITHIN, MOST_PLACES } from './written-trip'

/** A trip as a calendar: the events of an iCalendar file (RFC 5545) that say where they are. */

const BEGINNING = /^\uFEFF?\s*BEGIN:VCALENDAR/i
/** So many events without a place are told; more would hide what matters. */
const MOST_TOLD = 12
/** "Flight to Rome" says how one gets there. */
const GOING = new RegExp(`^(?:by\\s+)?(${MODE_PATTERN})(?!\\p{L}).*\\sto\\s`, 'iu')
/** Numbers of houses and codes of the post, about the name of a town. */
const CODES = /(?<!\p{L})[\p{Lu}-]{0,3}\d[\p{L}\d-]*/gu

interface Event {
  summary: string
  location: string
  at: LonLat | null
  from: WrittenDay
  to: WrittenDay
  isAllDay: boolean
  /** For their order. */
  begins: number
}

/** Reads the places of a calendar in the order of its events; undefined where the text is none. What says no place, and what is damaged, is told. */
export function readTripCalendar(text: string): WrittenTrip | undefined {
  if (!BEGINNING.test(text)) return undefined
  let events: Event[]
  try {
    // Some calendars are several, one after the other.
    const parsed = ICAL.parse(text.replace(/^\uFEFF?\s*/, '')) as unknown as [unknown] | [unknown][]
    const calendars = Array.isArray(parsed[0]) ? (parsed as unknown[]) : [parsed]
    events = calendars.flatMap((calendar) => new ICAL.Component(calendar as never).getAllSubcomponents('vevent')).flatMap(eventOf)
  } catch {
    return { places: [], unread: [{ line: 1, text: 'BEGIN:VCALENDAR', why: 'calendar' }], table: null }
  }
  events.sort((a, b) => a.begins - b.begins)
  const unread = events
    .filter(({ location, at }) => location === '' && !at)
    .slice(0, MOST_TOLD)
    .map(({ summary }): Unread => ({ line: lineOf(text, summary), text: summary.slice(0, 80) || 'An event', why: 'place' }))
  const places = events.flatMap((event) => placeOf(event, lineOf(text, event.summary)) ?? []).slice(0, MOST_PLACES)
  if (places[0]) places[0] = { ...places[0], by: null }
  return { places, unread, table: null }
}

/** The line on which something first stands, from 1; long lines are folded, so only their beginning is looked for. */
function lineOf(text: string, summary: string): number {
  const at = summary === '' ? -1 : text.indexOf(summary.slice(0, 40))
  return at < 0 ? 1 : text.slice(0, at).split('\n').length
}

function eventOf(component: ICAL.Component): Event[] {
  const starts = component.getFirstPropertyValue('dtstart')
  if (!(starts instanceof ICAL.Time)) return []
  const ends = component.getFirstPropertyValue('dtend')
  const last = ends instanceof ICAL.Time ? ends : starts
  const geo = component.getFirstPropertyValue('geo') as unknown
  const words = (name: string) => {
    const value = component.getFirstPropertyValue(name)
    return typeof value === 'string' ? value.replaceAll(/\s+/g, ' ').trim() : ''
  }
  return [
    {
      summary: words('summary'),
      location: words('location'),
      at: pointOf(geo),
      from: dayOf(starts),
      to: dayOf(last),
      isAllDay: starts.isDate,
      begins: starts.toJSDate().getTime(),
    },
  ]
}

const dayOf = ({ year, month, day }: ICAL.Time): WrittenDay => ({ year, month, day })

/** RFC 5545, section 3.8.1.6: latitude and longitude in degrees. */
function pointOf(geo: unknown): LonLat | null {
  if (!Array.isArray(geo) || geo.length !== 2) return null
  const [lat, lon] = geo.map(Number) as [number, number]
  return Math.abs(lat) <= 90 && Math.abs(lon) <= 180 ? { lat, lon } : null
}

function placeOf({ summary, location, at, from, to, isAllDay }: Event, line: number): WrittenPlace | undefined {
  const parts = location
    .split(/\s*[,;\n]\s*/)
    .map((part) => part.replaceAll(CODES, ' ').replaceAll(/\s+/g, ' ').trim())
    .filter((part) => /\p{L}/u.test(part))
  // Of an address the town stands before the country; a short one begins with it. With coordinates the house itself is meant.
  const town = at || parts.length < 3 ? 0 : parts.length - 2
  const name = parts[town] ?? (at ? summary : '')
  if (name === '' && !at) return undefined
  const nights = differenceInCalendarDays(parseISO(isoDay(to, to.year!)), parseISO(isoDay(from, from.year!))) - (isAllDay ? 1 : 0)
  return {
    line,
    name: name.slice(0, LONGEST_NAME),
    within: parts.slice(town + 1).map((part) => part.slice(0, LONGEST_WITHIN)),
    at,
    by: modeIn(summary),
    nights: nights > 0 ? nights : null,
    day: from,
    note: summary === name ? '' : summary,
  }
}

function modeIn(summary: string): Mode | null {
  const match = GOING.exec(summary)
  return match ? modeOf(match[1]!) : null
}
