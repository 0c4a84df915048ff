import { Readable } from 'node:stream'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import fc from 'fast-check'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { referenceSize } from '#core/camera/view'
import { JourneyError } from '#core/error'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { geoSheet } from '#core/geo/georeference'
import type { LonLat } from '#core/geo/lon-lat'
import { createJourney } from '#core/journey/create'
import type { DrawnMap } from '#core/journey/schema'
import { drawnMapSchema, MAP_STYLES, sheetSchema } from '#core/journey/schema'
import { layoutMap } from '#core/maps/layout'
import type { Block } from '#core/maps/map-block'
import { STYLE_SHEETS } from '#core/maps/map-styles'
import { readRecipe, writeRecipe } from '#core/maps/recipe'
import { SMALL_MAPS, smallMap } from '#core/maps/small-maps'
import { fillingView } from '#core/sheet/framing'
import { penScale } from '#core/sheet/pen'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'
import { mapDataMade } from '../../server/maps/data'
import { drawMapBlock } from '../../server/maps/draw'
import { mapSource } from '../../server/maps/source'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { readTile } from '../../server/sheets/tiles'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { temporaryFolder } from '../support/server'

const EUROPE = { west: -12, south: 35, east: 32, north: 61 }
const mapOf = (patch: Partial<DrawnMap> = {}): DrawnMap =>
  drawnMapSchema.parse({ region: EUROPE, projection: 'conic', style: 'blank', borders: false, graticule: false, rivers: false, aspect: 16 / 9, ...patch }) // prettier-ignore

interface Pixels {
  width: number
  height: number
  data: Uint8Array
}
const draw = async (map: DrawnMap, block: Block, pen = 1): Promise<Pixels> => drawMapBlock(writeRecipe(map), block, pen)
const whole = (map: DrawnMap, width: number): Promise<Pixels> => {
  const { size } = layoutMap(map)
  return draw(map, { left: 0, top: 0, width, height: Math.round((width * size.height) / size.width), step: size.width / width })
}
const rgbAt = ({ width, data }: Pixels, x: number, y: number): number[] => [...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 3)]
const colourOf = (hex: string) => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16))
const far = (a: readonly number[], b: readonly number[]) => Math.max(...a.map((v, i) => Math.abs(v - b[i]!)))

/** The colour of a place on a map of so many pixels; undefined where it is not on it. */
async function looker(map: DrawnMap, width: number): Promise<(at: LonLat) => number[] | undefined> {
  const pixels = await whole(map, width)
  const { size, georeference } = layoutMap(map)
  const { toSheet } = geoSheet(georeference, size)
  return (at) => {
    const found = toSheet(at)
    const [x, y] = found ? [Math.floor((found.x * width) / size.width), Math.floor((found.y * width) / size.width)] : [-1, -1]
    return x >= 0 && y >= 0 && x < pixels.width && y < pixels.height ? rgbAt(pixels, x, y) : undefined
  }
}

let folder: string
let db: Db
beforeAll(async () => {
  folder = temporaryFolder()
  db = openDatabase(folder)
  await mapDataMade()
}, 240_000)
afterAll(() => {
  closeTileFiles()
  db.close()
})

describe('land, sea and lakes of a generated map', () => {
  const WORLD = { west: -180, south: -62, east: 180, north: 80 }
  const { land, sea } = STYLE_SHEETS.blank
  const isLand = (rgb: readonly number[]) => far(rgb, colourOf(land[0]![1])) < far(rgb, colourOf(sea))

  // Coordinates of places far from any coast, and of lakes, from general knowledge.
  const AT_SEA = [[0, 0], [-123.39, -48.88], [142.2, 11.35], [-40, 30], [80, -30], [5, 39.8], [-150, 50], [3, 56]] as const // prettier-ignore
  const ON_LAKES = [[33, -1], [-87, 47.7], [-87, 43.5], [108, 53.3], [31.5, 61]] as const // prettier-ignore
  const INLAND = [[10.5, 51], [-100, 40], [134, -25], [25, 0], [-60, -10], [90, 33], [105, 62], [78, 22]] as const // prettier-ignore

  it.each([
    ['equirectangular', WORLD, 1400],
    ['mercator', WORLD, 1400],
    ['orthographic', { west: -180, south: -90, east: 180, north: 90 }, 1400],
    ['conic', EUROPE, 3600],
  ] as const)('are where they are on the Earth: %s', async (projection, region, width) => {
    const colour = await looker(mapOf({ region, projection }), width)
    const check = (list: readonly (readonly [number, number])[], is: boolean) =>
      list.flatMap(([lon, lat]) => {
        // Near the edge of the globe everything is narrow.
        const rgb = projection === 'orthographic' && Math.abs(lon) > 70 ? undefined : colour({ lon, lat })
        return rgb ? [isLand(rgb) === is || `${lon} ${lat}`] : []
      })
    const results = [...check(AT_SEA, false), ...check(ON_LAKES, false), ...check(INLAND, true)]
    expect(results.length).toBeGreaterThan(3)
    expect(results.filter((result) => result !== true)).toEqual([])
  })

  it.each([
    ['the continent', EUROPE, 1920, 100_000, 0.93],
    ['a country', { west: 19, south: 34, east: 29, north: 42 }, 3000, 2000, 0.97],
  ] as const)('have nearly all towns of GeoNames on land: %s', async (_what, region, width, population, share) => {
    const colour = await looker(mapOf({ region }), width)
    const { towns } = await mapSource('blank')
    const seen = towns(region, population).flatMap((town) => {
      const rgb = colour(town)
      return rgb ? [isLand(rgb)] : []
    })
    expect(seen.length).toBeGreaterThan(100)
    // Harbours and lagoons lie within a pixel or two of the coast.
    expect(seen.filter(Boolean).length / seen.length).toBeGreaterThan(share)
  })
})

describe('the tiles of a generated map', () => {
  const MIDDLE = { left: 1024, top: 512 }

  it.each(MAP_STYLES)('fit those beside them, whichever block they were drawn in: %s', async (style) => {
    const map = mapOf({ style, borders: true, graticule: true, rivers: true, towns: true })
    const [width, height] = [160, 320]
    for (const step of [4, 1]) {
      const large = await draw(map, { ...MIDDLE, step, width: 2 * width, height })
      const left = await draw(map, { ...MIDDLE, step, width, height })
      const right = await draw(map, { left: MIDDLE.left + width * step, top: MIDDLE.top, step, width, height })
      let most = 0
      let sum = 0
      for (let y = 0; y < height; y++) {
        for (let x = 0; x < 2 * width; x++) {
          const apart = far(rgbAt(large, x, y), x < width ? rgbAt(left, x, y) : rgbAt(right, x - width, y))
          most = Math.max(most, apart)
          sum += apart
        }
      }
      // Dashes begin where a line comes into the block's surroundings; edges are smoothed a little differently where a line is cut elsewhere.
      expect(sum / (2 * width * height)).toBeLessThan(0.6)
      if (!STYLE_SHEETS[style].border.dash) expect(most).toBeLessThan(40)
    }
  })

  it('have no seam where the sea gets deep between two of them', async () => {
    const map = mapOf({ region: { west: -180, south: -62, east: 180, north: 80 }, projection: 'equirectangular', style: 'relief' })
    const { size, georeference } = layoutMap(map)
    // Off Rhodes, where the picture that depths are told from gets darker fast.
    const { x, y } = geoSheet(georeference, size).toSheet({ lon: 28.6, lat: 35.8 })!
    const [width, height, step] = [128, 128, 1 / 8]
    const top = y - (height / 2) * step
    const [left, right] = [await draw(map, { left: x - width * step, top, width, height, step }), await draw(map, { left: x, top, width, height, step })] // prettier-ignore
    const rows = Array.from({ length: height }, (_, row) => row)
    const deeper = (a: number, b: number, row: number) => Math.abs(rgbAt(left, a, row)[1]! - rgbAt(left, b, row)[1]!)
    expect(rows.reduce((sum, row) => sum + deeper(0, width - 1, row), 0) / height).toBeGreaterThan(15)
    const seam = rows.map((row) => Math.abs(rgbAt(left, width - 1, row)[1]! - rgbAt(right, 0, row)[1]!))
    expect(seam.reduce((sum, v) => sum + v, 0) / height).toBeLessThan(1)
  })

  it('have lines of one width on the screen on each level, and of one share of the frame with each pen', async () => {
    const map = mapOf({ region: { west: -40, south: 25, east: -20, north: 36 }, projection: 'mercator', graticule: true })
    const { sea, graticule } = STYLE_SHEETS.blank
    const [from, to] = [colourOf(sea), colourOf(graticule.colour)]
    /** How wide a meridian is in pixels: what there is of its colour along a row of sea. */
    const widthAt = async (step: number, pen: number) => {
      const { width, height } = { width: 2048 / step, height: 8 }
      const pixels = await draw(map, { left: 1024, top: 1111, step, width, height }, pen)
      const lines: number[] = []
      let line = 0
      for (let x = 0; x < width; x++) {
        const share = (rgbAt(pixels, x, 4)[0]! - from[0]!) / (to[0]! - from[0]!)
        if (share > 0.02) line += share
        else if (line > 0) lines.push(line)
        if (share <= 0.02) line = 0
      }
      expect(lines.length).toBeGreaterThan(1)
      return lines.reduce((sum, width) => sum + width, 0) / lines.length
    }
    for (const step of [4, 1, 0.25]) expect(await widthAt(step, 1)).toBeCloseTo(graticule.width, 0.5)
    expect(await widthAt(1, 4)).toBeCloseTo(4 * graticule.width, 0.5)
    expect(await widthAt(0.25, 6)).toBeCloseTo(6 * graticule.width, 0.5)
  })

  it('are drawn for the pen that is asked for, and kept apart', async () => {
    const map = mapOf({ style: 'ink', borders: true })
    const { image } = await importSheetFile(db, folder, 'map.json', Readable.from([Buffer.from(writeRecipe(map))]))
    expect(image).toMatchObject({ format: 'map', vector: true, width: 4096, height: 2304 })
    const sheet = sheetSchema.parse({ id: 'm', name: 'Map', image: image.hash, width: image.width, height: image.height, vector: true })
    const dark = async (pen: number | undefined) => {
      const data = await readTile(folder, { ...sheet, ...(pen !== undefined && { pen }) }, { level: 2, column: 0, row: 0 })
      const picture = await loadImage(data!)
      const canvas = createCanvas(512, 512)
      const context = canvas.getContext('2d')
      context.drawImage(picture, 0, 0)
      const pixels = context.getImageData(0, 0, 512, 512).data
      let count = 0
      for (let i = 0; i < pixels.length; i += 4) if (pixels[i]! < 110) count++
      return count
    }
    const fine = await dark(-4)
    const plain = await dark(0)
    const wide = await dark(6)
    expect(penScale(6)).toBeCloseTo(2.83, 2)
    expect(plain).toBeGreaterThan(1.5 * fine)
    expect(wide).toBeGreaterThan(1.5 * plain)
    expect(await dark(undefined)).toBe(plain)
    expect(await dark(-4)).toBe(fine)
  })
})

describe('a film over a generated map', () => {
  it('has lines of the same width at every zoom and in every size of the frame, and none that jumps', async () => {
    const map = mapOf({ region: { west: -40, south: 25, east: -20, north: 36 }, projection: 'mercator', style: 'ink', graticule: true })
    const { image } = await importSheetFile(db, folder, 'sea.json', Readable.from([Buffer.from(writeRecipe(map))]))
    const { hash, ...facts } = image
    const sheet = sheetSchema.parse({ id: 'm', name: 'Sea', image: hash, width: facts.width, height: facts.height, vector: true, georeference: facts.georeference, drawn: map }) // prettier-ignore
    const empty = createJourney('Sea', { width: 1920, height: 1080, rate: '30/1' }, 10)
    const filling = fillingView(sheet, referenceSize(empty.frame))
    const { sea, graticule } = STYLE_SHEETS.ink
    // Blue, in which they differ most.
    const [from, to] = [colourOf(sea)[2]!, colourOf(graticule.colour)[2]!]
    /** How wide meridians are on the screen, in reference pixels. */
    const widthAt = async (zoom: number, scale: number) => {
      const journey = { ...empty, sheets: [sheet], camera: { ...filling, zoom: filling.zoom * zoom } }
      const frame = frameAt(compile(journey), 1)
      const studio = createServerStudio(folder)
      const surface = createServerSurface(1920 * scale, 1080 * scale)
      await studio.prepare(frame, scale)
      createPainter(studio).paint(frame, surface.context, scale)
      const pixels = surface.pixels()
      const row = 1920 * scale * Math.round(300 * scale)
      let [sum, lines, isIn] = [0, 0, false]
      for (let x = 0; x < 1920 * scale; x++) {
        const share = (pixels[4 * (row + x) + 2]! - from) / (to - from)
        const isLine = share > 0.04
        if (isLine) sum += share
        if (isLine && !isIn) lines++
        isIn = isLine
      }
      expect(lines).toBeGreaterThan(1)
      return sum / lines / scale
    }
    const widths: number[] = []
    for (let i = 0; i <= 8; i++) widths.push(await widthAt(1.1 * 2 ** (i / 8), 1))
    for (const width of widths) expect(width / graticule.width).toBeGreaterThan(0.8)
    for (const width of widths) expect(width / graticule.width).toBeLessThan(1.25)
    // An eighth of a doubling each: a level that came at once would be half or twice as wide.
    for (let i = 1; i < widths.length; i++) expect(Math.abs(widths[i]! / widths[i - 1]! - 1)).toBeLessThan(0.12)
    expect((await widthAt(1.1, 0.5)) / widths[0]!).toBeCloseTo(1, 0.7)
    expect((await widthAt(1.1, 0.625)) / widths[0]!).toBeCloseTo(1, 0.7)
  })
})

describe('the styles of generated maps', () => {
  it('shade the slopes of the Alps, and not the plain north of them', async () => {
    const colour = await looker(mapOf({ style: 'relief' }), 1920)
    const spread = (lon: number, lat: number) => {
      const greens = Array.from({ length: 60 }, (_, i) => colour({ lon: lon + (i % 10) * 0.2, lat: lat + Math.floor(i / 10) * 0.2 })![1]!)
      const mean = greens.reduce((sum, v) => sum + v, 0) / greens.length
      return Math.sqrt(greens.reduce((sum, v) => sum + (v - mean) ** 2, 0) / greens.length)
    }
    expect(spread(8, 46)).toBeGreaterThan(3 * spread(15, 52))
  })

  it('give countries that share a border different colours', async () => {
    const colour = await looker(mapOf({ style: 'countries' }), 1920)
    const PLACES = { France: [2.5, 46.5], Germany: [10, 51], Spain: [-4, 40], Portugal: [-8, 39.5], Italy: [12.3, 43], Switzerland: [8.2, 46.8], Poland: [19, 52], Austria: [14.5, 47.5] } as const // prettier-ignore
    const of = (name: keyof typeof PLACES) => colour({ lon: PLACES[name][0], lat: PLACES[name][1] })!
    for (const [a, b] of [
      ['France', 'Germany'],
      ['France', 'Spain'],
      ['Spain', 'Portugal'],
      ['France', 'Italy'],
      ['Switzerland', 'Italy'],
      ['Switzerland', 'France'],
      ['Poland', 'Germany'],
      ['Austria', 'Germany'],
      ['Austria', 'Italy'],
    ] as const)
      // prettier-ignore
      expect(far(of(a), of(b)), `${a} and ${b}`).toBeGreaterThan(18)
  })

  it('show the Earth from above by day and by night', async () => {
    const world = { region: { west: -180, south: -90, east: 180, north: 90 }, projection: 'equirectangular', aspect: 2 } as const
    const day = await looker(mapOf({ ...world, style: 'day' }), 2000)
    const [desert, forest, ocean] = [day({ lon: 10, lat: 23 })!, day({ lon: -63, lat: -4 })!, day({ lon: -140, lat: 0 })!]
    expect(desert[0]! - desert[2]!).toBeGreaterThan(40)
    expect(forest[1]!).toBeGreaterThan(forest[2]! + 10)
    expect(ocean[2]!).toBeGreaterThan(ocean[0]! + 10)
    const lights = await looker(mapOf({ ...world, style: 'night', towns: true }), 2000)
    const sum = (rgb: number[]) => rgb.reduce((all, v) => all + v, 0)
    // Moscow against the taiga, and São Paulo against the sea before it.
    expect(sum(lights({ lon: 37.62, lat: 55.75 })!)).toBeGreaterThan(3 * sum(lights({ lon: 100, lat: 64 })!))
    expect(sum(lights({ lon: -46.63, lat: -23.55 })!)).toBeGreaterThan(3 * sum(lights({ lon: -40, lat: -28 })!))
  })

  it('are shown in the choice as they are now', async () => {
    const { data, info } = await sharp('app/assets/map-styles.webp').removeAlpha().raw().toBuffer({ resolveWithObject: true })
    const { width, height, shown } = SMALL_MAPS
    expect([info.width, info.height]).toEqual([width, MAP_STYLES.length * height])
    for (const [i, style] of MAP_STYLES.entries()) {
      const map = smallMap(style)
      const { size } = layoutMap(map)
      const now = await draw(map, { left: 0, top: 0, width, height, step: size.width / width }, width / shown)
      let apart = 0
      for (let p = 0; p < width * height; p++)
        for (let c = 0; c < 3; c++) apart += Math.abs(now.data[4 * p + c]! - data[3 * (i * width * height + p) + c]!)
      // Of 255, in the mean: the picture was compressed. Otherwise run `npm run map-styles`.
      expect(apart / (3 * width * height), style).toBeLessThan(6)
    }
  })

  it('differ from each other by more than their tint', async () => {
    // Of each the differences of neighbouring pixels, which a tint leaves as they are.
    const edges = await Promise.all(
      MAP_STYLES.map(async (style) => {
        const pixels = await whole(mapOf({ style, borders: true, rivers: true }), 480)
        return Array.from({ length: 200 * 400 }, (_, i) => {
          const [x, y] = [20 + (i % 400), 20 + Math.floor(i / 400)]
          const [a, b] = [rgbAt(pixels, x, y), rgbAt(pixels, x + 1, y)]
          return a[0]! + a[1]! + a[2]! - b[0]! - b[1]! - b[2]!
        })
      }),
    )
    const correlation = (a: readonly number[], b: readonly number[]) => {
      const dot = (p: readonly number[], q: readonly number[]) => p.reduce((sum, v, i) => sum + v * q[i]!, 0)
      return Math.abs(dot(a, b)) / Math.sqrt(dot(a, a) * dot(b, b))
    }
    for (let i = 0; i < edges.length; i++)
      for (let k = 0; k < i; k++) expect(correlation(edges[i]!, edges[k]!), `${MAP_STYLES[i]} and ${MAP_STYLES[k]}`).toBeLessThan(0.95)
  })
})

describe('the recipe of a generated map', () => {
  it('is read as it was written', () =>
    fc.assert(
      fc.property(fc.constantFrom(...MAP_STYLES), fc.boolean(), fc.double({ min: 0.3, max: 4, noNaN: true }), (style, towns, aspect) => {
        const map = mapOf({ style, towns, aspect })
        expect(readRecipe(writeRecipe(map), 'map')).toEqual(map)
      }),
    ))

  it('that is damaged, later or hostile is refused with a sentence, and nothing of it is kept', async () => {
    const good = writeRecipe(mapOf())
    const REFUSED = [
      good.slice(0, -5),
      good.replace('"generatedMap":1', '"generatedMap":2'),
      good.replace('"west":-12', '"west":-1e9'),
      good.replace('blank', '../../etc/passwd'),
      good.replace('"south":35', '"south":60.9999'),
      '{"generatedMap":1,"map":{"__proto__":{"style":"atlas"}}}',
      `{"generatedMap":${'['.repeat(50_000)}`,
      good + ' '.repeat(100_000),
    ]
    for (const text of REFUSED) {
      const taken = importSheetFile(db, folder, 'bad.json', Readable.from([Buffer.from(text)]))
      await expect(taken, text.slice(0, 60)).rejects.toBeInstanceOf(JourneyError)
      await expect(taken).rejects.toThrow(/^(“bad.json” is not a generated map|The region is too small)/)
    }
    await expect(importSheetFile(db, folder, 'other.json', Readable.from(['{"name":"x"}']))).rejects.toThrow(/is not a PNG/)
  })
})
