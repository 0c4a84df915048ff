/** The rate at which all sound is kept and mixed, in samples a second. */
export const SOUND_RATE = 48_000

const HEADER = 44

/** The header of a WAV file (RIFF, 16-bit integers): of the format chunk of the Multimedia Programming Interface and Data Specifications 1.0, 1991. */
export function wavHeader(samples: number, channels: number, rate: number): Uint8Array {
  const view = new DataView(new ArrayBuffer(HEADER))
  const word = (at: number, text: string) => [...text].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)))
  const bytes = 2 * channels * samples
  word(0, 'RIFF')
  view.setUint32(4, HEADER - 8 + bytes, true)
  word(8, 'WAVE')
  word(12, 'fmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, rate, true)
  view.setUint32(28, rate * channels * 2, true)
  view.setUint16(32, channels * 2, true)
  view.setUint16(34, 16, true)
  word(36, 'data')
  view.setUint32(40, bytes, true)
  return new Uint8Array(view.buffer)
}

/** Samples as the interleaved 16-bit integers of a WAV file; what is too loud is clipped. */
export function toIntegers(channels: readonly Float32Array[]): Int16Array {
  const [first] = channels
  const count = channels.length
  const out = new Int16Array(first!.length * count)
  channels.forEach((samples, c) => {
    for (let i = 0; i < samples.length; i++) out[i * count + c] = Math.round(Math.max(-1, Math.min(1, samples[i]!)) * 32767)
  })
  return out
}
