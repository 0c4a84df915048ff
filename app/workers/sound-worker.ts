import '../services/zod-without-eval'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { parseJourney } from '#core/journey/parse'
import { findBeats } from '#core/sound/beats'
import type { SoundOrder, SoundReply } from '#core/film/sound-messages'
import { soundOrderSchema } from '#core/film/sound-messages'
import type { PieceSource } from '#core/film/mix'
import { mixOf, mixPart } from '#core/film/mix'
import { peaksOf } from '#core/sound/peaks'
import { SOUND_RATE } from '#core/sound/pcm'

/** Keeps the pieces of sound of a journey, pictures them, finds their beats, and mixes what is heard with the film. */
const pieces = new Map<string, Int16Array>()
const source: PieceSource = (file, first, count) => pieces.get(file)?.subarray(2 * first, 2 * (first + count)) ?? new Int16Array(0)

function answer(order: SoundOrder): SoundReply {
  switch (order.do) {
    case 'keep': {
      pieces.set(order.file, order.samples)
      const { rate, values } = peaksOf(order.samples, SOUND_RATE)
      return { is: 'peaks', order: order.order, rate, values: values as Float32Array<ArrayBuffer> }
    }
    case 'beats': {
      const samples = source(order.file, Math.round(order.from * SOUND_RATE), Math.round((order.to - order.from) * SOUND_RATE))
      const mono = Float32Array.from({ length: samples.length / 2 }, (_, i) => (samples[2 * i]! + samples[2 * i + 1]!) / 65536)
      const found = findBeats(mono, SOUND_RATE)
      return {
        is: 'beats',
        order: order.order,
        beats: found ? { tempo: found.tempo, times: found.times.map((time) => Math.round((time + order.from) * 1000) / 1000) } : null,
      }
    }
    case 'mix': {
      const mix = mixOf(compile(parseJourney(order.journey), NO_PLACES))
      return {
        is: 'mix',
        order: order.order,
        channels: mix ? (mixPart(mix, source, 0, mix.length) as [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>]) : null,
      }
    }
    default:
      return order satisfies never
  }
}

self.onmessage = ({ data }: MessageEvent<unknown>) => {
  const order = soundOrderSchema.parse(data)
  try {
    const reply = answer(order)
    const arrays = reply.is === 'peaks' ? [reply.values] : reply.is === 'mix' ? (reply.channels ?? []) : []
    self.postMessage(reply, { transfer: arrays.map((array) => array.buffer) })
  } catch (error) {
    self.postMessage({
      is: 'failed',
      order: order.order,
      message: error instanceof Error ? error.message : String(error),
    } satisfies SoundReply)
  }
}
