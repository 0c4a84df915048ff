/** What a sheet looks like in a frame: the same as its whole picture would, whatever level and tiles it is laid out of. */
import { flatView } from '#core/camera/view'
import { rmSync } from 'node:fs'
import { Readable } from 'node:stream'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { createJourney } from '#core/journey/create'
import { setCamera } from '#core/edits/camera/shots'
import type { Ground, Journey, Sheet } from '#core/journey/schema'
import { areaSchema, groundSchema, sheetSchema } from '#core/journey/schema'
import { addArea, setCreditLine } from '#core/edits/ground/sheets'
import { paintStill } from '#render/still'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import type { Picture } from '../support/pixels'
import { colourAt, meanDifference } from '../support/pixels'
import { temporaryFolder } from '../support/server'

const WIDTH = 1700
const HEIGHT = 1300
let folder: string
let db: Db
let sheet: Sheet
let whole: Buffer

beforeAll(async () => {
  folder = temporaryFolder()
  db = openDatabase(folder)
  // Large blots: a picture with structure at every scale, none of it finer than the levels keep.
  const noise = await sharp({
    create: { width: 34, height: 26, channels: 3, background: '#000', noise: { type: 'gaussian', mean: 128, sigma: 70 } },
  })
    .png()
    .toBuffer()
  whole = await sharp(noise).resize(WIDTH, HEIGHT, { kernel: 'cubic', fit: 'fill' }).png().toBuffer()
  const { image } = await importSheetFile(db, folder, 'blots.png', Readable.from([whole]))
  sheet = sheetSchema.parse({ id: 'blots', name: 'Blots', image: image.hash, width: WIDTH, height: HEIGHT })
})
afterAll(() => {
  closeTileFiles()
  db.close()
  rmSync(folder, { recursive: true, force: true })
})

function journeyWith(patch: Partial<Sheet>, camera: Journey['camera'], ground: Partial<Ground> = {}): Journey {
  const journey = {
    ...createJourney('Test', { width: 640, height: 360, rate: '30/1' }, 5),
    sheets: [{ ...sheet, ...patch }],
    ground: groundSchema.parse(ground),
  }
  return setCamera(journey, camera)
}
async function paint(journey: Journey, t = 0): Promise<Picture> {
  const surface = await paintStill(folder, journey, t)
  return { width: surface.width, pixels: Uint8Array.from(surface.pixels()) }
}

/** The same frame from the whole picture, by one plain drawImage. */
async function reference({ sheets, camera, ground }: Journey): Promise<Uint8Array> {
  const canvas = createCanvas(640, 360)
  const context = canvas.getContext('2d')
  context.fillStyle = ground.colour
  context.fillRect(0, 0, 640, 360)
  const { place } = sheets[0]!
  const k = (camera.zoom * 360) / 1080
  context.translate(320 + (place.x - camera.centre.x) * k, 180 + (place.y - camera.centre.y) * k)
  context.rotate((place.rotation * Math.PI) / 180)
  context.scale(k * place.scale, k * place.scale)
  context.imageSmoothingQuality = 'high'
  context.drawImage(await loadImage(whole), 0, 0)
  return Uint8Array.from(canvas.data())
}

describe('a sheet laid out of tiles', () => {
  it.each([
    ['far away', flatView({ x: 850, y: 650 }, 0.4), {}],
    ['at one pixel to one', flatView({ x: 900, y: 600 }, 3), {}],
    ['close up', flatView({ x: 512, y: 512 }, 12), {}],
    ['at its edge', flatView({ x: 1690, y: 1200 }, 1.7), {}],
    ['turned and scaled', flatView({ x: 300, y: 900 }, 2.2), { place: { x: 100, y: -50, scale: 0.7, rotation: 33 } }],
  ])('looks as the whole picture does: %s', async (_what, camera, patch) => {
    const journey = journeyWith(patch, camera)
    expect(meanDifference((await paint(journey)).pixels, await reference(journey))).toBeLessThan(1.2)
  })

  it('has each spot where the projection has it, in a tilted frame that is painted from many tiles of several levels', async () => {
    // The same blots three times as large.
    const large = await sharp(whole).resize(3 * WIDTH, 3 * HEIGHT, { kernel: 'cubic' }).jpeg({ quality: 97 }).toBuffer() // prettier-ignore
    const { image } = await importSheetFile(db, folder, 'large.jpg', Readable.from([large]))
    const laid = { ...sheet, image: image.hash, width: 3 * WIDTH, height: 3 * HEIGHT }
    const view = { centre: { x: 2550, y: 1950 }, zoom: 0.85, bearing: 30, pitch: 45 }
    const frame = { width: 1920, height: 1080, rate: '30/1' as const }
    const journey = setCamera(
      { ...createJourney('Test', frame, 5), sheets: [laid], ground: groundSchema.parse({ edge: 'mirrored' }) },
      view,
    )
    const projection = projectionOf(view, frame)
    // Each third column: the edges of tiles, where several meet, are not left out.
    const columns = Array.from({ length: 640 }, (_, i) => 3 * i)
    const { pixels } = await paint(journey)
    const { data } = await sharp(whole).raw().toBuffer({ resolveWithObject: true })
    let [sum, most, count] = [0, 0, 0]
    for (let y = 5; y < 1080; y += 7) {
      for (const x of columns) {
        const at = projection.toGround({ x: x + 0.5, y: y + 0.5 })!
        const [u, v] = [Math.floor(at.x / 3), Math.floor(at.y / 3)]
        if (u < 0 || v < 0 || u >= WIDTH || v >= HEIGHT) continue
        for (let c = 0; c < 3; c++) {
          const off = Math.abs(pixels[4 * (1920 * y + x) + c]! - data[3 * (WIDTH * v + u) + c]!)
          sum += off
          most = Math.max(most, off)
        }
        count += 3
      }
    }
    expect(count).toBeGreaterThan(10_000)
    expect(sum / count).toBeLessThan(1.5)
    expect(most).toBeLessThan(20)
  })

  it('goes on mirrored beyond its edge without a seam', async () => {
    const picture = await paint(journeyWith({}, flatView({ x: 0, y: 650 }, 3), { edge: 'mirrored' }))
    // The edge stands in the middle of the frame; what is d to the left of it is what is d to the right.
    for (let d = 0; d < 300; d += 7) {
      for (const y of [40, 180, 330]) {
        const [left, right] = [colourAt(picture, 319 - d, y), colourAt(picture, 320 + d, y)]
        for (const c of [1, 3, 5])
          expect(Math.abs(parseInt(left.slice(c, c + 2), 16) - parseInt(right.slice(c, c + 2), 16))).toBeLessThanOrEqual(3)
      }
    }
  })

  it('shows no more than its crop', async () => {
    const crop = { left: 600, top: 500, right: 1000, bottom: 800 }
    const picture = await paint(journeyWith({ crop }, flatView({ x: 800, y: 650 }, 2), { colour: '#ff00ff' }))
    // The crop's edges lie 400/2 * 2/3 px to the left and right of the middle.
    expect(colourAt(picture, 320 - 130, 180)).not.toBe('#ff00ff')
    expect(colourAt(picture, 320 - 137, 180)).toBe('#ff00ff')
    expect(colourAt(picture, 320 + 137, 180)).toBe('#ff00ff')
    expect(colourAt(picture, 320, 180 - 104)).toBe('#ff00ff')
    expect(colourAt(picture, 320, 180 - 96)).not.toBe('#ff00ff')
  })

  it('is seen through by its opacity', async () => {
    const camera = flatView({ x: 850, y: 650 }, 3)
    const [none, half, full] = await Promise.all(
      [0.001, 0.5, 1].map((opacity) => paint(journeyWith({ opacity }, camera, { colour: '#ffffff' }))),
    )
    for (let i = 0; i < full!.pixels.length; i += 4003)
      expect(Math.abs(half!.pixels[i]! - (none!.pixels[i]! + full!.pixels[i]!) / 2)).toBeLessThanOrEqual(2)
  })
})

describe('the ground', () => {
  const away = flatView({ x: -9000, y: 0 }, 1)

  it('runs from one colour to the other in the direction asked for', async () => {
    const picture = await paint(journeyWith({}, away, { colour: '#000000', second: '#ffffff', direction: 0 }))
    const at = (x: number) => parseInt(colourAt(picture, x, 100).slice(1, 3), 16)
    expect(at(1)).toBeLessThan(4)
    expect(at(638)).toBeGreaterThan(251)
    expect(Math.abs(at(320) - 128)).toBeLessThan(3)
  })

  it('has the sheet as a panel on it, with a border and a shadow', async () => {
    const panel = { shadow: 1, reach: 60, border: 30, borderColour: '#ff0000' }
    const picture = await paint(journeyWith({}, flatView({ x: 850, y: 650 }, 0.5), { colour: '#ffffff', edge: 'panel', panel }))
    // The sheet's left edge lies 850 * 0.5 / 3 px from the middle; the border is 10 px wide, the shadow beyond it.
    const edge = 320 - Math.round((850 * 0.5) / 3)
    expect(colourAt(picture, edge - 5, 180)).toBe('#ff0000')
    const shadow = parseInt(colourAt(picture, edge - 13, 190).slice(1, 3), 16)
    expect(shadow).toBeLessThan(200)
    expect(colourAt(picture, 5, 5)).toBe('#ffffff')
  })
})

describe('what lies on the ground', () => {
  it('is lit within its outlines, and not in their holes', async () => {
    const square = (a: number, b: number) => [a, a, b, a, b, b, a, b]
    const area = areaSchema.parse({
      id: 'a',
      name: 'A',
      rings: [square(-300, 300), square(-100, 100)],
      fill: { colour: '#00ff00', opacity: 1 },
      outline: { colour: '#0000ff', width: 12 },
    })
    const journey = addArea(journeyWith({ opacity: 0 }, flatView({ x: 0, y: 0 }, 1), { colour: '#ffffff' }), area)
    const picture = await paint(journey)
    expect(colourAt(picture, 320 + 60, 180)).toBe('#00ff00')
    expect(colourAt(picture, 320, 180)).toBe('#ffffff')
    expect(colourAt(picture, 320 + 100, 180)).toBe('#0000ff')
    expect(colourAt(picture, 320 + 110, 180)).toBe('#ffffff')
  })

  it('has an outline whose width shrinks with its distance', async () => {
    const area = areaSchema.parse({ id: 'a', name: 'A', rings: [[-200, -700, 200, -700, 200, 500, -200, 500]], fill: { colour: '#ffffff', opacity: 1 }, outline: { colour: '#000000', width: 40 } }) // prettier-ignore
    const view = { ...flatView({ x: 0, y: 0 }, 1), pitch: 55 }
    const picture = await paint(addArea(journeyWith({ opacity: 0 }, view, { colour: '#ffffff' }), area))
    const { toScreen, depthScale } = projectionOf(view, { width: 1920, height: 1080 })
    /** How many pixels are dark where a row of the frame crosses the left side of the area at a place. */
    const widthAt = (y: number) => {
      const at = toScreen({ x: -200, y })
      const [x, row] = [Math.round(at.x / 3), Math.round(at.y / 3)]
      let sum = 0
      for (let dx = -25; dx <= 25; dx++) sum += (255 - picture.pixels[4 * (640 * row + x + dx)]!) / 255
      return sum
    }
    for (const y of [-600, -200, 0, 300]) {
      // The side of the area is slanted in the frame: a row crosses it at this angle.
      const [a, b] = [toScreen({ x: -200, y: y - 1 }), toScreen({ x: -200, y: y + 1 })]
      const across = Math.hypot(b.x - a.x, b.y - a.y) / Math.abs(b.y - a.y)
      expect(widthAt(y)).toBeCloseTo((40 * depthScale({ x: -200, y }) * across) / 3, 0)
    }
    expect(widthAt(300) / widthAt(-600)).toBeGreaterThan(1.3)
  })

  it('ends with a line that names the sources, if wanted', async () => {
    const credited = journeyWith(
      { credit: { title: '', author: 'A. Mapmaker', licence: 'CC0', source: '' } },
      flatView({ x: -9000, y: 0 }, 1),
    )
    const [without, withLine, early] = [
      await paint(credited, 5),
      await paint(setCreditLine(credited, true), 5),
      await paint(setCreditLine(credited, true), 2),
    ]
    expect(meanDifference(without.pixels, withLine.pixels)).toBeGreaterThan(0.02)
    expect(meanDifference(without.pixels, early.pixels)).toBe(0)
  })
})
