import type { ChildProcess } from 'node:child_process'
import type { Answer, KeptJob } from './job'
import { answerSchema } from './job'
import { failureOf, startReader } from './reader'

/** A job without its number, which the line gives it. */
type Order<J> = J extends KeptJob ? Omit<J, 'id'> : never

interface Entry {
  order: Order<KeptJob>
  urgency: number
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
  private readonly waiting: Entry[] = []
  private child: ChildProcess | undefined
  private current: { id: number; entry: Entry; timer: NodeJS.Timeout } | undefined
  private idle: NodeJS.Timeout | undefined
  private jobs = 0

  /**
   * @param time the longest time of a job, in milliseconds
   * @param kept how long an idle process is kept, in milliseconds
   */
  constructor(
    private readonly time: number,
    private readonly kept: number,
  ) {}

  /** Does a job. @throws Error if that fails, takes too long or too much memory; the signal's reason when aborted */
  do(order: Order<KeptJob>, urgency: number, signal?: AbortSignal): Promise<Answer> {
    return new Promise<Answer>((resolve, reject) => {
      if (signal?.aborted) return reject(signal.reason as Error)
      const entry: Entry = { order, urgency, resolve, reject }
      const place = this.waiting.findIndex((other) => other.urgency < urgency)
      this.waiting.splice(place < 0 ? this.waiting.length : place, 0, entry)
      signal?.addEventListener('abort', () => this.cancel(entry, signal.reason as Error), { once: true })
      this.next()
    })
  }

  private cancel(entry: Entry, reason: Error): void {
    entry.reject(reason)
    const place = this.waiting.indexOf(entry)
    if (place >= 0) this.waiting.splice(place, 1)
    else if (this.current?.entry === entry) setTimeout(() => this.current?.entry === entry && this.child?.kill('SIGKILL'), PATIENCE).unref()
  }

  private next(): void {
    if (this.current) return
    clearTimeout(this.idle)
    const entry = this.waiting.shift()
    if (!entry) return this.rest()
    const child = (this.child ??= this.start())
    child.ref()
    child.channel?.ref()
    const id = this.jobs++
    this.current = { id, entry, timer: setTimeout(() => child.kill('SIGKILL'), this.time) }
    child.send({ ...entry.order, id })
  }

  private start(): ChildProcess {
    const child = startReader()
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (this.child !== child || answer.is === 'progress' || answer.is === 'built' || answer.id !== this.current?.id) return
      this.settle(answer.is === 'failed' ? failureOf(answer) : answer)
    })
    child.on('error', (error) => console.error(error))
    child.on('exit', () => {
      if (this.child !== child) return
      this.child = undefined
      this.settle(new Error('It takes too long or too much memory to draw, or cannot be drawn at all.'))
    })
    return child
  }

  private settle(result: Answer | Error): void {
    const { current } = this
    this.current = undefined
    if (current) {
      clearTimeout(current.timer)
      if (result instanceof Error) current.entry.reject(result)
      else current.entry.resolve(result)
    }
    this.next()
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
