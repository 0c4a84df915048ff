import '../services/zod-without-eval'
import { compile } from '#core/frame/compile'
import type { PieceSource } from '#core/film/mix'
import { mixOf, mixPart } from '#core/film/mix'
import { SOUND_CALLS } from '#core/film/sound-messages'
import { parseJourney } from '#core/journey/parse'
import { NO_PLACES } from '#core/labels/label-scene'
import { findBeats } from '#core/sound/beats'
import { SOUND_RATE } from '#core/sound/pcm'
import { peaksOf } from '#core/sound/peaks'
import { serve } from './serve'

/** Keeps the pieces of sound of a journey, pictures them, finds their beats, and mixes what is heard with the film. */
const pieces = new Map<string, Int16Array>()
const source: PieceSource = (file, first, count) => pieces.get(file)?.subarray(2 * first, 2 * (first + count)) ?? new Int16Array(0)

serve(SOUND_CALLS, {
  keep({ file, samples }, { transfer }) {
    pieces.set(file, samples)
    const peaks = peaksOf(samples, SOUND_RATE) as { rate: number; values: Float32Array<ArrayBuffer> }
    transfer(peaks.values.buffer)
    return peaks
  },
  beats({ file, from, to }) {
    const samples = source(file, Math.round(from * SOUND_RATE), Math.round((to - from) * SOUND_RATE))
    const mono = Float32Array.from({ length: samples.length / 2 }, (_, i) => (samples[2 * i]! + samples[2 * i + 1]!) / 65536)
    const found = findBeats(mono, SOUND_RATE)
    return found ? { ...found, times: found.times.map((time) => Math.round((time + from) * 1000) / 1000) } : null
  },
  mix({ journey }, { transfer }) {
    const mix = mixOf(compile(parseJourney(journey), NO_PLACES))
    if (!mix) return null
    const channels = mixPart(mix, source, 0, mix.length) as [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]
    transfer(...channels.map(({ buffer }) => buffer))
    return channels
  },
})
