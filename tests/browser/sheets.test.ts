/** Maps in a real browser: laid, aligned, turned, cropped, replaced, put on the Earth, drawn and credited. Each test begins with a fresh copy of the demo. */
import { rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import sharp from 'sharp'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { groundGeo } from '#core/geo/ground'
import { createJourney } from '#core/journey/create'
import { coversFrame } from '#core/sheet/framing'
import { painted } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { temporaryFolder } from '../support/server'

// Of all previews of generated maps on a server only the last one is made, whichever window asked for it.
const demo = useDemoPage({ ownServer: true })
let page: Page
const folder = temporaryFolder()
const file = (name: string) => join(folder, name)

beforeAll(async () => {
  writeFileSync(
    file('town.svg'),
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 300 200"><rect width="300" height="200" fill="#f4ead2"/><path d="M0 90H300M140 0V200" stroke="#b08a50" stroke-width="6"/></svg>',
  )
  await sharp({ create: { width: 1600, height: 900, channels: 3, background: '#7fa06a' } })
    .png()
    .toFile(file('bare.png'))
  await sharp({ create: { width: 4500, height: 3500, channels: 3, background: '#555', noise: { type: 'gaussian', mean: 128, sigma: 50 } } })
    .png({ compressionLevel: 1 })
    .toFile(file('large.png'))
  writeFileSync(file('bare.pgw'), '0.01\n0\n0\n-0.01\n10.005\n49.995\n')
  writeFileSync(file('short.pgw'), '0.01\n0\n0\n-0.01\n10\n')
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))
beforeEach(() => {
  page = demo.page
})

const { stored } = demo
const sheets = async () => (await stored()).sheets
const openSheets = () => page.getByRole('button', { name: 'Sheet', exact: true }).click()
const unfold = (title: string) => page.getByRole('button', { name: new RegExp(title) }).click()

async function dragOnStage(from: [number, number], to: [number, number]) {
  const { x, y } = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.move(x + from[0], y + from[1])
  await page.mouse.down()
  await page.mouse.move(x + (from[0] + to[0]) / 2, y + (from[1] + to[1]) / 2)
  await page.mouse.move(x + to[0], y + to[1], { steps: 4 })
  await page.mouse.up()
}
async function clickStage(x: number, y: number) {
  const box = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.click(box.x + x, box.y + y)
}
async function choose(click: () => Promise<void>, ...names: string[]) {
  const chooser = page.waitForEvent('filechooser')
  await click()
  await (await chooser).setFiles(names.map(file))
}
async function addTown() {
  await openSheets()
  await page.getByTestId('add-sheet').click()
  await choose(() => page.getByText('From a file …').click(), 'town.svg')
  await page.getByText('“town” is ready').waitFor()
}

describe('a second sheet', () => {
  it('is laid over the first, moved, scaled and turned by its handles, in single steps to undo', async () => {
    await addTown()
    await page.getByTestId('settle-sheet').click()
    await page.getByText('Vector, sharp at any zoom').waitFor()
    const [, laid] = await sheets()
    expect(laid).toMatchObject({ name: 'town', vector: true, width: 4096, opacity: 1 })
    await dragOnStage([300, 200], [340, 220])
    const [, moved] = await sheets()
    const perPixel = 6400 / 960
    expect(moved!.place.x - laid!.place.x).toBeCloseTo(40 * perPixel, 0)
    expect(moved!.place.y - laid!.place.y).toBeCloseTo(20 * perPixel, 0)
    const corner = (await page.getByTestId('sheet-corner-2').boundingBox())!
    await page.mouse.move(corner.x + corner.width / 2, corner.y + corner.height / 2)
    await page.mouse.down()
    await page.mouse.move(corner.x - 90, corner.y - 60, { steps: 5 })
    await page.mouse.up()
    const [, scaled] = await sheets()
    expect(scaled!.place.scale).toBeLessThan(moved!.place.scale * 0.9)
    expect(scaled!.place.x).toBeCloseTo(moved!.place.x, 3)
    for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click()
    expect(await sheets()).toHaveLength(1)
  })

  it('is shown for a while, from one stop to another', async () => {
    await addTown()
    await page.getByTestId('settle-sheet').click()
    await page.getByLabel('Only part of the film').click()
    await page.getByLabel('From', { exact: true }).click({ force: true })
    await page.getByRole('option', { name: 'Arrival at Quillhaven' }).click()
    expect((await sheets())[1]!.shown).toMatchObject({ from: { at: 'arrival', stop: 'quillhaven' }, to: { at: 'end' } })
    expect(await page.getByTestId('stage-sharpness').textContent()).toContain('3.33 map px')
  })

  it('is aligned by two matched points, and may be for tracing only', async () => {
    await addTown()
    await page.getByLabel('Use it for tracing only').check()
    await page.getByTestId('settle-sheet').click()
    await page.getByLabel('For tracing only, never in the film', { exact: true }).waitFor()
    expect((await sheets())[1]).toMatchObject({ tracing: true, opacity: 0.5 })
    const { place } = (await sheets())[1]!
    await page.getByTestId('align-sheet').click()
    await page.getByText('Click a spot on this map (1 of 4)').waitFor()
    // Two spots of the sheet, each to be 100 px further right and 50 px lower.
    for (const [x, y] of [
      [300, 200],
      [400, 250],
      [600, 300],
      [700, 350],
    ] as const)
      await clickStage(x, y)
    const after = (await sheets())[1]!.place
    expect(after.scale).toBeCloseTo(place.scale, 6)
    expect(after.x - place.x).toBeCloseTo((100 * 6400) / 960, 0)
    expect(after.y - place.y).toBeCloseTo((50 * 6400) / 960, 0)
  })
})

describe('the map', () => {
  it('is straightened by a line drawn on it, and everything on it turns along', async () => {
    await openSheets()
    await unfold('Turn, straighten, crop')
    await page.getByTestId('straighten').click()
    await dragOnStage([200, 300], [700, 350])
    const journey = await stored()
    expect(journey.sheets[0]!.place.rotation).toBeCloseTo((-Math.atan2(50, 500) * 180) / Math.PI, 1)
    await page.getByRole('button', { name: 'Undo' }).click()
    expect((await stored()).stops[2]!.at.x).toBeCloseTo(2752, 6)
  })

  it('is cropped by a rectangle drawn on it, and used whole again', async () => {
    await openSheets()
    await unfold('Turn, straighten, crop')
    await page.getByTestId('crop').click()
    await dragOnStage([96, 54], [576, 432])
    const { crop } = (await sheets())[0]!
    const expected = { left: 640, top: 360, right: 3840, bottom: 2880 }
    for (const side of ['left', 'top', 'right', 'bottom'] as const) expect(Math.abs(crop![side] - expected[side])).toBeLessThanOrEqual(4)
    await page.getByText('Reset the crop').click()
    expect((await sheets())[0]!.crop).toBeNull()
  })

  it('is kept under the frame, mirrored, or made a panel', async () => {
    await openSheets()
    await unfold('Beyond the edge')
    await dragOnStage([200, 100], [600, 400])
    await page.getByText('does not reach every edge').waitFor()
    await page.getByRole('radio', { name: 'Kept in' }).click()
    expect((await stored()).ground.edge).toBe('held')
    expect(await page.getByText('does not reach every edge').count()).toBe(0)
    await page.getByRole('radio', { name: 'Mirrored' }).click()
    await painted(page)
    // Beyond the upper left corner lies the map again, not the ground's colour.
    const corner = await page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="stage-canvas"]')!
      return [...canvas.getContext('2d')!.getImageData(4, 4, 1, 1).data]
    })
    expect(corner).not.toEqual([0xdc, 0xd5, 0xc3, 255])
    await page.getByRole('radio', { name: 'Panel' }).click()
    const { ground, camera, sheets: stack } = await stored()
    expect(ground.edge).toBe('panel')
    expect(coversFrame(stack[0]!, camera, { width: 1920, height: 1080 })).toBe(false)
  })

  it('is replaced by two matched spots, and the stops stay on them', async () => {
    await openSheets()
    await choose(() => page.getByTestId('replace-sheet').click(), 'bare.png')
    await page.getByLabel('by two spots that you match').check()
    expect(await page.getByTestId('settle-sheet').isDisabled()).toBe(true)
    const before = await stored()
    for (const side of ['match-old', 'match-new'] as const) {
      const box = (await page.getByTestId(side).boundingBox())!
      for (const [u, v] of [
        [0.2, 0.3],
        [0.8, 0.7],
      ] as const)
        await page.mouse.click(box.x + box.width * u, box.y + box.height * v)
    }
    await page.getByTestId('settle-sheet').click()
    await page.getByText('1600 × 900 pixels').waitFor()
    const after = await stored()
    // Both maps have one shape and were clicked at the same places, so all is a quarter of what it was.
    after.stops.forEach((stop, i) => {
      expect(Math.abs(stop.at.x - before.stops[i]!.at.x / 4)).toBeLessThan(3)
      expect(Math.abs(stop.at.y - before.stops[i]!.at.y / 4)).toBeLessThan(3)
    })
  })

  it('tells progress while it is prepared, and can be given up', async () => {
    await openSheets()
    await choose(() => page.getByTestId('replace-sheet').click(), 'large.png')
    await page.getByText(/Preparing “large.png”: \d+ %/).waitFor()
    await page.getByRole('button', { name: 'Cancel' }).click()
    await page.getByText(/Preparing/).waitFor({ state: 'detached' })
    expect(await sheets()).toHaveLength(1)
    expect(await page.getByText('is ready').count()).toBe(0)
  })
})

describe('where a map lies', () => {
  /** A journey with a bare map, opened. */
  async function openBare() {
    await demo.open(createJourney('Bare'))
    await page.getByTestId('choose-picture').waitFor()
  }

  it('is told by control points: marked, named by degrees, with their residuals, and dragged', async () => {
    await openBare()
    await choose(() => page.getByTestId('choose-picture').click(), 'bare.png')
    await page.getByText('1600 × 900 pixels').waitFor()
    await unfold('Georeference')
    await page.getByTestId('mark-point').click()
    const mark = async (x: number, y: number, degrees: string) => {
      await clickStage(x, y)
      const search = page.getByRole('combobox', { name: 'Name, or degrees' })
      await search.fill(degrees)
      await page.getByText('Coordinates as typed').waitFor()
      await search.press('Enter')
      await page.getByText('Click a spot on the map').waitFor()
    }
    await mark(96, 108, '50, 10')
    await mark(864, 108, '50N 18E')
    await mark(864, 432, 'geo:47.8,18')
    await page.getByText('This cannot be checked: 3 points always fit.').waitFor()
    await mark(96, 432, '47.8, 10')
    await page.getByTestId('mark-point').click()
    await page.getByText(/The points agree to/).waitFor()
    const geo = groundGeo(await stored())!
    const at = geo.toLonLat({ x: (864 * 1600) / 960, y: (432 * 1600) / 960 })!
    expect(at.lon).toBeCloseTo(18, 1)
    expect(at.lat).toBeCloseTo(47.8, 1)
    const point = (await page.getByTestId('control-point').first().boundingBox())!
    await page.mouse.move(point.x + point.width / 2, point.y + point.height / 2)
    await page.mouse.down()
    await page.mouse.move(point.x + 60, point.y + 40, { steps: 4 })
    await page.mouse.up()
    const moved = (await sheets())[0]!.georeference
    expect(moved!.kind === 'points' && moved!.points[0]!.at.x).toBeGreaterThan(180)
  })

  it('is told by a world file that comes with it; one with five lines is refused', async () => {
    await openBare()
    await choose(() => page.getByTestId('choose-picture').click(), 'bare.png', 'bare.pgw')
    await page.getByText('1600 × 900 pixels').waitFor()
    expect((await sheets())[0]!.georeference).toMatchObject({ kind: 'affine', source: 'world-file', plane: { kind: 'degrees' } })
    await unfold('Georeference')
    const download = page.waitForEvent('download')
    await page.getByTestId('write-world-file').click()
    expect((await download).suggestedFilename()).toBe('bare.wld')
    await choose(() => page.getByText('Read from a file …').click(), 'short.pgw')
    await page.getByText('“short.pgw” has 5 lines; a world file has six').waitFor()
    expect((await sheets())[0]!.georeference).not.toBeNull()
  })

  it('lets places be found by name and become stops where they belong', async () => {
    await openBare()
    await choose(() => page.getByTestId('choose-picture').click(), 'bare.png', 'bare.pgw')
    await page.getByText('1600 × 900 pixels').waitFor()
    await page.keyboard.press('Escape')
    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Find a place' }).fill('nurnberg')
    await page
      .getByText(/Nürnberg|Nuremberg/)
      .first()
      .waitFor()
    await page.keyboard.press('Enter')
    await page.getByTestId('stop-name').waitFor()
    const journey = await stored()
    expect(journey.stops[0]).toMatchObject({ found: true })
    // Nuremberg lies at 49.45 N, 11.08 E: 108 and 55 hundredths of a degree from the map's corner.
    expect(journey.stops[0]!.at.x).toBeCloseTo(108, -1)
    expect(journey.stops[0]!.at.y).toBeCloseTo(55, -1)
    await page.getByTestId('stop-coordinates').locator('input').fill('49, 12')
    await page.keyboard.press('Enter')
    expect((await stored()).stops[0]!.at.x).toBeCloseTo(200, 3)
    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Find a place' }).fill('sydney')
    await page.getByText('Sydney').first().waitFor()
    await page.keyboard.press('Enter')
    await page.getByText('does not lie on “bare”').waitFor()
  })
})

describe('a drawn map', () => {
  it('is chosen by country and style, drawn, lit, credited and drawn anew', async () => {
    await demo.open(createJourney('Drawn'))
    await page.getByTestId('draw-me').click()
    await page.getByTestId('map-country').locator('input').fill('Icel')
    await page.getByRole('option', { name: 'Iceland' }).click()
    await page.getByRole('radio', { name: 'Nightfall' }).click()
    await page.getByTestId('draw-map').click()
    await page.getByText('Vector, sharp at any zoom').waitFor()
    const drawn = (await sheets())[0]!
    expect(drawn).toMatchObject({
      name: 'Iceland',
      vector: true,
      drawn: { style: 'nightfall', projection: 'conic' },
      // The style of the night shows towns by their light.
      credit: { author: '© OpenStreetMap contributors, Natural Earth, NASA, GeoNames', licence: 'ODbL, CC BY 4.0, public domain' },
    })
    const at = groundGeo(await stored())!.toGround({ lon: -21.9, lat: 64.15 })!
    expect(at.x).toBeGreaterThan(0)
    expect(at.x).toBeLessThan(drawn.width)
    expect((await stored()).ground.names).toMatchObject({ countries: true, seas: true, colour: null })
    await unfold('Names on the map')
    await page.getByLabel('Seas').click()
    expect((await stored()).ground.names).toMatchObject({ countries: true, seas: false })
    await unfold('Highlighted countries')
    await page.getByTestId('light-country').locator('input').fill('Icel')
    await page.getByRole('option', { name: 'Iceland' }).click()
    await page.getByRole('button', { name: 'Remove Iceland' }).waitFor()
    expect((await stored()).areas[0]!.rings.length).toBeGreaterThan(0)
    await page.getByTestId('replace-sheet').click()
    await page.getByRole('radio', { name: 'Ink drawing' }).click()
    await page.getByLabel('Names of countries and seas').click()
    await page.getByTestId('draw-map').click()
    await page.getByTestId('settle-sheet').click()
    await page.waitForFunction(() => document.querySelector('[data-testid="settle-sheet"]') === null)
    expect((await sheets())[0]!.drawn!.style).toBe('ink')
    expect((await stored()).ground.names).toMatchObject({ countries: false, seas: false })
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await page.getByRole('button', { name: 'Credits …' }).click()
    expect(await page.getByTestId('credits-text').textContent()).toContain('OpenStreetMap contributors')
    await page.getByLabel('Show the sources in the last second').click()
    expect((await stored()).creditLine).toBe(true)
  })

  it('that cannot be drawn says why, and draws nothing', async () => {
    await openSheets()
    await page.getByTestId('add-sheet').click()
    await page.getByText('Generate one …').click()
    await page.getByRole('textbox', { name: 'South' }).fill('80')
    await page.keyboard.press('Enter')
    await page.getByText('South must be below north').waitFor()
    expect(await page.getByTestId('draw-map').isDisabled()).toBe(true)
  })
})
