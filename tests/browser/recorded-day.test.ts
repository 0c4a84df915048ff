import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { zipSync } from 'fflate'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { useDemoPage } from '../support/demo-page'
import { dropOn } from '../support/drop'

const demo = useDemoPage()
const folder = mkdtempSync(join(tmpdir(), 'zephyrine-day-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** An invented walk by a real lake in Japan, whose clocks are nine hours ahead: 20 000 points, a second each, and two pauses of twenty minutes. */
const BEGAN = Date.UTC(2026, 4, 11, 23, 30)
const WALK = (() => {
  const points: { lon: number; lat: number; height: number; time: number }[] = []
  let time = BEGAN
  for (let i = 0; i < 20_000; i++) {
    const turn = (1.8 * Math.PI * i) / 20_000
    const point = { lon: 139.015 + 0.03 * Math.cos(turn), lat: 35.215 + 0.022 * Math.sin(turn), height: 730 + 200 * Math.sin(turn) }
    points.push({ ...point, time })
    time += 1000
    if (i === 6000 || i === 13_000) for (let k = 0; k < 100; k++, time += 12_000) points.push({ ...point, time })
  }
  return points
})()

const gpx = (points: typeof WALK) =>
  `<?xml version="1.0"?><gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>${points
    .map(
      ({ lon, lat, height, time }) =>
        `<trkpt lat="${lat.toFixed(6)}" lon="${lon.toFixed(6)}"><ele>${height.toFixed(1)}</ele><time>${new Date(time).toISOString()}</time></trkpt>`,
    )
    .join('')}</trkseg></trk></gpx>`

/** A photo whose camera shows the time in Japan, and does not say so; with the place or without. */
async function photo(name: string, i: number, hasPlace: boolean): Promise<string> {
  const { lon, lat, time } = WALK[i]!
  const clock = new Date(time + 9 * 3_600_000).toISOString().slice(0, 19).replaceAll('-', ':').replace('T', ' ')
  const degrees = (value: number) => `${Math.floor(value)}/1 ${Math.round((value % 1) * 60e4)}/10000 0/1`
  const place = { IFD3: { GPSLatitudeRef: 'N', GPSLatitude: degrees(lat), GPSLongitudeRef: 'E', GPSLongitude: degrees(lon) } }
  const path = join(folder, name)
  await sharp({ create: { width: 120, height: 90, channels: 3, background: '#86a' } })
    .withExif({ IFD0: { Make: 'Made up' }, IFD2: { DateTimeOriginal: clock }, ...(hasPlace ? place : {}) })
    .jpeg()
    .toFile(path)
  return path
}

const path = (name: string, text: string | Uint8Array) => {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}

let track = ''
let photos: string[] = []
beforeAll(async () => {
  track = path('lake.gpx', gpx(WALK))
  photos = await Promise.all([photo('a.jpg', 3000, true), photo('b.jpg', 9000, true), photo('c.jpg', 15_000, false), photo('d.jpg', 19_500, false)]) // prettier-ignore
})

const list = async () => {
  await demo.page.goto(`${demo.address}/`)
  await demo.page.getByTestId('record-day').waitFor()
}
async function choose(files: readonly string[]) {
  const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), demo.page.getByTestId('choose-day').click()])
  await chooser.setFiles([...files])
}
const made = async () => {
  await demo.page.getByTestId('make-day').click()
  await demo.page.waitForURL(/\/journeys\//)
  demo.id = demo.page.url().split('/').at(-1)!
  await demo.page.getByTestId('stage-canvas').waitFor()
  return demo.stored()
}

describe('a film of a day', () => {
  it('is made of a track and photos in three clicks, and plays', async () => {
    await list()
    const { page } = demo
    await page.evaluate(() => {
      const counted = window as unknown as { clicks: number }
      counted.clicks = 0
      window.addEventListener('click', ({ isTrusted }) => (counted.clicks += isTrusted ? 1 : 0), { capture: true })
    })
    await page.getByTestId('record-day').click()
    await choose([track, ...photos])
    // 0.9 of an ellipse with half axes of 2.73 and 2.44 km, by Ramanujan's formula 16.26 km round.
    const said = await page.getByTestId('day-track').textContent()
    expect(Number.parseFloat(said!)).toBeCloseTo(14.6, 0)
    expect(said).toMatch(/km, 6 h 1[23] min, 2 pauses, with heights/)
    await page.getByText('4 photos are shown where they were taken.').waitFor()
    // The two that say where they were taken tell that the camera's clock is nine hours ahead of UTC, which is this machine's zone in tests.
    await page.getByText('estimated from 2 photos that say both where and when').waitFor()
    const journey = await made()
    expect(await page.evaluate(() => (window as unknown as { clicks: number }).clicks)).toBeLessThanOrEqual(3)
    const { visits, legs } = journey.travellers[0]!
    // The ends, two rests and four photos.
    expect(visits).toHaveLength(8)
    expect(legs.every(({ course, easing }) => course.kind === 'track' && easing === 'recorded')).toBe(true)
    expect(journey.stops.filter(({ postcards }) => postcards.length === 1)).toHaveLength(4)
    // Half past eight in the morning in Japan is the day after in UTC.
    expect(visits[0]!.date).toBe('2026-05-12')
    expect(journey.sheets[0]).toMatchObject({ drawn: { style: 'atlas' } })
    await page.keyboard.press('Space')
    await expect.poll(() => page.getByRole('button', { name: /Pause/ }).count()).toBeGreaterThan(0)
  })

  it('asks for the camera’s clock where no photo tells it', async () => {
    await list()
    await demo.page.getByTestId('record-day').click()
    await choose([track, photos[2]!, photos[3]!])
    await demo.page.getByText('2 photos say only when').waitFor()
    // As if it were set to UTC they were taken nine hours after the walk.
    await demo.page.getByText('2 photos without a place or a fitting time are left out.').waitFor()
    for (let k = 0; k < 9; k++) await demo.page.getByRole('button', { name: '1 h earlier' }).click()
    await demo.page.getByText('2 photos are shown where they were taken.').waitFor()
    await demo.page.getByTestId('day-title').locator('input').fill('By the lake')
    // Imagery with pixels of 10 km is not offered for a day's walk.
    expect(await demo.page.getByRole('radio', { name: 'By day' }).count()).toBe(0)
    await demo.page.getByRole('radio', { name: 'Ink drawing' }).click()
    const { name, stops, sheets } = await made()
    expect(name).toBe('By the lake')
    expect(sheets[0]!.drawn!.style).toBe('ink')
    expect(stops.filter(({ postcards }) => postcards.length > 0)).toHaveLength(2)
    // The style that was chosen last is chosen already the next time.
    await list()
    await demo.page.getByTestId('record-day').click()
    await choose([track])
    await demo.page.getByTestId('day-track').waitFor()
    expect(await demo.page.getByRole('radio', { name: 'Ink drawing' }).getAttribute('aria-checked')).toBe('true')
  })

  it('is made of photos in a ZIP file alone, named after where they were taken', async () => {
    await list()
    const zip = zipSync({
      'day/a.jpg': new Uint8Array(readFileSync(photos[0]!)),
      'day/b.jpg': new Uint8Array(readFileSync(photos[1]!)),
      'day/notes.txt': new Uint8Array([65]),
      '__MACOSX/day/._a.jpg': new Uint8Array([1, 2]),
    })
    await demo.page.getByTestId('record-day').click()
    await choose([path('day.zip', zip)])
    await demo.page.getByText('2 photos are shown where they were taken.').waitFor()
    const journey = await made()
    expect(journey.name).toMatch(/^Around [A-Z]/)
    // Almost five km apart: further than one is taken to walk from photo to photo.
    expect(journey.travellers[0]!.legs[0]!.vehicle).toMatchObject({ artwork: 'hatchback' })
    expect(journey.stops.map(({ postcards }) => postcards.length)).toEqual([1, 1])
  })

  it('takes what is dropped on the list, and says what it cannot use', async () => {
    await list()
    const short = gpx(WALK.slice(0, 400))
    await dropOn(
      demo.page,
      { name: 'walk.gpx', bytes: short },
      { name: 'notes.txt', bytes: 'A' },
      { name: 'broken.gpx', bytes: '<gpx><trk><trkseg><trkpt lat="1" lon="2"></trkseg></trk></gpx>' },
    )
    await demo.page.getByText('Neither a track nor a photo: “notes.txt”.').waitFor()
    await demo.page.getByText(/“broken.gpx” is not well-formed \(line 1\)/).waitFor()
    await demo.page.getByTestId('day-track').waitFor()
    expect(await demo.page.getByTestId('make-day').isEnabled()).toBe(true)
    await demo.page.getByRole('button', { name: 'Cancel' }).click()
    await dropOn(demo.page, { name: 'plain.jpg', bytes: 'no photo' })
    await demo.page.getByText('None of the photos says where it was taken').waitFor()
    expect(await demo.page.getByTestId('make-day').isEnabled()).toBe(false)
    await demo.page.getByRole('button', { name: 'Cancel' }).click()
    await dropOn(demo.page, { name: 'day.zip', bytes: 'PK no zip' })
    await demo.page.getByText('“day.zip” is no ZIP file that can be read.').waitFor()
  })

  it('offers to read a track whose latitudes and longitudes are swapped', async () => {
    await list()
    const swapped = WALK.slice(0, 400).map(({ lon, lat, ...rest }) => ({ lon: lat, lat: lon, ...rest }))
    await demo.page.getByTestId('record-day').click()
    await choose([path('swapped.gpx', gpx(swapped))])
    await demo.page.getByRole('button', { name: 'Read it with latitude and longitude swapped' }).click()
    await demo.page.getByTestId('day-track').waitFor()
  })
})
