/** The whole way of a first voyage, in a real browser: new journey, map, stops, vehicle, play, export, download; and all of it kept. */
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Browser, Page } from 'playwright-core'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { TestServer } from '../support/server'
import { temporaryFolder } from '../support/server'
import { sharedBrowser, startServer } from '../support/shared'
import { openPage, painted, saved } from '../support/browser'
import { probe } from '../support/video'

let server: TestServer
let browser: Browser
let page: Page
let errors: string[]
const folder = temporaryFolder()

beforeAll(async () => {
  server = await startServer()
  browser = await sharedBrowser()
  ;({ page, errors } = await openPage(browser))
  const map = sharp({ create: { width: 2400, height: 1350, channels: 3, background: '#9fc3b4' } })
  await map
    .composite([{ input: Buffer.from('<svg width="2400" height="1350"><circle cx="1200" cy="700" r="420" fill="#d9cf9a"/></svg>') }])
    .png()
    .toFile(join(folder, 'island.png'))
})
afterAll(async () => {
  await browser.close()
  await server.stop()
  rmSync(folder, { recursive: true, force: true })
})

const timecode = () => page.getByTestId('timecode').textContent()
const stopNames = () => page.getByTestId('stop-handle').evaluateAll((handles) => handles.map((handle) => handle.getAttribute('aria-label')))
const clickStage = async (x: number, y: number) => page.getByTestId('stage').click({ position: { x, y } })

describe.sequential('a first voyage', () => {
  it('starts on the stage at once; its name, size and length are set there', async () => {
    await page.goto(server.address)
    await page.getByTestId('new-journey').click()
    await page.waitForURL(/\/journeys\/.+/)
    await page.getByTestId('stage-canvas').waitFor()
    await page.getByTestId('journey-name').fill('To the island')
    await page.getByTestId('length').getByRole('textbox').fill('6')
    await page.keyboard.press('Enter')
    await page.getByLabel('Size', { exact: true }).click({ force: true })
    await page.getByRole('option', { name: /720p/ }).click()
    await page.getByText('180 frames').waitFor()
    await saved(page)
    // The next journey begins with the frame that was chosen last.
    expect(await page.evaluate(() => JSON.parse(localStorage.getItem('zephyrine-frame')!))).toEqual({
      width: 1280,
      height: 720,
      rate: '30/1',
    })
  })

  it('lays a map by the button, and tells how far one can zoom', async () => {
    const chooser = page.waitForEvent('filechooser')
    await page.getByTestId('choose-picture').click()
    await (await chooser).setFiles(join(folder, 'island.png'))
    await page.getByTestId('choose-picture').waitFor({ state: 'detached' })
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByText('1.88 sheet pixels for each pixel of the film').waitFor()
    await saved(page)
  })

  it('places three stops by clicking, with legs between them', async () => {
    // It is taken up as soon as there is a map, and pressing it takes it up all the same.
    const tool = page.getByRole('button', { name: 'Place stops' }).first()
    await tool.click()
    await tool.click()
    expect(await tool.getAttribute('aria-pressed')).toBe('true')
    for (const [x, y] of [
      [200, 420],
      [480, 200],
      [760, 380],
    ] as const) {
      await clickStage(x, y)
    }
    expect(await stopNames()).toEqual(['Stop 1: Stop 1', 'Stop 2: Stop 2', 'Stop 3: Stop 3'])
    // The first leaves the name of the new stop, the second the tool.
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    await page.getByTestId('stop-handle').nth(2).click()
    await page.getByTestId('stop-name').locator('input').fill('Lighthouse')
    expect(await page.getByRole('button', { name: /^Leg \d, .* seconds, automatic/ }).count()).toBe(2)
  })

  it('gives a leg a vehicle and bends it', async () => {
    const leg = page.getByRole('button', { name: /^Leg 1,/ })
    await leg.click({ position: { x: 20, y: 6 } })
    // The first trip does not go without one.
    expect(await page.getByRole('radio', { name: 'Seaplane' }).getAttribute('aria-checked')).toBe('true')
    await page.getByRole('radio', { name: 'Sailing boat' }).click()
    expect(await page.getByRole('radio', { name: 'Sailing boat' }).getAttribute('aria-checked')).toBe('true')
    const bend = page.locator('[data-testid^="bend-"]').first()
    const box = (await bend.boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x - 60, box.y - 60, { steps: 5 })
    await page.mouse.up()
    expect(await page.getByRole('radio', { name: 'Bowed' }).getAttribute('aria-checked')).toBe('true')
    await saved(page)
  })

  it('plays: time runs, and stops at the last frame', async () => {
    await page.getByTestId('play').click()
    await page.waitForFunction(() => document.querySelector('[data-testid="timecode"]')?.textContent === '00:00:05:29', undefined, {
      timeout: 30_000,
    })
    await page.getByRole('button', { name: 'Play', exact: true }).waitFor()
    await painted(page)
  })

  it('exports an MP4 with progress, and downloads it', async () => {
    await page.getByTestId('export').click()
    await page.getByTestId('start-export').click()
    await page.getByTestId('export-progress').waitFor()
    await page.getByTestId('export-done').waitFor({ timeout: 60_000 })
    const coming = page.waitForEvent('download')
    await page.getByTestId('download').click()
    const download = await coming
    expect(download.suggestedFilename()).toBe('To the island.mp4')
    const path = join(folder, 'download.mp4')
    await download.saveAs(path)
    expect(probe(path)).toMatchObject({ codec_name: 'h264', width: 1280, height: 720, r_frame_rate: '30/1', nb_read_frames: '180' })
    await page.getByRole('button', { name: 'Close' }).click()
  })

  it('is all there after a reload and after a restart of the server', async () => {
    for (const again of [() => page.reload(), () => server.restart().then(() => page.reload())]) {
      await again()
      await page.getByTestId('stage-canvas').waitFor()
      expect(await stopNames()).toEqual(['Stop 1: Stop 1', 'Stop 2: Stop 2', 'Stop 3: Lighthouse'])
      await page.getByRole('button', { name: /^Leg 1,/ }).click({ position: { x: 20, y: 6 } })
      expect(await page.getByRole('radio', { name: 'Sailing boat' }).getAttribute('aria-checked')).toBe('true')
      expect(await page.getByRole('radio', { name: 'Bowed' }).getAttribute('aria-checked')).toBe('true')
      expect(await timecode()).toBe('00:00:00:00')
    }
    await page.getByTestId('export').click()
    await page.getByText('180 frames, ').waitFor()
    await page.getByRole('button', { name: 'Close' }).click()
  })

  it('refuses a file that is no picture, says why, and loses nothing', async () => {
    writeFileSync(join(folder, 'letter.png'), 'Dear friends')
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    const chooser = page.waitForEvent('filechooser')
    await page.getByTestId('replace-sheet').click()
    await (await chooser).setFiles(join(folder, 'letter.png'))
    await page.getByText('“letter.png” is not a PNG, JPEG').waitFor()
    expect(await stopNames()).toHaveLength(3)
    expect(await page.getByText('2400 × 1350 pixels').count()).toBe(1)
  })

  it('takes a map that is dropped on the stage', async () => {
    const bytes = readFileSync(join(folder, 'island.png')).toString('base64')
    await page.evaluate((base64) => {
      const data = new DataTransfer()
      const picture = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0))
      data.items.add(new File([picture], 'dropped.png', { type: 'image/png' }))
      const target = document.querySelector('[data-testid="stage"]')!
      for (const type of ['dragenter', 'dragover', 'drop'])
        target.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data }))
    }, bytes)
    await page.getByText('“dropped” is ready').waitFor()
    await page.getByLabel('Replace another map with it').check()
    await page.getByTestId('settle-sheet').click()
    await page.waitForFunction(() => document.querySelector<HTMLInputElement>('.details .name input')?.value === 'dropped')
    await saved(page)
  })

  it('went without an error in the page', () => expect(errors).toEqual([]))
})
