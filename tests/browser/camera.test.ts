/** The camera in the lens and on the pace strip, and films of several formats, in the real interface. */
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import type { View } from '#core/camera/view'
import type { Point } from '#core/geometry/point'
import type { Journey } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import { setCamera } from '#core/edits/camera/shots'
import { painted, stagePixels } from '../support/browser'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()

/** Moves the play position to a time of the demo's 24 seconds. */
async function goTo(seconds: number): Promise<void> {
  const strip = demo.page.getByTestId('pace-strip')
  const perSecond = (await strip.evaluate((element) => element.clientWidth - 44)) / 24
  await strip.click({ position: { x: 22 + seconds * perSecond, y: 8 } })
}

/** The view of a journey's only shot, which is of one's own. */
function viewOf({ shots }: Journey): View | undefined {
  const [shot] = shots
  return shot?.kind === 'free' ? shot.view : undefined
}

async function choose(field: string, title: string): Promise<void> {
  await demo.page.getByTestId(field).click()
  await demo.page.getByRole('option', { name: title }).click()
}

async function dragOnStage(from: Point, to: Point): Promise<void> {
  const box = (await demo.page.getByTestId('stage').boundingBox())!
  const { mouse } = demo.page
  await mouse.move(box.x + from.x, box.y + from.y)
  await mouse.down()
  await mouse.move(box.x + (from.x + to.x) / 2, box.y + (from.y + to.y) / 2, { steps: 4 })
  await mouse.move(box.x + to.x, box.y + to.y, { steps: 4 })
  await mouse.up()
}

describe('a view', () => {
  it('is kept at the play position, and turned, tilted, moved and zoomed in the lens', async () => {
    const { page } = demo
    await goTo(12)
    await page.keyboard.press('v')
    await page.getByTestId('pace-shot').waitFor()
    const before = await demo.stored()
    expect(before.shots).toHaveLength(1)
    // It begins as what was seen there.
    expect(viewOf(before)).toEqual(before.camera)
    await page.keyboard.down('Shift')
    await dragOnStage({ x: 200, y: 300 }, { x: 140, y: 200 })
    await page.keyboard.up('Shift')
    const turned = viewOf(await demo.stored())!
    expect(turned.bearing).toBeCloseTo(21, 0)
    expect(turned.pitch).toBeCloseTo(35, 0)
    const { camera } = await demo.stored()
    expect([camera.bearing, camera.pitch]).toEqual([0, 0])
    // The ground goes along with the pointer.
    const reference = { width: 1920, height: 1080 }
    const k = 1920 / (await page.getByTestId('stage').boundingBox())!.width
    const held = projectionOf(turned, reference).toGround({ x: 200 * k, y: 350 * k })!
    await dragOnStage({ x: 200, y: 350 }, { x: 320, y: 300 })
    const moved = projectionOf(viewOf(await demo.stored())!, reference).toScreen(held)
    expect(moved.x).toBeCloseTo(320 * k, -1)
    expect(moved.y).toBeCloseTo(300 * k, -1)
    const { zoom } = viewOf(await demo.stored())!
    await page.mouse.wheel(0, -300)
    expect(viewOf(await demo.stored())!.zoom).toBeGreaterThan(zoom * 1.2)
  })

  it('is passed without a stop on to the next one, and says so where it is not', async () => {
    const { page } = demo
    await goTo(4)
    await page.keyboard.press('v')
    await page.getByTestId('pace-shot').waitFor()
    await page.getByLabel('Pass through without a stop').click()
    await page.getByText('The camera still stops here').waitFor()
    await goTo(12)
    await page.keyboard.press('v')
    await dragOnStage({ x: 560, y: 480 }, { x: 480, y: 440 })
    await page.getByText('The smooth path through the shots before it ends here.').waitFor()
    const { shots } = await demo.stored()
    expect(shots.map((shot) => shot.kind === 'free' && shot.passes)).toEqual([true, false])
    await page.getByTestId('pace-shot').first().click()
    await page.getByText('The camera passes it on one smooth path').waitFor()
    await page.getByLabel('Pass through without a stop').click()
    expect((await demo.stored()).shots.map((shot) => shot.kind === 'free' && shot.passes)).toEqual([false, false])
  })

  it('is set in figures, straightened, and removed; all of it can be undone', async () => {
    const { page } = demo
    await goTo(12)
    await page.getByTestId('keep-view').click()
    const tilt = page.getByLabel('Pitch', { exact: true }).last()
    await tilt.fill('48')
    await tilt.press('Enter')
    const view = async () => viewOf(await demo.stored())
    expect((await view())!.pitch).toBe(48)
    await page.getByTestId('straighten-view').click()
    expect((await view())!.pitch).toBe(0)
    await page.getByTestId('remove-shot').click()
    expect((await demo.stored()).shots).toEqual([])
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
    expect((await view())!.pitch).toBe(48)
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
    expect((await demo.stored()).shots).toEqual([])
  })

  it('is moved along the pace strip by dragging and by keys, and deleted there', async () => {
    const { page } = demo
    await goTo(12)
    await page.keyboard.press('v')
    const mark = page.getByTestId('pace-shot')
    const start = async () => page.evaluate(() => document.querySelector('[data-testid="pace-shot"]')!.getAttribute('aria-label')!)
    expect(await start()).toContain('there at 12.00 seconds')
    const box = (await mark.locator('.bar').boundingBox())!
    const perSecond = (await page.getByTestId('pace-strip').evaluate((element) => element.clientWidth - 44)) / 24
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2 + 2 * perSecond, box.y + box.height / 2, { steps: 5 })
    await page.mouse.up()
    expect(Number(/there at ([\d.]+) seconds/.exec(await start())![1])).toBeCloseTo(14, 0)
    const dragged = await start()
    await mark.focus()
    await page.keyboard.press('ArrowLeft')
    expect(await start()).not.toBe(dragged)
    await page.keyboard.press('Delete')
    expect((await demo.stored()).shots).toEqual([])
  })

  it('that is still on its way is changed at its end', async () => {
    const { page } = demo
    await goTo(12)
    await page.keyboard.press('v')
    await goTo(11)
    await dragOnStage({ x: 300, y: 300 }, { x: 360, y: 300 })
    expect(await page.getByTestId('timecode').textContent()).toBe('00:00:12:00')
  })
})

describe('in a turned view', () => {
  it('the arrow keys move a stop the way they point, and a drag follows the pointer', async () => {
    const { page } = demo
    const journey = setCamera(await demo.stored(), { centre: { x: 2400, y: 1900 }, zoom: 0.5, bearing: 90, pitch: 40 })
    await demo.open(journey)
    const handle = page.locator('[data-stop="oarsend"]')
    await handle.click()
    const at = async () => (await demo.stored()).stops.find(({ id }) => id === 'oarsend')!.at
    const before = await at()
    await page.keyboard.press('Shift+ArrowUp')
    const after = await at()
    // The east is up.
    expect(after.x - before.x).toBeGreaterThan(5)
    // Straight up in the frame leads a little aside on the ground, off the middle of the view.
    expect(Math.abs(after.y - before.y)).toBeLessThan(0.3 * (after.x - before.x))
    const box = (await handle.locator('.ring').boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 + 40, { steps: 5 })
    await page.mouse.up()
    const moved = (await handle.locator('.ring').boundingBox())!
    expect(moved.x - box.x).toBeCloseTo(60, 0)
    expect(moved.y - box.y).toBeCloseTo(40, 0)
  })

  it('a click places a stop where it is seen', async () => {
    const { page } = demo
    const view = { centre: { x: 2400, y: 1900 }, zoom: 0.5, bearing: -30, pitch: 55 }
    await demo.open(setCamera(await demo.stored(), view))
    await page.getByTestId('stop-handle').first().waitFor()
    await page.keyboard.press('s')
    const box = (await page.getByTestId('stage').boundingBox())!
    await page.mouse.click(box.x + 700, box.y + 400)
    const { stops } = await demo.stored()
    const k = 1920 / box.width
    const there = projectionOf(view, { width: 1920, height: 1080 }).toGround({ x: 700 * k, y: 400 * k })!
    expect(Math.hypot(stops.at(-1)!.at.x - there.x, stops.at(-1)!.at.y - there.y)).toBeLessThan(4)
  })
})

describe('the export dialog', () => {
  it('makes a transparent WebM of a part of the film, at another size and under another name', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Export' }).click()
    await choose('film-format', 'WebM (VP9)')
    await choose('film-size', '640 × 360')
    await page.getByRole('radio', { name: 'Without map' }).click()
    await page.getByText('From … to').click()
    const to = page.getByTestId('film-to').locator('input')
    await to.fill('0.4')
    await to.press('Enter')
    await page.getByTestId('film-title').locator('input').fill('Overlay: part 1')
    await expect.poll(() => page.getByTestId('film-estimate').textContent(), { timeout: 20_000 }).toMatch(/^\s*12 frames: about/)
    await page.getByTestId('start-export').click()
    await page.getByTestId('export-done').waitFor({ timeout: 60_000 })
    const href = (await page.getByTestId('download').getAttribute('href'))!
    const response = await fetch(demo.address + href)
    expect(response.headers.get('content-type')).toBe('video/webm')
    expect(response.headers.get('content-disposition')).toContain("filename*=UTF-8''Overlay%20part%201.webm")
    // EBML, as every WebM begins.
    expect(Buffer.from(await response.arrayBuffer()).subarray(0, 4)).toEqual(Buffer.from([0x1a, 0x45, 0xdf, 0xa3]))
  })

  it('makes a film of each pass in one order', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Export' }).click()
    await choose('film-format', 'PNG sequence (ZIP)')
    await choose('film-size', '640 × 360')
    await page.getByRole('radio', { name: 'In passes' }).click()
    await page.getByText('From … to').click()
    const to = page.getByTestId('film-to').locator('input')
    await to.fill('0.1')
    await to.press('Enter')
    await page.getByText('3 frames in each of 7 films').waitFor()
    await page.getByTestId('start-export').click()
    const passes = async () => {
      const films = (await (await fetch(`${demo.address}/api/journeys/${demo.id}/exports`)).json()) as { name: string; state: string }[]
      return films.flatMap(({ name, state }) => (state === 'done' ? name.split(' ').slice(-2).join(' ') : [])).sort()
    }
    const all = ['1 ground', '2 lines', '3 marks', '4 vehicles', '5 labels', '6 cards', '7 titles']
    await expect.poll(passes, { timeout: 90_000 }).toEqual(all)
  })

  it('says what does not go together before anything is started', async () => {
    const { page } = demo
    await page.getByRole('button', { name: 'Export' }).click()
    // An MP4 cannot be transparent.
    expect(await page.getByRole('radio', { name: 'Without map' }).count()).toBe(0)
    await page.getByText('From … to').click()
    const from = page.getByTestId('film-from').locator('input')
    await from.fill('24')
    await from.press('Enter')
    await page.getByText('does not lie within the film').waitFor()
    expect(await page.getByTestId('start-export').isDisabled()).toBe(true)
  })

  it('makes a still of the frame at the play position', async () => {
    const { page } = demo
    await goTo(12)
    await page.getByRole('button', { name: 'Export' }).click()
    await choose('film-format', 'Still (PNG)')
    await page.getByTestId('start-export').click()
    await page.getByTestId('export-done').waitFor({ timeout: 60_000 })
    const bytes = Buffer.from(await (await fetch(demo.address + (await page.getByTestId('download').getAttribute('href'))!)).arrayBuffer())
    // Width and height in the IHDR chunk. Source: W3C PNG, section 11.2.1.
    expect([bytes.readUInt32BE(16), bytes.readUInt32BE(20)]).toEqual([1920, 1080])
  })
})

describe('the camera lane', () => {
  const shots = async () => (await demo.stored()).shots
  const kinds = () =>
    demo.page.getByTestId('pace-shot').evaluateAll((list) => list.map((shot) => /^[^:,]*/.exec(shot.getAttribute('aria-label')!)![0]))

  it('sways as if it was held by hand, where that is asked, and the handles go along', async () => {
    const { page } = demo
    await page.getByRole('button', { name: /^Camera/ }).click()
    const handle = async () => (await page.getByTestId('stop-handle').first().boundingBox())!
    const before = await handle()
    await page.getByRole('checkbox', { name: 'Handheld' }).click()
    expect((await demo.stored()).handheld).toEqual({ px: 7, degrees: 0.35, seed: 1 })
    await expect.poll(async () => Math.abs((await handle()).x - before.x)).toBeGreaterThan(0.5)
    // A drag in the lens changes the camera's own view, not that of the hand.
    const { camera } = await demo.stored()
    await dragOnStage({ x: 700, y: 500 }, { x: 660, y: 500 })
    const after = (await demo.stored()).camera
    expect([after.zoom, after.bearing]).toEqual([camera.zoom, camera.bearing])
    expect(after.centre.x).toBeGreaterThan(camera.centre.x)
    await page.getByRole('checkbox', { name: 'Handheld' }).click()
    expect((await demo.stored()).handheld).toBeNull()
  })

  it('films by a plan at a click, keeps what is set by hand when the plan is made anew, and goes back to it', async () => {
    const { page } = demo
    await page.getByRole('button', { name: /^Camera/ }).click()
    await page.getByTestId('camera-plan').getByRole('radio', { name: 'Calm' }).click()
    await page.getByTestId('pace-shot').first().waitFor()
    expect(await kinds()).toEqual(['Overview', 'Chase', 'Overview'])
    expect((await demo.stored()).plan.temperament).toBe('calm')
    expect(await shots()).toEqual([])
    await page
      .getByTestId('pace-shot')
      .nth(1)
      .click({ position: { x: 200, y: 8 } })
    const smoothness = page.getByLabel('Smoothness', { exact: true }).last()
    await smoothness.fill('3')
    await smoothness.press('Enter')
    expect(await shots()).toMatchObject([{ kind: 'chase', smoothing: 3 }])
    // The journey changes, the plan with it; what was set stays.
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await page.getByTestId('reverse-trip').click()
    expect(await shots()).toMatchObject([{ kind: 'chase', smoothing: 3 }])
    await page.getByTestId('only-plan').click()
    expect(await shots()).toEqual([])
    await page.getByTestId('camera-plan').getByRole('radio', { name: 'Lively' }).click()
    expect((await kinds()).filter((kind) => kind === 'Chase').length).toBeGreaterThan(1)
    await page.getByTestId('camera-plan').getByRole('radio', { name: 'None' }).click()
    await expect.poll(kinds).toEqual([])
  })

  it('shows the globe: with a stop in front, turned by dragging in the lens, under a sky of its own', async () => {
    const { page } = demo
    await page.getByRole('button', { name: /^Camera/ }).click()
    await page.getByTestId('add-shot').click()
    await page.locator('.v-list-item', { hasText: 'Globe' }).click()
    expect(await shots()).toMatchObject([{ kind: 'globe', stop: null, transition: 0 }])
    // What is painted changes with it: the sky is in the corner of the frame.
    await painted(page)
    const corner = async () => (await stagePixels(page)).pixels.slice(0, 3)
    expect([...(await corner())]).toEqual([11, 22, 38])
    const { stops } = await demo.stored()
    await choose('shot-stop', stops[1]!.name)
    expect(await shots()).toMatchObject([{ stop: stops[1]!.id }])
    await page.getByLabel('Spins', { exact: true }).last().fill('0')
    await page.getByLabel('Spins', { exact: true }).last().press('Enter')
    await dragOnStage({ x: 440, y: 360 }, { x: 540, y: 360 })
    expect(await shots()).toMatchObject([{ spin: 0, shift: { y: expect.closeTo(0, 1) as number } }])
    expect(((await shots())[0] as { shift: Point }).shift.x).toBeGreaterThan(0.03)
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await page.getByRole('button', { name: /^Sun, focus, haze, sky/ }).click()
    const clouds = page.getByLabel('Clouds', { exact: true }).last()
    await clouds.fill('20')
    await clouds.press('Enter')
    await page.getByLabel('Haze', { exact: true }).click()
    expect((await demo.stored()).depth).toMatchObject({ haze: { strength: 0.5 }, sky: { clouds: 0.2 } })
    // The film of so small a place is too short to come down from the globe; it says so.
    await page.getByTestId('camera-plan').getByRole('radio', { name: 'Calm' }).click()
    await page.getByLabel('Opens on the globe', { exact: true }).click()
    expect((await demo.stored()).plan).toMatchObject({ temperament: 'calm', globe: true })
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
    expect((await demo.stored()).plan).toMatchObject({ temperament: null, globe: false })
  })

  it('softens what is out of focus, and keeps it on a stop that is chosen until that is deleted', async () => {
    const { page } = demo
    await goTo(12)
    await page.getByTestId('keep-view').click()
    await page.getByLabel('Pitch', { exact: true }).last().fill('55')
    await page.getByLabel('Pitch', { exact: true }).last().press('Enter')
    /** How much neighbouring pixels differ at the lower right of the frame, on the isle before the traveller. */
    const detail = async () => {
      await painted(page)
      const { width, pixels } = await stagePixels(page)
      let sum = 0
      for (let i = Math.ceil(pixels.length / 8) * 4; i < pixels.length * 0.8; i += 4)
        if ((i / 4) % width > 0.7 * width) sum += Math.abs(pixels[i]! - pixels[i - 4]!)
      return sum
    }
    const sharp = await detail()
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await page.getByRole('button', { name: /^Sun, focus, haze, sky/ }).click()
    await page.getByLabel('Soft focus', { exact: true }).click()
    await page.getByLabel('Strength', { exact: true }).last().fill('100')
    await page.getByLabel('Strength', { exact: true }).last().press('Enter')
    await expect.poll(detail).toBeLessThan(0.7 * sharp)
    const focus = async () => (await demo.stored()).depth.softFocus
    expect(await focus()).toMatchObject({ strength: 1, on: { kind: 'traveller' } })
    const { id, name } = (await demo.stored()).stops[2]!
    await choose('in-focus', name)
    expect((await focus())!.on).toEqual({ kind: 'stop', stop: id })
    await page.getByTestId('stop-handle').nth(2).click()
    await page.keyboard.press('Delete')
    await expect.poll(async () => (await focus())!.on).toEqual({ kind: 'traveller' })
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z')
    expect(await focus()).toBeNull()
    await expect.poll(detail).toBe(sharp)
  })

  it('takes shots of all kinds, changes one into another, splits, swaps, duplicates and removes them', async () => {
    const { page } = demo
    await goTo(6)
    await page.getByRole('button', { name: /^Camera/ }).click()
    for (const kind of ['Overview', 'Globe', 'Leg view', 'Chase', 'Close-up', 'Free']) {
      await page.getByRole('button', { name: 'Journey', exact: true }).click()
      await page.getByTestId('add-shot').click()
      await page
        .getByRole('listitem')
        .filter({ hasText: kind })
        .or(page.locator('.v-list-item', { hasText: kind }))
        .first()
        .click()
      // A menu that is still closing would take the next click.
      await page.getByTestId('shot-kind').waitFor()
      await page.locator('.v-overlay--active .v-list').first().waitFor({ state: 'hidden' })
    }
    expect((await shots()).map(({ kind }) => kind)).toEqual(['overview', 'globe', 'leg', 'chase', 'close-up', 'free'])
    for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z')
    await page.getByTestId('pace-shot').click({ position: { x: 60, y: 8 } })
    await page.getByTestId('shot-orbit').locator('input').last().fill('12')
    await page.getByTestId('shot-orbit').locator('input').last().press('Enter')
    expect((await shots())[0]).toMatchObject({ kind: 'overview', orbit: 12 })
    await page.getByTestId('reverse-shot').click()
    expect((await shots())[0]).toMatchObject({ orbit: -12 })
    await goTo(12)
    await page.getByTestId('split-shot').click()
    const [first, second] = await shots()
    expect(second).toMatchObject({ kind: 'overview', orbit: -12, transition: 0 })
    // It goes on where the first part is then: -12 degrees a second since it began.
    expect((second as { bearing: number }).bearing).toBeCloseTo(-12 * 6, 0)
    expect(first).toMatchObject({ orbit: -12, bearing: 0 })
    await page.getByTestId('duplicate-shot').click()
    expect(await shots()).toHaveLength(3)
    await page.getByTestId('remove-shot').click()
    expect(await shots()).toHaveLength(2)
  })

  it('marks where the frame shows what is beyond the map, and mends it', async () => {
    const { page } = demo
    const journey = await demo.stored()
    await demo.open({ ...journey, camera: { centre: { x: 6300, y: 1800 }, zoom: 0.6, bearing: 0, pitch: 0 } })
    const check = page.getByTestId('camera-check')
    await page.getByRole('button', { name: /^Camera/ }).click()
    // Half of 1920 px at a zoom of 0.6 are 1600 of the map; 100 of them are left, so 1500 lie beyond it: 900 px of the film.
    await check.first().waitFor()
    expect(await check.first().textContent()).toContain('The frame extends 900 px beyond the map')
    await page.getByTestId('check-edge').first().waitFor({ state: 'attached' })
    await check.first().getByRole('button', { name: 'Stay on the map' }).click()
    await expect.poll(async () => (await demo.stored()).ground.edge).toBe('held')
    await check.first().waitFor({ state: 'detached' })
  })

  it('tells where a chase loses the traveller at the edge of the map, and looks straight down instead', async () => {
    const { page } = demo
    const journey = await demo.stored()
    const chase = shotSchema.parse({ kind: 'chase', id: 'own', at: { at: 'start' }, transition: 0, zoom: 0.5, pitch: 60 })
    const plan = { ...journey.plan, temperament: null }
    // The trip begins in the lower left corner of the map.
    const stops = journey.stops.map((stop, i) => (i === 0 ? { ...stop, at: { x: 120, y: 3500 } } : stop))
    await demo.open({ ...journey, stops, plan, shots: [chase], ground: { ...journey.ground, edge: 'held' } })
    await page.getByRole('button', { name: /^Camera/ }).click()
    const lost = page.getByTestId('camera-check').filter({ hasText: 'out of frame' })
    await lost.first().getByRole('button', { name: 'Look straight down' }).click()
    await lost.first().waitFor({ state: 'detached' })
    expect((await demo.stored()).shots).toMatchObject([{ kind: 'chase', pitch: 0, zoom: 0.5 }])
  })

  it('shows the way of the camera on the table, where the frame is dragged', async () => {
    const { page } = demo
    await goTo(6)
    await page.keyboard.press('v')
    await page.keyboard.press('t')
    const before = viewOf(await demo.stored())!
    const box = (await page.getByTestId('frame-handle').boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2, { steps: 4 })
    await page.mouse.up()
    const after = viewOf(await demo.stored())!
    expect(after.centre.x - before.centre.x).toBeGreaterThan(200)
    expect(after.centre.y).toBeCloseTo(before.centre.y, 0)
    await page.getByTestId('frame-handle').focus()
    await page.keyboard.press('ArrowLeft')
    expect(viewOf(await demo.stored())!.centre.x).toBeLessThan(after.centre.x)
    await page.getByTestId('camera-way').waitFor({ state: 'attached' })
  })

  it('has guides in the lens', async () => {
    const { page } = demo
    await page.getByTestId('guides-menu').click()
    await page.getByText('Crops of other frame shapes').click()
    expect(await page.getByTestId('guides').locator('text').allTextContents()).toEqual(['9:16', '1:1', '4:5'])
    // A square of the frame's own height.
    const square = page.getByTestId('guides').locator('.over rect').nth(1)
    const [width, height] = await Promise.all(['width', 'height'].map(async (name) => Number(await square.getAttribute(name))))
    expect(width).toBeCloseTo(height!, 3)
    expect(height).toBeCloseTo((await page.getByTestId('stage').boundingBox())!.height, 0)
  })
})

describe('a journey in several shapes', () => {
  it('is laid out for each on its own, and exported in all of them together', async () => {
    const { page } = demo
    const before = await demo.stored()
    await page.getByTestId('frame-shape').click()
    await page.getByTestId('add-shape-9:16').click()
    await expect.poll(async () => (await demo.stored()).reframes.length).toBe(1)
    const box = (await page.getByTestId('stage').boundingBox())!
    expect(box.width / box.height).toBeCloseTo(9 / 16, 2)
    await page.mouse.move(box.x + 20, box.y + 60)
    await page.mouse.wheel(0, -200)
    await expect.poll(async () => (await demo.stored()).reframes[0]!.camera?.zoom ?? 0).toBeGreaterThan(0)
    expect((await demo.stored()).camera).toEqual(before.camera)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await demo.stored()).reframes[0]!.camera).toBe(null)
    // A still in both shapes.
    await page.getByTestId('export').click()
    await choose('film-format', 'Still (PNG)')
    await page.getByText('Also in 16:9').click()
    await page.getByTestId('start-export').click()
    const exported = async () => (await (await fetch(`${demo.address}/api/journeys/${demo.id}/exports`)).json()) as { name: string; state: string }[] // prettier-ignore
    await expect.poll(async () => (await exported()).filter(({ state }) => state === 'done').length, { timeout: 60_000 }).toBe(2)
    expect((await exported()).map(({ name }) => name).sort()).toEqual([`${before.name} 16x9`, `${before.name} 9x16`])
    await page.getByRole('button', { name: 'Close' }).click()
    await page.getByTestId('frame-shape').click()
    await page.getByTestId('remove-shape').click()
    await expect.poll(async () => (await demo.stored()).reframes.length).toBe(0)
  })
})
