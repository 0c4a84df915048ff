/** Working with it for hours: keys, names, numbers, several things at once, and what is kept. */
import { flatView } from '#core/camera/view'
import type { Page } from 'playwright-core'
import { describe, expect, it } from 'vitest'
import { createJourney } from '#core/journey/create'
import { addStop } from '#core/edits/trips/visits'
import type { Journey } from '#core/journey/schema'
import { painted, saved } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { journeyOver } from '../support/journeys'
import { OWN } from '../support/server'

const demo = useDemoPage()
const name = () => demo.page.getByTestId('stop-name').locator('input')
const handle = (i: number) => demo.page.getByTestId('stop-handle').nth(i)
const time = () => demo.page.getByTestId('timecode').textContent()
const trip = (journey: Journey) => journey.travellers[0]!.visits.map(({ stop }) => journey.stops.find(({ id }) => id === stop)!.name)
const clickStage = (page: Page, x: number, y: number) => page.getByTestId('stage').click({ position: { x, y } })

describe('placing stops', () => {
  it('asks for each name at once; Enter goes on placing, Escape too', async () => {
    const { page } = demo
    await demo.open(createJourney('Names'))
    await page.getByTestId('choose-picture').waitFor()
    await page.keyboard.press('s')
    // Pressed again it does not leave the tool.
    await page.keyboard.press('s')
    await clickStage(page, 200, 150)
    await page.keyboard.type('First light')
    await page.keyboard.press('Enter')
    await clickStage(page, 500, 300)
    await page.keyboard.type('Second wind')
    await page.keyboard.press('Escape')
    await clickStage(page, 800, 200)
    await name().fill('')
    await page.keyboard.press('Enter')
    expect(trip(await demo.stored())).toEqual(['First light', 'Second wind', ''])
    expect(await page.getByText('Unnamed stop').count()).toBeGreaterThan(0)
  })

  it('comes back to a stop that is clicked again: a round trip', async () => {
    const { page } = demo
    await demo.open(createJourney('Round'))
    await page.getByTestId('choose-picture').waitFor()
    await page.keyboard.press('s')
    for (const [x, y] of [
      [200, 150],
      [500, 300],
      [800, 200],
      [200, 150],
    ] as const) {
      await clickStage(page, x, y)
      await page.keyboard.press('Enter')
    }
    const journey = await demo.stored()
    expect(journey.stops).toHaveLength(3)
    expect(trip(journey)).toEqual(['Stop 1', 'Stop 2', 'Stop 3', 'Stop 1'])
    // Of the stop that is visited twice one visit can be removed.
    await page.getByText('Stop 4 of 4').waitFor()
    await page.getByRole('button', { name: 'Remove this visit' }).click()
    expect(trip(await demo.stored())).toEqual(['Stop 1', 'Stop 2', 'Stop 3'])
  })

  it('can be done with the keys alone, and so can drawing', async () => {
    const { page } = demo
    await demo.open(createJourney('Keys'))
    await page.getByTestId('choose-picture').waitFor()
    await page.keyboard.press('s')
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('ArrowLeft')
    await page.getByTestId('keyboard-cursor').waitFor()
    await page.keyboard.press('Enter')
    await name().waitFor()
    await page.keyboard.press('Escape')
    for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Enter')
    await page.getByText('Stop 2 of 2').waitFor()
    await page.keyboard.press('Escape')
    const stops = (await demo.stored()).stops.map(({ at }) => at)
    expect(stops).toHaveLength(2)
    // The stage shows a frame of 1920 in 960 CSS pixels.
    expect(stops[1]!.x - stops[0]!.x).toBeCloseTo(240, 0)
    // On to a third by nodes: two clicks, and Enter once more to finish.
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await page.keyboard.press('d')
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Enter')
    await page.keyboard.press('Enter')
    const drawn = await demo.stored()
    expect(drawn.stops).toHaveLength(3)
    expect(drawn.travellers[0]!.legs[1]!.course).toMatchObject({ kind: 'drawn', nodes: [{}] })
  })

  it('tells of a place that lies outside the frame, and fits the route into it', async () => {
    const { page } = demo
    const journey = await demo.stored()
    await demo.open({ ...journey, camera: flatView({ x: 1000, y: 1000 }, 2) })
    await painted(page)
    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Find a place' }).fill('-38.9, 85.5')
    await page.getByRole('option').first().click()
    await page.getByText('This stop lies outside the frame.').waitFor()
    await page.getByTestId('notice-action').click()
    const { camera } = await demo.stored()
    expect(camera.zoom).toBeLessThan(0.5)
    await page.keyboard.press('Control+z')
    expect((await demo.stored()).camera.zoom).toBe(2)
  })
})

describe('on a map that knows where it lies', () => {
  /** Central Europe in degrees, 8 to 16 E and 45 to 49.5 N. */
  async function openEurope(georeference: NonNullable<Journey['sheets'][number]['georeference']>) {
    const journey = await demo.stored()
    const [sheet] = journey.sheets
    await demo.open({ ...createJourney('Alps'), sheets: [{ ...sheet!, georeference }], camera: journey.camera })
    await demo.page.getByTestId('stage-canvas').waitFor()
    await painted(demo.page)
  }
  const DEGREES = {
    kind: 'affine',
    source: 'world-file',
    plane: { kind: 'degrees' },
    matrix: [8 / 6400, 0, 8, 0, -4.5 / 3600, 49.5],
  } as const

  it('a new stop is offered the name of the place that it lies on', async () => {
    const { page } = demo
    await openEurope({ ...DEGREES, matrix: [...DEGREES.matrix] })
    await page.keyboard.press('s')
    // Munich lies at 11.576 E, 48.137 N.
    await clickStage(page, ((11.576 - 8) / 8) * 960, ((49.5 - 48.137) / 4.5) * 540)
    await page.getByTestId('offered-name').getByText('Call it “Munich”').click()
    const [stop] = (await demo.stored()).stops
    expect([stop!.name, stop!.found]).toEqual(['Munich', true])
    // A double click asks for the name again.
    await page.keyboard.press('Escape')
    await handle(0).dblclick()
    await page.keyboard.type('Home')
    await page.keyboard.press('Enter')
    expect(trip(await demo.stored())).toEqual(['Home'])
  })

  it('stops that were found by name are offered to follow a correction, once', async () => {
    const { page } = demo
    const spot = (id: string, lon: number, lat: number, off: number) => ({
      id,
      name: id,
      lon,
      lat,
      at: { x: (lon - 8) * 800 + off, y: (49.5 - lat) * 800 },
    })
    await openEurope({
      kind: 'points',
      plane: 'degrees',
      fit: null,
      points: [spot('a', 8.5, 49, 0), spot('b', 15.5, 49, 0), spot('c', 12, 46, 300)],
    })
    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Find a place' }).fill('Salzburg, Austria')
    await page
      .getByRole('option', { name: /Salzburg/ })
      .first()
      .click()
    await handle(0).waitFor()
    const before = (await demo.stored()).stops[0]!
    expect(before.place!.lat).toBeCloseTo(47.8, 1)
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByRole('button', { name: /^Georeference/ }).click()
    // Three points always fit, and it says so.
    await page.getByTestId('unchecked').waitFor()
    await page.getByLabel('Place of c in degrees').fill('46, 12.375')
    await page.getByLabel('Place of c in degrees').press('Enter')
    await page.getByTestId('notice-action').click()
    const after = (await demo.stored()).stops[0]!
    expect(Math.hypot(after.at.x - before.at.x, after.at.y - before.at.y)).toBeGreaterThan(20)
    expect(after.place).toEqual(before.place)
    await page.keyboard.press('Control+z')
    expect((await demo.stored()).stops[0]!.at).toEqual(before.at)
  })

  it('a world file in metres is asked for its coordinates, and shown where they would put it', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByRole('button', { name: /^Georeference/ }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Read from a file …' }).click()
    await (await chooser).setFiles({ name: 'swiss.pgw', mimeType: 'text/plain', buffer: Buffer.from('10\n0\n0\n-10\n2600005\n1199995\n') })
    await page.getByText('Which coordinates are these?').waitFor()
    await page.getByRole('radio', { name: /national grid/ }).check()
    await page.getByTestId('epsg-code').locator('input').fill('2056')
    await page.getByTestId('epsg-code').locator('input').press('Enter')
    await page
      .getByTestId('system-middle')
      .getByText(/EPSG:2056 .*CH1903/)
      .waitFor()
    await page.getByTestId('take-system').click()
    await page.getByText('Known by a world file: EPSG:2056 (CH1903+ / LV95).').waitFor()
    expect((await demo.stored()).sheets[0]!.georeference).toMatchObject({ plane: { kind: 'crs' } })
  })
})

describe('a generated map', () => {
  it('says where its coasts are too coarse, and is moved and zoomed in its picture', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByTestId('add-sheet').click()
    await page.getByText('Generate one …').click()
    await page.getByTestId('map-preview').waitFor()
    const west = page.getByRole('textbox', { name: 'West' })
    const before = Number(await west.inputValue())
    const box = (await page.getByTestId('map-preview').boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2 - 80, box.y + box.height / 2, { steps: 4 })
    await page.mouse.up()
    expect(Number(await west.inputValue())).toBeGreaterThan(before)
    for (const [side, value] of [
      ['North', '54.2'],
      ['South', '54.1'],
      ['East', '7.95'],
      ['West', '7.8123'],
    ] as const) {
      await page.getByRole('textbox', { name: side }).fill(value)
      await page.getByRole('textbox', { name: side }).press('Enter')
    }
    expect(await west.inputValue()).toBe('7.8123')
    await page
      .getByTestId('coarse')
      .getByText(/too coarse for so small a region/)
      .waitFor()
  })
})

describe('the keys', () => {
  it('leave Space for playing after a click, and to a button that was reached by keyboard', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Loop' }).click()
    await page.keyboard.press('Space')
    await page.getByRole('button', { name: 'Pause', exact: true }).waitFor()
    expect(await page.getByRole('button', { name: 'Loop' }).getAttribute('aria-pressed')).toBe('true')
    await page.keyboard.press('Space')
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
    await page.getByRole('button', { name: 'Next frame' }).focus()
    await page.keyboard.press('Tab')
    await page.keyboard.press('Shift+Tab')
    const before = await time()
    await page.keyboard.press('Space')
    await expect.poll(time).not.toBe(before)
    expect(await page.getByRole('button', { name: 'Play', exact: true }).count()).toBe(1)
  })

  it('move a node that was reached by keyboard', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    const before = await demo.stored()
    await page.getByTestId('course-node').first().focus()
    await page.keyboard.press('ArrowRight')
    const nodeOf = (journey: Journey) => (journey.travellers[0]!.legs[0]!.course as { nodes: { at: { x: number } }[] }).nodes[0]!.at
    expect(nodeOf(await demo.stored()).x).toBeGreaterThan(nodeOf(before).x)
  })
})

describe('the page', () => {
  it('never scrolls as a whole, with a hundred stops, whatever is selected', async () => {
    const { page } = demo
    const spots = Array.from({ length: 100 }, (_, i) => [100 + 60 * i, 200 + 31 * (i % 90)] as const)
    await demo.open(journeyOver(spots, {}, 120))
    const scrolls = () => page.evaluate(() => document.scrollingElement!.scrollHeight - window.innerHeight)
    await page.getByText('s99', { exact: false }).or(page.getByText('Stop 100')).first().waitFor()
    expect(await scrolls()).toBe(0)
    await handle(3).click()
    await page.getByTestId('stop-name').waitFor()
    expect(await scrolls()).toBe(0)
    await page.keyboard.press('Escape')
    await demo.selectLeg(2)
    await page.getByRole('radio', { name: 'Bowed' }).waitFor()
    expect(await scrolls()).toBe(0)
  })
})

describe('the details', () => {
  it('fold their catalogues to a row that begins with what is chosen, and need two screens of scrolling at most', async () => {
    const { page } = demo
    // As in a window in which no catalogue has been unfolded yet.
    await page.evaluate(() =>
      Object.keys(sessionStorage).forEach((key) => key.startsWith('zephyrine-all') && sessionStorage.removeItem(key)),
    )
    await demo.open(await demo.stored())
    await page.evaluate(() =>
      Object.keys(sessionStorage).forEach((key) => key.startsWith('zephyrine-all') && sessionStorage.removeItem(key)),
    )
    const screens = () =>
      page
        .getByRole('complementary', { name: 'Details' })
        .evaluate(({ lastElementChild }) => lastElementChild!.scrollHeight / lastElementChild!.clientHeight)
    await page.getByTestId('length').waitFor()
    const heights = [await screens()]
    await handle(1).click()
    await page.getByTestId('stop-name').waitFor()
    const pins = page.getByRole('radiogroup', { name: 'Pin', exact: true }).getByRole('radio')
    expect(await pins.count()).toBe(5)
    expect(await pins.first().getAttribute('aria-checked')).toBe('true')
    heights.push(await screens())
    await page.getByTestId('all-Pin').click()
    expect(await pins.count()).toBeGreaterThan(12)
    await page.getByTestId('all-Pin').click()
    await page.keyboard.press('Escape')
    await demo.selectLeg(2)
    await page.getByRole('radio', { name: 'Bowed' }).waitFor()
    heights.push(await screens())
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByTestId('sharpness').waitFor()
    heights.push(await screens())
    // What is seen at once, and two screens more.
    for (const height of heights) expect(height).toBeLessThanOrEqual(3)
  })
})

describe('several at once', () => {
  it('stops are moved and dressed together', async () => {
    const { page } = demo
    const before = await demo.stored()
    await handle(0).click()
    await handle(1).click({ modifiers: ['Shift'] })
    await page.getByText('2 stops are selected').waitFor()
    await page.getByRole('radio', { name: 'Pennant' }).click()
    await page.getByTestId('stage').focus()
    await handle(1).focus()
    await page.keyboard.press('Shift+ArrowRight')
    const after = await demo.stored()
    expect(after.stops.map(({ pin }) => pin.shape)).toEqual(['pennant', 'pennant', 'lantern', 'lantern', 'lantern'])
    const moved = after.stops.map(({ at }, i) => Math.round(at.x - before.stops[i]!.at.x))
    expect([moved[0]! > 0, moved[0] === moved[1], moved[2]]).toEqual([true, true, 0])
  })

  it('legs get one ink, and one vehicle', async () => {
    const { page } = demo
    await demo.selectLeg(1)
    await page.getByTestId('bend-seaplane').click({ modifiers: ['Shift'] })
    await page.getByText('2 legs are selected').waitFor()
    await page.getByRole('radio', { name: 'Dotted' }).click()
    const lines = (await demo.stored()).travellers[0]!.legs.map(({ ink }) => ink.line.kind)
    expect([lines[0], lines[3]]).toEqual(['dotted', 'dotted'])
    expect(lines[1]).toBe('dashed')
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await demo.selectLeg(2)
    await page.getByTestId('vehicle-for-all').click()
    expect((await demo.stored()).travellers[0]!.legs.map(({ vehicle }) => vehicle?.kind === 'catalogue' && vehicle.artwork)).toEqual(
      Array(4).fill('bicycle'),
    )
  })
})

describe('a number field', () => {
  it('takes minutes and seconds, frames and changes, and refuses in words what it does not take', async () => {
    const { page } = demo
    const length = page.getByTestId('length').locator('input')
    await length.fill('0:30')
    await length.press('Enter')
    expect(await length.inputValue()).toBe('30')
    await length.fill('soon')
    await length.press('Enter')
    await page.getByText('Type seconds, like 2.5, frames, like 12f, or a change, like +12f').waitFor()
    await length.fill('+12f')
    await length.press('Enter')
    expect(await length.inputValue()).toBe('30.4')
    await length.fill('6000')
    await length.press('Enter')
    await page.getByText('At most 600 s').waitFor()
    await length.press('Escape')
    expect(await length.inputValue()).toBe('30.4')
    expect((await demo.stored()).seconds).toBeCloseTo(30.4, 9)
  })

  it('offers to scale the set times where a length is too short for them', async () => {
    const { page } = demo
    const length = page.getByTestId('length').locator('input')
    await length.fill('5')
    await length.press('Enter')
    await page.getByTestId('fix').filter({ hasText: 'Scale the set times' }).click()
    const { seconds, travellers } = await demo.stored()
    expect(seconds).toBe(5)
    expect(travellers[0]!.visits[0]!.layover).toBeCloseTo(5 / 24, 3)
  })
})

describe('a stored journey whose times do not fit', () => {
  it('says so on its page, and is mended there', async () => {
    const { page } = demo
    const journey = await demo.stored()
    await demo.open({ ...journey, name: 'Too much', seconds: 3 })
    await page.getByText(/The set travel times and layovers need at least .* but the journey is 3 s long/).waitFor()
    await page.getByRole('button', { name: /^Make it .* s long$/ }).click()
    await page.getByTestId('stop-handle').first().waitFor()
    const mended = await demo.stored()
    expect(mended.seconds).toBeGreaterThan(3)
    expect(mended.travellers).toEqual(journey.travellers)
  })
})

describe('what is kept', () => {
  it('the steps of undo, also when the journey is opened again', async () => {
    const { page } = demo
    const before = await demo.stored()
    await handle(0).focus()
    await page.keyboard.press('Shift+ArrowRight')
    await demo.stored()
    await handle(1).click()
    await name().fill('Elsewhere')
    await demo.stored()
    await page.reload()
    await painted(page)
    await page.keyboard.press('Control+z')
    expect((await demo.stored()).stops[1]!.name).toBe('Quillhaven')
    await page.keyboard.press('Control+z')
    expect(await demo.stored()).toEqual(before)
  })

  it('both versions in a conflict: the other one is taken, this one is a step back', async () => {
    const { page } = demo
    const { journey, revision } = (await (await fetch(`${demo.address}/api/journeys/${demo.id}`)).json()) as {
      journey: Journey
      revision: number
    }
    await fetch(`${demo.address}/api/journeys/${demo.id}`, {
      method: 'PUT',
      headers: OWN,
      body: JSON.stringify({ revision, journey: { ...journey, name: 'From elsewhere' } }),
    })
    await handle(0).focus()
    await page.keyboard.press('ArrowRight')
    await page.getByTestId('take-other').click()
    await page.getByTestId('take-other').waitFor({ state: 'detached' })
    expect(await page.getByTestId('journey-name').inputValue()).toBe('From elsewhere')
    await saved(page)
    await page.keyboard.press('Control+z')
    expect(await page.getByTestId('journey-name').inputValue()).toBe(journey.name)
    expect((await demo.stored()).stops[0]!.at.x).toBeGreaterThan(journey.stops[0]!.at.x)
  })

  it('an export in sight while its dialog is closed, with a word when it is done', async () => {
    const { page } = demo
    const points = [[300, 300], [1500, 800]] as const // prettier-ignore
    await demo.open(journeyOver(points, {}, 8))
    await painted(page)
    await page.getByTestId('export').click()
    await page.getByTestId('start-export').click()
    await page.getByTestId('export-progress').waitFor()
    await page.getByRole('button', { name: 'Close' }).click()
    await page
      .getByTestId('export')
      .getByText(/Export: \d+ %/)
      .waitFor()
    await page.getByText('The film is ready: see Export.').waitFor({ timeout: 120_000 })
  })
})

describe('what is dropped', () => {
  const drop = (files: { name: string; type: string }[], on: string) =>
    demo.page.evaluate(
      ([list, selector]) => {
        const data = new DataTransfer()
        for (const { name, type } of list) data.items.add(new File(['x'], name, { type }))
        const target = document.querySelector(selector)!
        const { left, top, width, height } = target.getBoundingClientRect()
        const at = { clientX: left + width / 2, clientY: top + height / 2 }
        for (const type of ['dragenter', 'dragover', 'drop'])
          target.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data, ...at }))
      },
      [files, on] as const,
    )

  it('is told where it is left out', async () => {
    await drop(
      [
        { name: 'one.png', type: 'image/png' },
        { name: 'words.docx', type: 'application/vnd.openxmlformats' },
      ],
      '[data-testid="stage"]',
    )
    await demo.page.getByText('Left out: “words.docx”').waitFor()
  })

  it('on a stop is its postcard', async () => {
    await drop([{ name: 'view.jpg', type: 'image/jpeg' }], '[data-testid="stop-handle"]')
    // The file is no picture, and that is what the photo's import says; a map's would say so too, but not here.
    await demo.page.getByText(/view\.jpg/).waitFor()
    expect(await demo.page.getByText('What is it for?').count()).toBe(0)
  })
})

describe('enlarged text and small windows', () => {
  it('leave everything within reach: at 640 x 400, as at 200 % of 1280 x 800, one panel lies under the other', async () => {
    const { page } = demo
    await page.setViewportSize({ width: 640, height: 400 })
    await painted(page)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(640)
    for (const id of ['export', 'save-as-file', 'play', 'pace-strip', 'open-track', 'length']) {
      const place = page.getByTestId(id).first()
      await place.scrollIntoViewIfNeeded()
      const box = (await place.boundingBox())!
      expect(box.y, id).toBeGreaterThanOrEqual(0)
      expect(box.x, id).toBeGreaterThanOrEqual(0)
      if (id !== 'pace-strip') expect(box.x + box.width, id).toBeLessThanOrEqual(640)
    }
  })

  it('names on the pace strip never lie over one another, with a hundred stops either', async () => {
    let journey = createJourney('A hundred')
    for (let i = 0; i < 100; i++)
      journey = addStop(
        journey,
        { x: 20 + 18 * i, y: 500 + 300 * Math.sin(i) },
        { stop: `s${i}`, leg: `l${i}` },
        { name: `Harbour number ${i + 1}`, traveller: 'traveller' },
      )
    await demo.open(journey)
    await demo.page.getByTestId('stage-canvas').waitFor()
    await painted(demo.page)
    const boxes = await demo.page.locator('[data-testid="pace-strip"] .lines text').evaluateAll((texts) =>
      texts.map((text) => {
        const { left, right } = text.getBoundingClientRect()
        return { left, right }
      }),
    )
    expect(boxes.length).toBeGreaterThan(3)
    boxes.sort((a, b) => a.left - b.left)
    boxes.slice(1).forEach(({ left }, i) => expect(left).toBeGreaterThanOrEqual(boxes[i]!.right))
    // And it says that a hundred stops in twenty seconds is much.
    await demo.page.getByTestId('hurried').waitFor()
  })
})
