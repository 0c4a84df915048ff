import type { TrackOrder, TrackReply } from '#core/tracks/messages'
import { trackReplySchema } from '#core/tracks/messages'

type Answer<Kind> = Extract<TrackReply, { kind: Kind }>

/** An error in a track file; `isSwapped` if swapping latitude and longitude would fix it. */
export class TrackError extends Error {
  constructor(
    message: string,
    readonly isSwapped = false,
  ) {
    super(message)
  }
}

/** A worker that reads one track file. Requests are answered in order; `close` ends it at once. */
export function openTrackReader(onProgress: (share: number) => void) {
  const worker = new Worker(new URL('../workers/track-worker.ts', import.meta.url), { type: 'module' })
  const waiting: { resolve: (reply: TrackReply) => void; reject: (error: Error) => void }[] = []
  worker.onerror = ({ message }) => {
    for (const { reject } of waiting.splice(0))
      reject(new TrackError(message || 'The track could not be read: reload the page and try again.'))
  }
  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    const reply = trackReplySchema.parse(data)
    if (reply.kind === 'progress') return onProgress(reply.share)
    const next = waiting.shift()
    if (reply.kind === 'failed') next?.reject(new TrackError(reply.message, reply.isSwapped))
    else next?.resolve(reply)
  }
  const ask = (order: TrackOrder, transfer: Transferable[] = []): Promise<TrackReply> =>
    new Promise((resolve, reject) => {
      waiting.push({ resolve, reject })
      worker.postMessage(order, transfer)
    })
  return {
    /** Reads a file, whose bytes are transferred to the worker. @throws TrackError */
    read: async (name: string, bytes: Uint8Array<ArrayBuffer>, swap: boolean) =>
      ((await ask({ kind: 'read', name, bytes, swap }, [bytes.buffer])) as Answer<'read'>).overview,
    count: async (options: Extract<TrackOrder, { kind: 'count' }>['options']) =>
      ((await ask({ kind: 'count', options })) as Answer<'count'>).kept,
    lay: async (order: Omit<Extract<TrackOrder, { kind: 'lay' }>, 'kind'>) => (await ask({ kind: 'lay', ...order })) as Answer<'laid'>,
    close() {
      worker.terminate()
      waiting.splice(0)
    },
  }
}

export type TrackReader = ReturnType<typeof openTrackReader>
