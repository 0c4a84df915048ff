/** Following the road in the picture with the mouse, in a real browser. Each test begins with a fresh copy of the demo. */
import { describe, expect, it } from 'vitest'
import { courseOf } from '#core/geometry/course'
import { nearestOnChain } from '#core/geometry/nearest'
import { legCubics } from '#core/edits/lines/courses'
import type { Journey } from '#core/journey/schema'
import { TOWNS } from '#demo/places'
import { useDemoPage } from '../support/demo-page'
import { shareOnRoads } from '../support/isles'

const demo = useDemoPage()
const { stored, clickAt, selectLeg } = demo

const found = () => demo.page.getByText(/^Found: /).waitFor()
const shareOf = (journey: Journey, leg: string) => shareOnRoads(courseOf(legCubics(journey, leg)))

describe('a leg along the picture', () => {
  it('is found at once between its stops, taken, and undone in one step', async () => {
    const before = await stored()
    await selectLeg(2)
    await demo.page.getByTestId('along-picture').click()
    await found()
    await demo.page.getByTestId('follow-take').click()
    const after = await stored()
    expect(after.travellers[0]!.legs[1]!.course.kind).toBe('drawn')
    expect(after.travellers[0]!.legs[1]!.course).not.toEqual(before.travellers[0]!.legs[1]!.course)
    expect(shareOf(after, 'bicycle')).toBeGreaterThanOrEqual(0.97)
    await demo.page.keyboard.press('Control+z')
    expect(await stored()).toEqual(before)
  })

  it('goes over the spots that are clicked on the way, until they are clicked away', async () => {
    await selectLeg(1)
    await demo.page.keyboard.press('p')
    await found()
    const west = { x: 820, y: 1760 }
    await clickAt(west)
    await demo.page.getByTestId('follow-via').waitFor()
    await found()
    await demo.page.keyboard.press('Enter')
    const over = await stored()
    expect(nearestOnChain(legCubics(over, 'night-train'), west).distance).toBeLessThan(12)
    await demo.page.keyboard.press('p')
    await found()
    await clickAt(west)
    await found()
    await demo.page.getByTestId('follow-via').click()
    await demo.page.getByTestId('follow-via').waitFor({ state: 'detached' })
    await found()
    await demo.page.keyboard.press('Enter')
    expect(nearestOnChain(legCubics(await stored(), 'night-train'), west).distance).toBeGreaterThan(200)
  })

  it('follows the colour that is picked', async () => {
    await selectLeg(1)
    await demo.page.keyboard.press('p')
    await found()
    await demo.page.getByTestId('follow-pick').click()
    // The railway, in the middle of its third node.
    await clickAt({ x: 1480, y: 1890 })
    await demo.page.getByRole('button', { name: 'Detect the colour' }).waitFor()
    await demo.page.getByText(/^(Found|The road is lost|There is no road)/).waitFor()
    const colour = await demo.page.locator('.panel .swatch').getAttribute('title')
    expect(colour).toMatch(/#[0-9a-f]{6}/)
  })

  it('says so where there is no road, and changes nothing', async () => {
    const before = await stored()
    await selectLeg(4)
    await demo.page.getByTestId('along-picture').click()
    await demo.page.getByText(/The road is lost for \d+ px of the sheet/).waitFor()
    expect(await demo.page.getByTestId('follow-take').isDisabled()).toBe(true)
    await demo.page.keyboard.press('Enter')
    await demo.page.keyboard.press('Escape')
    await demo.page.getByTestId('following').waitFor({ state: 'detached' })
    expect(await stored()).toEqual(before)
  })
})

describe('without a leg selected', () => {
  it('the trip goes on along the road to where is clicked', async () => {
    await demo.page.keyboard.press('p')
    await demo.page.getByText('Click where the road leads').waitFor()
    await clickAt(TOWNS.cinderford.at)
    await found()
    await demo.page.keyboard.press('Enter')
    const journey = await stored()
    expect(journey.stops).toHaveLength(6)
    const added = journey.travellers[0]!.legs.at(-1)!
    expect(shareOf(journey, added.id)).toBeGreaterThanOrEqual(0.97)
  })

  it('a search is stopped at will', async () => {
    await demo.page.keyboard.press('p')
    // Tiles that never come keep the search going.
    await demo.page.route('**/tiles/**', () => undefined)
    await clickAt(TOWNS.saltern.at)
    await demo.page.getByText(/Searching for the road/).waitFor()
    await demo.page.getByRole('button', { name: 'Stop', exact: true }).click()
    await demo.page.getByText('Stopped.').waitFor()
    expect((await stored()).stops).toHaveLength(5)
  })
})
