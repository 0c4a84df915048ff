import type { OrderOf, ReplyOf, Request, WorkerCalls } from '#core/worker-calls'
import { answerSchema } from '#core/worker-calls'

/** A call that failed in its worker: by an error there, whose name is `kind`, or because the worker broke down. The message is for the user. */
export class WorkerError extends Error {
  constructor(
    message: string,
    readonly kind: string,
  ) {
    super(message)
  }
}

interface CallOptions {
  /** What is handed over to the worker, instead of being copied. */
  transfer?: Transferable[]
  onProgress?: (share: number) => void
}

interface Waiting {
  settle: (reply: unknown) => void
  reject: (error: unknown) => void
  onProgress: (share: number) => void
}

/**
 * A worker to call, which is started with the first call, and again after it has broken down. It answers one call after another.
 * A hand-written protocol and not Comlink, where a call waits for ever once its worker has been ended or has broken down.
 *
 * @param calls what may be asked of it
 * @param start makes it
 * @param onEnd told when it has ended, with all that it has kept
 */
export function callWorker<Calls extends WorkerCalls>(calls: Calls, start: () => Worker, onEnd: () => void = () => undefined) {
  let worker: Worker | undefined
  let count = 0
  const waiting = new Map<number, Waiting>()

  function end(reason: unknown) {
    worker?.terminate()
    worker = undefined
    const left = [...waiting.values()]
    waiting.clear()
    onEnd()
    for (const { reject } of left) reject(reason)
  }

  function started(): Worker {
    const made = start()
    made.onmessage = ({ data }: MessageEvent<unknown>) => {
      const answer = answerSchema.parse(data)
      const asked = waiting.get(answer.call)
      if (!asked) return
      if (answer.is === 'progress') return asked.onProgress(answer.share)
      waiting.delete(answer.call)
      if (answer.is === 'done') asked.settle(answer.reply)
      else asked.reject(new WorkerError(answer.message, answer.name))
    }
    // What breaks the worker breaks all that was asked of it.
    made.onerror = ({ message }) =>
      end(new WorkerError(message || 'A part of the page stopped working: reload the page and try again.', 'broken'))
    return made
  }

  return {
    /** @throws WorkerError, or an AbortError when the worker is closed before it has answered */
    call<Name extends keyof Calls & string>(
      name: Name,
      order: OrderOf<Calls, Name>,
      { transfer = [], onProgress = () => undefined }: CallOptions = {},
    ): Promise<ReplyOf<Calls, Name>> {
      worker ??= started()
      const call = count++
      return new Promise((resolve, reject) => {
        waiting.set(call, {
          reject,
          onProgress,
          settle: (reply) => {
            const { data, error } = calls[name]!.reply.safeParse(reply)
            if (error) reject(error)
            else resolve(data as ReplyOf<Calls, Name>)
          },
        })
        worker!.postMessage({ call, name, order } satisfies Request, transfer)
      })
    },
    /** Ends the worker at once, with whatever it is doing. */
    close: () => end(new DOMException('The worker was closed.', 'AbortError')),
  }
}

export const isAbort = (error: unknown): boolean => error instanceof DOMException && error.name === 'AbortError'
