/** What would look wrong in a film is listed beside it: by a click one is there, mends it, or says that it is as it should be. */
import { expect, it } from 'vitest'
import { editStop } from '#core/edits/marks/stops'
import { setLayover } from '#core/edits/pace/pace'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()

it('finds nothing in the demo, and in a film with two faults just those, which are mended and accepted', async () => {
  const { page } = demo
  const checks = page.getByTestId('checks')
  await expect.poll(() => checks.innerText()).toContain('nothing found')
  expect(await page.getByTestId('checks-count').count()).toBe(0)

  const journey = await demo.stored()
  const traveller = journey.travellers[0]!
  const small = editStop(journey, journey.stops[0]!.id, { label: { style: { size: 20 } } })
  await demo.open(setLayover(small, traveller.visits.length - 1, 0.8, traveller.id))
  await expect.poll(() => page.getByTestId('checks-count').innerText(), { timeout: 20_000 }).toMatch(/^[2-4] to look at$/)
  await page.getByTestId('checks-count').click()
  const findings = page.getByTestId('finding')
  const letters = findings.filter({ hasText: 'too small on a telephone' })
  const end = findings.filter({ hasText: 'The film ends 0.8 s after the last stop is reached' })
  await letters.waitFor()
  await expect.poll(() => end.evaluate((line) => line.getBoundingClientRect().top < innerHeight)).toBe(true)

  // It is marked on the strip, too.
  expect(await page.getByTestId('pace-finding').count()).toBeGreaterThan(1)
  // A click goes there, and selects what it is about.
  await letters.getByRole('button', { name: /too small/ }).click()
  await expect.poll(() => page.getByTestId('stop-name').locator('input').inputValue()).toBe('Harrowmere')
  await page.getByTestId('checks-count').click()

  await letters.getByRole('button', { name: 'Larger letters' }).click()
  await expect.poll(() => letters.count(), { timeout: 20_000 }).toBe(0)
  expect((await demo.stored()).stops[0]!.label.style.size).toBeGreaterThan(34)
  await end.getByRole('button', { name: 'Accept' }).click()
  await page.getByTestId('accepted-finding').filter({ hasText: 'The film ends' }).waitFor()
  expect((await demo.stored()).accepted).toEqual(['end film end'])
  await page.getByRole('button', { name: 'Tell again' }).click()
  await end.getByRole('button', { name: 'Hold the end' }).click()
  await expect.poll(() => end.count(), { timeout: 20_000 }).toBe(0)
  // All of it can be undone.
  await page.keyboard.press('Control+z')
  await end.waitFor({ timeout: 20_000 })
})

it('does not take away a name that is being typed when something is found', async () => {
  const { page } = demo
  const journey = await demo.stored()
  await demo.open(editStop(journey, journey.stops[0]!.id, { label: { style: { size: 20 } } }))
  await page.getByTestId('journey-name').fill('Half a name')
  // The bar is rendered again.
  await page.getByTestId('checks-count').waitFor()
  expect(await page.getByTestId('journey-name').inputValue()).toBe('Half a name')
  await page.keyboard.press('Enter')
  expect((await demo.stored()).name).toBe('Half a name')
})
