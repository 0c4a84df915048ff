import { createHash } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { nanoid } from 'nanoid'
import { JourneyError } from '#core/error'
import type { Answer } from '../sheets/job'
import { answerSchema } from '../sheets/job'
import { failureOf, startReader } from '../sheets/reader'

/** The processor time that reading a file may take, and how long it may take on a busy machine, in milliseconds. */
const MOST_TIME = 10_000
const MOST_WAIT = 60_000

/**
 * Keeps a file under its content hash, if it can be read.
 * @param pathOf where a file of a hash is kept @param kind of the file, as a reader calls it
 * @returns its hash, and what the reader has found in it
 * @throws JourneyError that says what is wrong with it
 */
export async function takeIn<Kind extends 'font' | 'lut'>(
  pathOf: (hash: string) => string,
  file: Buffer,
  name: string,
  kind: Kind,
): Promise<{ hash: string; found: Extract<Answer, { is: Kind }> }> {
  const hash = createHash('sha256').update(file).digest('hex')
  const path = pathOf(hash)
  await mkdir(dirname(path), { recursive: true })
  const incoming = `${path}-${nanoid(8)}`
  try {
    await writeFile(incoming, file)
    const found = await readInProcess(incoming, name, kind)
    if (!existsSync(path)) await rename(incoming, path)
    return { hash, found }
  } finally {
    await rm(incoming, { force: true })
  }
}

/** Reads a file in a process of its own, as what comes from outside may crash or hang its reader. */
function readInProcess<Kind extends 'font' | 'lut'>(path: string, name: string, kind: Kind): Promise<Extract<Answer, { is: Kind }>> {
  const child = startReader(MOST_TIME)
  return new Promise<Extract<Answer, { is: Kind }>>((resolve, reject) => {
    const unreadable = new JourneyError(`“${name}” cannot be read: it is damaged, or takes too long.`)
    const timer = setTimeout(() => reject(unreadable), MOST_WAIT)
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (answer.is === kind) resolve(answer as Extract<Answer, { is: Kind }>)
      else if (answer.is === 'failed') reject(failureOf(answer))
    })
    child.on('error', reject)
    child.on('exit', () => (clearTimeout(timer), reject(unreadable)))
    child.send({ do: kind, path, name })
  }).finally(() => child.kill('SIGKILL'))
}
