import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, open, rename, rm } from 'node:fs/promises'
import { dirname, extname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { nanoid } from 'nanoid'
import sharp from 'sharp'
import { JourneyError } from '#core/journey/error'
import { levelSize, levelsOf } from '#core/sheet/levels'
import { IMAGE_LIMITS, tooManyBytes } from '#core/sheet/limits'
import type { Db } from './database'
import { imagePath, levelPath } from './image-files'
import type { ImageRecord } from './images'
import { findImage, insertImage } from './images'

const FORMATS = {
  png: { label: 'PNG', extensions: ['.png'] },
  jpeg: { label: 'JPEG', extensions: ['.jpg', '.jpeg', '.jpe', '.jfif'] },
  webp: { label: 'WebP', extensions: ['.webp'] },
} as const
type Format = keyof typeof FORMATS

/**
 * Takes in an image file: checks it, keeps it under its content hash and makes the smaller copies. The same file is kept once.
 * @param name the file's name, for the messages and to tell a mislabelled file
 * @throws JourneyError saying what is wrong with the file; nothing of it is kept then.
 */
export async function importImage(db: Db, folder: string, name: string, source: Readable): Promise<ImageRecord> {
  const temporary = join(folder, 'images', `incoming-${nanoid(10)}`)
  await mkdir(dirname(temporary), { recursive: true })
  try {
    const { hash, bytes } = await receive(source, temporary, name)
    const known = findImage(db, hash)
    if (known) {
      checkExtension(name, known.format)
      return known
    }
    const { format, width, height } = await inspect(temporary, name)
    const target = imagePath(folder, hash)
    await mkdir(dirname(target), { recursive: true })
    await makeLevels(temporary, folder, hash, { width, height }, name)
    await rename(temporary, target)
    const record: ImageRecord = { hash, format, width, height, bytes }
    insertImage(db, record)
    return record
  } finally {
    await rm(temporary, { force: true })
  }
}

async function receive(source: Readable, path: string, name: string): Promise<{ hash: string; bytes: number }> {
  const digest = createHash('sha256')
  let bytes = 0
  const meter = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length
      digest.update(chunk)
      // What comes beyond the limit is let pass unkept: hanging up would keep the answer from the one who sends.
      if (bytes > IMAGE_LIMITS.bytes) done()
      else done(null, chunk)
    },
  })
  await pipeline(source, meter, createWriteStream(path))
  if (bytes > IMAGE_LIMITS.bytes) throw new JourneyError(tooManyBytes(name))
  if (bytes === 0) throw new JourneyError(`“${name}” is empty.`)
  return { hash: digest.digest('hex'), bytes }
}

async function inspect(path: string, name: string): Promise<{ format: Format; width: number; height: number }> {
  const format = await signature(path)
  if (!format)
    throw new JourneyError(
      `“${name}” is not a PNG, JPEG or WebP picture${looksLikeOne(name) ? ', whatever its name says' : ''}: choose a picture in one of these formats.`,
    )
  checkExtension(name, format)
  const header = await sharp(path, { limitInputPixels: false })
    .metadata()
    .catch((error: Error) => {
      throw damaged(name, error)
    })
  const turned = (header.orientation ?? 1) >= 5
  const width = turned ? header.height : header.width
  const height = turned ? header.width : header.height
  if (width * height > IMAGE_LIMITS.pixels || Math.max(width, height) > IMAGE_LIMITS.side) {
    const megapixels = Math.ceil((width * height) / 1e6)
    throw new JourneyError(
      `“${name}” has ${width} × ${height} pixels (${megapixels} megapixels); up to ${IMAGE_LIMITS.pixels / 1e6} megapixels and ${IMAGE_LIMITS.side} a side can be used: scale it down.`,
    )
  }
  return { format, width, height }
}

/** The format that a file's first bytes tell. */
async function signature(path: string): Promise<Format | undefined> {
  const file = await open(path)
  try {
    const head = Buffer.alloc(12)
    await file.read(head, 0, 12, 0)
    if (head.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))) return 'png'
    if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'jpeg'
    if (head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'WEBP') return 'webp'
    return undefined
  } finally {
    await file.close()
  }
}

const formatOfName = (name: string): Format | undefined => {
  const extension = extname(name).toLowerCase()
  return (Object.keys(FORMATS) as Format[]).find((format) => (FORMATS[format].extensions as readonly string[]).includes(extension))
}
const looksLikeOne = (name: string): boolean => formatOfName(name) !== undefined

function checkExtension(name: string, format: Format): void {
  const named = formatOfName(name)
  if (named === format) return
  const { label, extensions } = FORMATS[format]
  const claim = named ? `is named like a ${FORMATS[named].label} picture` : `has a name without a picture's ending`
  throw new JourneyError(
    `“${name}” ${claim}, but holds a ${label}: if it is the right file, rename it to end in ${extensions[0]} and import it again.`,
  )
}

/** Each level is made from the one before, so that the original is decoded once. */
async function makeLevels(
  original: string,
  folder: string,
  hash: string,
  size: { width: number; height: number },
  name: string,
): Promise<void> {
  const made: string[] = []
  try {
    let source = original
    for (const level of levelsOf(size)) {
      const path = levelPath(folder, hash, level)
      const { width, height } = levelSize(size, level)
      let picture = sharp(source, { limitInputPixels: IMAGE_LIMITS.pixels, failOn: 'truncated', sequentialRead: true })
      if (source === original) picture = picture.autoOrient().toColourspace('srgb')
      made.push(path)
      await picture.resize(width, height, { fit: 'fill' }).webp({ quality: 92, effort: 1, smartSubsample: true }).toFile(path)
      source = path
    }
  } catch (error) {
    await Promise.all(made.map((path) => rm(path, { force: true })))
    throw damaged(name, error as Error)
  }
}

const damaged = (name: string, cause: Error): JourneyError =>
  new JourneyError(`“${name}” is damaged or cut short and cannot be read to its end: export or download it again.`, { cause })
