import { lineNoise } from '../geometry/noise'
import { SOUND_RATE } from './pcm'

/**
 * Sounds of our own making, as functions of time: each gives the sample at a time after it began, in seconds, from -1 to 1, and is silent when it is over. The
 * values of pitches and decays were set by ear.
 */
export interface Sound {
  seconds: number
  at(t: number): number
}

const TAU = 2 * Math.PI
const decay = (t: number, half: number): number => 2 ** (-t / half)

/** Noise with nothing far above a frequency. @param pitch in Hz */
const softNoise = (t: number, pitch: number, seed: number): number => lineNoise(seed, t * pitch)

/** A soft pop that falls in pitch, as a pin appears. */
export const pop: Sound = {
  seconds: 0.18,
  at: (t) => {
    const phase = TAU * (900 * t - 2400 * t * t)
    return Math.min(1, t / 0.003) * decay(t, 0.028) * Math.sin(t < 0.17 ? phase : 0)
  },
}

/** Air that rises and dies away, as something takes off. */
export const whoosh: Sound = {
  seconds: 1.4,
  at: (t) => {
    const swell = Math.sin(Math.PI * Math.min(1, t / 1.4)) ** 2
    return 0.8 * swell * softNoise(t, 700 + 2600 * swell, 3)
  },
}

/** A bicycle bell: two strokes of a few partials that do not fit together. */
export const bell: Sound = {
  seconds: 1.2,
  at: (t) => stroke(t) + 0.8 * stroke(t - 0.16),
}

function stroke(t: number): number {
  if (t < 0) return 0
  const partials = [[2093, 1, 0.22], [3520, 0.5, 0.15], [5274, 0.35, 0.09]] as const // prettier-ignore
  return (
    0.45 *
    Math.min(1, t / 0.002) *
    partials.reduce((sum, [pitch, loud, half]) => sum + loud * decay(t, half) * Math.sin(TAU * pitch * t), 0)
  )
}

/** One pull of the oars: the dip, the pull through the water, the drip. */
export const oar: Sound = {
  seconds: 1,
  at: (t) => {
    const dip = decay(t, 0.05) * softNoise(t, 1800, 5)
    const pull = 0.55 * Math.max(0, Math.sin(Math.PI * Math.min(1, Math.max(0, (t - 0.08) / 0.6)))) * softNoise(t, 900, 6)
    return 0.7 * (dip + pull)
  },
}

/** A wheel over a joint of the rails. */
export const joint: Sound = {
  seconds: 0.16,
  at: (t) => {
    const knock = decay(t, 0.018) * Math.sin(TAU * 190 * t) + 0.5 * decay(t, 0.009) * softNoise(t, 5200, 9)
    return 0.9 * Math.min(1, t / 0.001) * knock
  },
}

/** The phase of an engine, in turns, is given by its user, as its pitch follows the speed. @param loud how hard it works, 0 to 1 */
export function engineAt(turns: number, loud: number, t: number): number {
  const x = TAU * turns
  const body = Math.sin(x) + 0.6 * Math.sin(2 * x + 0.4) + 0.35 * Math.sin(3 * x + 1.1) + 0.2 * Math.sin(5 * x)
  return loud * (0.3 * body + 0.12 * softNoise(t, 1200, 11))
}

/** Samples of a sound. */
export const samplesIn = (seconds: number): number => Math.ceil(seconds * SOUND_RATE)
