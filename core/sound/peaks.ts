/** The loudest samples of each stretch of a sound, for its picture. */
export interface Peaks {
  /** Stretches a second. */
  rate: number
  /** From 0 to 1. */
  values: Float32Array
}

/** Stretches a second: at the closest that the strip is zoomed in one is a few pixels wide. */
const PEAKS_A_SECOND = 100

/** @param samples two channels in turn, 16-bit integers @param rate samples a second of a channel */
export function peaksOf(samples: Int16Array, rate: number): Peaks {
  const stretch = (2 * rate) / PEAKS_A_SECOND
  const values = new Float32Array(Math.ceil(samples.length / stretch))
  for (let k = 0; k < values.length; k++) {
    let most = 0
    const end = Math.min(samples.length, (k + 1) * stretch)
    for (let i = k * stretch; i < end; i++) most = Math.max(most, Math.abs(samples[i]!))
    values[k] = most / 32768
  }
  return { rate: PEAKS_A_SECOND, values }
}
