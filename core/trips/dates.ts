import { addDays, differenceInCalendarDays, format, parseISO } from 'date-fns'
import type { CompiledVisit } from './compiled'

/** How a date is written in the film, such as "4 June 2026". */
export const formatDate = (date: string): string => format(parseISO(date), 'd MMMM yyyy')

/** The day of a trip: its date, and its number, from 1. */
export interface TripDay {
  date: string
  number: number
}

/**
 * The day at a time of the film, by the dates of a trip's visits. Between two of them the days go by evenly while one travels, each changing in its
 * middle, so that one day more changes half-way. Undefined where no visit has a date.
 */
export function tripDayAt(visits: readonly Pick<CompiledVisit, 'arrive' | 'leave' | 'date'>[], time: number): TripDay | undefined {
  const dated = visits.flatMap(({ arrive, leave, date }) => (date === null ? [] : [{ arrive, leave, date }]))
  const first = dated[0]
  if (!first) return undefined
  const next = dated.find(({ arrive }) => arrive > time)
  const last = dated.findLast(({ arrive }) => arrive <= time) ?? first
  const days = next ? differenceInCalendarDays(parseISO(next.date), parseISO(last.date)) : 0
  const share = next && time > last.leave ? (time - last.leave) / (next.arrive - last.leave) : 0
  const date = format(addDays(parseISO(last.date), Math.round(days * share)), 'yyyy-MM-dd')
  return { date, number: 1 + differenceInCalendarDays(parseISO(date), parseISO(first.date)) }
}
