/** Versions of a journey: kept, compared with what it is now, and gone back to; ways of the camera, and spots of a leg, by hand and by key. */
import { describe, expect, it } from 'vitest'
import { addShot, setPlan } from '#core/edits/camera/shots'
import { editLeg } from '#core/edits/lines/legs'
import { shotSchema } from '#core/journey/schema'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()
const fold = (name: string) => demo.page.getByRole('button', { name: new RegExp(`^${name}`) })

/** The colour of a place of a canvas, as its share of the width and height. */
const colourIn = (selector: string, x: number, y: number) =>
  demo.page.locator(selector).evaluate(
    (canvas, [u, v]) => {
      const { width, height } = canvas as HTMLCanvasElement
      return [...(canvas as HTMLCanvasElement).getContext('2d')!.getImageData(Math.round(u! * width), Math.round(v! * height), 1, 1).data]
    },
    [x, y],
  )

describe('versions of a journey', () => {
  it('are kept under a name, compared by a bar and side by side, and gone back to', async () => {
    const { page } = demo
    await fold('Versions').click()
    await page.getByTestId('version-name').locator('input').fill('Before the client')
    await page.getByTestId('version-name').locator('input').press('Enter')
    await expect.poll(() => page.getByTestId('version').count()).toBe(1)
    const before = await demo.stored()

    await fold('Sun, focus').click()
    await page
      .getByRole('switch', { name: 'Sun' })
      .or(page.getByLabel('Sun', { exact: true }))
      .first()
      .click()
    // The demo has one, which goes.
    await expect.poll(async () => (await demo.stored()).sun).toBeNull()

    const compare = page.getByRole('button', { name: 'Compare with “Before the client”' })
    await compare.click()
    await page.getByTestId('compare').waitFor()
    const bar = page.getByTestId('compare-bar')
    await bar.focus()
    await page.keyboard.press('ArrowRight')
    expect(await bar.getAttribute('aria-valuenow')).toBe('55')
    await page.keyboard.press('Home')
    expect(await bar.getAttribute('aria-valuenow')).toBe('0')
    const stage = (await page.getByTestId('stage').boundingBox())!
    await bar.hover()
    await page.mouse.down()
    await page.mouse.move(stage.x + 0.75 * stage.width, stage.y + 100, { steps: 4 })
    await page.mouse.up()
    expect(Number(await bar.getAttribute('aria-valuenow'))).toBeCloseTo(75, -1)
    // Both show the same map at the same place.
    await expect
      .poll(() => colourIn('[data-testid=compare] canvas', 0.3, 0.6))
      .toEqual(await colourIn('[data-testid=stage-canvas]', 0.3, 0.6))

    await page.getByTestId('compare-layout').click()
    expect(await page.getByTestId('compare').locator('canvas').count()).toBe(2)
    await page.keyboard.press('Escape')
    await expect.poll(() => page.getByTestId('compare').count()).toBe(0)

    await page.getByRole('button', { name: 'Go back to “Before the client”' }).click()
    await expect.poll(async () => (await demo.stored()).sun).not.toBeNull()
    expect(await demo.stored()).toEqual(before)
    await page.keyboard.press('Control+z')
    await expect.poll(async () => (await demo.stored()).sun).toBeNull()

    await page.getByRole('button', { name: 'Delete “Before the client”' }).click()
    await expect.poll(() => page.getByTestId('version').count()).toBe(0)
    await page.getByRole('button', { name: 'Keep it after all' }).click()
    await expect.poll(() => page.getByTestId('version').count()).toBe(1)
  })
})

describe('a way of the camera', () => {
  it('is retimed by its graph with the keyboard, stretched and reversed, and each of it undone', async () => {
    const { page } = demo
    const free = (id: string, offset: number, x: number, passes: boolean) =>
      shotSchema.parse({
        kind: 'free',
        id,
        at: { at: 'start', offset },
        transition: 2,
        passes,
        view: { centre: { x, y: 1800 }, zoom: 0.8 },
      })
    const shots = [free('a', 2, 1400, true), free('b', 4, 2600, true), free('c', 6, 4200, false)]
    await demo.open(shots.reduce(addShot, setPlan(await demo.stored(), null)))
    await page.getByTestId('pace-shot').nth(1).click()
    const points = page.getByTestId(/^way-point-/)
    await expect.poll(() => points.count()).toBe(3)
    await page.getByTestId('way-point-1').focus()
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('ArrowRight')
    await page.keyboard.press('Shift+ArrowRight')
    expect(await page.getByTestId('way-point-1').getAttribute('aria-valuetext')).toBe('7.20 s')
    const takes = page.getByTestId('way-takes').locator('input')
    await takes.fill('12')
    await takes.press('Enter')
    // From 2 s to 8 s it took 6: twice as long.
    await expect
      .poll(async () => {
        const { at, transition } = (await demo.stored()).shots.at(-1)!
        return at.offset + transition
      })
      .toBeCloseTo(14, 3)
    await page.getByTestId('reverse-way').click()
    const seen = async () => (await demo.stored()).shots.map((shot) => shot.kind === 'free' && shot.view.centre.x)
    await expect.poll(seen).toEqual([4200, 2600, 1400])
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
    await expect.poll(async () => (await demo.stored()).shots).toEqual(shots)
  })
})

describe('a change of the vehicle on a leg', () => {
  it('is placed by time, and by a click on the map', async () => {
    const { page } = demo
    const journey = await demo.stored()
    const leg = journey.travellers[0]!.legs[0]!
    await demo.open(
      editLeg(setPlan(journey, null), leg.id, { course: { kind: 'straight' }, changes: [{ at: 0.5, vehicle: null, how: 'cut' }] }),
    )
    await demo.selectLeg(1)
    await demo.page.getByTestId('ride').waitFor()
    await page.getByTestId('ride').click()
    const time = page.getByTestId('spot-time').locator('input').first()
    const before = Number(await time.inputValue())
    await time.fill(String(before + 0.5))
    await time.press('Enter')
    const at = async () => (await demo.stored()).travellers[0]!.legs[0]!.changes[0]!.at
    await expect.poll(at).toBeGreaterThan(0.51)
    await page.getByTestId('spot-on-map').first().click()
    const [from, to] = [0, 1].map((i) => journey.stops.find(({ id }) => id === journey.travellers[0]!.visits[i]!.stop)!.at)
    await demo.clickAt({ x: from!.x + 0.25 * (to!.x - from!.x), y: from!.y + 0.25 * (to!.y - from!.y) })
    await expect.poll(at).toBeCloseTo(0.25, 1)
    expect((await demo.stored()).stops).toHaveLength(journey.stops.length)
  })
})
