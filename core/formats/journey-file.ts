import { z } from 'zod'
import { MOST_CUBE_BYTES } from '../colour/cube'
import { JOURNEY_VERSION } from '../journey/schema'
import { isFileHash } from '../journey/values'
import { MOST_WEIGHT } from '../journey/weight'
import { IMAGE_LIMITS } from '../sheet/limits'
import { JourneyError } from '../error'
import { describeIssue } from '../journey/parse'
import type { FileKind } from '../journey/files'

/** A journey as one file, with all it needs: a plain ZIP, described in docs/journey-format.md. */

export const JOURNEY_FILE_ENDING = '.zephyrine'
const FORMAT = 'zephyrine-file'
const VERSION = 1

/** What the entries are called that are no files of the journey. */
export const ENTRIES = { about: 'about.json', journey: 'journey.json', licences: 'LICENCES.md', poster: 'poster.webp' } as const
export const versionEntry = (i: number): string => `versions/${i + 1}.json`

/** The most that a journey file, all that is in it, and a document in it may have in bytes; and how many entries it may have. */
export const JOURNEY_FILE_LIMITS = {
  file: 2 * 1024 ** 3,
  unpacked: 4 * 1024 ** 3,
  document: MOST_WEIGHT + 16 * 1024 ** 2,
  entries: 4000,
} as const

/** The most bytes of a file of a kind. */
const MOST_BYTES: Readonly<Record<FileKind, number>> = {
  images: IMAGE_LIMITS.bytes,
  audio: 300 * 1024 ** 2,
  fonts: 12 * 1024 ** 2,
  luts: MOST_CUBE_BYTES,
}

const ID = /^[\w-]{1,64}$/
const aboutSchema = z.object({
  format: z.literal(FORMAT),
  version: z.int().min(1),
  /** The version of the documents in it. */
  journeyVersion: z.int().min(1),
  /** The journey's id where it was saved: the same journey that is opened again is known by it. */
  journey: z.string().regex(ID),
})

export const writeAbout = (journey: string): string =>
  JSON.stringify({ format: FORMAT, version: VERSION, journeyVersion: JOURNEY_VERSION, journey }, null, 2)

/** The journey's id where it was saved. @throws JourneyError if a newer application is needed, or it is something else */
export function readAbout(data: unknown): string {
  const { success, data: about, error } = aboutSchema.safeParse(data)
  if (!success) throw new JourneyError(`This is no journey file: ${ENTRIES.about} in it has ${describeIssue(error)}.`)
  if (about.version > VERSION || about.journeyVersion > JOURNEY_VERSION)
    throw new JourneyError(
      `This journey file was saved by a newer Zephyrine (its journey has version ${about.journeyVersion}, and this one reads up to ${JOURNEY_VERSION}): open it with that one.`,
    )
  return about.journey
}

/** A version of a journey that was kept, in its file. */
export const keptVersionSchema = z.object({ name: z.string().trim().min(1).max(60), createdAt: z.number().min(0), journey: z.unknown() })

/** The entry of a file; its ending only helps people who unpack it. */
export const fileEntry = (kind: FileKind, hash: string, ending: string): string => `${kind}/${hash}${ending}`

export type Entry = { is: keyof typeof ENTRIES } | { is: 'version' } | { is: 'file'; kind: FileKind; hash: string }

/** What an entry is, by its name; undefined for what does not belong in a journey file. */
export function entryOf(name: string): Entry | undefined {
  const known = (Object.keys(ENTRIES) as (keyof typeof ENTRIES)[]).find((key) => ENTRIES[key] === name)
  if (known) return { is: known }
  if (/^versions\/\d{1,3}\.json$/.test(name)) return { is: 'version' }
  const [, kind, hash] = /^(images|audio|fonts|luts)\/([0-9a-f]{64})(?:\.[a-z0-9]{1,8})?$/.exec(name) ?? []
  return kind && hash && isFileHash(hash) ? { is: 'file', kind: kind as FileKind, hash } : undefined
}

/** The most bytes that an entry may have unpacked. */
export const mostBytesOf = (entry: Entry): number => (entry.is === 'file' ? MOST_BYTES[entry.kind] : JOURNEY_FILE_LIMITS.document)
