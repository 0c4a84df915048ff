/** Several travellers in one journey, in a real browser. */
import { describe, expect, it } from 'vitest'
import { TOWNS } from '#demo/places'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()
const { stored, clickAt } = demo

async function another() {
  await demo.page.getByTestId('add-traveller').click()
  await clickAt(TOWNS.saltern.at)
  await demo.page.getByTestId('stop-handle').nth(5).waitFor()
  await clickAt(TOWNS.lampwick.at)
}

describe('another traveller', () => {
  it('has a trip of its own, meets the first at a stop, and is undone', async () => {
    await another()
    const journey = await stored()
    expect(journey.travellers).toHaveLength(2)
    expect(journey.stops).toHaveLength(6)
    expect(journey.travellers[1]!.visits.map(({ stop }) => stop)).toEqual([journey.stops[5]!.id, 'lampwick'])
    expect(journey.travellers[0]!.visits).toHaveLength(5)
    for (let i = 0; i < 3; i++) await demo.page.keyboard.press('Control+z')
    expect((await stored()).travellers).toHaveLength(1)
  })

  it('is named, coloured, hidden, duplicated and deleted from the list', async () => {
    await another()
    await demo.page.keyboard.press('Escape')
    await demo.page.getByRole('button', { name: 'Journey', exact: true }).click()
    const rows = demo.page.getByTestId('traveller')
    await demo.page.getByTestId('traveller-name').locator('input').fill('Wren')
    await demo.page.getByRole('button', { name: 'Colour #27406b' }).click()
    let wren = (await stored()).travellers[1]!
    expect([wren.name, wren.colour, wren.legs[0]!.ink.colour]).toEqual(['Wren', '#27406b', '#27406b'])
    await demo.page.getByRole('button', { name: 'Show Wren in the film' }).click()
    expect((await stored()).travellers[1]!.shown).toBe(false)
    await demo.page.getByRole('button', { name: 'More for Wren' }).click()
    await demo.page.getByText('Duplicate', { exact: true }).click()
    expect(await rows.count()).toBe(3)
    await demo.page.getByRole('button', { name: 'More for Wren', exact: true }).click()
    await demo.page.locator('.v-overlay--active').getByText('Earlier', { exact: true }).click()
    wren = (await stored()).travellers[0]!
    expect(wren.name).toBe('Wren')
    await demo.page.getByRole('button', { name: 'More for Wren', exact: true }).click()
    await demo.page.locator('.v-overlay--active').getByText('Delete', { exact: true }).click()
    const names = (await stored()).travellers.map(({ name }) => name)
    expect(names).toEqual(['', 'Wren copy'])
  })

  it('rides on a row of its own on the pace strip', async () => {
    await another()
    const { page } = demo
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'All travellers' }).click()
    const riders = page.locator('[data-testid^="rider-"]')
    await expect.poll(() => riders.count()).toBe(2)
    for (const i of [0, 1]) {
      const rider = (await riders.nth(i).boundingBox())!
      const row = (await page
        .locator('.row', { has: page.locator('[data-testid^="rider-"]') })
        .nth(i)
        .boundingBox())!
      expect(rider.y).toBeGreaterThanOrEqual(row.y)
      expect(rider.y + rider.height).toBeLessThanOrEqual(row.y + row.height)
    }
    await page.getByRole('button', { name: 'All travellers' }).click()
    await expect.poll(() => riders.count()).toBe(1)
  })

  it('is taken up again by a click on its line', async () => {
    await another()
    await demo.page.keyboard.press('Escape')
    await demo.page.keyboard.press('Escape')
    // The middle of the first traveller's bicycle road, then the second one's straight leg.
    await clickAt({ x: 2250, y: 2090 })
    await demo.page.getByRole('heading', { name: 'Quillhaven to Oar’s End' }).waitFor()
    const { saltern, lampwick } = TOWNS
    await clickAt({ x: saltern.at.x + 0.25 * (lampwick.at.x - saltern.at.x), y: saltern.at.y + 0.25 * (lampwick.at.y - saltern.at.y) })
    await demo.page.getByRole('heading', { name: 'Stop 6 to Lampwick' }).waitFor()
  })
})
