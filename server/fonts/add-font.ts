import { createHash } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { nanoid } from 'nanoid'
import { JourneyError } from '#core/error'
import type { OwnFont } from '#core/journey/font-schema'
import { answerSchema } from '../sheets/job'
import { failureOf, startReader } from '../sheets/reader'
import { fontPath } from '../storage/font-files'

/** The largest font file, in bytes: those with the scripts of East Asia are the largest. */
export const MOST_FONT_BYTES = 12 * 1024 ** 2

/** The processor time that reading a font may take, and how long it may take on a busy machine, in milliseconds. */
const MOST_TIME = 10_000
const MOST_WAIT = 60_000

/** Keeps a font file under its content hash, if it can be read. @throws JourneyError that says what is wrong with it */
export async function addFont(folder: string, file: Buffer, name: string): Promise<OwnFont> {
  const hash = createHash('sha256').update(file).digest('hex')
  const path = fontPath(folder, hash)
  await mkdir(dirname(path), { recursive: true })
  const incoming = `${path}-${nanoid(8)}`
  try {
    await writeFile(incoming, file)
    const font = await readInProcess(incoming, name)
    if (!existsSync(path)) await rename(incoming, path)
    return { ...font, file: hash }
  } finally {
    await rm(incoming, { force: true })
  }
}

/** Reads a font file in a process of its own, as what comes from outside may crash or hang its reader. */
function readInProcess(path: string, name: string): Promise<Omit<OwnFont, 'file'>> {
  const child = startReader(MOST_TIME)
  return new Promise<Omit<OwnFont, 'file'>>((resolve, reject) => {
    const unreadable = new JourneyError(`“${name}” cannot be read: it is damaged, or takes too long.`)
    const timer = setTimeout(() => reject(unreadable), MOST_WAIT)
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (answer.is === 'font') resolve(answer.font)
      else if (answer.is === 'failed') reject(failureOf(answer))
    })
    child.on('error', reject)
    child.on('exit', () => (clearTimeout(timer), reject(unreadable)))
    child.send({ do: 'font', path, name })
  }).finally(() => child.kill('SIGKILL'))
}
