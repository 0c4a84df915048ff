import type { ChildProcess } from 'node:child_process'
import { statSync } from 'node:fs'
import { JourneyError } from '#core/error'
import { startProcess } from '../programs'
import type { Answer, Built, ImportJob, Job } from './job'
import { answerSchema } from './job'
import { TOO_MUCH_MEMORY, TOO_MUCH_TIME } from './watchdog'

/**
 * The processor time that an import may take in milliseconds: small files get the least, as they take longer only if they are made to. On a busy machine
 * it may take several times as long until that is used up.
 */
const LEAST_TIME = 50_000
const TIME_PER_MIB = 2000
const MOST_TIME = 20 * 60 * 1000
const BUSY = 5

/** Starts a process that reads files from outside. It ends with this one, and when it takes too much memory, or more processor time than given. */
export const startReader = (time = Infinity): ChildProcess =>
  startProcess('reader', [String(process.pid), String(time)], { execArgv: ['--max-old-space-size=1024'] })

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
  const time = Math.min(MOST_TIME, LEAST_TIME + (TIME_PER_MIB * statSync(job.path).size) / 1024 ** 2)
  const child = startReader(time)
  return new Promise<{ built: Built; peakMiB: number }>((resolve, reject) => {
    const stop = () => reject(signal!.reason as Error)
    signal?.addEventListener('abort', stop)
    const tooLong = new JourneyError(`“${job.name}” takes too long to read: simplify it, or save it as PNG.`)
    const timer = setTimeout(() => reject(tooLong), BUSY * time)
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (answer.is === 'progress') onProgress(answer.share)
      else if (answer.is === 'built') resolve(answer)
      else if (answer.is === 'failed') reject(failureOf(answer))
    })
    child.on('error', reject)
    child.on('exit', (_code, by) =>
      reject(
        by === TOO_MUCH_TIME
          ? tooLong
          : new JourneyError(
              by === TOO_MUCH_MEMORY
                ? `“${job.name}” needs more memory than a file may take: scale it down or simplify it.`
                : `“${job.name}” cannot be read: it is damaged, or made in a way that its reader cannot take.`,
            ),
      ),
    )
    child.send({ ...job } satisfies Job)
    child.once('exit', () => {
      clearTimeout(timer)
      signal?.removeEventListener('abort', stop)
    })
  }).finally(() => child.kill('SIGKILL'))
}

export const failureOf = ({ message, expected }: Extract<Answer, { is: 'failed' }>): Error =>
  expected ? new JourneyError(message) : new Error(message)
