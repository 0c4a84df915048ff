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
