/** A journey leaves as a file and comes back: from the editor and the list, by dropping it. */
import { buffer } from 'node:stream/consumers'
import { unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { useDemoPage } from '../support/demo-page'
import type { DroppedFile } from '../support/drop'
import { dropOn } from '../support/drop'

const demo = useDemoPage()

const drop = (...files: readonly DroppedFile[]) => dropOn(demo.page, ...files)

describe('a journey file', () => {
  it('is saved from the editor, as the journey is at that moment, and takes its place when it is dropped on the list', async () => {
    const { page, address } = demo
    const name = page.getByTestId('journey-name')
    await name.fill('To take along')
    await name.press('Enter')
    await page.getByTestId('save-as-file').click()
    await expect.poll(() => page.getByTestId('file-contents').innerText()).toMatch(/2 maps and pictures/)
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('save-file').click()])
    expect(download.suggestedFilename()).toBe('To take along.zephyrine')
    const bytes = await buffer(await download.createReadStream())
    const entries = unzipSync(bytes)
    expect(JSON.parse(Buffer.from(entries['journey.json']!).toString())).toMatchObject({ name: 'To take along' })
    expect(Buffer.from(entries['LICENCES.md']!).toString()).toContain('Lantern Isles')

    await name.fill('Changed since')
    await name.press('Enter')
    await expect.poll(async () => (await demo.stored()).name).toBe('Changed since')
    await page.goto(`${address}/`)
    const cards = (title: string) => page.getByTestId('journey-card').filter({ hasText: title }).count()
    await drop({ name: 'To take along.zephyrine', bytes })
    const entry = page.getByTestId('opened-file')
    await expect.poll(() => entry.innerText()).toContain('was saved from “Changed since”')
    // Nothing is lost by looking: it is in the list as another one until that is decided.
    await expect.poll(async () => [await cards('To take along'), await cards('Changed since')]).toEqual([1, 1])
    await page.getByTestId('replace-journey').click()
    await expect.poll(() => entry.innerText()).toContain('kept as a version')
    await expect.poll(async () => [await cards('To take along'), await cards('Changed since')]).toEqual([1, 0])
    await page.getByRole('button', { name: 'Go to it' }).click()
    await page.waitForURL(`${address}/journeys/${demo.id}`)
    expect((await demo.stored()).name).toBe('To take along')
  })

  it('from elsewhere is opened at once; what is wrong with another one is said', async () => {
    const { page, address } = demo
    const document = { ...(await demo.stored()), name: 'From elsewhere' }
    await page.goto(`${address}/`)
    await drop({ name: 'a.zephyrine', bytes: 'no file' }, { name: 'b.zephyrine', bytes: JSON.stringify({ ...document, version: 99 }) })
    const entries = page.getByTestId('opened-file')
    await expect.poll(() => entries.count()).toBe(2)
    expect(await entries.first().innerText()).toMatch(/neither a ZIP file nor JSON/)
    expect(await entries.last().innerText()).toMatch(/reads versions 1 to/)
    await page.getByRole('button', { name: 'Close' }).click()
    await drop({ name: 'c.zephyrine', bytes: JSON.stringify(document) })
    await page.waitForURL(/\/journeys\//)
    await expect.poll(() => page.getByTestId('journey-name').inputValue()).toBe('From elsewhere')
  })

  it('is saved from the list', async () => {
    const { page, address } = demo
    await page.goto(`${address}/`)
    await page.getByRole('button', { name: 'More for From elsewhere' }).first().click()
    await page.getByText('Save as a file').click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('save-file').click()])
    expect(download.suggestedFilename()).toBe('From elsewhere.zephyrine')
  })
})

it('a table of a trip that is dropped on the list is read, and what its columns were taken for is shown', async () => {
  const { page, address } = demo
  await page.goto(`${address}/`)
  await drop({ name: 'trip.csv', bytes: 'City;Country;Mode;Cost\nLisbon;Portugal;;10\nMadrid;Spain;train;20\nNice;France;camel;5\n' })
  const dialog = page.getByRole('dialog')
  await expect.poll(() => page.getByTestId('trip-place').count()).toBe(3)
  expect(await page.getByTestId('trip-columns').innerText()).toBe('Read as a table: City as name, Country, Mode as travel. Not used: Cost.')
  expect(await dialog.innerText()).toContain('Line 4: “camel” is no way to travel')
  expect(await page.getByTestId('make-trip').isEnabled()).toBe(true)
})
