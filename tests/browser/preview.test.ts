/** The preview in the browser and the frame from the server are one picture: mean difference under 2 of 255, text included. */
import { stillDemo } from '#demo/journey'
import { flatView } from '#core/camera/view'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { frameTime } from '#core/pace/rate'
import { editPostcard } from '#core/edits/marks/postcards'
import { editLeg } from '#core/edits/lines/legs'
import { addLandmark, newMark, newPicture, turnPicture } from '#core/edits/marks/landmarks'
import { editMark } from '#core/edits/marks/marks'
import { editStop } from '#core/edits/marks/stops'
import { setDepth, setShutter } from '#core/edits/journey'
import { addShot, setCamera, setPlan } from '#core/edits/camera/shots'
import { INK_STYLES } from '#core/dress/ink-styles'
import { TEXT_LOOKS } from '#core/dress/text-styles'
import { addCaption, setMeasures } from '#core/edits/marks/captions'
import { addStop } from '#core/edits/trips/visits'
import { setWash } from '#core/edits/ground/sheets'
import { referenceSize } from '#core/camera/view'
import { createJourney } from '#core/journey/create'
import type { Journey, Landmark, Sheet, Wash } from '#core/journey/schema'
import { captionSchema, depthSchema, drawnMapSchema, glowSchema, inkSchema, PIN_SHAPES, sheetSchema, shotSchema, vehicleSchema, washSchema } from '#core/journey/schema' // prettier-ignore
import { fillingView } from '#core/sheet/framing'
import { WASH_PRESETS } from '#core/sheet/wash'
import { VEHICLE_IDS } from '#core/vehicles/catalogue'
import { paintStill } from '#render/still'
import { openEditor, openPage, painted, saved, stagePixels } from '../support/browser'
import type { Grid } from '../support/contact-sheet'
import { cellDifferences, cellOf, inGroups, travellersIn } from '../support/contact-sheet'
import type { Picture } from '../support/pixels'
import { meanDifference } from '../support/pixels'
import type { TestServer } from '../support/server'
import { OWN } from '../support/server'
import { sharedBrowser, startServer } from '../support/shared'
import { journeyOver } from '../support/journeys'
import { COLD_CUBE } from '../support/luts'

let server: TestServer
let browser: Browser
let page: Page
beforeAll(async () => {
  server = await startServer()
  browser = await sharedBrowser()
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

/** A journey in the preview at some moments: each picture, and the second of the film that it shows. */
async function previews(journey: Journey, moments: readonly number[]): Promise<(Picture & { seconds: number })[]> {
  await openEditor(page, server.address, await store(journey))
  const pictures = []
  for (const moment of moments) {
    const perSecond = (await page.getByTestId('pace-strip').evaluate((strip) => strip.clientWidth - 44)) / journey.seconds
    await page.getByTestId('pace-strip').click({ position: { x: 22 + moment * perSecond, y: 8 } })
    await painted(page)
    const [, , s, f] = (await page.getByTestId('timecode').textContent())!.split(/[:;]/).map(Number)
    pictures.push({ ...(await stagePixels(page)), seconds: frameTime(s! * 30 + f!, '30/1') })
  }
  return pictures
}

/** The same moment of a journey as the server has it. */
const still = async (journey: Journey, { seconds, width }: { seconds: number; width: number }): Promise<Picture> => ({
  width,
  pixels: (await paintStill(server.folder, journey, seconds, width)).pixels(),
})

/**
 * Expects preview and server to show the same at each moment.
 * @param without the journey without what is looked at, whose picture has to be another: else nothing was compared
 */
async function expectAgreement(
  journey: Journey,
  moments: readonly number[],
  { most = 2, without, least = 4 }: { most?: number; without?: Journey; least?: number } = {},
): Promise<void> {
  for (const preview of await previews(journey, moments)) {
    expect(meanDifference(preview.pixels, (await still(journey, preview)).pixels)).toBeLessThan(most)
    if (without) expect(meanDifference(preview.pixels, (await still(without, preview)).pixels)).toBeGreaterThan(least)
  }
}

/** The same in each of the first cells of a contact sheet. @param names of what is in the cells, in order */
async function expectCellsToAgree(
  journey: Journey,
  moment: number,
  grid: Grid,
  names: readonly string[],
  { most = 2, without, least = 4 }: { most?: number; without: Journey; least?: number },
): Promise<void> {
  const [preview] = await previews(journey, [moment])
  const same = cellDifferences(preview!, await still(journey, preview!), grid)
  const other = cellDifferences(preview!, await still(without, preview!), grid)
  for (const [i, name] of names.entries()) {
    expect(same[i], name).toBeLessThan(most)
    expect(other[i], `${name} is there`).toBeGreaterThan(least)
  }
}

describe('preview and server frame', () => {
  it('of the demo agree', async () => {
    await expectAgreement(await movingDemo(), [0.5, 4, 9.5, 14, 19, 23.9])
  })

  it('agree on a generated map, from above between two levels and tilted', async () => {
    const drawn = drawnMapSchema.parse({ region: { west: 4, south: 42, east: 18, north: 50 }, projection: 'conic', style: 'ink', borders: true, graticule: true, aspect: 16 / 9 }) // prettier-ignore
    const ordered = await fetch(`${server.address}/api/maps`, { method: 'POST', headers: OWN, body: JSON.stringify({ map: drawn }) })
    const { id } = (await ordered.json()) as { id: string }
    const told = await (await fetch(`${server.address}/api/imports/${id}/events`)).text()
    const { result } = JSON.parse(told.slice(told.lastIndexOf('data:') + 5)) as { result: Pick<Sheet, 'width' | 'height' | 'georeference'> & { hash: string } } // prettier-ignore
    const { hash, width, height, georeference } = result
    const sheet = sheetSchema.parse({ id: 'map', name: 'Map', image: hash, width, height, vector: true, georeference, drawn })
    const empty = { ...createJourney('Map', undefined, 4), sheets: [sheet] }
    const filling = fillingView(sheet, referenceSize(empty.frame))
    for (const view of [
      { ...filling, zoom: 1.45 * filling.zoom },
      { ...filling, zoom: 2 * filling.zoom, pitch: 40, bearing: 20 },
    ]) {
      const journey = setCamera(empty, view)
      // Drawn for another size of frame, its lines would be nearly twice as wide.
      const [preview] = await previews(journey, [1])
      expect(meanDifference(preview!.pixels, (await still(journey, preview!)).pixels)).toBeLessThan(0.5)
    }
  })

  it('agree on what is blurred by motion, once the preview rests', async () => {
    const still = stillDemo(await movingDemo())
    const view = { centre: { x: 4400, y: 1700 }, zoom: 0.5, bearing: 25, pitch: 0 }
    const shot = shotSchema.parse({ kind: 'free', id: 'pan', at: { at: 'start', offset: 4 }, transition: 1, view })
    const journey = addShot(still, shot)
    await expectAgreement(setShutter(journey, 360), [4.5], { without: journey })
  })

  it('agree on the colour grade, by numbers, a table and a vignette, whose file is added in the interface', async () => {
    const plain = await movingDemo()
    const id = await store(plain)
    const stored = async () => {
      await saved(page)
      return ((await (await fetch(`${server.address}/api/journeys/${id}`)).json()) as { journey: Journey }).journey
    }
    await openEditor(page, server.address, id)
    await page.getByRole('button', { name: /^Colour grade/ }).click()
    const choose = async (name: string, text: string) => {
      const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('add-lut').click()])
      await chooser.setFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
    }
    await choose('odd.cube', 'LUT_3D_SIZE 2\n0 0 0\n')
    await page.getByText('“odd.cube” is cut off: it has 1 of 8 colours.').waitFor()
    await choose('Cold.cube', COLD_CUBE)
    await page.getByTestId('remove-lut').waitFor()
    await page.getByLabel('Vignette').click()
    const journey = await stored()
    expect(journey.grade).toMatchObject({ lut: { name: 'Cold', strength: 1 }, vignette: { strength: 0.45 } })
    await expectAgreement(journey, [0.5, 14, 19], { without: plain })
    await openEditor(page, server.address, id)
    await page.getByTestId('reset-grade').click()
    expect((await stored()).grade).toBeNull()
    await page.keyboard.press('Control+z')
    expect((await stored()).grade).toEqual(journey.grade)
  })

  it('are blurred as is chosen for the film, and not after undo', async () => {
    const id = await store(await movingDemo())
    const shutter = async () => {
      await saved(page)
      return ((await (await fetch(`${server.address}/api/journeys/${id}`)).json()) as { journey: Journey }).journey.shutter
    }
    await openEditor(page, server.address, id)
    await page.getByTestId('shutter').click()
    await page.getByRole('option', { name: 'Shutter 180°' }).click()
    expect(await shutter()).toBe(180)
    await page.keyboard.press('Control+z')
    expect(await shutter()).toBe(0)
  })

  it.each([
    ['turned', 0.5, 40, 0],
    ['at pitch 30', 0.5, -25, 30],
    ['at pitch 60', 0.42, 15, 60],
  ])('agree %s, with glow, dashes, dots and cards', async (_what, zoom, bearing, pitch) => {
    const flat = stillDemo(await movingDemo())
    await expectAgreement(setCamera(flat, { centre: { x: 3700, y: 1500 }, zoom, bearing, pitch }), [23], { without: flat, least: 8 })
  })

  it('agree on a sheet in every wash', async () => {
    const washes = WASH_PRESETS.filter(({ wash }) => wash)
    const [isles] = (await movingDemo()).sheets
    const grid = { columns: 4, rows: 3 }
    const laid = (wash: (i: number) => Wash | null): Journey => ({
      ...createJourney('Washes', undefined, 10),
      sheets: washes.map((_, i) => {
        const { x, y, width } = cellOf(grid, i)
        return { ...isles!, id: `sheet${i}`, georeference: null, place: { x, y, scale: width / 6400, rotation: 0 }, wash: wash(i) }
      }),
    })
    await expectCellsToAgree(
      laid((i) => washes[i]!.wash),
      5,
      grid,
      washes.map(({ name }) => name),
      { without: laid(() => null), least: 6 },
    )
  })

  it('agree on a wash that shades the frame’s edges, over the whole frame', async () => {
    const journey = stillDemo(await movingDemo())
    await expectAgreement(setWash(journey, 'isles', WASH_PRESETS.find(({ name }) => name === 'Phosphor')!.wash), [14], {
      without: journey,
      least: 8,
    })
  })

  it('agree on a softened sheet, zoomed in', async () => {
    const journey = stillDemo(await movingDemo())
    const close = setCamera(journey, flatView({ x: 2400, y: 1800 }, 0.9))
    await expectAgreement(setWash(close, 'isles', washSchema.parse({ blur: 20 })), [9], { without: close })
  })

  it('agree on a large postcard, closely', async () => {
    const journey = stillDemo(await movingDemo())
    const large = editPostcard(journey, 'emberlight', 'dusk', { size: 1000, text: 'A long caption, which takes up two lines of the card' })
    await expectAgreement(large, [23.5], { most: 1.5, without: editStop(large, 'emberlight', { postcards: [] }), least: 15 })
  })

  it('agree on a title whose letters come one by one over their shadows', async () => {
    const titled = (shadow: number) => ({
      ...journeyOver([[300, 900], [1500, 900]], {}, 6), // prettier-ignore
      captions: [
        captionSchema.parse({
          id: 't',
          content: { kind: 'title', text: 'Lantern Isles' },
          corner: 'middle',
          style: { size: 240, colour: '#ffffff', halo: null, shadow },
          appears: { style: 'fade', by: 'letter', apart: 0.2 },
          shown: { from: { at: 'start' }, to: { at: 'end' } },
        }),
      ],
    })
    await expectAgreement(titled(1), [1.3, 2.2], { most: 0.7, without: titled(0), least: 1.5 })
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
      await expectAgreement(setCamera(full, view), [9], { without: setCamera(journey, view), least: 3 })
    }
  })

  it('agree on what a lively camera shows, with soft focus and haze', async () => {
    const plain = setPlan({ ...(await movingDemo()), shots: [] }, 'lively')
    const soft = setDepth(plain, depthSchema.parse({ softFocus: { strength: 1 }, haze: { strength: 0.8 } }))
    // While the camera turns with the train, on its way to another shot, and as it flies.
    await expectAgreement(soft, [3, 11.4, 17], { without: plain })
  })

  it('agree on the globe, whole and half flattened, under clouds', async () => {
    const plain = { ...(await movingDemo()), shots: [] }
    const shot = (fields: object) => shotSchema.parse({ id: 'globe', at: { at: 'start', offset: 0 }, ...fields })
    const journey = [
      shot({ kind: 'globe', transition: 0, fill: 1.5, spin: 20 }),
      shot({ kind: 'overview', id: 'whole', at: { at: 'start', offset: 4 }, transition: 8, pitch: 20 }),
    ].reduce(addShot, plain)
    await expectAgreement(journey, [1, 9.5, 11], { without: plain })
  })

  it('agree on large text in several scripts, closely', async () => {
    let journey = createJourney('Names', undefined, 10)
    for (const [i, name] of ['Harrowmere', 'Žluťoučký Łęg', 'Οδύσσεια', 'Остров'].entries()) {
      journey = addStop(journey, { x: 200, y: 220 + 220 * i }, { stop: `s${i}`, leg: `l${i}` }, { traveller: 'traveller' })
      journey = editStop(journey, `s${i}`, { name, label: { style: { size: 150 }, place: { kind: 'side', side: 'right' } } })
    }
    const bare = journey.stops.reduce((j, stop) => editStop(j, stop.id, { label: { shown: false } }), journey)
    await expectAgreement(journey, [9.9], { most: 1, without: bare })
  })

  it.each(inGroups(TEXT_LOOKS, 4).map((looks) => [looks.map(({ name }) => name).join(', '), looks] as const))(
    'agree on names, titles and readouts in the letters %s',
    async (_names, looks) => {
      const grid = { columns: 2, rows: 2 }
      let bare = setMeasures(createJourney('Letters', undefined, 10), { metresPerUnit: 40 })
      for (const [i, { x, y }] of looks.map((_, k) => cellOf(grid, k)).entries())
        bare = addStop(bare, { x: x + 480, y: y + 270 }, { stop: `s${i}`, leg: `l${i}` }, { traveller: 'traveller' })
      const unnamed = bare.stops.reduce((j, { id }) => editStop(j, id, { label: { shown: false } }), bare)
      let journey: Journey = {
        ...bare,
        stops: bare.stops.map((stop, i) => ({
          ...stop,
          name: ['Harrowmere', 'Oar’s End', 'Łęg', 'Quillhaven'][i]!,
          label: { ...stop.label, place: { kind: 'side', side: i < 2 ? 'bottom' : 'top' }, style: { ...looks[i]!.style, size: 70 } },
        })),
      }
      const corners = ['top-left', 'top-right', 'bottom-left', 'bottom-right'] as const
      for (const [i, { style }] of looks.entries()) {
        const contents = [
          { kind: 'title', text: 'The Lantern Isles', second: 'in four days' },
          { kind: 'distance', traveller: null },
          { kind: 'scale-bar' },
        ] as const
        for (const content of contents) {
          const id = `${content.kind}${i}`
          journey = addCaption(journey, id, content)
          const set = { corner: corners[i]!, shown: null, style: { ...style, size: 56 } }
          journey = { ...journey, captions: journey.captions.map((caption) => (caption.id === id ? { ...caption, ...set } : caption)) }
        }
      }
      await expectCellsToAgree(
        journey,
        8,
        grid,
        looks.map(({ name }) => name),
        { without: unnamed, least: 2 },
      )
    },
  )

  it.each(inGroups(INK_STYLES, 8).map((inks) => [inks.map(({ name }) => name).join(', '), inks] as const))(
    'agree on lines in the looks %s',
    async (_names, inks) => {
      const grid = { columns: 4, rows: 2 }
      const way = [{ x: 0.12, y: 0.85 }, { x: 0.35, y: 0.2 }, { x: 0.65, y: 0.75 }, { x: 0.88, y: 0.25 }] // prettier-ignore
      const course = { kind: 'bowed', bow: 0.3 } as const
      const journey = travellersIn(
        grid,
        inks.map(({ ink }) => ({ ink: { ...ink, width: 1.5 * ink.width }, course, vehicle: null })),
        way,
      )
      const hidden = inks.map(() => ({ ink: inkSchema.parse({ line: { kind: 'hidden' } }), course, vehicle: null }))
      await expectCellsToAgree(
        journey,
        // On the way: afterwards a comet's tail has run out.
        5,
        grid,
        inks.map(({ name }) => name),
        { without: travellersIn(grid, hidden, way), least: 1 },
      )
    },
  )

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
    const bare = journey.stops.reduce((j, { id }) => editStop(j, id, { pin: { shape: 'none' } }), journey)
    await expectAgreement(journey, [9.9], { without: bare })
  })

  it.each(inGroups(VEHICLE_IDS, 10).map((ids) => [ids.join(', '), ids] as const))('agree on the vehicles %s', async (_names, ids) => {
    const grid = { columns: 4, rows: 3 }
    const way = [{ x: 0.2, y: 0.75 }, { x: 0.8, y: 0.35 }] // prettier-ignore
    const glow = glowSchema.parse({ colour: '#ffffff', radius: 20, strength: 1 })
    const drawn = ids.map((artwork) => ({ vehicle: { kind: 'catalogue' as const, artwork, colour: '#17646b', size: 240 }, ink: { glow } }))
    const without = travellersIn(
      grid,
      drawn.map(({ ink }) => ({ ink, vehicle: null })),
      way,
    )
    await expectCellsToAgree(travellersIn(grid, drawn, way), 5, grid, ids, { most: 1.5, without, least: 2 })
  })
})
