/** The preview in the browser and the frame from the server are one picture: mean difference under 2 of 255, text included. */
import { stillDemo } from '#demo/journey'
import { flatView } from '#core/camera/view'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { frameTime } from '#core/pace/rate'
import { editPostcard } from '#core/edits/postcards'
import { editLeg } from '#core/edits/legs'
import { addLandmark, newMark, newPicture, turnPicture } from '#core/edits/landmarks'
import { editMark } from '#core/edits/marks'
import { editStop } from '#core/edits/stops'
import { setDepth } from '#core/edits/journey'
import { addShot, setCamera, setPlan } from '#core/edits/shots'
import { INK_STYLES } from '#core/dress/ink-styles'
import { TEXT_LOOKS } from '#core/dress/text-styles'
import { addCaption, setMeasures } from '#core/edits/captions'
import { addStop } from '#core/edits/visits'
import { setWash } from '#core/edits/sheets'
import { createJourney } from '#core/journey/create'
import type { Journey, Landmark } from '#core/journey/schema'
import { depthSchema, glowSchema, inkSchema, PIN_SHAPES, shotSchema, vehicleSchema, washSchema } from '#core/journey/schema'
import { WASH_PRESETS } from '#core/sheet/wash'
import { VEHICLE_IDS } from '#core/vehicles/catalogue'
import { paintStill } from '#render/still'
import { launchBrowser, openEditor, openPage, painted, stagePixels } from '../support/browser'
import { meanDifference } from '../support/pixels'
import type { TestServer } from '../support/server'
import { startServer, OWN } from '../support/server'
import { journeyOver } from '../support/journeys'

let server: TestServer
let browser: Browser
let page: Page
beforeAll(async () => {
  server = await startServer()
  browser = await launchBrowser()
  ;({ page } = await openPage(browser))
})
afterAll(async () => {
  await browser.close()
  await server.stop()
})

const movingDemo = async () => ((await (await fetch(`${server.address}/api/journeys/demo`)).json()) as { journey: Journey }).journey

async function store(journey: Journey): Promise<string> {
  const response = await fetch(`${server.address}/api/journeys`, { method: 'POST', headers: OWN, body: JSON.stringify({ journey }) })
  return ((await response.json()) as { id: string }).id
}

async function difference(id: string, journey: Journey, seconds: number): Promise<number> {
  await openEditor(page, server.address, id)
  const perSecond = (await page.getByTestId('pace-strip').evaluate((strip) => strip.clientWidth - 44)) / journey.seconds
  await page.getByTestId('pace-strip').click({ position: { x: 22 + seconds * perSecond, y: 8 } })
  await painted(page)
  const code = (await page.getByTestId('timecode').textContent())!
  const [, , s, f] = code.split(/[:;]/).map(Number)
  const preview = await stagePixels(page)
  const still = await paintStill(server.folder, journey, frameTime(s! * 30 + f!, '30/1'), preview.width)
  return meanDifference(preview.pixels, still.pixels())
}

describe('preview and server frame', () => {
  it.each([0.5, 4, 9.5, 14, 19, 23.9])('of the demo agree at %f s', async (seconds) => {
    expect(await difference('demo', await movingDemo(), seconds)).toBeLessThan(2)
  })

  it.each([
    ['turned', 0.5, 40, 0],
    ['at pitch 30', 0.5, -25, 30],
    ['at pitch 60', 0.42, 15, 60],
  ])('agree %s, with glow, dashes, dots and cards', async (_what, zoom, bearing, pitch) => {
    const journey = setCamera(stillDemo(await movingDemo()), { centre: { x: 3700, y: 1500 }, zoom, bearing, pitch })
    expect(await difference(await store(journey), journey, 23)).toBeLessThan(2)
    // The picture is another one from straight above.
    expect(await difference(await store(journey), stillDemo(journey), 23)).toBeGreaterThan(8)
  })

  it.each(WASH_PRESETS.filter(({ wash }) => wash))('agree on a sheet washed “$name”', async ({ wash }) => {
    const journey = stillDemo(await movingDemo())
    const plain = await store(setWash(journey, 'isles', null))
    const washed = setWash(journey, 'isles', wash)
    expect(await difference(await store(washed), washed, 14)).toBeLessThan(2)
    expect(await difference(plain, washed, 14)).toBeGreaterThan(8)
  })

  it('agree on a softened sheet, zoomed in', async () => {
    const journey = stillDemo(await movingDemo())
    const close = setCamera(setWash(journey, 'isles', washSchema.parse({ blur: 20 })), flatView({ x: 2400, y: 1800 }, 0.9))
    expect(await difference(await store(close), close, 9)).toBeLessThan(2)
  })

  it('agree on a large postcard, closely', async () => {
    const journey = stillDemo(await movingDemo())
    const large = editPostcard(journey, 'emberlight', 'dusk', { size: 1000, text: 'A long caption, which takes up two lines of the card' })
    const id = await store(large)
    expect(await difference(id, large, 23.5)).toBeLessThan(1.5)
    expect(await difference(id, editStop(large, 'emberlight', { postcards: [] }), 23.5)).toBeGreaterThan(15)
  })

  it('agree on what is beside the way, straight down and tilted: marks, names, standing and lying pictures, a pin and the marks of a line of one’s own, a carried flag', async () => {
    const journey = stillDemo(await movingDemo())
    const photo = journey.stops.find(({ id }) => id === 'emberlight')!.postcards[0]!.photo!
    const beside = [
      newMark(journey, 'm', { x: 2600, y: 700 }, 'Old mill', true),
      newMark(journey, 'n', { x: 3000, y: 3000 }, 'The Sound', false),
      { ...newPicture('u', { x: 1700, y: 1900 }, 'Pier', photo, 0.3), shadow: 0.6 } as Landmark,
      turnPicture(addLandmark(journey, newPicture('f', { x: 4300, y: 2300 }, 'Pier', photo, 0.2)), 'f', 'lying').landmarks[0]!,
    ]
    const own = { shape: 'own', picture: { ...photo, anchor: { x: 0.5, y: 1 } }, size: 120 } as const
    const ink = inkSchema.parse({ width: 24, line: { kind: 'stamped', stamp: 'own', picture: photo, space: 30 }, shadow: {} })
    const train = vehicleSchema.parse({ kind: 'catalogue', artwork: 'bus', size: 160, lively: 1, carries: { kind: 'flag', size: 80 } })
    const dressed = editLeg(editLeg(beside.reduce(addLandmark, journey), 'night-train', { ink }), 'bicycle', { vehicle: train })
    const full = editMark(dressed, 'm', { pin: own })
    for (const view of [journey.camera, { ...journey.camera, pitch: 45, bearing: 30 }]) {
      const seen = setCamera(full, view)
      const id = await store(seen)
      expect(await difference(id, seen, 9)).toBeLessThan(2)
      // They are there: without them the picture is another.
      expect(await difference(id, setCamera(journey, view), 9)).toBeGreaterThan(3)
    }
  })

  it('agree on what a lively camera shows, with soft focus and haze', async () => {
    const plain = setPlan({ ...(await movingDemo()), shots: [] }, 'lively')
    const soft = setDepth(plain, depthSchema.parse({ softFocus: { strength: 1 }, haze: { strength: 0.8 } }))
    const id = await store(soft)
    // While the camera turns with the train, on its way to another shot, and as it flies.
    for (const time of [3, 11.4, 17]) {
      expect(await difference(id, soft, time)).toBeLessThan(2)
      // They are there: without them the picture is another.
      expect(await difference(id, plain, time)).toBeGreaterThan(4)
    }
  })

  it('agree on the globe, whole and half flattened, under clouds', async () => {
    const plain = { ...(await movingDemo()), shots: [] }
    const shot = (fields: object) => shotSchema.parse({ id: 'globe', at: { at: 'start', offset: 0 }, ...fields })
    const journey = [
      shot({ kind: 'globe', transition: 0, fill: 1.5, spin: 20 }),
      shot({ kind: 'overview', id: 'whole', at: { at: 'start', offset: 4 }, transition: 8, pitch: 20 }),
    ].reduce(addShot, plain)
    const id = await store(journey)
    for (const time of [1, 9.5, 11]) {
      expect(await difference(id, journey, time)).toBeLessThan(2)
      expect(await difference(id, plain, time)).toBeGreaterThan(4)
    }
  })

  it('agree on large text in several scripts, closely', async () => {
    let journey = createJourney('Names', undefined, 10)
    for (const [i, name] of ['Harrowmere', 'Žluťoučký Łęg', 'Οδύσσεια', 'Остров'].entries()) {
      journey = addStop(journey, { x: 200, y: 220 + 220 * i }, { stop: `s${i}`, leg: `l${i}` }, { traveller: 'traveller' })
      journey = editStop(journey, `s${i}`, { name, label: { style: { size: 150 }, place: { kind: 'side', side: 'right' } } })
    }
    const id = await store(journey)
    expect(await difference(id, journey, 9.9)).toBeLessThan(1)
    // The text is there: without it the picture is another.
    const bare = journey.stops.reduce((j, stop) => editStop(j, stop.id, { label: { shown: false } }), journey)
    expect(await difference(id, bare, 9.9)).toBeGreaterThan(4)
  })

  it.each(TEXT_LOOKS)('agree on names, a title and a readout in the letters “$name”', async ({ style }) => {
    let journey: Journey = setMeasures(journeyOver([[300, 300], [1500, 800]], {}, 10), { metresPerUnit: 40 }) // prettier-ignore
    journey = { ...journey, stops: journey.stops.map((stop, i) => ({ ...stop, name: ['Harrowmere', 'Oar’s End'][i]!, label: { ...stop.label, style: { ...style, size: 110 } } })) } // prettier-ignore
    journey = addCaption(journey, 'title', { kind: 'title', text: 'The Lantern Isles', second: 'in four days' })
    journey = addCaption(journey, 'way', { kind: 'distance', traveller: null })
    journey = addCaption(journey, 'bar', { kind: 'scale-bar' })
    journey = { ...journey, captions: journey.captions.map((caption) => ({ ...caption, shown: null, style: { ...style, size: 90 } })) }
    const id = await store(journey)
    // The text is there: without it the picture is another, by far more.
    const without = await difference(id, { ...journey, captions: [] }, 8)
    expect(await difference(id, journey, 8)).toBeLessThan(Math.min(2, without / 3))
  })

  it.each(INK_STYLES)('agree on a line in the look “$name”', async ({ ink }) => {
    const points = [[200, 900], [700, 250], [1300, 820], [1750, 300]] as const // prettier-ignore
    const journey = journeyOver(points, { ink: { ...ink, width: 2.5 * ink.width }, course: { kind: 'bowed', bow: 0.3 } })
    const id = await store(journey)
    expect(await difference(id, journey, 7)).toBeLessThan(2)
    // The lines are there: without them the picture is another.
    expect(await difference(id, journeyOver(points, { ink: inkSchema.parse({ line: { kind: 'hidden' } }) }), 7)).toBeGreaterThan(0.25)
  })

  it('agree on pins of all shapes, with letters and circles', async () => {
    const shapes = PIN_SHAPES.filter((shape) => shape !== 'none' && shape !== 'own')
    let journey = journeyOver(shapes.map((_, i) => [200 + (i % 5) * 380, 280 + Math.floor(i / 5) * 330] as const), { ink: inkSchema.parse({ line: { kind: 'hidden' } }) }) // prettier-ignore
    for (const [i, shape] of shapes.entries())
      journey = editStop(journey, `s${i}`, {
        label: { shown: false },
        pin: {
          shape,
          size: 170,
          before: 'shown',
          inside: i % 2 ? { kind: 'number' } : { kind: 'letters', text: 'AÅ' },
          circle: { kind: i % 3 ? 'by-hand' : 'settling', colour: '#17646b', radius: 0.9 },
          lies: i % 4 === 0,
        },
      })
    expect(await difference(await store(journey), journey, 9.9)).toBeLessThan(2)
  })

  it.each(VEHICLE_IDS)('agree on the %s', async (artwork) => {
    const journey = journeyOver(
      [
        [200, 900],
        [1700, 300],
      ],
      {
        vehicle: { kind: 'catalogue', artwork, colour: '#17646b', size: 420 },
        ink: { glow: glowSchema.parse({ colour: '#ffffff', radius: 40, strength: 1 }) },
      },
    )
    expect(await difference(await store(journey), journey, 4)).toBeLessThan(1)
  })
})
