import { createReadStream, createWriteStream, existsSync, statSync } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { PassThrough, Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { ZipFile } from 'yazl'
import { JourneyError } from '#core/error'
import { ENTRIES, fileEntry, JOURNEY_FILE_LIMITS, versionEntry, writeAbout } from '#core/formats/journey-file'
import type { FileKind } from '#core/journey/files'
import { filesOf } from '#core/journey/files'
import type { Journey } from '#core/journey/schema'
import { creditsText } from '#core/sheet/credits'
import { SHEET_FORMATS } from '#core/sheet/limits'
import { SOUND_RATE, wavHeader } from '#core/sound/pcm'
import { posterPath } from '../posters/poster-files'
import { audioPath } from '../storage/audio-files'
import type { Db } from '../storage/database'
import { fontPath } from '../storage/font-files'
import { imagePath } from '../storage/image-files'
import { findImage } from '../storage/images'
import { lutPath } from '../storage/lut-files'

/** A journey with what was kept of it, as it goes into a file. */
export interface Packable {
  /** Its id, or what it is known by where it has none. */
  id: string
  journey: Journey
  versions: readonly { name: string; createdAt: number; journey: Journey }[]
  /** The revision whose poster goes with it. */
  poster?: number
}

/** A file of a journey, as it will lie in its file. */
interface Piece {
  kind: FileKind
  entry: string
  path: string
  /** Bytes it will have there. */
  bytes: number
}

export interface Contents {
  pieces: readonly Piece[]
  /** A sentence for each file that is not in the data folder. */
  missing: readonly string[]
}

const BYTES_PER_FRAME = 4

/** The files that a journey and its versions name, each once. */
export function contentsOf(db: Db, folder: string, { journey, versions }: Pick<Packable, 'journey' | 'versions'>): Contents {
  const pieces = new Map<string, Piece>()
  const missing = new Set<string>()
  for (const { kind, hash, missing: sentence } of [journey, ...versions.map((version) => version.journey)].flatMap(filesOf)) {
    const key = `${kind}/${hash}`
    if (pieces.has(key)) continue
    const piece = pieceOf(db, folder, kind, hash)
    if (piece) pieces.set(key, piece)
    else missing.add(sentence)
  }
  return { pieces: [...pieces.values()], missing: [...missing] }
}

function pieceOf(db: Db, folder: string, kind: FileKind, hash: string): Piece | undefined {
  const image = kind === 'images' ? findImage(db, hash) : undefined
  const { path, ending, more }: { path: string; ending: string; more: number } = {
    images: { path: imagePath(folder, hash), ending: image ? SHEET_FORMATS[image.format].extensions[0] : '', more: 0 },
    fonts: { path: fontPath(folder, hash), ending: '', more: 0 },
    luts: { path: lutPath(folder, hash), ending: '.cube', more: 0 },
    // Sound is kept decoded; as WAV others can play it.
    audio: { path: audioPath(folder, hash), ending: '.wav', more: wavHeader(0, 2, SOUND_RATE).length },
  }[kind]
  return existsSync(path) ? { kind, entry: fileEntry(kind, hash, ending), path, bytes: statSync(path).size + more } : undefined
}

/** What of a journey file is not in its pieces, in bytes at most: documents and the poster. */
const ROOM = 2 * JOURNEY_FILE_LIMITS.document

/**
 * Makes the file of a journey, read as it is written: nothing is held whole in memory but its documents.
 * @returns the bytes of the file, and how many there will be
 * @throws JourneyError if they are too many
 */
export async function packJourney(db: Db, folder: string, packed: Packable): Promise<{ stream: Readable; bytes: number }> {
  const { pieces } = contentsOf(db, folder, packed)
  const sum = pieces.reduce((total, { bytes }) => total + bytes, 0)
  if (sum > JOURNEY_FILE_LIMITS.file - ROOM)
    throw new JourneyError(
      `The maps, photos and sounds of “${packed.journey.name}” have ${(sum / 1024 ** 3).toFixed(1)} GiB, and a journey file has at most ${JOURNEY_FILE_LIMITS.file / 1024 ** 3}: leave out its versions, or lay smaller maps.`,
    )
  const zip = new ZipFile()
  // Nothing is packed any smaller, as pictures are already: so the size of the whole is known beforehand.
  const add = (name: string, text: string) => zip.addBuffer(Buffer.from(text), name, { compress: false })
  add(ENTRIES.about, writeAbout(packed.id))
  add(ENTRIES.journey, JSON.stringify(packed.journey, null, 1))
  packed.versions.forEach((version, i) => add(versionEntry(i), JSON.stringify(version)))
  add(ENTRIES.licences, licencesOf(packed.journey))
  const poster = packed.poster === undefined ? undefined : posterPath(folder, packed.id, packed.poster)
  if (poster && existsSync(poster)) zip.addFile(poster, ENTRIES.poster, { compress: false })
  for (const { kind, entry, path, bytes } of pieces)
    if (kind === 'audio') zip.addReadStream(Readable.from(wavOf(path, bytes)), entry, { compress: false, size: bytes })
    else zip.addFile(path, entry, { compress: false })
  const stream = new PassThrough()
  const total = await new Promise<number>((resolve, reject) => {
    // A file that is gone before it is read: the download breaks off.
    zip.on('error', (error: Error) => (reject(error), stream.destroy(error)))
    // Its types do not know that the callback is given the size.
    zip.end({ forceZip64Format: false, comment: '' }, resolve as () => void)
  })
  return { stream: zip.outputStream.pipe(stream), bytes: total }
}

/** Writes the file of a journey, which has its name only when it is whole. @returns its bytes @throws as packJourney does */
export async function writeJourneyFile(db: Db, folder: string, packed: Packable, out: string): Promise<number> {
  const { stream, bytes } = await packJourney(db, folder, packed)
  const part = `${out}.part`
  try {
    await pipeline(stream, createWriteStream(part))
    await rename(part, out)
  } finally {
    await rm(part, { force: true })
  }
  return bytes
}

async function* wavOf(path: string, bytes: number): AsyncGenerator<Buffer> {
  const header = wavHeader(0, 2, SOUND_RATE).length
  yield Buffer.from(wavHeader((bytes - header) / BYTES_PER_FRAME, 2, SOUND_RATE))
  yield* createReadStream(path) as AsyncIterable<Buffer>
}

/** Whom to credit, for whoever gets the file. */
function licencesOf(journey: Journey): string {
  const credits = creditsText(journey).split('\n').filter(Boolean)
  const own = [
    ...journey.fonts.map(({ name }) => `Font “${name}”: whether it may be passed on is for you to know`),
    ...journey.audio.map(({ name }) => `Sound “${name}”: whether it may be passed on is for you to know`),
  ]
  const list = [...credits, ...own]
  return `# ${journey.name}: credits and licences\n\n${list.length > 0 ? list.map((line) => `- ${line}`).join('\n') : 'Nothing in this journey asks for credit.'}\n`
}
