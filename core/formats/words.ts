import type { CompiledJourney } from '../trips/compiled'
import { nameOfStop } from '../journey/lookup'
import { frameIndexAt } from '../pace/rate'
import { timecode } from '../pace/timecode'

/** When a film is at which stop, in words for an editor: chapters, subtitles, tables. */

export interface StopTime {
  /** In seconds. */
  from: number
  to: number
  name: string
  traveller: string
  arrive: number
  leave: number
}

/**
 * What the film is about at which time: from the arrival at a stop to the arrival at the next one, in order and without gaps. With several travellers it goes by
 * the one that arrived last.
 */
export function stopTimes({ travellers, journey }: CompiledJourney): StopTime[] {
  const visits = travellers
    .filter(({ traveller }) => traveller.shown)
    .flatMap(({ traveller, visits: all }) =>
      all.map(({ stop, arrive, leave }) => ({ name: nameOfStop(stop), traveller: traveller.name, arrive, leave })),
    )
    .sort((a, b) => a.arrive - b.arrive)
  return visits.flatMap((visit, i) => {
    const from = i === 0 ? 0 : visit.arrive
    const to = visits[i + 1]?.arrive ?? journey.seconds
    return to > from ? [{ ...visit, from, to }] : []
  })
}

export const WORDS_FORMATS = ['vtt', 'srt', 'csv', 'txt'] as const
export type WordsFormat = (typeof WORDS_FORMATS)[number]

/** What each format is for, and its MIME type. */
export const WORDS: Readonly<Record<WordsFormat, { title: string; type: string; write: (compiled: CompiledJourney) => string }>> = {
  vtt: { title: 'Chapters (WebVTT)', type: 'text/vtt', write: writeVtt },
  srt: { title: 'Subtitles (SRT)', type: 'application/x-subrip', write: writeSrt },
  csv: { title: 'Table (CSV)', type: 'text/csv', write: writeCsv },
  txt: { title: 'Chapter list (text)', type: 'text/plain', write: writeList },
}

/** Hours, minutes, seconds and thousandths: `hh:mm:ss.ttt`. */
function clock(seconds: number, separator: '.' | ','): string {
  const all = Math.round(seconds * 1000)
  const parts = [Math.floor(all / 3_600_000), Math.floor(all / 60_000) % 60, Math.floor(all / 1000) % 60]
  return `${parts.map((part) => String(part).padStart(2, '0')).join(':')}${separator}${String(all % 1000).padStart(3, '0')}`
}

/** One line, as the text of a cue must not have an empty one. */
const line = (text: string): string => text.replace(/\s+/g, ' ').trim()

/** Chapters as W3C WebVTT: cues in order that do not overlap; `&`, `<` and `>` are written as entities, so no text ends a cue or begins a tag. */
function writeVtt(compiled: CompiledJourney): string {
  const safe = (text: string) => line(text).replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
  const cues = stopTimes(compiled).map(({ from, to, name }, i) => `${i + 1}\n${clock(from, '.')} --> ${clock(to, '.')}\n${safe(name)}\n`)
  return `WEBVTT\n\n${cues.join('\n')}`
}

/** SubRip subtitles: numbered blocks with a comma before the thousandths (common practice, no standard). */
function writeSrt(compiled: CompiledJourney): string {
  return stopTimes(compiled)
    .map(({ from, to, name }, i) => `${i + 1}\r\n${clock(from, ',')} --> ${clock(to, ',')}\r\n${line(name)}\r\n`)
    .join('\r\n')
}

/** A table as RFC 4180: CRLF, and fields in quotation marks where they need them. */
function writeCsv(compiled: CompiledJourney): string {
  const { rate } = compiled.journey.frame
  const quoted = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text)
  const code = (seconds: number) => timecode(frameIndexAt(seconds, rate), rate)
  const rows = stopTimes(compiled).map(({ name, traveller, arrive, leave }) => [
    name,
    traveller,
    arrive.toFixed(3),
    leave.toFixed(3),
    code(arrive),
    code(leave),
  ])
  const head = ['Stop', 'Traveller', 'Arrives (s)', 'Leaves (s)', 'Arrives (timecode)', 'Leaves (timecode)']
  return [head, ...rows].map((row) => `${row.map(quoted).join(',')}\r\n`).join('')
}

/** A line for each chapter, from `0:00` on, as descriptions of videos have them (common practice, no source). */
function writeList(compiled: CompiledJourney): string {
  const short = (seconds: number) => {
    const whole = Math.floor(seconds + 1e-6)
    const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, String(whole % 60).padStart(2, '0')]
    return hours > 0 ? `${hours}:${String(minutes).padStart(2, '0')}:${rest}` : `${minutes}:${rest}`
  }
  return stopTimes(compiled)
    .map(({ from, name }) => `${short(from)} ${line(name)}\n`)
    .join('')
}
