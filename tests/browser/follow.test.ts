/** Following the road in the picture with the mouse, in a real browser. Each test begins with a fresh copy of the demo. */
import type { Browser, Page } from 'playwright-core'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { courseOf } from '#core/geometry/course'
import { nearestOnChain } from '#core/geometry/nearest'
import type { Point } from '#core/geometry/point'
import { legCubics } from '#core/journey/course-edits'
import type { Journey } from '#core/journey/schema'
import { TOWNS } from '#demo/places'
import { launchBrowser, openEditor, openPage, saved } from '../support/browser'
import { shareOnRoads } from '../support/isles'
import type { TestServer } from '../support/server'
import { startServer } from '../support/server'

let server: TestServer
let browser: Browser
let page: Page
let errors: string[]
let id: string

beforeAll(async () => {
  server = await startServer()
  browser = await launchBrowser()
})
afterAll(async () => {
  await browser.close()
  await server.stop()
})
beforeEach(async () => {
  const response = await fetch(`${server.address}/api/journeys/demo/duplicate`, { method: 'POST' })
  id = ((await response.json()) as { id: string }).id
  ;({ page, errors } = await openPage(browser))
  await openEditor(page, server.address, id)
})
afterEach(async () => {
  expect(errors).toEqual([])
  await page.context().close()
})

async function stored(): Promise<Journey> {
  await saved(page)
  return ((await (await fetch(`${server.address}/api/journeys/${id}`)).json()) as { journey: Journey }).journey
}

/** The demo's sheet fills the frame: where a spot of it is on the page. */
async function onPage({ x, y }: Point): Promise<[number, number]> {
  const box = (await page.getByTestId('stage').boundingBox())!
  return [box.x + (x * box.width) / 6400, box.y + (y * box.width) / 6400]
}
const clickAt = async (p: Point) => page.mouse.click(...(await onPage(p)))
const selectLeg = (number: number) => page.getByRole('button', { name: `Leg ${number}`, exact: true }).click()
const found = () => page.getByText(/^Found: /).waitFor()
const shareOf = (journey: Journey, leg: string) => shareOnRoads(courseOf(legCubics(journey, leg)))

describe('a leg along the picture', () => {
  it('is found at once between its stops, taken, and undone in one step', async () => {
    const before = await stored()
    await selectLeg(2)
    await page.getByTestId('along-picture').click()
    await found()
    await page.getByTestId('follow-take').click()
    const after = await stored()
    expect(after.travellers[0]!.legs[1]!.course.kind).toBe('drawn')
    expect(after.travellers[0]!.legs[1]!.course).not.toEqual(before.travellers[0]!.legs[1]!.course)
    expect(shareOf(after, 'bicycle')).toBeGreaterThanOrEqual(0.97)
    await page.keyboard.press('Control+z')
    expect(await stored()).toEqual(before)
  })

  it('goes over the spots that are clicked on the way, until they are clicked away', async () => {
    await selectLeg(1)
    await page.keyboard.press('p')
    await found()
    const west = { x: 820, y: 1760 }
    await clickAt(west)
    await page.getByTestId('follow-via').waitFor()
    await found()
    await page.keyboard.press('Enter')
    const over = await stored()
    expect(nearestOnChain(legCubics(over, 'night-train'), west).distance).toBeLessThan(12)
    await page.keyboard.press('p')
    await found()
    await clickAt(west)
    await found()
    await page.getByTestId('follow-via').click()
    await page.getByTestId('follow-via').waitFor({ state: 'detached' })
    await found()
    await page.keyboard.press('Enter')
    expect(nearestOnChain(legCubics(await stored(), 'night-train'), west).distance).toBeGreaterThan(200)
  })

  it('follows the colour that is picked', async () => {
    await selectLeg(1)
    await page.keyboard.press('p')
    await found()
    await page.getByTestId('follow-pick').click()
    // The railway, in the middle of its third node.
    await clickAt({ x: 1480, y: 1890 })
    await page.getByRole('button', { name: 'Find it by itself' }).waitFor()
    await page.getByText(/^(Found|The road is lost|There is no road)/).waitFor()
    const colour = await page.locator('.panel .swatch').getAttribute('title')
    expect(colour).toMatch(/#[0-9a-f]{6}/)
  })

  it('says so where there is no road, and changes nothing', async () => {
    const before = await stored()
    await selectLeg(4)
    await page.getByTestId('along-picture').click()
    await page.getByText(/The road is lost for \d+ px of the sheet/).waitFor()
    expect(await page.getByTestId('follow-take').isDisabled()).toBe(true)
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
    await page.getByTestId('following').waitFor({ state: 'detached' })
    expect(await stored()).toEqual(before)
  })
})

describe('without a leg selected', () => {
  it('the trip goes on along the road to where is clicked', async () => {
    await page.keyboard.press('p')
    await page.getByText('Click where the road leads').waitFor()
    await clickAt(TOWNS.cinderford.at)
    await found()
    await page.keyboard.press('Enter')
    const journey = await stored()
    expect(journey.stops).toHaveLength(6)
    const added = journey.travellers[0]!.legs.at(-1)!
    expect(shareOf(journey, added.id)).toBeGreaterThanOrEqual(0.97)
  })

  it('a search is stopped at will', async () => {
    await page.keyboard.press('p')
    // Tiles that never come keep the search going.
    await page.route('**/tiles/**', () => undefined)
    await clickAt(TOWNS.saltern.at)
    await page.getByText(/Looking for the road/).waitFor()
    await page.getByRole('button', { name: 'Stop', exact: true }).click()
    await page.getByText('Stopped.').waitFor()
    expect((await stored()).stops).toHaveLength(5)
  })
})
