import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import type { WorkerCalls } from '#core/worker-calls'
import { callWorker, isAbort, WorkerError } from '~/services/call-worker'
import { serve } from '~/workers/serve'

const CALLS = {
  double: { order: z.number(), reply: z.number() },
  slow: { order: z.strictObject({ steps: z.int() }), reply: z.string() },
  wrong: { order: z.null(), reply: z.number() },
} satisfies WorkerCalls

class SwappedError extends Error {
  override name = 'SwappedError'
}

/** A worker in this thread: what is sent is copied, and arrives later, as with a real one. */
class NearWorker implements Pick<Worker, 'postMessage' | 'terminate'> {
  onmessage: ((event: MessageEvent) => void) | null = null
  onerror: ((event: ErrorEvent) => void) | null = null
  isEnded = false
  postMessage(message: unknown) {
    const data: unknown = structuredClone(message)
    void Promise.resolve().then(() => {
      self.postMessage = ((reply: unknown) => {
        const copy: unknown = structuredClone(reply)
        if (!this.isEnded) this.onmessage?.({ data: copy } as MessageEvent)
      }) as typeof self.postMessage
      return self.onmessage?.({ data } as MessageEvent)
    })
  }
  terminate() {
    this.isEnded = true
  }
}

let made: NearWorker[]
const onEnd = vi.fn()
let worker: ReturnType<typeof callWorker<typeof CALLS>>
beforeEach(() => {
  made = []
  onEnd.mockClear()
  const start = () => {
    made.push(new NearWorker())
    return made.at(-1) as unknown as Worker
  }
  worker = callWorker(CALLS, start, onEnd)
  serve(CALLS, {
    double: (n) => 2 * n,
    async slow({ steps }, { onProgress }) {
      for (let i = 1; i <= steps; i++) onProgress(i / steps)
      await new Promise((resolve) => setTimeout(resolve, 5))
      if (steps === 0) throw new SwappedError('Latitude and longitude seem to be swapped.')
      return `${steps} steps`
    },
    wrong: () => 'no number' as unknown as number,
  })
})
// What is still under way answers to nobody.
afterEach(() => {
  self.onmessage = null
  self.postMessage = () => undefined
})

describe('a worker that is called', () => {
  it('is started with the first call, and answers each call with its own reply', async () => {
    expect(made).toHaveLength(0)
    expect(await Promise.all([worker.call('slow', { steps: 1 }), worker.call('double', 21)])).toEqual(['1 steps', 42])
    expect(made).toHaveLength(1)
  })

  it('tells how far it is', async () => {
    const shares: number[] = []
    await worker.call('slow', { steps: 4 }, { onProgress: (share) => shares.push(share) })
    expect(shares).toEqual([0.25, 0.5, 0.75, 1])
  })

  it('hands an error on with its name, and goes on working', async () => {
    const failed = await worker.call('slow', { steps: 0 }).catch((error: unknown) => error)
    expect(failed).toBeInstanceOf(WorkerError)
    expect(failed).toMatchObject({ kind: 'SwappedError', message: 'Latitude and longitude seem to be swapped.' })
    expect(await worker.call('double', 2)).toBe(4)
    expect(made).toHaveLength(1)
  })

  it('refuses an order that is not one, and what is no reply to it', async () => {
    await expect(worker.call('double', 'two' as unknown as number)).rejects.toMatchObject({ kind: 'ZodError' })
    await expect(worker.call('wrong', null)).rejects.toThrow(/expected number/)
  })

  it('leaves nobody waiting when it is closed', async () => {
    const calls = [worker.call('slow', { steps: 1 }), worker.call('double', 1)].map((call) => call.catch((error: unknown) => error))
    worker.close()
    for (const error of await Promise.all(calls)) expect(isAbort(error)).toBe(true)
    expect(made[0]!.isEnded).toBe(true)
    expect(onEnd).toHaveBeenCalledOnce()
  })

  it('leaves nobody waiting when it breaks down, and is started anew by the next call', async () => {
    const calls = [worker.call('slow', { steps: 1 }), worker.call('double', 1)].map((call) => call.catch((error: unknown) => error))
    made[0]!.onerror!({ message: 'out of memory' } as ErrorEvent)
    for (const error of await Promise.all(calls)) expect(error).toMatchObject({ kind: 'broken', message: 'out of memory' })
    expect(await worker.call('double', 4)).toBe(8)
    expect(made).toHaveLength(2)
  })
})
