/** Names, titles, readouts and looks of the whole journey, set by hand in the browser. */
import type { Point } from '#core/geometry/point'
import { describe, expect, it } from 'vitest'
import { JOURNEY_LOOKS } from '#core/dress/looks'
import { compile } from '#core/frame/compile'
import { painted, stagePixels } from '../support/browser'
import { useDemoPage } from '../support/demo-page'
import { meanDifference } from '../support/pixels'

const demo = useDemoPage()
const stopOf = async (id: string) => (await demo.stored()).stops.find((stop) => stop.id === id)!
const fold = (title: string) => demo.page.getByRole('button', { name: new RegExp(`^${title}`) }).click()
const selectStop = (name: string) => demo.page.getByRole('list').getByRole('button', { name, exact: true }).click()
/** Moves the play position to the film's end, where all names are seen. */
async function toEnd() {
  await demo.page.getByTestId('stage-canvas').click({ position: { x: 5, y: 5 }, force: true })
  await demo.page.keyboard.press('End')
  await painted(demo.page)
}

describe('a font file of one’s own', () => {
  it('is added, a name is set in it, and the film has the same letters; what is no font is refused', async () => {
    const { page } = demo
    await page.getByTestId('stop-handle').nth(1).click()
    const choose = async (path: string | { name: string; mimeType: string; buffer: Buffer }) => {
      const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('add-font').click()])
      await chooser.setFiles(path)
    }
    await choose({ name: 'broken.ttf', mimeType: 'font/ttf', buffer: Buffer.from('no font') })
    await page.getByText('“broken.ttf” is not a font that can be read').waitFor()
    await choose('node_modules/@fontsource/jura/files/jura-latin-400-normal.woff2')
    await page.getByTestId('typeface').getByText('Jura Light', { exact: true }).waitFor()
    const journey = await demo.stored()
    expect(journey.fonts).toMatchObject([{ name: 'Jura Light' }])
    expect(journey.stops[1]!.label.style.family).toBe(`own-${journey.fonts[0]!.file}`)
    // The same file ships as a typeface: set in that, the picture is the same.
    await page.keyboard.press('End')
    await painted(page)
    const own = await stagePixels(page)
    await page.getByTestId('typeface').click()
    await page.getByRole('option', { name: 'Jura', exact: true }).first().click()
    await page.getByRole('radio', { name: 'Regular' }).click()
    await painted(page)
    const shipped = await stagePixels(page)
    let off = 0
    for (let i = 0; i < own.pixels.length; i++) off += Math.abs(own.pixels[i]! - shipped.pixels[i]!)
    expect(off / own.pixels.length).toBeLessThan(0.2)
  })

  it('comes along with a kept style into a journey that does not have it', async () => {
    const { page } = demo
    await page.getByTestId('stop-handle').nth(1).click()
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('add-font').click()])
    await chooser.setFiles('node_modules/@fontsource/jura/files/jura-latin-400-normal.woff2')
    await page.getByTestId('typeface').getByText('Jura Light', { exact: true }).waitFor()
    // The styles of pins come first.
    const own = page.getByRole('group', { name: 'Your own styles' }).nth(1)
    await own.getByTestId('keep-style').click()
    await own.getByTestId('style-name').locator('input').fill('In my hand')
    await page.keyboard.press('Enter')
    await own.getByTestId('own-style').waitFor()
    // Undone, the journey has no font of its own; the style brings it back.
    while ((await demo.stored()).fonts.length > 0) await page.keyboard.press('Control+z')
    await own.getByTestId('own-style').click()
    const { fonts, stops } = await demo.stored()
    expect(fonts).toMatchObject([{ name: 'Jura Light' }])
    expect(stops[1]!.label.style.family).toBe(`own-${fonts[0]!.file}`)
  })
})

describe('a name', () => {
  it('is put into other letters from a picture, keeps its size, and is undone in one step', async () => {
    const { page } = demo
    await selectStop('Quillhaven')
    const before = (await stopOf('quillhaven')).label
    await page.getByRole('radio', { name: 'Harbour board' }).click()
    expect((await stopOf('quillhaven')).label.style).toMatchObject({
      family: 'sofia-sans-extra-condensed',
      case: 'capitals',
      plate: { shape: 'box' },
      size: before.style.size,
    })
    await page.keyboard.press('Control+z')
    expect((await stopOf('quillhaven')).label).toEqual(before)
  })

  it('has pictures of its letters, no two alike', async () => {
    await selectStop('Quillhaven')
    const pictures = demo.page.getByRole('radiogroup', { name: 'Ready-made letters' }).locator('img')
    await pictures.last().waitFor()
    const sources = await pictures.evaluateAll((images) => (images as HTMLImageElement[]).map(({ src }) => src))
    expect(new Set(sources).size).toBe(12)
  })

  it('is dragged to any place, and snaps to the sides of its pin', async () => {
    const { page } = demo
    await toEnd()
    const label = page.locator('[data-label="quillhaven"]')
    const box = (await label.boundingBox())!
    const drag = async (x: number, y: number) => {
      const now = (await label.boundingBox())!
      await page.mouse.move(now.x + now.width / 2, now.y + now.height / 2)
      await page.mouse.down()
      await page.mouse.move(x, y, { steps: 6 })
      await page.mouse.up()
    }
    await drag(box.x + box.width / 2 + 70, box.y + box.height / 2 + 60)
    const { place } = (await stopOf('quillhaven')).label
    expect(place.kind).toBe('free')
    // It lies where the pointer let go of it.
    const moved = (await label.boundingBox())!
    expect(moved.x + moved.width / 2).toBeCloseTo(box.x + box.width / 2 + 70, -0.5)
    const { pin } = await stopOf('quillhaven')
    const k = (await page.getByTestId('stage-canvas').boundingBox())!.width / 1920
    const home = (await page.locator('[data-stop="quillhaven"]').boundingBox())!
    // Above the pin, a third of a letter over it.
    const { block } = compile(await demo.stored()).marks.find(({ stop }) => stop.id === 'quillhaven')!.label!
    const above = (pin.size + 0.32 * 46 + block.height / 2) * k
    await drag(home.x + home.width / 2, home.y + home.height / 2 - above)
    expect((await stopOf('quillhaven')).label.place).toEqual({ kind: 'side', side: 'top' })
    await page.getByRole('radiogroup', { name: 'Place' }).getByRole('radio', { name: 'Automatic' }).click()
    expect((await stopOf('quillhaven')).label.place).toEqual({ kind: 'automatic' })
  })

  it('that overlaps something is told, in its details and in the journey’s', async () => {
    const { page } = demo
    const told = page.getByTestId('crowded-names')
    const names = () => told.isVisible().then((is) => (is ? told.innerText() : ''))
    expect(await names()).not.toContain('Harrowmere')
    await selectStop('Harrowmere')
    await page.getByRole('radiogroup', { name: 'Place' }).getByRole('radio', { name: 'By hand' }).click()
    // Onto the pin of another stop: beyond the frame's edge it would only be moved in again.
    const { stops, camera } = await demo.stored()
    const [own, other] = ['harrowmere', 'quillhaven'].map((id) => stops.find((stop) => stop.id === id)!.at) as [Point, Point]
    const from = page.getByRole('group', { name: 'From the pin' })
    for (const axis of ['x', 'y'] as const) {
      await from.getByLabel(axis).fill(String(Math.round((other[axis] - own[axis]) * camera.zoom) - (axis === 'y' ? 40 : 0)))
      await page.keyboard.press('Enter')
    }
    await page.getByTestId('crowded-name').waitFor()
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await page.getByTestId('checks-count').click()
    await told.getByRole('button', { name: 'Harrowmere' }).click()
    await page.getByRole('radiogroup', { name: 'Place' }).getByRole('radio', { name: 'Automatic' }).click()
    await page.getByTestId('crowded-name').waitFor({ state: 'detached' })
  })

  it('looks for another place by itself when its own is taken', async () => {
    const { page } = demo
    await toEnd()
    const before = (await page.locator('[data-label="harrowmere"]').boundingBox())!
    // Another name is laid over it.
    await selectStop('Oar’s End')
    await page.getByRole('radio', { name: 'By hand' }).click()
    const k = (await page.getByTestId('stage-canvas').boundingBox())!.width / 1920
    const home = (await page.locator('[data-stop="oarsend"]').boundingBox())!
    for (const [axis, value] of [
      ['x', (before.x + before.width / 2 - home.x - home.width / 2) / k],
      ['y', (before.y + before.height / 2 - home.y - home.height / 2) / k],
    ] as const) {
      const field = page.getByRole('group', { name: 'From the pin' }).getByLabel(axis)
      await field.fill(String(Math.round(value)))
      await field.press('Enter')
    }
    // Its own name is at the place of the other one now, which gives way.
    const other = (await page.locator('[data-label="oarsend"]').boundingBox())!
    expect(Math.hypot(other.x + other.width / 2 - before.x - before.width / 2, other.y - before.y)).toBeLessThan(20)
    await page.waitForFunction(() => {
      const [a, b] = ['harrowmere', 'oarsend'].map((id) => document.querySelector(`[data-label="${id}"]`)!.getBoundingClientRect())
      return a!.left >= b!.right || a!.right <= b!.left || a!.top >= b!.bottom || a!.bottom <= b!.top
    })
  })

  it('has a second line: a note, the day of arrival or the distance', async () => {
    const { page } = demo
    await selectStop('Lampwick')
    await fold('Second line, entrance')
    await page.getByRole('radio', { name: 'Note', exact: true }).click()
    await page.getByLabel('Note', { exact: true }).and(page.locator('input')).fill('two nights')
    expect((await stopOf('lampwick')).label.second).toEqual({ kind: 'note', text: 'two nights' })
    await page.getByRole('radio', { name: 'Date' }).click()
    await page.getByTestId('visit-date').locator('input').fill('2026-06-08')
    const journey = await demo.stored()
    expect(journey.travellers[0]!.visits[3]!.date).toBe('2026-06-08')
    const { label } = compile(journey).marks.find(({ stop }) => stop.id === 'lampwick')!
    expect(label!.block.lines.map(({ text }) => text)).toEqual(['Lampwick', '8 June 2026'])
  })
})

describe('titles and readouts', () => {
  it('are added, written, placed and deleted', async () => {
    const { page } = demo
    await fold('Titles and readouts')
    await page.getByTestId('add-caption').click()
    await page.getByText('Distance so far', { exact: true }).click()
    await page.getByRole('radio', { name: 'top right' }).click()
    expect((await demo.stored()).captions.at(-1)).toMatchObject({ content: { kind: 'distance' }, corner: 'top-right', heading: 'Distance' })
    await page.getByRole('button', { name: 'Journey', exact: true }).click()
    await page.getByTestId('caption').first().click()
    await page.getByTestId('caption-text').locator('textarea').first().fill('All the Isles')
    expect((await demo.stored()).captions[0]!.content).toMatchObject({ kind: 'title', text: 'All the Isles' })
    const before = (await demo.stored()).captions.length
    await page.getByRole('button', { name: 'Delete', exact: true }).click()
    expect((await demo.stored()).captions).toHaveLength(before - 1)
  })

  it('say why they are not seen', async () => {
    const { page } = demo
    await fold('Titles and readouts')
    await page.getByTestId('add-caption').click()
    await page.getByText('Height', { exact: true }).click()
    await page.getByText('No leg follows a recorded track with heights.').waitFor()
  })
})

describe('a look of the whole journey', () => {
  it('is shown as a picture, put on with one click and undone with one', async () => {
    const { page } = demo
    const before = await demo.stored()
    const plain = await stagePixels(page)
    await fold('Looks')
    const look = JOURNEY_LOOKS.find(({ id }) => id === 'night-watch')!
    await page.getByTestId('look-lamplight').locator('img').waitFor()
    const sources = await page
      .locator('[data-testid^="look-"] img')
      .evaluateAll((images) => (images as HTMLImageElement[]).map(({ src }) => src))
    expect(new Set(sources).size).toBe(JOURNEY_LOOKS.length)
    await page.getByTestId('look-night-watch').click()
    await painted(page)
    const now = await demo.stored()
    expect(now.sheets[0]!.wash).toEqual(look.wash)
    expect(now.stops.every(({ pin }) => pin.shape === 'tower')).toBe(true)
    expect(meanDifference((await stagePixels(page)).pixels, plain.pixels)).toBeGreaterThan(15)
    await page.keyboard.press('Control+z')
    expect(await demo.stored()).toEqual(before)
  })
})
