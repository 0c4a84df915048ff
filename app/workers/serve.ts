import { append } from '#core/geometry/extremes'
import type { Answer, OrderOf, ReplyOf, WorkerCalls } from '#core/worker-calls'
import { requestSchema } from '#core/worker-calls'

interface Job {
  /** Tells how far it is, 0..1. */
  onProgress: (share: number) => void
  /** Hands what the reply holds over to the page, instead of copying it. */
  transfer: (...parts: Transferable[]) => void
}

type Maybe<T> = T | Promise<T>
type Handlers<Calls extends WorkerCalls> = { [Name in keyof Calls]: (order: OrderOf<Calls, Name>, job: Job) => Maybe<ReplyOf<Calls, Name>> }

/** Lets a worker answer the page's calls. Whatever goes wrong is an answer too, so that nobody waits for ever. */
export function serve<Calls extends WorkerCalls>(calls: Calls, handlers: Handlers<Calls>): void {
  const answer = (message: Answer, transfer: Transferable[] = []) => self.postMessage(message, { transfer })
  self.onmessage = async ({ data }: MessageEvent<unknown>) => {
    const { call, name, order } = requestSchema.parse(data)
    try {
      const handed: Transferable[] = []
      const asked = calls[name]!.order.parse(order) as OrderOf<Calls, keyof Calls>
      const reply = await handlers[name]!(asked, {
        onProgress: (share) => answer({ is: 'progress', call, share }),
        transfer: (...parts) => append(handed, parts),
      })
      answer({ is: 'done', call, reply }, handed)
    } catch (error) {
      const { name: kind, message } = error instanceof Error ? error : new Error(String(error))
      answer({ is: 'failed', call, name: kind, message })
    }
  }
}
