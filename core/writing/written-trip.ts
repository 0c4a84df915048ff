import type { LonLat } from '../geo/lon-lat'
import type { WrittenDay } from './dates'
import type { Mode } from './modes'

/** A trip as it was written, in words or as a table. */

/** A place of a trip, as it was written. */
export interface WrittenPlace {
  /** The line that it stands on, from 1. */
  line: number
  /** Its name; '' where there are coordinates alone. */
  name: string
  /** What follows it after commas, or "in": a country, a state, or another place. */
  within: readonly string[]
  /** Where it is, if its coordinates are written. */
  at: LonLat | null
  /** How one gets there from the place before. */
  by: Mode | null
  nights: number | null
  day: WrittenDay | null
  note: string
}

/** Something that was written and not understood; it stays in the text. */
export interface Unread {
  line: number
  text: string
  why: keyof typeof WHY
}

const WHY = {
  day: 'is no day that exists',
  'day-or-month': 'may be two days: write it as 2026-05-12 or 12 May',
  mode: 'is no way to travel that is known here',
  coordinates: 'are no coordinates',
  place: 'says no place',
  calendar: 'is no calendar that can be read: it is damaged or cut short',
  quotes: 'and what follows has a quotation mark that is never closed',
} as const

/** What is wrong with it, as a sentence. */
export const whyUnread = ({ line, text, why }: Unread): string => `Line ${line}: “${text}” ${WHY[why]}.`

/** A column of a table as it was read: its heading, and what it was taken for; null where it says nothing that is known. */
export interface ReadColumn {
  heading: string
  as: string | null
}

export interface WrittenTrip {
  places: readonly WrittenPlace[]
  unread: readonly Unread[]
  /** What the columns were taken for, where it is a table. */
  table: readonly ReadColumn[] | null
}

/** The longest text, and the most places of one. */
export const MOST_TRIP_TEXT = 200_000
export const MOST_PLACES = 200
export const LONGEST_NAME = 120
export const LONGEST_WITHIN = 60
