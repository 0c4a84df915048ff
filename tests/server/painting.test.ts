/** What stands in the pictures: colours where they must be and not where they must not be. */
import { flatView } from '#core/camera/view'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { projectionAt } from '#core/camera/view-track'
import { inkLengthAt } from '#core/frame/ink-at'
import { pointAt } from '#core/geometry/course'
import { frameAt } from '#core/frame/frame-at'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { setFrame } from '#core/edits/journey'
import { setCamera } from '#core/edits/camera/shots'
import { setWash } from '#core/edits/ground/sheets'
import type { Journey, Postcard } from '#core/journey/schema'
import { postcardSchema, washSchema } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { stillDemo } from '#demo/journey'
import { freshDemo } from '#demo/seed'
import { createPainter } from '#draw/painter'
import { paintStill } from '#render/still'
import { createServerStudio, createServerSurface } from '#render/studio'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { openDatabase } from '../../server/storage/database'
import { journeyOver } from '../support/journeys'
import type { Picture } from '../support/pixels'
import { colourAt, meanDifference } from '../support/pixels'

const GROUND = '#dcd5c3'
const RED = '#d8412f'

async function paint(journey: Journey, t: number, width = journey.frame.width): Promise<Picture> {
  const surface = await paintStill('/nowhere', journey, t, width)
  return { width: surface.width, pixels: Uint8Array.from(surface.pixels()) }
}

/** A bare line over plain ground: no pins, no names, no vehicle. */
function bareLine(ink: Partial<Journey['travellers'][0]['legs'][0]['ink']> = {}): Journey {
  let journey = journeyOver(
    [
      [200, 540],
      [1700, 540],
    ],
    { ink: { colour: RED, width: 12, ...ink } },
  )
  for (const stop of journey.stops) journey = editStop(journey, stop.id, { pin: { shape: 'none' }, label: { shown: false } })
  return journey
}

describe('ink', () => {
  const solid = bareLine()
  const compiled = compile(solid)
  const headAt = (t: number) => 200 + inkLengthAt(compiled.travellers[0]!, 0, t, compiled.lastTime, projectionAt(compiled, t))

  it('is not there at the start', async () => {
    const picture = await paint(solid, 0)
    for (let x = 150; x < 1750; x += 10) expect(colourAt(picture, x, 540)).toBe(GROUND)
  })

  it.each([2, 4, 6])('at %i s reaches from the first stop to its head, and no further', async (t) => {
    const picture = await paint(solid, t)
    const head = headAt(t)
    expect(head).toBeGreaterThan(250)
    for (let x = 200; x < head - 2; x += 7) expect(colourAt(picture, x, 540)).toBe(RED)
    for (let x = head + 9; x < 1750; x += 7) expect(colourAt(picture, x, 540)).toBe(GROUND)
    expect(colourAt(picture, 230, 540 - 9)).toBe(GROUND)
    expect(colourAt(picture, 230, 540 - 4)).toBe(RED)
  })

  it('is whole in the last frame', async () => {
    const picture = await paint(solid, 99)
    for (let x = 200; x <= 1700; x += 10) expect(colourAt(picture, x, 540)).toBe(RED)
  })

  it('has dashes that stand still while it grows, as long as asked', async () => {
    const dashed = bareLine({ line: { kind: 'dashed', dash: 40, space: 20, fitted: false } })
    const [early, late] = [await paint(dashed, 3), await paint(dashed, 7)]
    const row = (picture: Picture) => Array.from({ length: 1500 }, (_, i) => colourAt(picture, 200 + i, 540))
    const [a, b] = [row(early), row(late)]
    const end = Math.floor(headAt(3) - 200) - 60
    expect(end).toBeGreaterThan(200)
    expect(a.slice(0, end)).toEqual(b.slice(0, end))
    // Away from both ends, 40 of every 60 pixels are inked; the caps' anti-aliased edges may cost one on either side.
    const inked = b.slice(120, 1320).filter((colour) => colour === RED).length
    expect(inked / 1200).toBeGreaterThan(0.61)
    expect(inked / 1200).toBeLessThan(0.69)
  })

  it('dotted consists of round dots with the asked space', async () => {
    const dotted = bareLine({ line: { kind: 'dotted', space: 20, fitted: false }, width: 20 })
    const picture = await paint(dotted, 99)
    for (const k of [3, 10, 20]) {
      expect(colourAt(picture, 200 + 40 * k, 540)).toBe(RED)
      expect(colourAt(picture, 200 + 40 * k + 20, 540)).toBe(GROUND)
      expect(colourAt(picture, 200 + 40 * k + 9, 540 + 9)).toBe(GROUND)
    }
  })

  it('looks the same at 4K, only sharper', async () => {
    const large = { ...solid, frame: { ...solid.frame, width: 3840, height: 2160 } }
    const picture = await paint(large, 99)
    expect(colourAt(picture, 1800, 1080 - 10)).toBe(RED)
    expect(colourAt(picture, 1800, 1080 - 14)).toBe(GROUND)
  })
})

describe('pins and names', () => {
  it('appear with the arrival, not before', async () => {
    const journey = journeyOver(
      [
        [200, 540],
        [1700, 540],
      ],
      { ink: { colour: '#17646b' } },
    )
    const arrive = compile(journey).travellers[0]!.legs[0]!.arrive
    const isPin = (picture: Picture) => colourAt(picture, 1700 - 17, 540 - 40) === RED
    expect(isPin(await paint(journey, arrive - 0.3))).toBe(false)
    expect(isPin(await paint(journey, arrive + 0.4))).toBe(true)
    const named = await paint(journey, 99)
    const nameless = await paint(editStop(journey, 's1', { label: { shown: false } }), 99)
    expect(meanDifference(named.pixels, nameless.pixels)).toBeGreaterThan(0.05)
  })
})

describe('a postcard', () => {
  const PAPER = '#fbf6ea'
  const trip = journeyOver([
    [300, 700],
    [960, 700],
  ])
  const carded = (postcard: Partial<Postcard>) =>
    editStop(trip, 's1', {
      pin: { size: 100 },
      label: { shown: false },
      postcards: [postcardSchema.parse({ id: 'card', tilt: 0, ...postcard })],
    })

  it('stands over its pin with its border round the photo, which is whole on it', async () => {
    const { journey: moving, folder } = await freshDemo()
    const journey = stillDemo(moving)
    const { photo } = journey.stops[4]!.postcards[0]!
    const surface = await paintStill(folder, carded({ photo, size: 600 }), 99, 1920)
    const picture = { width: 1920, pixels: Uint8Array.from(surface.pixels()) }
    // Its size is that of the longer side; the photo is 3 to 2, and the border 4.5 % of the size.
    const [border, bottom] = [27, 700 - 100 - 16]
    const [width, height] = [600 - 2 * border, ((600 - 2 * border) * 2) / 3]
    const top = bottom - height - 2 * border
    for (const [x, y] of [
      [960 - 290, top + 10],
      [960 + 290, bottom - 10],
      [960, bottom - 12],
      [960 - 290, (top + bottom) / 2],
    ] as const)
      expect(colourAt(picture, x, y)).toBe(PAPER)
    expect(colourAt(picture, 960 - 310, (top + bottom) / 2)).not.toBe(PAPER)
    // The photo as sharp scales it, sample by sample.
    const { data } = await sharp('demo/emberlight.webp')
      .resize(Math.round(width), Math.round(height))
      .raw()
      .toBuffer({ resolveWithObject: true })
    let off = 0
    for (let y = 20; y < height - 20; y += 40) {
      for (let x = 20; x < width - 20; x += 40) {
        const i = (Math.round(top + border + y) * 1920 + Math.round(960 - width / 2 + x)) * 4
        const k = (Math.round(y) * Math.round(width) + Math.round(x)) * 3
        off = Math.max(off, ...[0, 1, 2].map((c) => Math.abs(picture.pixels[i + c]! - data[k + c]!)))
      }
    }
    expect(off).toBeLessThan(90)
  })

  it('has its text within its paper, broken into lines', async () => {
    const words = 'Rowed across the sound before breakfast with the tide and a loaf of bread'
    const [picture, blank] = [await paint(carded({ text: words, size: 400 }), 99), await paint(carded({ text: '.', size: 400 }), 99)]
    const dark = (from: number, to: number, x: number, { pixels }: Picture = picture) => {
      for (let y = from; y < to; y++) if (pixels[(y * 1920 + x) * 4]! < 60) return true
      return false
    }
    const columns = Array.from({ length: 400 }, (_, i) => 760 + i).filter((x) => dark(100, 584, x))
    expect(columns[0]).toBeGreaterThan(760 + 400 * 0.045)
    expect(columns.at(-1)).toBeLessThan(1160 - 400 * 0.045)
    const rows = Array.from({ length: 484 }, (_, i) => 100 + i)
    const inked = rows.map((y) => columns.some((x) => picture.pixels[(y * 1920 + x) * 4]! < 60))
    expect(inked.filter((isInk, i) => isInk && !inked[i - 1]).length).toBeGreaterThanOrEqual(4)
    // More lines make a higher card.
    expect(colourAt(picture, 780, 350)).toBe(PAPER)
    expect(colourAt(blank, 780, 350)).toBe(GROUND)
  })

  it('whose photo is not there any more makes no film, and says so', async () => {
    await expect(paint(carded({ photo: { image: 'a'.repeat(64), width: 30, height: 20, vector: false } }), 99)).rejects.toThrow(
      /The photo of a postcard is missing in .*: choose it again/,
    )
  })
})

describe('a vehicle of one’s own', () => {
  it('is painted from its file, the way it faces turned along the line, and missed where the file is not there', async () => {
    const { folder } = await freshDemo()
    const db = openDatabase(folder)
    // Red, with a green nose at the top: it faces up.
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="120"><path d="M0 0H80V120H0Z" fill="#d8412f"/><path d="M0 0H80V40H0Z" fill="#2a9d4a"/></svg>'
    const png = await sharp(Buffer.from(svg)).png().toBuffer()
    const { image } = await importSheetFile(db, folder, 'nose.png', Readable.from(png))
    db.close()
    const picture = { image: image.hash, width: image.width, height: image.height, vector: image.vector }
    const journey = bareLine({ line: { kind: 'hidden' } })
    const driven = (hash: string) =>
      editLeg(journey, 'l1', {
        easing: 'linear',
        vehicle: {
          kind: 'image',
          picture: { ...picture, image: hash },
          view: 'above',
          facing: -90,
          anchor: { x: 0.5, y: 0.5 },
          size: 240,
          voice: 'engine',
        },
      })
    const compiled = compile(driven(image.hash))
    const { depart, arrive } = compiled.travellers[0]!.legs[0]!
    const t = (depart + arrive) / 2
    const at = compiled.travellers[0]!.legs[0]!.course.length / 2 + 200
    const surface = await paintStill(folder, driven(image.hash), t)
    const colour = (x: number, y: number) => colourAt({ width: surface.width, pixels: surface.pixels() }, x, y)
    // It drives to the right, so its nose is on the right: 240 long, 160 wide.
    expect([colour(at + 90, 540), colour(at - 60, 540), colour(at + 90, 540 + 70)]).toEqual(['#2a9d4a', RED, '#2a9d4a'])
    expect([colour(at + 130, 540), colour(at - 130, 540), colour(at, 540 + 90)]).toEqual([GROUND, GROUND, GROUND])
    await expect(paintStill(folder, driven('f'.repeat(64)), t)).rejects.toThrow(/The picture of a vehicle is missing/)
  })
})

describe('the demo', () => {
  it('lies on its sheet and has the line where the course is, at start, mid leg and end', async () => {
    const { journey: moving, folder } = await freshDemo()
    const journey = stillDemo(moving)
    const compiled = compile(journey)
    const leg = compiled.travellers[0]!.legs[0]!
    const on = projectionAt(compiled, 0).toScreen(pointAt(leg.course, leg.course.length * 0.25))
    const colour = async (t: number) => {
      const surface = await paintStill(folder, journey, t)
      return colourAt({ width: surface.width, pixels: surface.pixels() }, on.x, on.y)
    }
    const ink = leg.leg.ink.colour
    expect(await colour(0)).not.toBe(ink)
    expect(await colour((leg.depart + leg.arrive) / 2)).toBe(ink)
    expect(await colour(frameTime(compiled.frames - 1, '30/1'))).toBe(ink)
  })
})

describe('an edge shade', () => {
  it('darkens the corners to its colour and leaves the middle alone', async () => {
    const { journey: moving, folder } = await freshDemo()
    const journey = stillDemo(moving)
    const shade = { colour: '#000000', strength: 1, size: 0.5, feather: 0.4 }
    const bare = setCamera(setWash(journey, 'isles', null), flatView({ x: 3000, y: 3500 }, 1))
    const shaded = setWash(bare, 'isles', washSchema.parse({ edgeShade: shade }))
    const [plain, dark] = await Promise.all(
      [bare, shaded].map(async (j) => {
        const surface = await paintStill(folder, j, 0, 640)
        return { width: 640, pixels: Uint8Array.from(surface.pixels()) }
      }),
    )
    expect(colourAt(dark!, 2, 2)).toBe('#000000')
    for (const [x, y] of [
      [320, 180],
      [250, 140],
      [400, 230],
    ] as const) {
      expect(colourAt(dark!, x, y)).toBe(colourAt(plain!, x, y))
    }
    expect(colourAt(dark!, 60, 60)).not.toBe(colourAt(plain!, 60, 60))
  })
})

describe('painting only what has changed', () => {
  it('gives the very pixels of painting all of it, forwards, backwards and in leaps', async () => {
    const { journey: moving, folder } = await freshDemo()
    const journey = stillDemo(moving)
    const small = setFrame(journey, { width: 640, height: 360, rate: '30/1' })
    const compiled = compile(small)
    const studio = createServerStudio(folder)
    await studio.prepare(frameAt(compiled, 99), compiled.scale)
    const carriedOn = createPainter(studio)
    const surface = createServerSurface(640, 360)
    const copy = new Uint8Array(640 * 360 * 4)
    const run = (from: number, to: number) => Array.from({ length: Math.abs(to - from) }, (_, i) => from + i * Math.sign(to - from))
    const order = [...run(20, 60), ...run(560, 600), ...run(225, 200), 719, 0, 500, 640, 655, 100, ...run(655, 690)]
    for (const k of order) {
      const frame = frameAt(compiled, frameTime(k, '30/1'))
      surface.update(copy, carriedOn.paint(frame, surface.context, compiled.scale), true)
      const fresh = createServerSurface(640, 360)
      createPainter(studio).paint(frame, fresh.context, compiled.scale)
      expect(Buffer.compare(copy, fresh.pixels()), `frame ${k}`).toBe(0)
    }
  })

  it.each([
    // The camera comes down, goes along, turns and tilts, and rests.
    ['demo', [60, 61, 62, 130, 131, 460, 461, 480, 500, 501, 530, 560, 600, 630, 640, 641, 660, 700, 719]],
    // Washed, with dark edges, and lines that glow over each other.
    ['night', [100, 101, 160, 161, 310, 311, 460, 461, 500, 501]],
  ] as const)(
    'gives the very pixels where the ground of the %s is taken as it is, and only what stands over it is read',
    async (id, moments) => {
      const { journey, folder } = await freshDemo(id)
      const compiled = compile(setFrame(journey, { width: 640, height: 360, rate: '30/1' }))
      const studio = createServerStudio(folder)
      const carriedOn = createPainter(studio)
      const surface = createServerSurface(640, 360)
      const copy = new Uint8Array(640 * 360 * 4)
      let taken = 0
      for (const k of moments) {
        const frame = frameAt(compiled, frameTime(k, '30/1'))
        if (await studio.prepare(frame, compiled.scale)) carriedOn.invalidate()
        let isTaken = false
        const takeGround = ({ data }: ImageData) => {
          copy.set(data)
          isTaken = true
          taken++
        }
        const painted = carriedOn.paint(frame, surface.context, compiled.scale, { takeGround })
        surface.update(copy, painted, !isTaken)
        const fresh = createServerSurface(640, 360)
        createPainter(studio).paint(frame, fresh.context, compiled.scale)
        expect(Buffer.compare(copy, fresh.pixels()), `frame ${k}`).toBe(0)
      }
      expect(taken).toBeGreaterThan(3)
    },
  )

  it('paints a tilted view at rest as roughly as one that moves where that is asked for, and finely afterwards', async () => {
    const { journey, folder } = await freshDemo()
    const compiled = compile(setFrame(journey, { width: 640, height: 360, rate: '30/1' }))
    const studio = createServerStudio(folder)
    const frame = frameAt(compiled, frameTime(598, '30/1'))
    expect([frame.isMoving, frame.view.pitch]).toEqual([false, 52])
    await studio.prepare(frame, compiled.scale)
    const afresh = (shown: typeof frame) => {
      const surface = createServerSurface(640, 360)
      createPainter(studio).paint(shown, surface.context, compiled.scale)
      return Uint8Array.from(surface.pixels())
    }
    const [fine, moving] = [afresh(frame), afresh({ ...frame, isMoving: true })]
    expect(Buffer.compare(fine, moving)).not.toBe(0)
    const surface = createServerSurface(640, 360)
    const painter = createPainter(studio)
    for (const [isRough, wanted] of [
      [true, moving],
      [true, moving],
      [false, fine],
      [true, moving],
    ] as const) {
      // prettier-ignore
      painter.paint(frame, surface.context, compiled.scale, { isRough })
      expect(Buffer.compare(surface.pixels(), wanted)).toBe(0)
    }
  })
})
