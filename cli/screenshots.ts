/** Takes the pictures in docs/screenshots anew, from the demo in the built application: `npm run screenshots`. */
import { mkdirSync, writeFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { paintStill } from '#render/still'
import { freshDemo } from '#demo/seed'
import sharp from 'sharp'
import { launchBrowser, openEditor, openPage, painted } from '../tests/support/browser'
import { startServer } from '../tests/support/server'

const OUT = 'docs/screenshots'
mkdirSync(OUT, { recursive: true })

const server = await startServer()
const browser = await launchBrowser()
const { page } = await openPage(browser)

async function shot(name: string, view: Page = page): Promise<void> {
  // Tooltips and transitions come to rest first.
  await view.mouse.move(640, 660)
  await view.waitForTimeout(700)
  const picture = await view.screenshot()
  writeFileSync(`${OUT}/${name}.png`, await sharp(picture).png({ palette: true, quality: 90, effort: 9 }).toBuffer())
}
const scrubTo = async (x: number) => {
  await page.getByTestId('pace-strip').click({ position: { x, y: 8 } })
  await painted(page)
}

try {
  await page.goto(server.address)
  await page.getByTestId('journey-card').waitFor()
  await shot('journeys')
  await page.getByTestId('new-journey').click()
  await shot('new-journey')
  await openEditor(page, server.address, 'demo')
  await scrubTo(960)
  await shot('editor-lens')
  await page.keyboard.press('t')
  await painted(page)
  await shot('editor-table')
  await page.keyboard.press('t')
  await page.getByTestId('stop-handle').nth(3).click()
  await shot('stop-details')
  await page.getByTestId('bend-seaplane').click()
  await shot('leg-details')
  await page.getByRole('button', { name: 'Sheet', exact: true }).click()
  await page.getByRole('radio', { name: 'Night ink' }).click()
  await painted(page)
  await shot('sheet-wash')
  await page.getByRole('radio', { name: 'As it is' }).click()
  await painted(page)
  await page.getByLabel('Night theme').click()
  await page.getByRole('button', { name: 'Journey', exact: true }).click()
  await shot('editor-night')
  await page.getByLabel('Day theme').click()
  await page.getByTestId('export').click()
  await page.getByTestId('start-export').click()
  await page.waitForFunction(
    () => Number(/Frame (\d+)/.exec(document.querySelector('[data-testid="export-progress"]')?.textContent ?? '')?.[1] ?? 0) > 90,
  )
  await shot('export')
  await page.getByTestId('cancel-export').click()
} finally {
  await browser.close()
  await server.stop()
}

const { journey, folder } = await freshDemo()
const frame = await paintStill(folder, journey, 19.2, 1280)
writeFileSync(
  `${OUT}/film-frame.png`,
  await sharp(await frame.png())
    .png({ palette: true, quality: 90, effort: 9 })
    .toBuffer(),
)
