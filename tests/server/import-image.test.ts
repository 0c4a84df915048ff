import { readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { crc32, deflateSync } from 'node:zlib'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { levelFor, levelSize, levelsOf } from '#core/sheet/levels'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { importImage } from '../../server/storage/import-image'
import { imagePath, levelPath } from '../../server/storage/image-files'
import { temporaryFolder } from '../support/server'

let folder: string
let db: Db
beforeAll(() => {
  folder = temporaryFolder()
  db = openDatabase(folder)
})
afterAll(() => {
  db.close()
  rmSync(folder, { recursive: true, force: true })
})

const take = (name: string, bytes: Buffer | string) => importImage(db, folder, name, Readable.from([Buffer.from(bytes)]))
const noise = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#888', noise: { type: 'gaussian', mean: 128, sigma: 40 } } })
const imagesStored = () => (db.prepare('SELECT count(*) AS n FROM images').get() as { n: number }).n
const filesLeft = () =>
  readdirSync(join(folder, 'images'), { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile()).length

/** A PNG that says it is huge and holds next to nothing: PNG specification (W3C), chunks IHDR, IDAT and IEND. */
function bomb(width: number, height: number): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data])
    const length = Buffer.alloc(4)
    length.writeUInt32BE(data.length)
    const check = Buffer.alloc(4)
    check.writeUInt32BE(crc32(body))
    return Buffer.concat([length, body, check])
  }
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width, 0)
  header.writeUInt32BE(height, 4)
  header.set([8, 0, 0, 0, 0], 8)
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  return Buffer.concat([signature, chunk('IHDR', header), chunk('IDAT', deflateSync(Buffer.alloc(1000))), chunk('IEND', Buffer.alloc(0))])
}

describe('importing a picture', () => {
  it.each(['png', 'jpeg', 'webp'] as const)('takes a %s and makes its copies', async (format) => {
    const bytes = await noise(2600, 1300).toFormat(format).toBuffer()
    const record = await take(`map.${format === 'jpeg' ? 'jpg' : format}`, bytes)
    expect(record).toMatchObject({ format, width: 2600, height: 1300, bytes: bytes.length })
    for (const level of [0, 1, 2]) {
      const { width, height } = await sharp(levelPath(folder, record.hash, level)).metadata()
      expect({ width, height }).toEqual(levelSize(record, level))
    }
    expect(await sharp(imagePath(folder, record.hash)).metadata()).toMatchObject({ width: 2600, height: 1300 })
  })

  it('keeps the same file once', async () => {
    const bytes = await noise(300, 200).png().toBuffer()
    const first = await take('one.png', bytes)
    const stored = imagesStored()
    expect(await take('another name.png', bytes)).toEqual(first)
    expect(imagesStored()).toBe(stored)
  })

  it('honours the orientation in a photo’s EXIF data', async () => {
    const bytes = await noise(400, 200).withMetadata({ orientation: 6 }).jpeg().toBuffer()
    const record = await take('upright.jpg', bytes)
    expect([record.width, record.height]).toEqual([200, 400])
    expect(await sharp(levelPath(folder, record.hash, 0)).metadata()).toMatchObject({ width: 200, height: 400 })
  })

  it.each<[string, string, () => Promise<Buffer> | Buffer, RegExp]>([
    [
      'a text file called .png',
      'notes.png',
      () => Buffer.from('Dear diary, today we sailed.'),
      /“notes.png” is not a PNG, JPEG or WebP picture, whatever its name says/,
    ],
    ['a text file', 'notes.txt', () => Buffer.from('Dear diary'), /“notes.txt” is not a PNG, JPEG or WebP picture: choose/],
    ['an empty file', 'empty.png', () => Buffer.alloc(0), /“empty.png” is empty/],
    [
      'a JPEG called .png',
      'photo.png',
      () => noise(40, 40).jpeg().toBuffer(),
      /“photo.png” is named like a PNG picture, but holds a JPEG: .* rename it to end in \.jpg/,
    ],
    [
      'a picture cut short',
      'half.png',
      async () => (await noise(800, 800).png().toBuffer()).subarray(0, 90_000),
      /“half.png” is damaged or cut short/,
    ],
    [
      'a JPEG cut short',
      'half.jpg',
      async () => (await noise(800, 800).jpeg().toBuffer()).subarray(0, 60_000),
      /“half.jpg” is damaged or cut short/,
    ],
    ['a header and nothing else', 'stub.webp', () => Buffer.from('RIFF\x10\0\0\0WEBPVP8 '), /“stub.webp” is damaged or cut short/],
    [
      'a picture of 400 megapixels',
      'huge.png',
      () => bomb(20_000, 20_000),
      /“huge.png” has 20000 × 20000 pixels \(400 megapixels\); up to 150 megapixels/,
    ],
    ['a picture too long on one side', 'strip.png', () => bomb(40_000, 10), /“strip.png” has 40000 × 10 pixels .* 32000 a side/],
    ['a decompression bomb within the limits', 'bomb.png', () => bomb(12_000, 12_000), /“bomb.png” is damaged or cut short/],
  ])('refuses %s with a sentence, and keeps nothing of it', async (_what, name, bytes, message) => {
    const [stored, files] = [imagesStored(), filesLeft()]
    await expect(take(name, await bytes())).rejects.toThrow(message)
    expect([imagesStored(), filesLeft()]).toEqual([stored, files])
  })
})

describe('levels', () => {
  it('halve down to a thousand pixels; of large images the browser gets no full size', () => {
    expect(levelsOf({ width: 800, height: 600 })).toEqual([0])
    expect(levelsOf({ width: 4096, height: 10 })).toEqual([0, 1, 2])
    expect(levelsOf({ width: 6400, height: 3600 })).toEqual([1, 2, 3])
  })

  it('are chosen to have at least a pixel for each output pixel', () => {
    expect(levelFor([0, 1, 2], 4.2)).toBe(2)
    expect(levelFor([0, 1, 2], 3.9)).toBe(1)
    expect(levelFor([1, 2], 1.2)).toBeUndefined()
  })
})
