/** Retakes the pictures in docs/screenshots from the demo in the built application: `npm run screenshots`. */
import { mkdirSync, writeFileSync } from 'node:fs'
import type { Page } from 'playwright-core'
import { paintStill } from '#render/still'
import { groundGeo } from '#core/geo/ground'
import type { LonLat } from '#core/geo/lon-lat'
import { pointAt } from '#core/geometry/course'
import { roadCourses } from '#demo/courses'
import { DEMO_IDS, freshDemo, seedDemos } from '#demo/seed'
import { startStandIn } from '#demo/stand-in/service'
import { setWash } from '#core/edits/ground/sheets'
import { WASH_PRESETS } from '#core/sheet/wash'
import sharp from 'sharp'
import { launchBrowser, openEditor, openPage, painted } from '../../tests/support/browser'
import { serve, temporaryFolder } from '../../tests/support/server'
import { openDatabase } from '../../server/storage/database'

const OUT = 'docs/screenshots'
mkdirSync(OUT, { recursive: true })

const walkOn = await freshDemo()
const data = temporaryFolder()
const db = openDatabase(data)
await seedDemos(db, data)
db.close()
const server = await serve(data)
const standIn = await startStandIn(0)
const browser = await launchBrowser()
const { page } = await openPage(browser, true)

async function shot(name: string, view: Page = page): Promise<void> {
  // Let tooltips and transitions finish first.
  await view.mouse.move(640, 660)
  await view.waitForTimeout(700)
  const picture = await view.screenshot()
  writeFileSync(`${OUT}/${name}.png`, await sharp(picture).png({ palette: true, quality: 90, effort: 9 }).toBuffer())
}
const scrubTo = async (x: number) => {
  await page.getByTestId('pace-strip').click({ position: { x, y: 8 } })
  await painted(page)
}

/** A made-up walk: along the ring road of Saltern's island and over its hill, with a marked place. */
function walkRoundSaltern(): string {
  const geo = groundGeo(walkOn.journey)!
  const spots = roadCourses()
    .slice(-3, -1)
    .flatMap((course) => Array.from({ length: 120 }, (_, i) => pointAt(course, (course.length * i) / 119)))
  const points = [...spots.slice(0, 120), ...spots.slice(120).reverse().slice(0, 90)].map((p) => geo.toLonLat(p)!)
  const at = ({ lon, lat }: LonLat) => `lat="${lat.toFixed(6)}" lon="${lon.toFixed(6)}"`
  const time = (i: number) => new Date(Date.UTC(2026, 5, 3, 8) + i * 45_000).toISOString()
  const trackPoints = points.map((p, i) => `<trkpt ${at(p)}><time>${time(i)}</time></trkpt>`).join('')
  const mark = `<wpt ${at(points[119]!)}><name>Thatchley</name></wpt>`
  return `<gpx version="1.1" creator="Zephyrine" xmlns="http://www.topografix.com/GPX/1/1">${mark}<trk><trkseg>${trackPoints}</trkseg></trk></gpx>`
}

try {
  await page.goto(server.address)
  for (let i = 0; i < DEMO_IDS.length; i++) await page.getByTestId('journey-card').nth(i).locator('img').waitFor({ timeout: 60_000 })
  await shot('journeys')
  await page.getByTestId('record-day').click()
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('choose-day').click()])
  await chooser.setFiles({ name: 'walk-round-saltern.gpx', mimeType: 'application/gpx+xml', buffer: Buffer.from(walkRoundSaltern()) })
  await page.getByTestId('day-track').waitFor()
  await page.getByTestId('day-title').locator('input').fill('A walk round Saltern')
  await page.waitForTimeout(500)
  await shot('film-of-a-day')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await page.getByTestId('write-trip').click()
  await page
    .getByTestId('trip-text')
    .locator('textarea')
    .first()
    .fill('12 May: Lisbon\nby train to Madrid, 2 nights\nfly to Marrakesh: the old town\ndrive to Essaouira')
  await page.getByTestId('trip-place').nth(3).waitFor()
  await shot('write-a-trip')
  await page.keyboard.press('Escape')
  await openEditor(page, server.address, 'demo')
  await scrubTo(960)
  await shot('editor-lens')
  await page.keyboard.press('t')
  await painted(page)
  await shot('editor-table')
  await page.keyboard.press('t')
  await page
    .getByTestId('pace-shot')
    .nth(1)
    .click({ position: { x: 60, y: 8 } })
  await painted(page)
  await shot('shot-details')
  // The whole sheet is in view then.
  await scrubTo(600)
  await page.getByTestId('stop-handle').nth(3).click()
  await page.getByRole('radiogroup', { name: 'Ready-made letters' }).locator('img').last().waitFor()
  await page.getByTestId('typeface').scrollIntoViewIfNeeded()
  await shot('stop-details')
  await page.getByTestId('stop-handle').nth(4).click()
  await page.getByTestId('show-postcard').click()
  await page.getByTestId('postcard-words').scrollIntoViewIfNeeded()
  await shot('postcard')
  await scrubTo(600)
  await page.getByTestId('bend-seaplane').click()
  await shot('leg-details')
  await page.keyboard.press('d')
  const stage = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.click(stage.x + 590, stage.y + 400)
  await page.mouse.move(stage.x + 760, stage.y + 370)
  await page.mouse.down()
  await page.mouse.move(stage.x + 820, stage.y + 330, { steps: 4 })
  await page.mouse.up()
  await page.mouse.move(stage.x + 860, stage.y + 250)
  await page.waitForTimeout(500)
  writeFileSync(
    `${OUT}/draw-a-leg.png`,
    await sharp(await page.screenshot())
      .png({ palette: true, quality: 90, effort: 9 })
      .toBuffer(),
  )
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Select and move' }).click()
  await page.getByRole('button', { name: 'Journey', exact: true }).click()
  await page.getByRole('button', { name: 'Leg 1', exact: true }).click()
  await page.keyboard.press('p')
  await page.getByText(/^Found: /).waitFor()
  await shot('along-the-picture')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  const [opened] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('open-track').click()])
  await opened.setFiles({ name: 'walk-round-saltern.gpx', mimeType: 'application/gpx+xml', buffer: Buffer.from(walkRoundSaltern()) })
  await page
    .getByTestId('track-kept')
    .getByText(/points left/)
    .waitFor()
  await page.getByTestId('lay-track').click()
  await page.getByTestId('traveller').nth(1).waitFor()
  await page.getByTestId('traveller-name').locator('input').fill('Wren')
  await page.getByRole('button', { name: /^Colour #c9962b/ }).click()
  await painted(page)
  for (const part of ['travellers', 'lanes', 'graphs']) await page.getByTestId(`strip-${part}`).click()
  await page.getByRole('separator', { name: 'Height of the pace strip' }).focus()
  for (let i = 0; i < 15; i++) await page.keyboard.press('ArrowUp')
  await page.evaluate(() => (document.activeElement as HTMLElement).blur())
  await page.getByTestId('graphs').waitFor()
  await page.getByTestId('pace-strip').evaluate((strip) => strip.scrollTo({ top: 0 }))
  await shot('pace')
  await page.getByRole('separator', { name: 'Height of the pace strip' }).focus()
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  for (const part of ['travellers', 'lanes', 'graphs']) await page.getByTestId(`strip-${part}`).click()
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z')
  await painted(page)
  await page.getByRole('button', { name: 'Sheet', exact: true }).click()
  await page.getByRole('button', { name: /Georeference/ }).click()
  await page.getByTestId('residuals').scrollIntoViewIfNeeded()
  await shot('sheet-earth')
  await page.getByTestId('add-sheet').click()
  await page.getByText('Generate one …').click()
  await page.getByTestId('map-preview').waitFor()
  await page.getByTestId('map-country').locator('input').fill('Icel')
  await page.getByRole('option', { name: 'Iceland' }).click()
  await page.getByRole('radio', { name: 'Ink drawing' }).click()
  await page.locator('[aria-busy="true"]').waitFor()
  await page.getByTestId('map-preview').waitFor()
  await shot('draw-a-map')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await page.getByTestId('add-sheet').click()
  await page.getByTestId('add-tiles').click()
  await page.getByTestId('service-address').locator('input').fill(`${standIn.root}/tiles.json`)
  await page.keyboard.press('Enter')
  await page.getByTestId('service-author').locator('input').fill('Zephyrine')
  await page.getByTestId('service-licence').locator('input').fill('CC0 1.0')
  await page.getByAltText('A part of the map at its finest level').waitFor()
  await page.locator('.stale').waitFor({ state: 'detached' })
  await shot('tile-service')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await page.getByRole('button', { name: 'Select and move' }).click()
  await page.getByLabel('Night theme').click()
  await page.getByRole('button', { name: 'Journey', exact: true }).click()
  await page.getByRole('button', { name: /^Looks/ }).click()
  await page.getByTestId('look-lamplight').locator('img').waitFor()
  await page.getByTestId('look-chart-table').scrollIntoViewIfNeeded()
  await shot('editor-night')
  await page.getByLabel('Day theme').click()
  await page.getByTestId('export').click()
  await page.getByTestId('film-format').click()
  await page.getByRole('option', { name: 'WebM (VP9)' }).click()
  await page.getByRole('radio', { name: 'Without map' }).click()
  await page.getByTestId('film-estimate').getByText('about').waitFor()
  await shot('export')
} finally {
  await browser.close()
  standIn.server.close()
  await server.stop()
}

const { journey, folder } = await freshDemo()
/** A frame of the film in each of the ready-made washes, on one picture. */
async function washes(): Promise<void> {
  const [columns, width, height, gap] = [3, 420, 236, 6]
  const looks = await Promise.all(
    WASH_PRESETS.slice(1).map(async ({ wash }, i) => {
      const still = await paintStill(folder, setWash(journey, 'isles', wash), 17, 1280)
      const input = await sharp(await still.png())
        .resize(width, height)
        .png()
        .toBuffer()
      return { input, left: (i % columns) * (width + gap), top: Math.floor(i / columns) * (height + gap) }
    }),
  )
  const rows = Math.ceil(looks.length / columns)
  const size = { width: columns * (width + gap) - gap, height: rows * (height + gap) - gap }
  await sharp({ create: { ...size, channels: 3, background: '#fbf6ea' } })
    .composite(looks)
    .webp({ quality: 82 })
    .toFile(`${OUT}/washes.webp`)
}
await washes()

const frame = await paintStill(folder, journey, 19.2, 1280)
writeFileSync(
  `${OUT}/film-frame.png`,
  await sharp(await frame.png())
    .png({ palette: true, quality: 90, effort: 9 })
    .toBuffer(),
)
