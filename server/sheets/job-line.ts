import type { ChildProcess } from 'node:child_process'
import PQueue from 'p-queue'
import type { Answer, KeptJob } from './job'
import { answerSchema } from './job'
import { failureOf, startReader } from './reader'
import { TOO_MUCH_MEMORY } from './watchdog'

/** A job without its number, which the line gives it. */
type Order<J> = J extends KeptJob ? Omit<J, 'id'> : never

interface Entry {
  order: Order<KeptJob>
  isCancelled: boolean
  resolve: (answer: Answer) => void
  reject: (error: Error) => void
}

/** A cancelled job is stopped if it is not done by then, as a new process takes a second to start. In milliseconds. */
const PATIENCE = 1500

/**
 * Jobs for a reader that is kept for some time: one at a time, the most urgent first, those of one urgency in the order they were given. A job that
 * crashes the process or takes too long costs only itself: the next one gets a new process.
 */
export class JobLine {
  private readonly queue = new PQueue({ concurrency: 1 })
  private child: ChildProcess | undefined
  private current: { id: number; entry: Entry; timer: NodeJS.Timeout; end: () => void } | undefined
  private idle: NodeJS.Timeout | undefined
  private jobs = 0

  /**
   * @param time the longest time of a job, in milliseconds
   * @param kept how long an idle process is kept, in milliseconds
   */
  constructor(
    private readonly time: number,
    private readonly kept: number,
  ) {
    this.queue.on('idle', () => this.rest())
  }

  /** Does a job. @throws Error if that fails, takes too long or too much memory; the signal's reason when aborted */
  do(order: Order<KeptJob>, urgency: number, signal?: AbortSignal): Promise<Answer> {
    return new Promise<Answer>((resolve, reject) => {
      if (signal?.aborted) return reject(signal.reason as Error)
      const entry: Entry = { order, isCancelled: false, resolve, reject }
      signal?.addEventListener('abort', () => this.cancel(entry, signal.reason as Error), { once: true })
      void this.queue.add(() => this.run(entry), { priority: urgency })
    })
  }

  private cancel(entry: Entry, reason: Error): void {
    entry.reject(reason)
    entry.isCancelled = true
    if (this.current?.entry === entry) setTimeout(() => this.current?.entry === entry && this.child?.kill('SIGKILL'), PATIENCE).unref()
  }

  private async run(entry: Entry): Promise<void> {
    if (entry.isCancelled) return
    clearTimeout(this.idle)
    const child = (this.child ??= this.start())
    child.ref()
    child.channel?.ref()
    const id = this.jobs++
    await new Promise<void>((end) => {
      this.current = { id, entry, timer: setTimeout(() => child.kill('SIGKILL'), this.time), end }
      child.send({ ...entry.order, id })
    })
  }

  private start(): ChildProcess {
    const child = startReader()
    let hasServed = false
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (this.child !== child || !('id' in answer) || answer.id !== this.current?.id) return
      hasServed = true
      this.settle(answer.is === 'failed' ? failureOf(answer) : answer)
    })
    child.on('error', (error) => console.error(error))
    child.on('exit', (_code, signal) => {
      if (this.child !== child) return
      this.child = undefined
      // What earlier jobs have left in its memory is none of this one's: it is done again in a new process.
      if (signal === TOO_MUCH_MEMORY && hasServed) return this.again()
      this.settle(new Error('It takes too long or too much memory to draw, or cannot be drawn at all.'))
    })
    return child
  }

  /** Does the current job once more. */
  private again(): void {
    const { current } = this
    if (!current) return
    this.current = undefined
    clearTimeout(current.timer)
    void this.run(current.entry).then(current.end)
  }

  private settle(result: Answer | Error): void {
    const { current } = this
    if (!current) return
    this.current = undefined
    clearTimeout(current.timer)
    if (result instanceof Error) current.entry.reject(result)
    else current.entry.resolve(result)
    current.end()
  }

  /** An idle process keeps neither the program alive that started it, nor its memory for long. */
  private rest(): void {
    const { child } = this
    if (!child) return
    child.unref()
    child.channel?.unref()
    this.idle = setTimeout(() => {
      if (this.child === child) this.child = undefined
      child.kill()
    }, this.kept).unref()
  }
}
