import { createHash } from 'node:crypto'
import { mkdir, open, rm } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { nanoid } from 'nanoid'
import { JourneyError } from '#core/error'

/** A completely received file, under a temporary name that is swept away at the next start if nobody does it before. */
export interface Received {
  path: string
  /** SHA-256, in hexadecimal. */
  hash: string
  bytes: number
}

/**
 * Writes what comes into a file of a data folder.
 * @param most bytes that it may have, and the sentence where it has more
 * @throws JourneyError if it is empty or too large; nothing of it is kept then
 */
export async function receive(folder: string, name: string, source: Readable, most: { bytes: number; tooMany: string }): Promise<Received> {
  const path = join(folder, 'images', `incoming-${nanoid(10)}`)
  await mkdir(dirname(path), { recursive: true })
  const digest = createHash('sha256')
  let bytes = 0
  let failure: unknown
  try {
    const file = await open(path, 'w')
    try {
      // What cannot be kept is still read to its end: closing the connection would keep our answer from the sender.
      for await (const chunk of source as AsyncIterable<Buffer>) {
        bytes += chunk.length
        digest.update(chunk)
        if (failure !== undefined || bytes > most.bytes) continue
        await file.writeFile(chunk).catch((error: unknown) => (failure = error))
      }
    } finally {
      await file.close()
    }
    if (failure !== undefined) throw failure as Error
    if (bytes > most.bytes) throw new JourneyError(most.tooMany)
    if (bytes === 0) throw new JourneyError(`“${name}” is empty.`)
    return { path, hash: digest.digest('hex'), bytes }
  } catch (error) {
    await rm(path, { force: true })
    throw error
  }
}
