/** The main views against WCAG 2.2 AA, as far as a machine can tell: axe-core, in both themes. */
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'
import type { AxeResults } from 'axe-core'
import type { Browser, Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startStandIn } from '#demo/stand-in/service'
import { openEditor, openPage, saved } from '../support/browser'
import type { TestServer } from '../support/server'
import { sharedBrowser, startServer } from '../support/shared'

let server: TestServer
let standIn: Awaited<ReturnType<typeof startStandIn>>
let browser: Browser
let page: Page
let theme: 'day' | 'night'
const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

beforeAll(async () => {
  server = await startServer()
  standIn = await startStandIn(0)
  browser = await sharedBrowser()
  ;({ page } = await openPage(browser))
  await page.emulateMedia({ reducedMotion: 'reduce' })
})
afterAll(async () => {
  await browser.close()
  standIn.server.closeAllConnections()
  standIn.server.close()
  await server.stop()
})

/** What axe finds wrong: rule, and the elements it is about. Vuetify's tooltips are empty elements until they are shown, and left out. */
async function violations(): Promise<string[]> {
  // In the other theme only colours are different.
  const rules = theme === 'day' ? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] : ['color-contrast']
  await page.waitForTimeout(400)
  await page.evaluate(axe)
  const results = await page.evaluate<AxeResults>(`axe.run({ exclude: ['.v-tooltip'] }, { runOnly: ${JSON.stringify(rules)} })`)
  return results.violations.flatMap((rule) => rule.nodes.map((node) => `${rule.id}: ${node.target.join(' ')} ${node.failureSummary ?? ''}`))
}

describe.each(['day', 'night'] as const)('in the %s theme', (name) => {
  beforeAll(async () => {
    theme = name
    await page.goto(server.address)
    await page.evaluate((chosen) => localStorage.setItem('zephyrine-theme', chosen), name)
  })

  it('the journeys page and its dialog', async () => {
    await page.goto(server.address)
    await page.getByTestId('journey-card').waitFor()
    expect(await violations()).toEqual([])
    await page.getByTestId('storage').click()
    await page.getByRole('dialog').waitFor()
    expect(await violations()).toEqual([])
    await page.keyboard.press('Escape')
    await page.getByTestId('write-trip').click()
    await page.getByTestId('trip-text').locator('textarea').first().fill('31 June Lisbon\nby llama to Springfield\nQwxzyvut')
    await page.getByTestId('trip-option').first().waitFor()
    expect(await violations()).toEqual([])
  })

  it('the editor with each of its details', async () => {
    await openEditor(page, server.address, 'demo')
    expect(await violations()).toEqual([])
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    const folded = page.locator('.folded .head[aria-expanded="false"]')
    while ((await folded.count()) > 0) await folded.first().click()
    await page.getByTestId('residuals').waitFor()
    expect(await violations()).toEqual([])
    await page.keyboard.press('/')
    await page.getByRole('combobox', { name: 'Find a place' }).fill('lond')
    await page.getByRole('option').first().waitFor()
    expect(await violations()).toEqual([])
    await page.getByRole('button', { name: 'Select and move' }).click()
    // At twelve seconds the camera shows all of the Isles.
    await page.getByTestId('pace-strip').click({ position: { x: 620, y: 8 } })
    await page.getByTestId('stop-handle').nth(2).click()
    expect(await violations()).toEqual([])
    await page.getByTestId('bend-seaplane').click()
    expect(await violations()).toEqual([])
    await page.getByTestId('add-ink').click()
    await page.getByTestId('ink-layer').first().waitFor()
    await page.getByTestId('add-value').click()
    expect(await violations()).toEqual([])
    await page
      .getByRole('listitem')
      .filter({ hasText: /^Line width$/ })
      .click()
    await page.getByTestId('value-to').waitFor()
    expect(await violations()).toEqual([])
    await page.keyboard.press('Control+a')
    await page.getByTestId('together-turn').waitFor()
    expect(await violations()).toEqual([])
    // As it was, for the other theme.
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z')
    await saved(page)
    await page
      .getByTestId('pace-shot')
      .first()
      .click({ position: { x: 60, y: 8 } })
    await page.getByTestId('shot-transition').waitFor()
    expect(await violations()).toEqual([])
  })

  it('the dialog of tile services', async () => {
    await openEditor(page, server.address, 'demo')
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByTestId('add-sheet').click()
    await page.getByTestId('add-tiles').click()
    await page.getByTestId('service-address').locator('input').fill(`${standIn.root}/wmts`)
    expect(await violations()).toEqual([])
    await page.keyboard.press('Enter')
    await page.getByTestId('service-author').locator('input').fill('Zephyrine')
    await page.getByTestId('service-licence').locator('input').fill('CC0 1.0')
    await page.getByAltText('A part of the map at its finest level').waitFor()
    await page.getByTestId('sharp-region').locator('input').click()
    await page.locator('.stale').first().waitFor({ state: 'detached' })
    expect(await violations()).toEqual([])
    await page.keyboard.press('Escape')
  })

  it('the ways of drawing', async () => {
    await openEditor(page, server.address, 'demo')
    await page.getByRole('button', { name: 'Leg 2', exact: true }).click()
    await page.keyboard.press('p')
    await page.getByText(/^Found: /).waitFor()
    expect(await violations()).toEqual([])
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    const gpx = '<gpx><trk><trkseg><trkpt lat="-38.5" lon="84.3"/><trkpt lat="-38.6" lon="84.5"/></trkseg></trk></gpx>'
    const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('open-track').click()])
    await chooser.setFiles({ name: 'walk.gpx', mimeType: 'application/gpx+xml', buffer: Buffer.from(gpx) })
    await page.getByTestId('track-kept').getByText('2 points left').waitFor()
    expect(await violations()).toEqual([])
    await page.getByTestId('lay-track').click()
    await page.getByTestId('traveller').nth(1).waitFor()
    expect(await violations()).toEqual([])
    await page.keyboard.press('Control+z')
  })

  it('the dialogs of the sheets', async () => {
    await openEditor(page, server.address, 'demo')
    await page.getByRole('button', { name: 'Credits …' }).click()
    await page.getByTestId('credits-text').waitFor()
    expect(await violations()).toEqual([])
    await page.getByRole('button', { name: 'Close' }).click()
    await page.getByRole('button', { name: 'Sheet', exact: true }).click()
    await page.getByTestId('add-sheet').click()
    await page.getByText('Generate one …').click()
    await page.getByTestId('map-preview').waitFor()
    expect(await violations()).toEqual([])
    await page.getByRole('button', { name: 'Cancel' }).click()
  })

  it('the export dialog and the sheet of keys', async () => {
    await page.getByTestId('export').click()
    await page.getByTestId('start-export').waitFor()
    expect(await violations()).toEqual([])
    await page.getByRole('button', { name: 'Close' }).click()
    await page.keyboard.press('?')
    await page.getByRole('heading', { name: 'Keys' }).waitFor()
    expect(await violations()).toEqual([])
    await page.getByRole('button', { name: 'Close' }).click()
  })
})
