import type { FrameRate } from './rate'
import { fraction } from './rate'

/**
 * Timecode hh:mm:ss:ff of frame k. At 30000/1001 and 60000/1001 drop-frame counting is used and the last separator is ';':
 * the first 2 (4) frame numbers of every minute are left out, except in every tenth minute; at 24000/1001 nothing is. Source: SMPTE ST 12-1.
 */
export function timecode(k: number, rate: FrameRate): string {
  const [n, d] = fraction(rate)
  const base = Math.round(n / d)
  const dropped = d === 1 || base % 30 !== 0 ? 0 : base / 15
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
