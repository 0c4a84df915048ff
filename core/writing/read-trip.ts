import { readCoordinates } from '../formats/coordinates'
import type { LonLat } from '../geo/lon-lat'
import type { WrittenDay } from './dates'
import { MONTH, takeDay } from './dates'
import type { Mode } from './modes'
import { MODE_PATTERN as MODE, modeIn, modeOf } from './modes'
import { readTripCalendar } from './trip-calendar'
import { readTripTable } from './trip-table'
import type { Unread, WrittenPlace, WrittenTrip } from './written-trip'
import { LONGEST_NAME, LONGEST_WITHIN, MOST_PLACES } from './written-trip'

const NUMBERS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve']
const NIGHTS = new RegExp(`(?<![\\p{L}\\d])(?:for\\s+)?(\\d{1,3}|an?|${NUMBERS.slice(1).join('|')})\\s+(night|day|week)s?(?!\\p{L})`, 'iu')
const OVERNIGHT = /(?<!\p{L})overnight(?!\p{L})/iu

/** Between places: arrows, dashes that stand free, dashes of a printer before a capital, semicolons, tabs and the word "then". */
const BETWEEN = /\s*(?:-+>|=+>|→|➜|➔|⇒|⟶|»|;|\t)\s*|\s+(?:[-–—]{1,2}|>|then)\s+|\s*[–—]\s*(?=\p{Lu})|\s*,\s*then\s+/iu

/** "by train to", "fly to", "take the ferry to", "on foot to": before a place. */
const LEADING = new RegExp(`^(?:(?:and|then|next|we|i)\\s+)*(?:(?:take|took|catch|go|went|travel)\\s+)?(?:(?:by|on|a|an|the|in)\\s+)*(${MODE})(?!\\p{L})(?:\\s+ride)?\\s*(?:(?:across|over|on|back|down|up)\\s+)?(?:from\\s+(.+?)\\s+)?to\\s+(.+)$`, 'iu') // prettier-ignore
/** The comma before one of these in a row: "Lisbon, by train to Madrid, then fly to Marrakesh". */
const CLAUSE = new RegExp(`\\s*,\\s*(?=(?:(?:and|then)\\s+)*(?:(?:take|took|catch|go|went|travel)\\s+)?(?:(?:by|on|a|an|the|in)\\s+)*(?:${MODE})(?!\\p{L})[^,]*?\\sto\\s)`, 'giu') // prettier-ignore
const TRAILING = new RegExp(`^(.+?)\\s*(?:,\\s*|\\s)(?:by|on)\\s+(?:(?:a|an|the)\\s+)?(${MODE})$`, 'iu')
/** The same written as "by …" of something that is not known. */
const UNKNOWN_MODE = /^(?:by|on)\s+(\p{Ll}[\p{L} ]{1,20})\s+to\s+(.+)$/u

/** Bullets and numbers before a line; "12. May" is a day. */
const BULLET = new RegExp(`^\\s*(?:[-–—*•·]|\\d{1,3}[.)](?!\\s+${MONTH}(?!\\p{L})))\\s+`, 'iu')

/** Words before a place that say nothing of it. */
const BEGINNING = /^(?:(?:and|then|next|on|onwards?|back|finally|first)\s+)*(?:(?:to|via)\s+)?(?=\S)/i

const HEADING = /^(?:day\s+\d+|\p{L}+day|stop\s+\d+)$/iu

/**
 * Reads a trip as people write it: a line for each place or several in one, with arrows or dashes between them; how one gets there ("by train to", "fly to"),
 * nights, days, coordinates, and notes after a colon. What begins with # is left out. A table with headings is read as one, and so is a calendar. Nothing is an error:
 * what is not understood is told.
 */
export function readTrip(text: string): WrittenTrip {
  const kept = readTripCalendar(text) ?? readTripTable(text)
  if (kept) return kept
  const places: WrittenPlace[] = []
  const unread: Unread[] = []
  let by: Mode | null = null
  text.split(/\r\n|\r|\n/).forEach((written, i) => {
    const line = i + 1
    const plain = written.replace(/#.*$/, '').replace(BULLET, '').trim()
    if (plain === '' || places.length >= MOST_PLACES) return
    const { rest, note, day: headed, nights: stays } = noteOf(plain, line, unread)
    let day = headed
    let nights = stays
    // A range of days is one word, and no way from one place to another.
    const segments = rest
      .replaceAll(CLAUSE, '; ')
      .replaceAll(/(\d{1,2}(?:st|nd|rd|th|\.)?)\s*[-–—]\s*(?=\d{1,2}(?:st|nd|rd|th|\.)?\s+\p{L}{3})/giu, '$1-')
      .split(BETWEEN)
    const before = places.length
    for (const segment of segments.flatMap((part) => part ?? [])) {
      const trimmed = segment.trim().replace(BEGINNING, '')
      if (trimmed === '') continue
      const alone = modeIn(trimmed)
      if (alone) {
        by = alone
        continue
      }
      for (const place of placesIn(trimmed, line, unread)) {
        if (places.length >= MOST_PLACES) break
        places.push({ ...place, by: place.by ?? by, day: place.day ?? day, nights: place.nights ?? nights })
        ;[by, day, nights] = [null, null, null]
      }
    }
    const last = places.at(-1)
    if (note !== '' && last && places.length > before) places[places.length - 1] = { ...last, note }
  })
  // Nobody gets to the first place from anywhere.
  if (places[0]) places[0] = { ...places[0], by: null }
  return { places, unread, table: null }
}

/** What stands after a colon is a note; before it there may be a day alone, which is that of what follows. */
function noteOf(
  plain: string,
  line: number,
  unread: Unread[],
): { rest: string; note: string; day: WrittenDay | null; nights: number | null } {
  const nothing = { rest: plain, note: '', day: null, nights: null }
  if (readCoordinates(plain)) return nothing
  const match = /^(.+?)(?<!geo):\s+(.+)$|^(.+?):$/u.exec(plain)
  if (!match) return nothing
  const [head, tail] = [(match[1] ?? match[3])!.trim(), match[2]?.trim() ?? '']
  // "walk: Zermatt" says how one gets there.
  if (tail !== '' && modeIn(head)) return { ...nothing, rest: `${head} to ${tail}` }
  const { day, nights, wrong, rest } = takeDay(head)
  if (wrong !== null) unread.push({ line, text: wrong, why: 'day' })
  if (rest.trim() === '' || HEADING.test(rest.trim())) return { rest: tail, note: '', day, nights }
  return { rest: head, note: tail, day: null, nights: null }
}

/** The places of a piece of text between two arrows: one, or two where it says from where to where. */
function placesIn(text: string, line: number, unread: Unread[]): WrittenPlace[] {
  const leading = LEADING.exec(text)
  if (leading) {
    const [, word, from, to] = leading
    const there = { ...placeOf(to!, line, unread), by: modeOf(word!) }
    return from === undefined ? [there] : [placeOf(from, line, unread), there]
  }
  const trailing = TRAILING.exec(text)
  if (trailing) {
    const led = placesIn(trailing[1]!, line, unread)
    return led.map((place, i) => (i === led.length - 1 ? { ...place, by: modeOf(trailing[2]!) } : place))
  }
  const unknown = UNKNOWN_MODE.exec(text)
  if (unknown) {
    unread.push({ line, text: unknown[1]!, why: 'mode' })
    return [placeOf(unknown[2]!, line, unread)]
  }
  const stages = text.replace(/^from\s+/i, '').split(/\s+to\s+/i).slice(0, MOST_PLACES) // prettier-ignore
  return stages.map((stage) => placeOf(stage, line, unread))
}

function placeOf(text: string, line: number, unread: Unread[]): WrittenPlace {
  const whole = coordinatesIn(text)
  const dated = takeDay(whole.rest)
  if (dated.wrong !== null) unread.push({ line, text: dated.wrong, why: 'day' })
  const stay = nightsIn(dated.rest)
  const inBrackets = stay.rest.replaceAll(/[([]([^)\]]*)[)\]]/g, ', $1')
  const [name = '', ...within] = inBrackets
    .split(/\s*,\s*|\s+in\s+(?=\p{Lu})/u)
    .map((part) => part.replace(/^(?:in|at|near)\s+/i, '').trim())
    .filter((part) => /[\p{L}\p{N}]/u.test(part))
  const by = within.map(modeIn).find((mode) => mode)
  return {
    line,
    name: name.replaceAll(/\s+/g, ' ').slice(0, LONGEST_NAME),
    within: within.filter((part) => !modeIn(part)).slice(0, MOST_PLACES).map((part) => part.slice(0, LONGEST_WITHIN)), // prettier-ignore
    at: whole.at,
    by: by ?? null,
    nights: stay.nights ?? dated.nights,
    day: dated.day,
    note: '',
  }
}

/** Coordinates at the end of a text, and what stands before them. */
function coordinatesIn(text: string): { at: LonLat | null; rest: string } {
  for (const start of [0, ...[...text.matchAll(/[\s(@,]+(?=[-+]?\d|geo:|[NS]\s*\d)/giu)].map(({ index, 0: gap }) => index + gap.length)]) {
    const at = readCoordinates(text.slice(start).replace(/\)\s*$/, ''))
    if (at) return { at, rest: text.slice(0, start).replace(/[\s(@,]+$/, '') }
  }
  return { at: null, rest: text }
}

function nightsIn(text: string): { nights: number | null; rest: string } {
  const match = NIGHTS.exec(text)
  if (!match) {
    const rest = text.replace(OVERNIGHT, ' ')
    return { nights: rest === text ? null : 1, rest }
  }
  const [found, count, unit] = match
  const number = /^an?$/i.test(count!) ? 1 : /^\d/.test(count!) ? Number(count) : NUMBERS.indexOf(count!.toLowerCase())
  return { nights: number * (unit!.toLowerCase() === 'week' ? 7 : 1), rest: text.replace(found, ' ') }
}
