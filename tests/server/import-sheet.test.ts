import { mkdirSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { crc32, deflateSync } from 'node:zlib'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { geoCorners, geoSheet } from '#core/geo/georeference'
import { coarsestLevel, levelSize, tileGrid, tileSize } from '#core/sheet/pyramid'
import { cutMissingTiles, importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { readTile } from '../../server/sheets/tiles'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { imagePath, tilesPath } from '../../server/storage/image-files'
import type { ImageRecord } from '../../server/storage/images'
import { listImages } from '../../server/storage/images'
import { mbtiles, MBTILES_TABLES } from '../support/mbtiles'
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
  rmSync(folder, { recursive: true, force: true })
})

const take = async (name: string, bytes: Buffer | string) =>
  (await importSheetFile(db, folder, name, Readable.from([Buffer.from(bytes)]))).image
const noise = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#888', noise: { type: 'gaussian', mean: 128, sigma: 40 } } })
const imagesStored = () => (db.prepare('SELECT count(*) AS n FROM images').get() as { n: number }).n
const filesLeft = () => {
  mkdirSync(join(folder, 'images'), { recursive: true })
  return readdirSync(join(folder, 'images'), { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile()).length
}
const tile = (image: ImageRecord, level: number, column: number, row: number) =>
  readTile(folder, { ...image, image: image.hash }, { level, column, row })
/** The colour in the middle of a tile. */
async function middleOf(data: Buffer): Promise<number[]> {
  const { data: pixels, info } = await sharp(data).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  const i = 4 * (Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2))
  return [...pixels.subarray(i, i + 4)]
}

/** A PNG that says it is huge and holds next to nothing: PNG specification (W3C), chunks IHDR, IDAT and IEND. */
function bomb(width: number, height: number, interlaced = false): Buffer {
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
  header.set([8, 0, 0, 0, interlaced ? 1 : 0], 8)
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])
  return Buffer.concat([signature, chunk('IHDR', header), chunk('IDAT', deflateSync(Buffer.alloc(1000))), chunk('IEND', Buffer.alloc(0))])
}

/** A TIFF header that claims so many pixels, in one strip that is not there: TIFF 6.0, tags 256, 257, 258, 259, 262, 273, 277, 278, 279. */
function absurdTiff(width: number, height: number): Buffer {
  const tags = [
    [256, width],
    [257, height],
    [258, 8],
    [259, 1],
    [262, 1],
    [273, 8],
    [277, 1],
    [278, height],
    [279, 100],
  ] as const
  const bytes = Buffer.alloc(8 + 2 + tags.length * 12 + 4)
  bytes.write('II*\0', 'latin1')
  bytes.writeUInt32LE(8, 4)
  bytes.writeUInt16LE(tags.length, 8)
  tags.forEach(([tag, value], i) => {
    bytes.writeUInt16LE(tag, 10 + 12 * i)
    bytes.writeUInt16LE(4, 12 + 12 * i)
    bytes.writeUInt32LE(1, 14 + 12 * i)
    bytes.writeUInt32LE(value, 18 + 12 * i)
  })
  return bytes
}

const SVG = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100">'

describe('importing a picture', () => {
  it.each(['png', 'jpeg', 'webp', 'tiff', 'avif'] as const)('takes a %s and cuts it into tiles at all levels', async (format) => {
    // AVIF is slow to write; how well it is packed does not matter here.
    const bytes = await noise(1300, 700)
      .toFormat(format, format === 'avif' ? { effort: 0 } : {})
      .toBuffer()
    const record = await take(`map.${format === 'jpeg' ? 'jpg' : format}`, bytes)
    expect(record).toMatchObject({ format, width: 1300, height: 700, bytes: bytes.length, vector: false, georeference: null })
    expect(coarsestLevel(record)).toBe(2)
    for (const level of [0, 1, 2]) {
      const { columns, rows } = tileGrid(record, level)
      const address = { level, column: columns - 1, row: rows - 1 }
      const { width, height } = await sharp(await tile(record, level, columns - 1, rows - 1)).metadata()
      expect({ width, height }).toEqual(tileSize(record, address))
      expect(await tile(record, level, columns, 0)).toBeUndefined()
    }
    expect(await sharp(imagePath(folder, record.hash)).metadata()).toMatchObject({ width: 1300, height: 700 })
  })

  it('keeps the pixels of a PNG exactly, each in its place', async () => {
    const pixels = await noise(700, 600).raw().toBuffer()
    const record = await take(
      'exact.png',
      await sharp(pixels, { raw: { width: 700, height: 600, channels: 3 } })
        .png()
        .toBuffer(),
    )
    const corner = await sharp(await tile(record, 0, 1, 1))
      .removeAlpha()
      .raw()
      .toBuffer()
    const size = tileSize(record, { level: 0, column: 1, row: 1 })
    for (const [x, y] of [
      [0, 0],
      [100, 50],
      [187, 87],
    ] as const) {
      const [here, there] = [3 * (y * size.width + x), 3 * ((512 + y) * 700 + 512 + x)]
      expect([...corner.subarray(here, here + 3)]).toEqual([...pixels.subarray(there, there + 3)])
    }
  })

  it('keeps the same file once', async () => {
    const bytes = await noise(300, 200).png().toBuffer()
    const first = await take('one.png', bytes)
    const stored = imagesStored()
    expect(await take('another name.png', bytes)).toEqual(first)
    expect(imagesStored()).toBe(stored)
  })

  it('honours the orientation in a photo’s EXIF data', async () => {
    const [left, right] = ['#ff0000', '#0000ff'].map((background) => ({
      create: { width: 200, height: 200, channels: 3 as const, background },
    }))
    const bytes = await sharp({ create: { width: 400, height: 200, channels: 3, background: '#000' } })
      .composite([
        { input: left!, left: 0, top: 0 },
        { input: right!, left: 200, top: 0 },
      ])
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer()
    const record = await take('upright.jpg', bytes)
    expect([record.width, record.height]).toEqual([200, 400])
    const { data, info } = await sharp(await tile(record, 0, 0, 0))
      .raw()
      .toBuffer({ resolveWithObject: true })
    // Turned by a quarter clockwise, what was on the left is at the top.
    expect(data[info.channels * 50 * info.width]!).toBeGreaterThan(200)
    expect(data[info.channels * 350 * info.width + 2]!).toBeGreaterThan(200)
  })

  it('converts an embedded colour profile to sRGB', async () => {
    // The reddest red of Display P3 lies outside sRGB; its (200, 40, 40) is a redder red there than the same numbers without a profile.
    const flat = sharp({ create: { width: 64, height: 64, channels: 3, background: { r: 200, g: 40, b: 40 } } })
    const tagged = await flat.clone().withIccProfile('p3').png().toBuffer()
    const wide = await sharp(tagged).metadata()
    expect(wide.icc).toBeDefined()
    const raw = await sharp(tagged, { ignoreIcc: true }).raw().toBuffer()
    const record = await take('wide.png', tagged)
    const [r, g, b] = await middleOf((await tile(record, 0, 0, 0))!)
    // Back in sRGB it is the colour that was made in sRGB, not the numbers in the file.
    expect([Math.abs(r! - 200), Math.abs(g! - 40), Math.abs(b! - 40)].every((off) => off <= 3)).toBe(true)
    expect(Math.abs(raw[0]! - 200) + Math.abs(raw[1]! - 40)).toBeGreaterThan(10)
  })

  it('reads a GeoTIFF’s tags, as written by hand after OGC GeoTIFF 1.1', async () => {
    const record = await take('geo.tif', geoTiff())
    const [upperLeft, , lowerRight] = geoCorners(geoSheet(record.georeference!), record)
    expect(upperLeft).toEqual({ lon: 10, lat: 50 })
    expect(lowerRight!.lon).toBeCloseTo(10 + 4 * 0.5, 9)
    expect(lowerRight!.lat).toBeCloseTo(50 - 2 * 0.25, 9)
  })

  it('reads a GeoTIFF in a national grid, and says so of one that it cannot read', async () => {
    // The origin of the Swiss grid, EPSG:2056, in the old observatory of Bern.
    const swiss = await take('swiss.tif', geoTiff({ code: 2056, x: 2_600_000, y: 1_200_000, step: 10 }))
    const [corner] = geoCorners(geoSheet(swiss.georeference!), swiss)
    expect([corner!.lon.toFixed(4), corner!.lat.toFixed(4), swiss.note]).toEqual(['7.4386', '46.9511', null])
    const own = await take('own.tif', geoTiff({ code: 32_767, x: 5, y: 5, step: 1 }))
    expect([own.georeference, own.note]).toEqual([null, expect.stringContaining('a coordinate system of its own')])
    const none = await take('none.tif', geoTiff({ code: 31_950, x: 5, y: 5, step: 1 }))
    expect([none.georeference, none.note]).toEqual([null, expect.stringContaining('EPSG:31950 is not in the list')])
  })

  it('cuts the tiles of an image that an earlier version has kept without', async () => {
    const record = await take('old.png', await noise(600, 400).png().toBuffer())
    closeTileFiles()
    rmSync(tilesPath(folder, record.hash))
    await cutMissingTiles(folder, listImages(db))
    expect(await tile(record, 1, 0, 0)).toBeDefined()
  })
})

/** A grey TIFF of 4 x 2 pixels, half a degree wide and a quarter high, from 10 E 50 N: EPSG:4326, pixel is area. Or in a projected system, as given. */
function geoTiff(projected?: { code: number; x: number; y: number; step: number }): Buffer {
  const doubles = Buffer.alloc(9 * 8)
  const { x, y, step } = projected ?? { x: 10, y: 50, step: 0.5 }
  ;[step, projected ? step : 0.25, 0, 0, 0, 0, x, y, 0].forEach((value, i) => doubles.writeDoubleLE(value, 8 * i))
  const keys = Buffer.alloc(16 * 2)
  // Version 1.1.0, three keys: GTModelType 2 (geographic), GTRasterType 1 (pixel is area), GeographicType 4326.
  // Of a projected system: GTModelType 1, and ProjectedCSType.
  const system = projected ? [1024, 0, 1, 1, 1025, 0, 1, 1, 3072, 0, 1, projected.code] : [1024, 0, 1, 2, 1025, 0, 1, 1, 2048, 0, 1, 4326]
  ;[1, 1, 0, 3, ...system].forEach((value, i) => keys.writeUInt16LE(value, 2 * i))
  const count = 12
  const data = 8 + 2 + 12 * count + 4
  const [at, keysAt, pixelsAt] = [data, data + doubles.length, data + doubles.length + keys.length]
  const head = Buffer.alloc(data)
  head.write('II*\0', 'latin1')
  head.writeUInt32LE(8, 4)
  head.writeUInt16LE(count, 8)
  const [SHORT, LONG, DOUBLE] = [3, 4, 12]
  const entries = [
    [256, SHORT, 1, 4],
    [257, SHORT, 1, 2],
    [258, SHORT, 1, 8],
    [259, SHORT, 1, 1],
    [262, SHORT, 1, 1],
    [273, LONG, 1, pixelsAt],
    [277, SHORT, 1, 1],
    [278, SHORT, 1, 2],
    [279, LONG, 1, 8],
    [33550, DOUBLE, 3, at],
    [33922, DOUBLE, 6, at + 24],
    [34735, SHORT, 16, keysAt],
  ] as const
  entries.forEach(([tag, type, n, value], i) => {
    head.writeUInt16LE(tag, 10 + 12 * i)
    head.writeUInt16LE(type, 12 + 12 * i)
    head.writeUInt32LE(n, 14 + 12 * i)
    head.writeUInt32LE(value, 18 + 12 * i)
  })
  return Buffer.concat([head, doubles, keys, Buffer.alloc(8, 128)])
}

describe('importing a drawing', () => {
  it('takes an SVG, and draws it sharp at any zoom', async () => {
    const record = await take(
      'plan.svg',
      `${SVG}<rect width="200" height="100" fill="#0000ff"/><rect x="100" width="0.05" height="100" fill="#ffff00"/></svg>`,
    )
    expect(record).toMatchObject({ format: 'svg', width: 4096, height: 2048, vector: true })
    expect(await middleOf((await tile(record, 0, 1, 1))!)).toEqual([0, 0, 255, 255])
    // The yellow line is a nominal pixel wide; five levels finer it is 32 wide, with edges as sharp as ever.
    const column = (2048 * 32) / 512
    const { data, info } = await sharp(await tile(record, -5, column, 3))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true })
    const yellow = Array.from({ length: info.width }, (_, x) => data[3 * (200 * info.width + x)]!)
    expect(yellow.slice(1, 31).every((red) => red === 255)).toBe(true)
    expect(yellow.slice(35).every((red) => red === 0)).toBe(true)
    expect(await tile(record, -6, 0, 0)).toBeUndefined()
  })

  it('keeps half-transparent colours as they are', async () => {
    const record = await take('pale.svg', `${SVG}<rect width="200" height="100" fill="#ff8000" fill-opacity="0.5"/></svg>`)
    const [r, g, b, a] = await middleOf((await tile(record, 0, 0, 0))!)
    expect([r, b]).toEqual([255, 0])
    expect(Math.abs(g! - 128)).toBeLessThanOrEqual(2)
    expect(Math.abs(a! - 128)).toBeLessThanOrEqual(1)
  })

  it('takes the first page of a PDF', async () => {
    const record = await take('plan.pdf', pdf('0 0 1 rg 0 0 300 200 re f'))
    expect(record).toMatchObject({ format: 'pdf', width: 4096, height: 2731, vector: true })
    expect(await middleOf((await tile(record, 3, 0, 0))!)).toEqual([0, 0, 255, 255])
    expect(await middleOf((await tile(record, -2, 5, 5))!)).toEqual([0, 0, 255, 255])
  })
})

/** A PDF of one page, 300 by 200 points, with the given drawing operators: PDF 1.4 (ISO 32000-1), annex H. */
function pdf(operators: string): string {
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 300 200] /Contents 4 0 R /Resources << >> >>',
    `<< /Length ${operators.length} >>\nstream\n${operators}\nendstream`,
  ]
  let text = '%PDF-1.4\n'
  const places = objects.map((object, i) => {
    const place = text.length
    text += `${i + 1} 0 obj\n${object}\nendobj\n`
    return place
  })
  const table = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('')
  return `${text}xref\n0 5\n0000000000 65535 f \n${table}trailer\n<< /Size 5 /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`
}

describe('importing MBTiles', () => {
  it('puts the finest tiles together, north up, and knows where they lie (MBTiles 1.3)', async () => {
    const square = (background: string) =>
      sharp({ create: { width: 256, height: 256, channels: 3, background } })
        .png()
        .toBuffer()
    const [red, green, blue] = [await square('#ff0000'), await square('#00ff00'), await square('#0000ff')]
    const record = await take(
      'tiles.mbtiles',
      mbtiles((file) => {
        file.exec(MBTILES_TABLES)
        const put = file.prepare('INSERT INTO tiles VALUES (?, ?, ?, ?)')
        put.run(0, 0, 0, red)
        // Rows are counted from the south: of zoom 2, the two columns east of Greenwich, three rows from the equator's south to the north.
        put.run(2, 2, 3, red)
        put.run(2, 3, 3, green)
        put.run(2, 2, 1, blue)
      }),
    )
    expect(record).toMatchObject({ width: 512, height: 768, vector: false })
    const corners = geoCorners(geoSheet(record.georeference!), record)
    expect(corners[0]!.lon).toBeCloseTo(0, 9)
    // The edge of Web Mercator's square (IOGP 373-7-2), and the edge of zoom 2's third row by the same formula.
    expect(corners[0]!.lat).toBeCloseTo(85.0511287798, 6)
    expect(corners[2]!.lon).toBeCloseTo(180, 9)
    expect(corners[2]!.lat).toBeCloseTo(-66.5132604431, 6)
    const { data, info } = await sharp(await tile(record, 0, 0, 0))
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true })
    const at = (x: number, y: number) => [...data.subarray(4 * (y * info.width + x), 4 * (y * info.width + x) + 4)]
    expect(at(128, 128)[0]).toBeGreaterThan(240)
    expect(at(384, 128)[1]).toBeGreaterThan(240)
    expect(at(128, 400)[3], 'a tile that is missing').toBe(0)
    expect((await middleOf((await tile(record, 0, 0, 1))!))[3]).toBe(0)
    expect((await middleOf((await tile(record, 1, 0, 0))!)).length).toBe(4)
    expect(levelSize(record, 1)).toEqual({ width: 256, height: 384 })
  })
})

describe('a file that cannot become a sheet', () => {
  it.each<[string, string, () => Promise<Buffer> | Buffer | string, RegExp]>([
    [
      'a text file called .png',
      'notes.png',
      () => 'Dear diary, today we sailed.',
      /“notes.png” is not a PNG, JPEG, .* file, whatever its name says/,
    ],
    ['a text file', 'notes.txt', () => 'Dear diary', /“notes.txt” is not a PNG, JPEG, .* file: choose/],
    ['an empty file', 'empty.png', () => '', /“empty.png” is empty/],
    [
      'a JPEG called .png',
      'photo.png',
      () => noise(40, 40).jpeg().toBuffer(),
      /“photo.png” is named like a PNG file, but holds a JPEG: .* rename it to end in \.jpg/,
    ],
    [
      'a PNG cut short',
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
    [
      'a TIFF cut short',
      'half.tif',
      async () => (await noise(800, 800).tiff().toBuffer()).subarray(0, 60_000),
      /“half.tif” is damaged or cut short/,
    ],
    ['a header and nothing else', 'stub.webp', () => 'RIFF\x10\0\0\0WEBPVP8 ', /“stub.webp” is damaged or cut short/],
    [
      'a picture of 900 megapixels',
      'huge.png',
      () => bomb(30_000, 30_000),
      /“huge.png” has 30000 × 30000 pixels \(900 megapixels\); up to 600 megapixels/,
    ],
    ['a picture too long on one side', 'strip.png', () => bomb(140_000, 10), /“strip.png” has 140000 × 10 pixels .* 120000 a side/],
    [
      'a large interlaced picture, which could only be decoded whole',
      'woven.png',
      () => bomb(20_000, 20_000, true),
      /“woven.png” has .*interlaced.* up to 280 megapixels/,
    ],
    ['a decompression bomb within the limits', 'bomb.png', () => bomb(24_000, 24_000), /“bomb.png” is damaged or cut short/],
    [
      'a TIFF of absurd dimensions',
      'absurd.tif',
      () => absurdTiff(4_000_000_000, 4_000_000_000),
      /“absurd.tif” (has 4000000000 × 4000000000 pixels|is damaged)/,
    ],
    ['a TIFF whose pixels are not there', 'hollow.tif', () => absurdTiff(20_000, 20_000), /“hollow.tif” is damaged or cut short/],
    [
      'an SVG with entities',
      'laugh.svg',
      () => `<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;">]>${SVG}<text>&b;</text></svg>`,
      /“laugh.svg” uses XML entities/,
    ],
    ['an SVG whose copies of copies grow without end', 'hydra.svg', hydra, /“hydra.svg” repeats its parts millions of times/],
    ['an SVG that is not well-formed', 'torn.svg', () => `${SVG}<rect width="10"`, /“torn.svg” is not a well-formed SVG \(line 1/],
    [
      'an SVG without a size',
      'vague.svg',
      () => '<svg xmlns="http://www.w3.org/2000/svg"><rect/></svg>',
      /“vague.svg” does not say how large it is/,
    ],
    ['a PDF cut short', 'half.pdf', () => pdf('0 g').slice(0, 80), /“half.pdf” is damaged or cut short/],
    [
      'a database of something else',
      'books.mbtiles',
      () => mbtiles((file) => file.exec('CREATE TABLE books (title TEXT)')),
      /“books.mbtiles” is a database, but not of map tiles/,
    ],
    ['MBTiles without tiles', 'none.mbtiles', () => mbtiles((file) => file.exec(MBTILES_TABLES)), /“none.mbtiles” holds no tiles/],
    [
      'MBTiles of vector tiles',
      'lines.mbtiles',
      () => mbtiles((file) => file.exec(`${MBTILES_TABLES}; INSERT INTO metadata VALUES ('format', 'pbf')`)),
      /“lines.mbtiles” holds vector tiles/,
    ],
    [
      'MBTiles that lie off the map',
      'off.mbtiles',
      () => mbtiles((file) => file.exec(`${MBTILES_TABLES}; INSERT INTO tiles VALUES (1, 7, 0, x'00')`)),
      /“off.mbtiles” has tiles that lie off the map/,
    ],
    [
      'MBTiles whose tiles are no pictures',
      'odd.mbtiles',
      () => mbtiles((file) => file.exec(`${MBTILES_TABLES}; INSERT INTO tiles VALUES (1, 0, 0, x'0011')`)),
      /“odd.mbtiles” holds tiles that are not pictures/,
    ],
    [
      'broken MBTiles',
      'broken.mbtiles',
      () => mbtiles((file) => file.exec(MBTILES_TABLES)).fill(0x55, 100),
      /“broken.mbtiles” is damaged or cut short/,
    ],
  ])('is refused with a sentence, and nothing of it is kept: %s', async (_what, name, bytes, message) => {
    const content = await bytes()
    const [stored, files] = [imagesStored(), filesLeft()]
    await expect(take(name, Buffer.from(content as Buffer))).rejects.toThrow(message)
    expect([imagesStored(), filesLeft()]).toEqual([stored, files])
  })

  it('is given up when the import is cancelled, and nothing of it is kept', async () => {
    const bytes = await noise(4000, 3000).png({ compressionLevel: 1 }).toBuffer()
    const [stored, files] = [imagesStored(), filesLeft()]
    const control = new AbortController()
    const importing = importSheetFile(db, folder, 'large.png', Readable.from([bytes]), {
      signal: control.signal,
      onProgress: () => control.abort(new Error('enough')),
    })
    await expect(importing).rejects.toThrow('enough')
    expect([imagesStored(), filesLeft()]).toEqual([stored, files])
  })
})

/** Each group shows the one before ten times over: ten to the seventh rectangles. */
function hydra(): string {
  const groups = Array.from({ length: 7 }, (_, i) => `<g id="h${i + 1}">${`<use href="#h${i}"/>`.repeat(10)}</g>`)
  return `${SVG}<defs><rect id="h0" width="1" height="1"/>${groups.join('')}</defs><use href="#h7"/></svg>`
}
