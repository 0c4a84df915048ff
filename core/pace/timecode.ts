import type { FrameRate } from './rate'
import { fraction, frameTime } from './rate'

/** How many frames timecode counts to the second, and how many frame numbers it leaves out in most minutes. */
function countOf(rate: FrameRate): { base: number; dropped: number } {
  const [n, d] = fraction(rate)
  const base = Math.round(n / d)
  return { base, dropped: d === 1 || base % 30 !== 0 ? 0 : base / 15 }
}

/**
 * Timecode hh:mm:ss:ff of frame k. At 30000/1001 and 60000/1001 drop-frame counting is used and the last separator is ';':
 * the first 2 (4) frame numbers of every minute are left out, except in every tenth minute; at 24000/1001 nothing is. Source: SMPTE ST 12-1.
 */
export function timecode(k: number, rate: FrameRate): string {
  const { base, dropped } = countOf(rate)
  const number = dropped ? k + droppedBefore(k, base, dropped) : k
  const parts = [Math.floor(number / (3600 * base)), Math.floor(number / (60 * base)) % 60, Math.floor(number / base) % 60]
  const pad = (v: number) => String(v).padStart(2, '0')
  return `${parts.map(pad).join(':')}${dropped ? ';' : ':'}${pad(number % base)}`
}

function droppedBefore(k: number, base: number, dropped: number): number {
  const perMinute = 60 * base - dropped
  const perTenMinutes = 10 * perMinute + dropped
  const tens = Math.floor(k / perTenMinutes)
  const rest = k % perTenMinutes
  const minutes = rest < 60 * base ? 0 : 1 + Math.floor((rest - 60 * base) / perMinute)
  return dropped * (9 * tens + minutes)
}

/** The frame that a timecode names; undefined where it is none, or names a frame number that is left out at this rate. */
export function frameOfTimecode(text: string, rate: FrameRate): number | undefined {
  const [hours, minutes, seconds, frames] = /^(\d{1,2}):(\d{2}):(\d{2})[:;](\d{2})$/.exec(text)?.slice(1).map(Number) ?? []
  const { base, dropped } = countOf(rate)
  if (hours === undefined || minutes! >= 60 || seconds! >= 60 || frames! >= base) return undefined
  if (seconds === 0 && frames! < dropped && minutes! % 10 !== 0) return undefined
  const minute = 60 * hours + minutes!
  return (60 * minute + seconds!) * base + frames! - dropped * (minute - Math.floor(minute / 10))
}

/** Where a time that is typed begins, for one that is given as a change of it, and the film's rate. */
interface TypedFrom {
  now: number
  rate: FrameRate
}

/**
 * Seconds as people type them: `2.5`, `2,5`, `2.5s`, `1:05` (minutes and seconds), `12f` (frames), `00:00:04:12` (timecode); and with a sign before one of the
 * last two, or before seconds with their `s`, so much later or earlier than now: `+12f`, `-1.5s`. A sign before a number alone is that of the number.
 *
 * @returns NaN for anything else; `isExact` where what was typed is a frame
 */
export function typedSeconds(text: string, { now, rate }: TypedFrom): { seconds: number; isExact: boolean } {
  const typed = text.trim().replace(',', '.').toLowerCase()
  const [, sign = '', rest = ''] = /^([+-]?)\s*(.*)$/.exec(typed)!
  const from = (length: number) => (sign === '' ? length : sign === '-' ? now - length : now + length)
  const frames = /^(\d+)\s*f$/.exec(rest)?.[1]
  if (frames !== undefined) return { seconds: from(frameTime(Number(frames), rate)), isExact: true }
  const frame = frameOfTimecode(rest, rate)
  if (frame !== undefined) return { seconds: from(frameTime(frame, rate)), isExact: true }
  const [, number, unit] = /^(\d+\.?\d*|\.\d+)\s*(s?)$/.exec(rest) ?? []
  if (number !== undefined) return { seconds: unit === 's' ? from(Number(number)) : Number(sign + number), isExact: false }
  const [, minutes, seconds] = (sign === '' && /^(\d+):(\d{1,2}(?:\.\d+)?)$/.exec(rest)) || []
  return { seconds: minutes === undefined ? NaN : Number(minutes) * 60 + Number(seconds), isExact: false }
}
