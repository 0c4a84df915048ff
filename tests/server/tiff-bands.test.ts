import { Readable } from 'node:stream'
import { writeArrayBuffer } from 'geotiff'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { readTile } from '../../server/sheets/tiles'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { temporaryFolder } from '../support/server'

let folder: string
let db: Db
beforeAll(() => {
  folder = temporaryFolder()
  db = openDatabase(folder)
})
afterAll(() => {
  closeTileFiles()
  db.close()
})

const [WIDTH, HEIGHT] = [300, 200]
type Numbers = Uint8Array | Uint16Array | Int16Array | Float32Array

/** A GeoTIFF in degrees, with so many bands of numbers. */
async function tiffOf(values: Numbers, bands: number, tags: Record<string, unknown> = {}): Promise<Buffer> {
  const format = values instanceof Float32Array ? 3 : values instanceof Int16Array ? 2 : 1
  // The writer knows no numbers with a sign: it is given their bits.
  const written = values instanceof Int16Array ? new Uint16Array(values.buffer) : values
  const file = await writeArrayBuffer(written as never, {
    width: WIDTH,
    height: HEIGHT,
    SamplesPerPixel: bands,
    BitsPerSample: Array<number>(bands).fill(8 * values.BYTES_PER_ELEMENT),
    SampleFormat: Array<number>(bands).fill(format),
    PhotometricInterpretation: 1,
    ModelPixelScale: [0.01, 0.01, 0],
    ModelTiepoint: [0, 0, 0, 10, 50, 0],
    GTModelTypeGeoKey: 2,
    GeographicTypeGeoKey: 4326,
    ...tags,
  })
  return Buffer.from(file as ArrayBuffer)
}

/** What is shown of a file once it is a sheet: RGBA; and what is said of it. */
async function shown(file: Buffer) {
  const { image } = await importSheetFile(db, folder, 'map.tif', Readable.from([file]))
  expect([image.width, image.height]).toEqual([WIDTH, HEIGHT])
  const tile = await readTile(folder, { image: image.hash, width: WIDTH, height: HEIGHT, vector: false }, { level: 0, column: 0, row: 0 })
  const { data } = await sharp(tile).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return { image, at: (x: number, y: number) => [...data.subarray(4 * (y * WIDTH + x), 4 * (y * WIDTH + x) + 4)] }
}

/** Numbers for each pixel and band. */
function fill<T extends Numbers>(values: T, bands: number, of: (x: number, y: number, band: number) => number): T {
  for (let i = 0; i < values.length; i++) values[i] = of(Math.floor(i / bands) % WIDTH, Math.floor(i / bands / WIDTH), i % bands)
  return values
}

describe('a GeoTIFF of numbers', () => {
  it('of few of its 16 bits is shown from dark to light, but for 2 % at either end, and says so', async () => {
    // A ramp to the east, from 200 to 3190, as surface reflectance has it.
    const file = await tiffOf(fill(new Uint16Array(WIDTH * HEIGHT * 3), 3, (x, _y, band) => 200 + 10 * x + band), 3, { PhotometricInterpretation: 2 }) // prettier-ignore
    const { image, at } = await shown(file)
    expect(at(3, 100).slice(0, 3)).toEqual([0, 0, 0])
    expect(at(296, 100).slice(0, 3)).toEqual([255, 255, 255])
    // 2 % of 300 columns are 6: from 260 to 3140 or so.
    const [red] = at(150, 100)
    expect(Math.abs(red! - (255 * (1700 - 260)) / (3140 - 260))).toBeLessThan(2)
    expect(image.note).toBe('Its lowest numbers are black and its highest white, but for 2 % at either end.')
    expect(image.georeference).toMatchObject({ kind: 'affine', source: 'geotiff', plane: { kind: 'degrees' } })
  })

  it('of all of its 16 bits is the picture that it is, as another reader has it', async () => {
    const file = await tiffOf(
      fill(new Uint16Array(WIDTH * HEIGHT), 1, (x, y) => (x * 218 + y * 7) % 65536),
      1,
    )
    const { image, at } = await shown(file)
    expect(image.note).toBeNull()
    const { data, info } = await sharp(file).toColourspace('srgb').raw().toBuffer({ resolveWithObject: true })
    for (const [x, y] of [[0, 0], [150, 30], [299, 199]] as const) expect(Math.abs(at(x, y)[0]! - data[info.channels * (y * WIDTH + x)]!)).toBeLessThan(2) // prettier-ignore
  })

  it('with eight bands shows the first three, and with an opaque part only that', async () => {
    const eight = fill(new Uint8Array(WIDTH * HEIGHT * 8), 8, (x, _y, band) => (band < 3 ? [x % 256, 40, 90][band]! : 255))
    const many = await shown(await tiffOf(eight, 8))
    expect(many.at(100, 10)).toEqual([100, 40, 90, 255])
    expect(many.image.note).toBe('Of its 8 bands the first three are shown as red, green and blue.')
    // Four bands of 16 bits, of which the last is unassociated alpha (TIFF 6.0, page 31: 2).
    const clear = fill(new Uint16Array(WIDTH * HEIGHT * 4), 4, (x, y, band) => (band === 3 ? (y < 100 ? 0 : 65535) : 200 * x))
    const partly = await shown(await tiffOf(clear, 4, { PhotometricInterpretation: 2, ExtraSamples: [2] }))
    expect(partly.at(150, 20)[3]).toBe(0)
    expect(partly.at(150, 180)[3]).toBe(255)
    expect(partly.image.note).toBeNull()
  })

  it('of heights in fractions or with a sign is grey, and nothing where there is none', async () => {
    const heights = (x: number, y: number) => (x < 50 ? -9999 : -120.5 + x + y)
    for (const values of [new Float32Array(WIDTH * HEIGHT), new Int16Array(WIDTH * HEIGHT)]) {
      const { at } = await shown(await tiffOf(fill(values, 1, heights), 1, { GDAL_NODATA: '-9999' }))
      expect(at(20, 100)[3]).toBe(0)
      const [low, high] = [at(60, 5), at(290, 195)]
      expect([low[0], low[1], low[2], low[3]]).toEqual([low[0], low[0], low[0], 255])
      expect(low[0]).toBeLessThan(12)
      expect(high[0]).toBeGreaterThan(243)
      expect(at(175, 100)[0]).toBeGreaterThan(110)
      expect(at(175, 100)[0]).toBeLessThan(145)
    }
  })

  it('of 8 bits with a number for nothing keeps its colours, and is clear there', async () => {
    const values = fill(new Uint8Array(WIDTH * HEIGHT * 3), 3, (x) => (x < 40 ? 0 : 77))
    const { image, at } = await shown(await tiffOf(values, 3, { PhotometricInterpretation: 2, GDAL_NODATA: '0' }))
    expect(at(10, 10)[3]).toBe(0)
    expect(at(100, 10)).toEqual([77, 77, 77, 255])
    expect(image.note).toBeNull()
  })

  it('that is cut short is refused with a sentence, wherever', async () => {
    const file = await tiffOf(
      fill(new Uint16Array(WIDTH * HEIGHT * 5), 5, (x, y, band) => x + y + band),
      5,
    )
    for (const share of [0.05, 0.5, 0.98]) {
      const cut = file.subarray(0, Math.floor(share * file.length))
      await expect(importSheetFile(db, folder, 'cut.tif', Readable.from([cut]))).rejects.toThrow(/“cut.tif” is damaged or cut short/)
    }
  })
})
