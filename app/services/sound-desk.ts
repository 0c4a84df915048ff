import type { SoundOrder, SoundReply } from '#core/film/sound-messages'
import { soundReplySchema } from '#core/film/sound-messages'
import { readAudio } from './api'

/** The worker for sound, with one order after another; what it has kept stays with it. */
export function openSoundDesk() {
  let worker: Worker | undefined
  let count = 0
  const waiting = new Map<number, (reply: SoundReply) => void>()
  const kept = new Map<string, Promise<SoundReply>>()

  function start(): Worker {
    const made = new Worker(new URL('../workers/sound-worker.ts', import.meta.url), { type: 'module' })
    made.onmessage = ({ data }: MessageEvent<unknown>) => {
      const reply = soundReplySchema.parse(data)
      waiting.get(reply.order)?.(reply)
      waiting.delete(reply.order)
    }
    // What broke the worker breaks all that was asked of it.
    made.onerror = ({ message }) => {
      for (const [order, settle] of waiting) settle({ is: 'failed', order, message })
      close()
    }
    return made
  }

  type Order = SoundOrder extends infer O ? (O extends { order: number } ? Omit<O, 'order'> : never) : never
  function ask(order: Order, transfer: Transferable[] = []): Promise<SoundReply> {
    worker ??= start()
    const number = ++count
    return new Promise((resolve) => {
      waiting.set(number, resolve)
      worker!.postMessage({ ...order, order: number }, transfer)
    })
  }

  /** Hands a piece to the worker, once; the answer is its peaks. */
  function keep(file: string): Promise<SoundReply> {
    const known = kept.get(file)
    if (known) return known
    const asked = readAudio(file).then((samples) => ask({ do: 'keep', file, samples }, [samples.buffer]))
    kept.set(file, asked)
    asked.catch(() => kept.delete(file))
    return asked
  }

  function close() {
    worker?.terminate()
    worker = undefined
    kept.clear()
    waiting.clear()
  }

  return { ask, keep, close }
}
