import type { ChildProcess } from 'node:child_process'
import { fork } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { JourneyError } from '#core/journey/error'
import type { Answer, Built, DrawJob, ImportJob, Job } from './job'
import { answerSchema } from './job'

/** Time limits for one import and for one region of a drawing, in milliseconds. */
const IMPORT_TIME = 20 * 60 * 1000
const DRAW_TIME = 60 * 1000
/** How long an idle drawing process is kept. */
const IDLE_TIME = 20 * 1000

/** The process's source is read from Zephyrine's folder, as the server's bundle is elsewhere. */
function startReader(): ChildProcess {
  const path = join(process.cwd(), 'server/sheets/reader-start.mjs')
  if (!existsSync(path)) throw new Error(`The reader of files is not at ${path}: start Zephyrine in its own folder.`)
  return fork(path, { execArgv: ['--max-old-space-size=1024'], stdio: ['ignore', 'ignore', 'inherit', 'ipc'] })
}

/**
 * Imports a file in a process of its own.
 * @returns the facts about the image, and the peak memory of the process in MiB
 * @throws JourneyError saying what is wrong with the file; the signal's reason when aborted
 */
export function readFileInProcess(
  job: ImportJob,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<{ built: Built; peakMiB: number }> {
  signal?.throwIfAborted()
  const child = startReader()
  return new Promise<{ built: Built; peakMiB: number }>((resolve, reject) => {
    const stop = () => reject(signal!.reason as Error)
    signal?.addEventListener('abort', stop)
    const timer = setTimeout(
      () => reject(new JourneyError(`“${job.name}” takes too long to read: simplify it, or save it as PNG.`)),
      IMPORT_TIME,
    )
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (answer.is === 'progress') onProgress(answer.share)
      else if (answer.is === 'built') resolve(answer)
      else if (answer.is === 'failed') reject(failureOf(answer))
    })
    child.on('error', reject)
    child.on('exit', () => reject(new JourneyError(`“${job.name}” cannot be read: it needs more memory than there is, or is damaged.`)))
    child.send(job satisfies Job)
    child.once('exit', () => {
      clearTimeout(timer)
      signal?.removeEventListener('abort', stop)
    })
  }).finally(() => child.kill('SIGKILL'))
}

const failureOf = ({ message, expected }: Extract<Answer, { is: 'failed' }>): Error =>
  expected ? new JourneyError(message) : new Error(message)

interface Waiting {
  resolve: () => void
  reject: (error: Error) => void
}

let drawer: { child: ChildProcess; waiting: Map<number, Waiting> } | undefined
let idle: ReturnType<typeof setTimeout> | undefined
let jobs = 0

function startDrawer() {
  const made = { child: startReader(), waiting: new Map<number, Waiting>() }
  made.child.on('message', (message) => {
    const answer = answerSchema.parse(message)
    if (answer.is === 'drawn') made.waiting.get(answer.id)?.resolve()
    else if (answer.is === 'failed') made.waiting.get(answer.id!)?.reject(failureOf(answer))
  })
  made.child.on('exit', () => {
    for (const { reject } of made.waiting.values()) reject(new Error('The drawing could not be drawn at this zoom.'))
    if (drawer === made) drawer = undefined
  })
  // It does not keep the program that started it alive.
  made.child.unref()
  made.child.channel?.unref()
  return made
}

/** Draws a region of a vector image into its tile file. @throws Error if that fails or takes too long */
export async function drawInProcess(job: Omit<DrawJob, 'do' | 'id'>): Promise<void> {
  drawer ??= startDrawer()
  const { child, waiting } = drawer
  const id = jobs++
  clearTimeout(idle)
  child.ref()
  child.channel?.ref()
  const timer = setTimeout(() => child.kill('SIGKILL'), DRAW_TIME)
  try {
    await new Promise<void>((resolve, reject) => {
      waiting.set(id, { resolve, reject })
      child.send({ do: 'draw', id, ...job } satisfies Job)
    })
  } finally {
    clearTimeout(timer)
    waiting.delete(id)
    if (waiting.size === 0) {
      child.unref()
      child.channel?.unref()
      idle = setTimeout(() => child.kill(), IDLE_TIME).unref()
    }
  }
}
