/** Frame rates on offer, as exact fractions: 30000/1001 is not 29.97. */
export const FRAME_RATES = ['24000/1001', '24/1', '25/1', '30000/1001', '30/1', '48/1', '50/1', '60000/1001', '60/1'] as const
export type FrameRate = (typeof FRAME_RATES)[number]

type Fraction = readonly [numerator: number, denominator: number]
const FRACTIONS = Object.fromEntries(FRAME_RATES.map((rate) => [rate, rate.split('/').map(Number)])) as unknown as Readonly<Record<FrameRate, Fraction>> // prettier-ignore

/** Numerator and denominator of a rate in frames a second. */
export const fraction = (rate: FrameRate): Fraction => FRACTIONS[rate]

/** Frames in a second, as a plain number: for speeds and limits, not for counting frames. */
export function framesPerSecond(rate: FrameRate): number {
  const [n, d] = fraction(rate)
  return n / d
}

/** Number of frames in a film of so many seconds: N = round(seconds x rate). */
export function frameCount(seconds: number, rate: FrameRate): number {
  const [n, d] = fraction(rate)
  return Math.round((seconds * n) / d)
}

/** The time, in seconds, that frame k shows: k / rate. */
export function frameTime(k: number, rate: FrameRate): number {
  const [n, d] = fraction(rate)
  return (k * d) / n
}

/** The frame on screen at a time in seconds: the last one whose time is not later. Exact for every time from frameTime. */
export function frameIndexAt(seconds: number, rate: FrameRate): number {
  const [n, d] = fraction(rate)
  const k = Math.floor((seconds * n) / d)
  return frameTime(k + 1, rate) <= seconds ? k + 1 : k
}

/** The usual name of the rate: '29.97', '30', ... */
export function rateLabel(rate: FrameRate): string {
  const [n, d] = fraction(rate)
  return d === 1 ? String(n) : String(Math.round(1000 * framesPerSecond(rate)) / 1000)
}
