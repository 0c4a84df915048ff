import { closeSync, mkdirSync, openSync, readdirSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cleanSvg } from '#core/formats/clean-svg'
import { readTrackFile } from '#core/formats/track-file'
import { JourneyError } from '#core/error'
import { MAP_STYLES } from '#core/journey/sheet-schema'
import { graticuleFor } from '#core/maps/graticule'
import { layoutMap } from '#core/maps/layout'
import { Overtaken, previewMap } from '../../server/maps/mapper'
import { drawSvg, importSvg, nominalSize } from '../../server/sheets/drawing'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { readTile } from '../../server/sheets/tiles'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { tilesPath } from '../../server/storage/image-files'
import type { ImageRecord } from '../../server/storage/images'
import { randomDrawing } from '../support/drawings'
import { HOSTILE } from '../support/hostile'
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

const take = async (name: string, bytes: Buffer | string) => importSheetFile(db, folder, name, Readable.from([Buffer.from(bytes)]))
const tile = ({ hash, ...image }: ImageRecord, level: number, column: number, row: number) =>
  readTile(folder, { ...image, image: hash }, { level, column, row })

/** Those that end soon, and how: why they are refused, or null where they are taken. `npm run torture` takes all, some of which end only with the time that a file may take. */
const QUICK: Readonly<Record<string, RegExp | null>> = {
  'masks.svg': /needs more memory than a file may take/,
  'album.svg': /holds pictures of more than 80 megapixels all together/,
  'brackets.svg': null,
  'huge.webp': /\(269 megapixels\); in this form .* up to 105 megapixels can be used/,
}

describe('a small file that would take much memory or time', () => {
  it.each(HOSTILE.filter(({ name }) => name in QUICK))('is taken or refused within bounds: $what', async ({ name, bytes }) => {
    const file = await bytes()
    const refusal = QUICK[name]
    if (!refusal) expect((await take(name, file)).peakMiB).toBeLessThan(1430)
    else {
      const error = await take(name, file).catch((reason: unknown) => reason)
      expect(error).toBeInstanceOf(JourneyError)
      expect((error as Error).message).toMatch(/^“[\w.]+” .*[.]$/)
      expect((error as Error).message).toMatch(refusal)
    }
    expect(readdirSync(join(folder, 'images')).filter((left) => left.startsWith('incoming-'))).toEqual([])
  })

  it('does not make the next import wait', async () => {
    const forms = HOSTILE.find(({ name }) => name === 'forms.pdf')!
    const control = new AbortController()
    const long = importSheetFile(db, folder, forms.name, Readable.from([await forms.bytes()]), { signal: control.signal })
    await take('plain.svg', '<svg viewBox="0 0 9 9" xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/></svg>')
    control.abort(new Error('enough'))
    await expect(long).rejects.toThrow('enough')
  })
})

describe('a zoomed drawing', () => {
  const pixelsOf = async (svg: string, region: { x: number; y: number; width: number; height: number }, scale: number) => {
    const clean = cleanSvg(svg, 'drawing')
    const nominal = nominalSize(clean.viewBox[2], clean.viewBox[3])
    return drawSvg(clean, nominal, region, { width: region.width * scale, height: region.height * scale })
  }

  it('with layers outside the part that is drawn is drawn as the whole is', async () => {
    let most = 0
    for (let seed = 1; seed <= 40; seed++) {
      const svg = randomDrawing(seed)
      const scale = 0.25
      const whole = await pixelsOf(svg, { x: 0, y: 0, width: 4096, height: 3072 }, scale)
      for (const [x, y] of [
        [0, 0],
        [2048, 1024],
        [3072, 2048],
      ] as const) {
        const part = await pixelsOf(svg, { x, y, width: 1024, height: 1024 }, scale)
        const cut = await sharp(whole.data, { raw: { width: whole.width, height: whole.height, channels: 4 } })
          .extract({ left: x * scale, top: y * scale, width: 256, height: 256 })
          .raw()
          .toBuffer()
        let off = 0
        for (let i = 0; i < cut.length; i++) if (Math.abs(cut[i]! - part.data[i]!) > 24) off++
        most = Math.max(most, off / cut.length)
      }
    }
    // The edges of shapes may fall a shade differently where a layer is cut.
    expect(most).toBeLessThan(0.004)
  })

  it('of the issue, with a half opaque square beyond the part that is seen, gives its tiles', async () => {
    const { image } = await take(
      'corner.svg',
      '<svg viewBox="0 0 400 300" xmlns="http://www.w3.org/2000/svg"><rect width="400" height="300" fill="#eee"/><rect x="370" y="270" width="20" height="20" opacity=".5"/></svg>',
    )
    expect((await tile(image, -1, 0, 0))![0]).toBe(0x89)
  })

  it('gives its tiles along with forty others at once', async () => {
    const images: ImageRecord[] = []
    for (let i = 0; i < 40; i++) {
      const path = join(folder, `n${i}.svg`)
      const hash = i.toString(16).padStart(64, '0')
      mkdirSync(dirname(tilesPath(folder, hash)), { recursive: true })
      writeFileSync(path, `<svg viewBox="0 0 100 ${2 + i / 50}" xmlns="http://www.w3.org/2000/svg"><circle cx="9" cy="1" r="1"/></svg>`)
      const built = await importSvg({ do: 'import', path, name: `n${i}.svg`, format: 'svg', tiles: tilesPath(folder, hash) }, () => {})
      images.push({ hash, format: 'svg', bytes: 1, ...built })
    }
    const tiles = await Promise.all(images.map((image) => tile(image, -1, 0, 0)))
    expect(tiles.every((data) => data?.[0] === 0x89)).toBe(true)
  })
})

describe('a damaged tile file', () => {
  /** Overwrites the middle of a file. */
  function damage(path: string, from: number): void {
    const file = openSync(path, 'r+')
    writeSync(file, Buffer.alloc(statSync(path).size - from, 0x55), 0, undefined, from)
    closeSync(file)
  }
  const picture = (seed: number) =>
    sharp({ create: { width: 1200, height: 900, channels: 3, background: { r: seed, g: 90, b: 20 } } })
      .png()
      .toBuffer()

  it('is made again when it is read', async () => {
    const { image } = await take('map.png', await picture(30))
    const before = await tile(image, 0, 0, 0)
    closeTileFiles()
    damage(tilesPath(folder, image.hash), 100)
    expect((await tile(image, 0, 0, 0))!.equals(before!)).toBe(true)
  })

  it('is made again when the same picture is imported', async () => {
    const bytes = await picture(60)
    const { image } = await take('map.png', bytes)
    closeTileFiles()
    damage(tilesPath(folder, image.hash), 0)
    expect((await take('map.png', bytes)).image.hash).toBe(image.hash)
    expect((await tile(image, 0, 0, 0))![0]).toBe(0x89)
  })
})

describe('odd files', () => {
  it.each(['constructor', 'toString', '__proto__', 'hasOwnProperty'])('are refused in one sentence: <%s/> as a track', (name) => {
    const read = () => readTrackFile(Buffer.from(`<${name}/>`), 'odd.gpx')
    expect(read).toThrow(JourneyError)
    expect(read).toThrow(/^“odd.gpx” [^{}]*\.$/)
  })

  it('GeoJSON nested 20 000 deep is refused in one sentence', () => {
    const deep = `${'{"type":"FeatureCollection","features":['.repeat(20_000)}${']}'.repeat(20_000)}`
    expect(() => readTrackFile(Buffer.from(deep), 'deep.geojson')).toThrow(JourneyError)
    const nested = `{"type":"GeometryCollection","geometries":${'['.repeat(20_000)}${']'.repeat(20_000)}}`
    expect(() => readTrackFile(Buffer.from(nested), 'deep.geojson')).toThrow(JourneyError)
  })

  it('an SVG in UTF-16 is read', async () => {
    const text =
      '\ufeff<?xml version="1.0" encoding="UTF-16"?><svg viewBox="0 0 9 9" xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9" fill="#1a7"/></svg>'
    const { image } = await take('wide.svg', Buffer.from(text, 'utf16le'))
    expect(image.vector).toBe(true)
  })

  it('an SVG with both kinds of reference is read, by the newer one', () => {
    const { body } = cleanSvg(
      '<svg viewBox="0 0 9 9" xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"><use xlink:href="#a" href="#b"/></svg>',
      'both.svg',
    )
    expect(body).toBe('<use href="#b"></use>')
  })
})

describe('a generated map', () => {
  const map = {
    region: { west: 4, south: 50, east: 4 + 1e-9, north: 50 + 1e-9 },
    projection: 'mercator' as const,
    style: MAP_STYLES[0],
    borders: true,
    graticule: true,
    rivers: true,
    towns: false,
    scaleBar: false,
    aspect: 1.5,
  }

  it('of next to nothing is refused, not tried', () => {
    expect(() => layoutMap(map)).toThrow(/^The region is too small for a map: make it at least 0.001° wide and high\.$/)
  })

  it('of the least size has few degree lines, and is drawn at once', () => {
    const { coordinates } = graticuleFor({ ...map, region: { west: 4, south: 50, east: 4.001, north: 50.001 } })
    expect(coordinates.length).toBeGreaterThan(6)
    expect(coordinates.length).toBeLessThan(60)
  })

  it('is drawn elsewhere: only the preview asked for last is made', async () => {
    const wide = { ...map, region: { west: -20, south: 35, east: 19, north: 65 } }
    const first = previewMap(wide, new AbortController().signal)
    const second = previewMap({ ...wide, graticule: false }, new AbortController().signal)
    await expect(first).rejects.toBeInstanceOf(Overtaken)
    expect(
      Buffer.from((await second).webp, 'base64')
        .subarray(8, 12)
        .toString(),
    ).toBe('WEBP')
  })
})
