import { createHash } from 'node:crypto'
import { open, readFile } from 'node:fs/promises'
import PQueue from 'p-queue'
import { JourneyError } from '#core/error'
import { withoutFiles } from '#core/edits/without-files'
import type { Entry } from '#core/formats/journey-file'
import { ENTRIES, JOURNEY_FILE_LIMITS, keptVersionSchema, readAbout } from '#core/formats/journey-file'
import type { FileKind } from '#core/journey/files'
import { filesOf } from '#core/journey/files'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { addAudio } from '../audio/add-audio'
import { addFont } from '../fonts/add-font'
import { importSheetFile } from '../sheets/import-sheet'
import type { Db } from '../storage/database'
import { hasFile } from '../storage/has-file'
import { lutPath } from '../storage/lut-files'
import { takeIn } from '../storage/take-in'
import type { OpenZip, Packed } from './read-zip'
import { openZip, readDocument, readEntry } from './read-zip'

/** What came out of a journey file; its files are in the data folder. */
export interface Unpacked {
  journey: Journey
  versions: readonly { name: string; createdAt: number; journey: Journey }[]
  /** The journey's id where it was saved; null where that is not known. */
  origin: string | null
  /** A sentence for each file that was missing or damaged, and that the journey does without now. */
  missing: readonly string[]
}

/** So many files are taken in at a time: each has a process of its own. */
const AT_ONCE = 3

interface UnpackOptions {
  onProgress?: (share: number) => void
  signal?: AbortSignal
}

/**
 * Takes the journey in a file, and all its files, into a data folder. A file is only kept where its content has the hash that it is named by; what is not in
 * the journey is left alone. A document alone (`.json`) is read too.
 * @param name for the messages
 * @throws JourneyError if it cannot be read, with what is wrong; the signal's reason when aborted
 */
export async function unpackJourney(db: Db, folder: string, path: string, name: string, options: UnpackOptions = {}): Promise<Unpacked> {
  if (await isZip(path)) return unpackZip(db, folder, path, name, options)
  const { journey, missing } = settled(parseJourney(await readJson(path, name)), (kind, hash) => !hasFile(db, folder, kind, hash))
  return { journey, versions: [], origin: null, missing }
}

async function isZip(path: string): Promise<boolean> {
  const file = await open(path)
  const start = Buffer.alloc(4)
  await file.read(start, 0, 4, 0)
  await file.close()
  return start.toString('latin1', 0, 2) === 'PK'
}

async function readJson(path: string, name: string): Promise<unknown> {
  const neither = new JourneyError(`“${name}” is no journey file: it is neither a ZIP file nor JSON.`)
  const file = await open(path)
  const { size } = await file.stat()
  await file.close()
  if (size > JOURNEY_FILE_LIMITS.document) throw neither
  try {
    return JSON.parse(await readFile(path, 'utf8'))
  } catch {
    throw neither
  }
}

async function unpackZip(db: Db, folder: string, path: string, name: string, { onProgress, signal }: UnpackOptions): Promise<Unpacked> {
  const zip = await openZip(path, name)
  try {
    const origin = readAbout(await readDocument(zip, ENTRIES.about, name))
    const journey = parseJourney(await readDocument(zip, ENTRIES.journey, name))
    const versions = await versionsIn(zip, name)
    const renamed = await takeFiles(db, folder, zip, [journey, ...versions.map((version) => version.journey)], { onProgress, signal })
    const isGone = (kind: FileKind, hash: string) => !hasFile(db, folder, kind, hash)
    const missing = new Set<string>()
    const settle = (each: Journey): Journey => {
      const so = settled(withSounds(each, renamed), isGone)
      for (const sentence of so.missing) missing.add(sentence)
      return so.journey
    }
    return {
      journey: settle(journey),
      versions: versions.map((version) => ({ ...version, journey: settle(version.journey) })),
      origin,
      missing: [...missing],
    }
  } finally {
    zip.close()
  }
}

async function versionsIn(zip: OpenZip, name: string): Promise<Unpacked['versions'][number][]> {
  const names = [...zip.entries].flatMap(
    ([
      entry,
      {
        entry: { is },
      },
    ]) => (is === 'version' ? [entry] : []),
  )
  const versions: Unpacked['versions'][number][] = []
  for (const entry of names) {
    const { success, data } = keptVersionSchema.safeParse(await readDocument(zip, entry, name))
    if (!success) throw new JourneyError(`“${name}” is damaged: ${entry} in it is no version of a journey.`)
    versions.push({ ...data, journey: parseJourney(data.journey) })
  }
  return versions.sort((a, b) => a.createdAt - b.createdAt)
}

/** A journey without what is gone, and a sentence for each of that. */
function settled(journey: Journey, isGone: (kind: FileKind, hash: string) => boolean): { journey: Journey; missing: string[] } {
  const gone = filesOf(journey).filter(({ kind, hash }) => isGone(kind, hash))
  return gone.length === 0
    ? { journey, missing: [] }
    : { journey: withoutFiles(journey, isGone), missing: gone.map(({ missing }) => missing) }
}

/** Takes in the files that the journeys name and that are not here yet. @returns what sounds are called now that have another name here */
async function takeFiles(
  db: Db,
  folder: string,
  zip: OpenZip,
  journeys: readonly Journey[],
  { onProgress, signal = new AbortController().signal }: UnpackOptions,
): Promise<ReadonlyMap<string, string>> {
  const named = new Set(journeys.flatMap(filesOf).map(({ kind, hash }) => `${kind}/${hash}`))
  const wanted = [...zip.entries].flatMap(([name, packed]) => {
    const { entry } = packed
    if (entry.is !== 'file' || !named.has(`${entry.kind}/${entry.hash}`) || hasFile(db, folder, entry.kind, entry.hash)) return []
    return [{ name: name.split('/').at(-1)!, packed, entry }]
  })
  const all = Math.max(
    1,
    wanted.reduce((sum, { packed }) => sum + packed.bytes, 0),
  )
  const renamed = new Map<string, string>()
  const shares = new Map<string, number>()
  const take = async ({ name, packed, entry }: (typeof wanted)[number]) => {
    signal.throwIfAborted()
    const told = (share: number) => {
      shares.set(name, share * packed.bytes)
      onProgress?.([...shares.values()].reduce((a, b) => a + b, 0) / all)
    }
    try {
      const hash = await takeFile(db, folder, entry, packed, name, told, signal)
      if (entry.kind === 'audio' && hash !== entry.hash) renamed.set(entry.hash, hash)
    } catch (error) {
      signal.throwIfAborted()
      // One that is damaged is missing, and is told so; anything else, such as a full disk, is no fault of the file.
      if (!(error instanceof JourneyError) && !isZipFault(error)) throw error
    }
    told(1)
  }
  const queue = new PQueue({ concurrency: AT_ONCE })
  // Nothing is begun after a failure, and what is under way then ends first: the file is closed afterwards.
  let failure: unknown
  for (const file of wanted) void queue.add(async () => void (failure ??= await take(file).catch((error: unknown) => error)))
  queue.on('next', () => failure !== undefined && queue.clear())
  await queue.onIdle()
  if (failure !== undefined) throw failure as Error
  return renamed
}

/** What yauzl and zlib throw have no code of the system, or one of zlib's. */
const isZipFault = (error: unknown): boolean => {
  const { code } = error as NodeJS.ErrnoException
  return error instanceof Error && (code === undefined || /^(Z_|ERR_)/.test(code))
}

/** Keeps one file by the way on which files of its kind come in. @returns the hash by which it is known then */
async function takeFile(
  db: Db,
  folder: string,
  { kind, hash }: Extract<Entry, { is: 'file' }>,
  packed: Packed,
  name: string,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<string> {
  switch (kind) {
    case 'images':
      return (await importSheetFile(db, folder, name, await packed.stream(), { onProgress, signal })).image.hash
    case 'audio':
      return (await addAudio(folder, await packed.stream(), name, signal)).file
    case 'fonts':
    case 'luts': {
      const file = await readEntry(packed)
      // The name of a font or a table is its content, too: another one under it would be taken for the right one.
      if (createHash('sha256').update(file).digest('hex') !== hash) throw new JourneyError(`“${name}” is damaged.`)
      return kind === 'fonts'
        ? (await addFont(folder, file, name)).file
        : (await takeIn((of) => lutPath(folder, of), file, name, 'lut')).hash
    }
    default:
      return kind satisfies never
  }
}

/** Sound is packed as WAV, and known by the hash of that where the file it came from was never here. */
const withSounds = (journey: Journey, renamed: ReadonlyMap<string, string>): Journey => ({
  ...journey,
  audio: journey.audio.map((piece) => ({ ...piece, file: renamed.get(piece.file) ?? piece.file })),
})
