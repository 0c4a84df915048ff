/** A map from a tile service, from an empty journey and on the demo's: address, credit, region, tiles, sheet. */
import type { Server } from 'node:http'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { createJourney } from '#core/journey/create'
import { STAND_IN_KEY, startStandIn } from '#demo/stand-in/service'
import { useDemoPage } from '../support/demo-page'

const demo = useDemoPage()
let root: string
let standIn: Server
const asked: string[] = []
beforeAll(async () => {
  const started = await startStandIn(0)
  root = started.root
  standIn = started.server
  standIn.on('request', ({ url }: { url: string }) => asked.push(url))
})
afterAll(() => {
  standIn.closeAllConnections()
  standIn.close()
})

const look = async (address: string) => {
  await demo.page.getByTestId('service-address').locator('input').fill(address)
  await demo.page.keyboard.press('Enter')
}
async function credit(): Promise<void> {
  await demo.page.getByTestId('service-author').locator('input').fill('Survey of the Isles')
  await demo.page.getByTestId('service-licence').locator('input').fill('CC0 1.0')
}

it('an empty journey gets its map from an address, once it is said whom to credit', async () => {
  const { page } = demo
  await demo.open(createJourney('Empty', { width: 1920, height: 1080, rate: '30/1' }))
  await page.getByTestId('take-tiles').click()
  await look('ftp://a.example/{z}/{x}/{y}.png')
  await expect.poll(() => page.getByTestId('service-problem').innerText()).toContain('should begin with https://')
  await look(`${root}/vector.json`)
  await expect.poll(() => page.getByTestId('service-problem').innerText()).toContain('has vector tiles')
  asked.length = 0
  await look(`${root}/tiles.json`)
  await page.getByTestId('service-author').waitFor()
  // The service says who made it, but not under which licence: until that is said, no tile is asked for.
  expect(await page.getByTestId('service-author').locator('input').inputValue()).toBe('Zephyrine, made up for the demo')
  expect(await page.getByTestId('take').isDisabled()).toBe(true)
  expect(asked).toEqual(['/tiles.json'])
  await credit()
  await page.getByTestId('service-picture').waitFor()
  await expect.poll(() => page.getByTestId('service-count').innerText()).toMatch(/^\d+ tiles, about [\d.]+ MB$/)
  const before = Number(/\d+/.exec(await page.getByTestId('service-count').innerText())![0])
  // A level coarser needs about a quarter; the keyboard moves the slider.
  await page.getByTestId('service-level').getByRole('slider').focus()
  await page.keyboard.press('ArrowLeft')
  await expect.poll(async () => Number(/\d+/.exec(await page.getByTestId('service-count').innerText())![0])).toBeLessThan(before / 2)
  await page.getByTestId('service-shows-credit').locator('input').click()
  await page.getByTestId('take').click()
  await page.getByTestId('taken').waitFor({ timeout: 30_000 })
  const { sheets, creditLine } = await demo.stored()
  expect(creditLine).toBe(true)
  expect(sheets[0]).toMatchObject({
    name: 'Lantern Isles',
    credit: { author: 'Survey of the Isles', licence: 'CC0 1.0' },
    georeference: { kind: 'affine', source: 'tiles', plane: { kind: 'mercator' } },
    taken: { sharp: 'region', missing: 0, service: { kind: 'template', address: `${root}/xyz/{z}/{x}/{y}.png` } },
  })
})

it('on a journey that lies on the Earth, what the camera sees closely is taken, in one step of undo; the key is not in it', async () => {
  const { page } = demo
  await page.getByRole('button', { name: 'Sheet', exact: true }).click()
  await page.getByTestId('add-sheet').click()
  await page.getByTestId('add-tiles').click()
  await look(`${root}/locked/tiles.json`)
  await expect.poll(() => page.getByTestId('service-problem').innerText()).toContain('refuses (403): it may want a key')
  await page.getByTestId('service-key').locator('input').fill(STAND_IN_KEY)
  await look(`${root}/locked/tiles.json?key={key}`)
  await page.getByTestId('service-author').waitFor()
  expect(await page.getByTestId('service-key').locator('input').inputValue()).toBe('')
  await credit()
  expect(await page.getByTestId('sharp-camera').locator('input').isChecked()).toBe(true)
  await page.getByTestId('service-picture').waitFor()
  await expect.poll(() => page.getByTestId('take').isEnabled()).toBe(true)
  await page.getByTestId('take').click()
  await page.getByTestId('settle-sheet').click({ timeout: 30_000 })
  await page.getByTestId('taken').waitFor()
  const journey = await demo.stored()
  expect(journey.sheets).toHaveLength(2)
  expect(journey.sheets[1]!.taken).toMatchObject({ sharp: 'camera', missing: 0 })
  expect(JSON.stringify(journey)).not.toContain(`key=${STAND_IN_KEY}`)
  expect(JSON.stringify(journey)).toContain('{key}')
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await demo.stored()).sheets.length).toBe(1)
})

it('what is broken off waits in the dialog, and goes on there', async () => {
  const { page } = demo
  await demo.open(createJourney('Empty', { width: 1920, height: 1080, rate: '30/1' }))
  await page.getByTestId('take-tiles').click()
  await look(`${root}/slow/xyz/{z}/{x}/{y}.png`)
  await credit()
  await page.getByRole('button', { name: 'All of it' }).click()
  await expect.poll(() => page.getByTestId('take').isEnabled(), { timeout: 20_000 }).toBe(true)
  await page.getByTestId('take').click()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await page.getByTestId('take-tiles').click()
  await page.getByTestId('service-address').locator('input').waitFor()
  await page.reload()
  await page.getByTestId('take-tiles').click()
  const waiting = page.getByTestId('broken-off').filter({ hasText: '127.0.0.1' })
  await expect.poll(() => waiting.count()).toBeGreaterThan(0)
  const count = await waiting.count()
  await waiting.first().getByRole('button', { name: 'Discard' }).click()
  await expect.poll(() => waiting.count()).toBe(count - 1)
})
