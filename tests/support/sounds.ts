import { seeded } from '#demo/noise'

interface Clicks {
  /** Beats a minute. */
  tempo: number
  seconds: number
  /** When the first click is, in seconds. */
  start?: number
  /** Softer clicks at this share of each beat. */
  swing?: number
  /** The loudness of noise under it, as a share of the clicks'. */
  noise?: number
  rate?: number
}

/** Clicks of 20 ms at even intervals. */
export function clickTrack({ tempo, seconds, start = 0, swing, noise = 0, rate = 48_000 }: Clicks): Float32Array {
  const samples = new Float32Array(Math.round(seconds * rate))
  const random = seeded(7)
  if (noise > 0) for (let i = 0; i < samples.length; i++) samples[i] = noise * (2 * random() - 1)
  const click = (at: number, loudness: number, pitch: number) => {
    const from = Math.round(at * rate)
    for (let i = 0; i < 0.02 * rate && from + i < samples.length; i++)
      samples[from + i]! += loudness * Math.exp((-6 * i) / (0.02 * rate)) * Math.sin((2 * Math.PI * pitch * i) / rate)
  }
  const period = 60 / tempo
  for (let at = start; at < seconds; at += period) {
    click(at, 0.9, 1000)
    if (swing !== undefined) click(at + swing * period, 0.5, 1400)
  }
  return samples
}

interface Band {
  /** Beats a minute at the start. */
  tempo: number
  seconds: number
  /** Silence before the first beat, in seconds. */
  start?: number
  /** The tempo at the end, as a share of that at the start. */
  drift?: number
  /** Beats in a bar, the first of them played harder; none if left out. */
  bar?: number
  /** Where in a beat each is played, as shares of it. */
  hats?: readonly number[]
  bass?: readonly number[]
  /** Played on these beats of a bar of four in the place of a kick. */
  snares?: readonly number[]
  noise?: number
  rate?: number
}

/** A made drum track with a kick on every beat, and when the beats are, in seconds. */
export function drumTrack({
  tempo,
  seconds,
  start = 0,
  drift = 1,
  bar,
  hats = [],
  bass = [],
  snares = [],
  noise = 0,
  rate = 48_000,
}: Band): {
  samples: Float32Array
  beats: number[]
} {
  const samples = new Float32Array(Math.round(seconds * rate))
  const random = seeded(11)
  const from = Math.round(start * rate)
  if (noise > 0) for (let i = from; i < samples.length; i++) samples[i] = noise * (2 * random() - 1)
  const play = (at: number, length: number, voice: (t: number) => number) => {
    const first = Math.round(at * rate)
    for (let i = 0; i < length * rate && first + i < samples.length; i++) samples[first + i]! += voice(i / rate)
  }
  const beats: number[] = []
  let at = start
  for (let k = 0; at < seconds - 0.05; k++) {
    beats.push(at)
    const period = 60 / (tempo * (1 + ((drift - 1) * (at - start)) / (seconds - start)))
    const loud = bar !== undefined && k % bar === 0 ? 0.8 : 0.5
    // A kick is a tone that falls from 150 to 50 Hz; a snare and a hat are noise, the hat without its lower part.
    if (snares.includes(k % 4)) play(at, 0.15, (t) => 0.45 * Math.exp(-t / 0.04) * (2 * random() - 1))
    else play(at, 0.25, (t) => loud * Math.exp(-t / 0.08) * Math.sin(2 * Math.PI * (50 * t + 100 * 0.03 * (1 - Math.exp(-t / 0.03)))))
    let before = 0
    for (const share of hats)
      play(at + share * period, 0.06, (t) => {
        const white = 2 * random() - 1
        const high = white - before
        before = white
        return 0.12 * Math.exp(-t / 0.015) * high
      })
    for (const share of bass)
      play(at + share * period, 0.4 * period, (t) => 0.3 * Math.min(1, t / 0.01) * Math.exp(-t / 0.3) * Math.sin(2 * Math.PI * 65 * t))
    at += period
  }
  return { samples, beats }
}
