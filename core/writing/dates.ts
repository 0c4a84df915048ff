import { getDaysInMonth, parseISO } from 'date-fns'

/** Days as they are written in the text of a trip. */
export interface WrittenDay {
  day: number
  /** 1 to 12. */
  month: number
  year: number | null
}

/** A day, and the text without it. `wrong` is one that does not exist, as it was written. */
interface FoundDay {
  day: WrittenDay | null
  /** How many nights it says by naming a last day, too: "12–15 May". */
  nights: number | null
  wrong: string | null
  rest: string
}

const MONTHS = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december'] as const // prettier-ignore
/** A month as it is written, for a regular expression. */
export const MONTH = `(?:${MONTHS.map((month) => `${month.slice(0, 3)}(?:${month.slice(3)})?`).join('|')}|sept)\\.?`
const WEEKDAY = '(?:(?:mon|tue|tues|wed|thu|thur|thurs|fri|sat|sun)(?:day|nesday|rsday|urday|sday)?\\.?,?\\s+)?'
const ORDINAL = '(\\d{1,2})(?:st|nd|rd|th|\\.)?'
const RANGE = `${ORDINAL}(?:\\s*(?:[-–—]|to)\\s*${ORDINAL})?`
const YEAR = '(?:,?\\s+(\\d{4}))?'

/** Each form of a date, with what its groups are. */
const FORMS: readonly { pattern: RegExp; read: (m: RegExpExecArray) => WrittenDay & { last?: number } }[] = [
  { pattern: /(?<![\d-])(\d{4})-(\d{2})-(\d{2})(?![\d-])/, read: (m) => ({ year: Number(m[1]), month: Number(m[2]), day: Number(m[3]) }) },
  {
    pattern: new RegExp(`(?<![\\p{L}\\d])${WEEKDAY}${RANGE}\\s+(?:of\\s+)?(${MONTH})(?!\\p{L})${YEAR}`, 'iu'),
    read: (m) => ({ day: Number(m[1]), ...(m[2] && { last: Number(m[2]) }), month: monthOf(m[3]!), year: m[4] ? Number(m[4]) : null }),
  },
  {
    pattern: new RegExp(`(?<![\\p{L}\\d])${WEEKDAY}(${MONTH})(?!\\p{L})\\s+${RANGE}(?!\\d)${YEAR}`, 'iu'),
    read: (m) => ({ month: monthOf(m[1]!), day: Number(m[2]), ...(m[3] && { last: Number(m[3]) }), year: m[4] ? Number(m[4]) : null }),
  },
  {
    pattern: /(?<![\d.])(\d{1,2})\.(\d{1,2})\.(\d{4})?(?![\d.])/,
    read: (m) => ({ day: Number(m[1]), month: Number(m[2]), year: m[3] ? Number(m[3]) : null }),
  },
]

const monthOf = (word: string): number => MONTHS.findIndex((month) => month.startsWith(word.toLowerCase().slice(0, 3))) + 1

const LEAP = 2024

/** How many days a month has; February has 29 where no year is known. */
const daysIn = (month: number, year: number | null): number =>
  getDaysInMonth(parseISO(`${year ?? LEAP}-${String(month).padStart(2, '0')}-01`))

const exists = ({ day, month, year }: WrittenDay): boolean => month >= 1 && month <= 12 && day >= 1 && day <= daysIn(month, year)

/** Finds the first day that is written in a text: ISO 8601, `12 May`, `May 12`, `12.5.`, each also with a weekday, a year, or a last day. */
export function takeDay(text: string): FoundDay {
  for (const { pattern, read } of FORMS) {
    const match = pattern.exec(text)
    if (!match) continue
    const { last, ...day } = read(match)
    const rest = `${text.slice(0, match.index)} ${text.slice(match.index + match[0].length)}`
    if (!exists(day) || (last !== undefined && (last <= day.day || last > daysIn(day.month, day.year))))
      return { day: null, nights: null, wrong: match[0].trim(), rest }
    return { day, nights: last === undefined ? null : last - day.day, wrong: null, rest }
  }
  return { day: null, nights: null, wrong: null, rest: text }
}

/** As year-month-day (ISO 8601). */
export const isoDay = ({ day, month }: WrittenDay, year: number): string =>
  [String(year).padStart(4, '0'), String(month).padStart(2, '0'), String(day).padStart(2, '0')].join('-')

/** Days of a trip as year-month-day: those without a year are the first from the one before them on, or, of the first, in a given year. */
export function inYears(days: readonly (WrittenDay | null)[], year: number): (string | null)[] {
  let before = { year: days.find((day) => day)?.year ?? year, key: 0 }
  return days.map((written) => {
    if (!written) return null
    const key = written.month * 100 + written.day
    const own = written.year ?? (key < before.key ? before.year + 1 : before.year)
    before = { year: own, key }
    // 29 February is only in some years.
    if (!exists({ ...written, year: own })) return null
    return isoDay(written, own)
  })
}
