/** Recorded tracks, networks and great circles in a real browser. The tracks are made up. */
import { readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { groundGeo } from '#core/geo/ground'
import { courseOf } from '#core/geometry/course'
import { distance } from '#core/geometry/point'
import { legCourse, legCubics } from '#core/edits/lines/courses'
import { countIn } from '#core/journey/track-line'
import { TOWNS } from '#demo/places'
import { useDemoPage } from '../support/demo-page'
import { shareOnRoads } from '../support/isles'
import { temporaryFolder } from '../support/server'

const demo = useDemoPage()
const { stored, clickAt, selectLeg } = demo
const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const gpx = (points: readonly (readonly [lon: number, lat: number])[], waypoint = '') =>
  `<?xml version="1.0"?><gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1">${waypoint}<trk><trkseg>${points
    .map(
      ([lon, lat], i) => `<trkpt lat="${lat}" lon="${lon}"><time>${new Date(1_790_000_000_000 + i * 20_000).toISOString()}</time></trkpt>`,
    )
    .join('')}</trkseg></trk></gpx>`
/** From Harrowmere by way of a mill to Quillhaven. */
const WALK = Array.from(
  { length: 500 },
  (_, i) => [84.259 + (0.382 * i) / 499 + 0.003 * Math.sin(i / 9), -38.452 - (0.31 * i) / 499] as const,
)
const MILL = `<wpt lat="${WALK[250]![1]}" lon="${WALK[250]![0]}"><name>Gull Mill</name></wpt>`

async function open(name: string, text: string) {
  const path = join(folder, name)
  writeFileSync(path, text)
  const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), demo.page.getByTestId('open-track').click()])
  await chooser.setFiles(path)
}

describe('a recorded track', () => {
  it('becomes the trip of another traveller, who stops where it was marked and meets the first where they meet', async () => {
    await open('walk.gpx', gpx(WALK, MILL))
    await demo.page.getByText('1 marked place becomes a stop').waitFor()
    expect(await demo.page.getByTestId('track-facts').innerText()).toMatch(/500 points, [\d.]+ km, 2 h 46 min/)
    await demo.page.getByTestId('lay-track').click()
    await demo.page.getByTestId('traveller').nth(1).waitFor()
    const journey = await stored()
    const walker = journey.travellers[1]!
    expect(walker.visits.map(({ stop }) => journey.stops.find(({ id }) => id === stop)!.name)).toEqual([
      'Harrowmere',
      'Gull Mill',
      'Quillhaven',
    ])
    expect(walker.legs.map(({ course, easing }) => [course.kind, easing])).toEqual([
      ['track', 'recorded'],
      ['track', 'recorded'],
    ])
    await demo.page.keyboard.press('Control+z')
    expect((await stored()).travellers).toHaveLength(1)
  })

  it('is simplified to as few points as are wanted, and trimmed', async () => {
    await open('walk.gpx', gpx(WALK))
    await demo.page.getByTestId('track-kept').getByText('500 points left').waitFor()
    const slider = demo.page.getByTestId('track-simplify').getByRole('slider')
    await slider.focus()
    for (let i = 0; i < 24; i++) await slider.press('ArrowRight')
    await demo.page
      .getByTestId('track-kept')
      .getByText(/To 20 m: \d+ points left/)
      .waitFor()
    await demo.page.getByTestId('lay-track').click()
    await demo.page.getByTestId('traveller').nth(1).waitFor()
    const { course } = (await stored()).travellers[1]!.legs[0]!
    expect(course.kind === 'track' && countIn(course.points)).toBeLessThan(300)
  })

  it('becomes the course of the selected leg', async () => {
    await selectLeg(1)
    await demo.page.getByRole('button', { name: 'Journey', exact: true }).click()
    await selectLeg(1)
    const path = join(folder, 'leg.gpx')
    writeFileSync(path, gpx(WALK))
    // It is dropped on the stage.
    const transfer = await demo.page.evaluateHandle((text) => {
      const data = new DataTransfer()
      data.items.add(new File([text], 'leg.gpx', { type: 'application/gpx+xml' }))
      return data
    }, gpx(WALK))
    await demo.page.getByTestId('stage').dispatchEvent('dragenter', { dataTransfer: transfer })
    await demo.page.getByTestId('stage').dispatchEvent('drop', { dataTransfer: transfer })
    await demo.page.getByTestId('lay-track').click()
    await demo.page.getByTestId('track-points').waitFor()
    const journey = await stored()
    expect(journey.travellers).toHaveLength(1)
    expect(journey.travellers[0]!.legs[0]!.course.kind).toBe('track')
    expect(journey.stops).toHaveLength(5)
  })

  it('is laid by places that are clicked on the map', async () => {
    await open('walk.gpx', gpx(WALK))
    await demo.page.getByRole('radio', { name: 'By clicked places' }).click()
    await demo.page.getByTestId('lay-track').click()
    await demo.page.getByText('where the track begins: A').waitFor()
    await demo.page.locator('.v-overlay__scrim').waitFor({ state: 'detached' })
    await clickAt(TOWNS.saltern.at)
    await demo.page.getByText('where its place B lies').waitFor()
    await clickAt(TOWNS.emberlight.at)
    await demo.page.getByTestId('two-are-enough').click()
    await demo.page.getByTestId('traveller').nth(1).waitFor()
    const journey = await stored()
    const { course } = legOf(journey, 1, 0)
    expect(distance({ x: course.points[0]!, y: course.points[1]! }, TOWNS.saltern.at)).toBeLessThan(25)
    expect(distance({ x: course.points.at(-2)!, y: course.points.at(-1)! }, TOWNS.emberlight.at)).toBeLessThan(60)
  })

  it('with latitude and longitude swapped is read the other way round, if that is wanted', async () => {
    await open('swapped.gpx', gpx(WALK.map(([lon, lat]) => [lat, lon + 20] as const)))
    await demo.page.getByText(/seem to be swapped/).waitFor()
    await demo.page.getByRole('button', { name: 'Swap them' }).click()
    await demo.page.getByTestId('lay-track').waitFor()
    await demo.page.keyboard.press('Escape')
  })

  it('that is broken is refused with a sentence, and nothing is lost', async () => {
    const before = await stored()
    await open('broken.gpx', '<gpx><trk><trkseg><trkpt lat="1" lon="2"></trkseg></trk></gpx>')
    await demo.page.getByText(/“broken.gpx” is not well-formed \(line 1\)/).waitFor()
    expect(await stored()).toEqual(before)
  })
})

function legOf(journey: Awaited<ReturnType<typeof stored>>, traveller: number, leg: number) {
  const { id } = journey.travellers[traveller]!.legs[leg]!
  return { id, course: legCourse(journey, id)! }
}

async function along(title: string) {
  await demo.page.getByTestId('course-along').click()
  await demo.page.getByRole('option', { name: title }).click()
}

describe('a leg along a network', () => {
  it('takes the road, is pulled over a spot, and lets go of it', async () => {
    await selectLeg(1)
    await along('Roads')
    await demo.page.getByText('Pull the line to have it go over a spot.').waitFor()
    let journey = await stored()
    expect(shareOnRoads(legOf(journey, 0, 0).course)).toBeGreaterThan(0.98)
    const west = legOf(journey, 0, 0).course.length
    const line = legOf(journey, 0, 0).course
    const middle = { x: line.points[Math.floor(line.points.length / 8) * 2]!, y: line.points[Math.floor(line.points.length / 8) * 2 + 1]! }
    const [from, to] = [await demo.onPage(middle), await demo.onPage({ x: 1760, y: 1160 })]
    await demo.page.mouse.move(...from)
    await demo.page.mouse.down()
    await demo.page.mouse.move(...to, { steps: 5 })
    await demo.page.mouse.up()
    await demo.page.getByTestId('network-via').waitFor()
    journey = await stored()
    expect(Math.abs(legOf(journey, 0, 0).course.length - west)).toBeGreaterThan(100)
    expect(shareOnRoads(legOf(journey, 0, 0).course)).toBeGreaterThan(0.95)
    await demo.page.getByTestId('network-via').click()
    await demo.page.getByTestId('network-via').waitFor({ state: 'detached' })
    expect(legOf(await stored(), 0, 0).course.length).toBeCloseTo(west, 3)
  })

  it('says so where no way leads, and keeps what is drawn as a line', async () => {
    await selectLeg(4)
    await along('Railways')
    await demo.page.getByText('No route along these lines').waitFor()
    await demo.page.getByRole('radio', { name: 'Bowed' }).click()
    await demo.page.getByRole('button', { name: /^Side by side, networks/ }).click()
    await demo.page.getByTestId('keep-as-line').click()
    await demo.page.getByText('The rail network').click()
    const kept = await stored()
    expect(kept.networks.find(({ mode }) => mode === 'rail')!.lines).toHaveLength(2)
    await along('Railways')
    await demo.page.getByText('Pull the line to have it go over a spot.').waitFor()
    const { id, course } = legOf(await stored(), 0, 3)
    expect(course.length).toBeCloseTo(courseOf(legCubics(kept, id)).length, -1)
  })

  it('reads lines from GeoJSON, and says what is wrong with a file', async () => {
    const section = demo.page.getByRole('button', { name: /Networks/ })
    await section.click()
    const bring = async (name: string, text: string) => {
      const path = join(folder, name)
      writeFileSync(path, text)
      const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), demo.page.getByTestId('open-network').click()])
      await chooser.setFiles(path)
    }
    const line = {
      type: 'LineString',
      coordinates: [
        [84.3, -38.5],
        [84.6, -38.7],
      ],
    }
    await bring(
      'lanes.geojson',
      JSON.stringify({ type: 'FeatureCollection', features: [{ type: 'Feature', properties: { highway: 'track' }, geometry: line }] }),
    )
    await demo.page.getByTestId('network').nth(3).getByText('lanes').waitFor()
    expect((await stored()).networks.at(-1)).toMatchObject({ name: 'lanes', mode: 'road', lines: [{ speed: 20 }] })
    await bring('empty.geojson', '{"type":"FeatureCollection","features":[]}')
    await demo.page.getByText('“empty.geojson” holds no lines.').waitFor()
  })
})

describe('photos', () => {
  /** A photo that says where and when it was taken. The GPS data are the third of the extra directories. */
  const photo = async (name: string, at: [lat: string, lon: string] | null, time: string) => {
    const path = join(folder, name)
    const place = at ? { IFD3: { GPSLatitudeRef: 'S', GPSLatitude: at[0], GPSLongitudeRef: 'E', GPSLongitude: at[1] } } : {}
    await sharp({ create: { width: 60, height: 40, channels: 3, background: '#86a' } })
      .withExif({ IFD2: { DateTimeOriginal: time }, ...place })
      .jpeg()
      .toFile(path)
    return path
  }

  it('become stops in the order in which they were taken, each with its photo as a postcard; those without a place are named', async () => {
    const files = await Promise.all([
      photo('Second.jpg', ['38/1 45/1 0/1', '85/1 24/1 0/1'], '2026:06:02 12:00:00'),
      photo('First.jpg', ['38/1 30/1 0/1', '85/1 12/1 0/1'], '2026:06:01 12:00:00'),
      photo('Indoors.jpg', null, '2026:06:01 13:00:00'),
    ])
    const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), demo.page.getByTestId('photo-stops').click()])
    await chooser.setFiles(files)
    await demo.page.getByText('3 photos, 2 stops. Without a place on the map: “Indoors”.').waitFor()
    const { stops, travellers } = await stored()
    expect(stops.slice(5).map(({ name }) => name)).toEqual(['First', 'Second'])
    expect(travellers[0]!.visits.slice(5).map(({ stop }) => stop)).toEqual(stops.slice(5).map(({ id }) => id))
    for (const { postcards } of stops.slice(5)) expect(postcards[0]?.photo).toMatchObject({ width: 60, height: 40 })
    await demo.page.keyboard.press('Control+z')
    expect((await stored()).stops).toHaveLength(5)
  })

  it('that do not know where they were taken are placed along a track by the clock, set right by one that knows both', async () => {
    await open('walk.gpx', gpx(WALK))
    await demo.page.getByTestId('lay-track').click()
    await demo.page.getByTestId('traveller').nth(1).waitFor()
    // The camera's clock was two hours and a minute ahead.
    const clock = (i: number) =>
      new Date(1_790_000_000_000 + i * 20_000 + 7_260_000).toISOString().slice(0, 19).replace('T', ' ').replaceAll('-', ':')
    const exact = (degrees: number) => `${Math.round(Math.abs(degrees) * 1e6)}/1000000 0/1 0/1`
    const [lon, lat] = WALK[100]!
    const files = await Promise.all([photo('Knows.jpg', [exact(lat), exact(lon)], clock(100)), photo('Indoors.jpg', null, clock(400))])
    const [chooser] = await Promise.all([demo.page.waitForEvent('filechooser'), demo.page.getByTestId('photo-stops').click()])
    await chooser.setFiles(files)
    await demo.page.getByTestId('clock-known').getByText('1 photo that says both').waitFor()
    await demo.page.getByText('1 of 1 were taken while the track was recorded.').waitFor()
    await demo.page.getByTestId('place-photos').click()
    await demo.page.getByText('2 photos, 2 stops.').waitFor()
    const journey = await stored()
    const { toGround } = groundGeo(journey)!
    for (const [name, i] of [
      ['Knows', 100],
      ['Indoors', 400],
    ] as const) {
      const [east, north] = WALK[i]!
      const { at } = journey.stops.find((stop) => stop.name === name)!
      expect(distance(at, toGround({ lon: east, lat: north })!), name).toBeLessThan(12)
    }
    expect(journey.travellers[1]!.legs).toHaveLength(3)
  })

  it('that are dropped together are taken in so, and can be called off', async () => {
    const [a, b] = await Promise.all(
      ['A.jpg', 'B.jpg'].map(async (name) => readFileSync(await photo(name, ['38/1 45/1 0/1', '85/1 24/1 0/1'], '2026:06:02 12:00:00'))),
    )
    const transfer = await demo.page.evaluateHandle(
      (files) => {
        const data = new DataTransfer()
        for (const [i, bytes] of files.entries()) data.items.add(new File([Uint8Array.from(bytes)], `${i}.jpg`, { type: 'image/jpeg' }))
        return data
      },
      [a!, b!].map((bytes) => [...bytes]),
    )
    const drop = async () => {
      await demo.page.getByTestId('stage').dispatchEvent('dragenter', { dataTransfer: transfer })
      await demo.page.getByTestId('stage').dispatchEvent('drop', { dataTransfer: transfer })
    }
    // The server keeps the first one waiting.
    await demo.page.route('**/api/images?*', () => undefined)
    await drop()
    await demo.page.getByText(/^Photo 1 of 2, “0.jpg”/).waitFor()
    await demo.page.getByRole('button', { name: 'Cancel' }).click()
    await demo.page.getByText(/^Photo/).waitFor({ state: 'detached' })
    expect((await stored()).stops).toHaveLength(5)
    await demo.page.unroute('**/api/images?*')
    await drop()
    // Both were taken at one place.
    await demo.page.getByText('2 photos, 1 stop.').waitFor()
    expect((await stored()).stops).toHaveLength(6)
  })
})

describe('a leg over the Earth', () => {
  it('is a great circle', async () => {
    await selectLeg(4)
    await along('Great circle')
    const journey = await stored()
    expect(journey.travellers[0]!.legs[3]!.course).toEqual({ kind: 'great-circle' })
    const { course } = legOf(journey, 0, 3)
    const ends = distance(TOWNS.lampwick.at, TOWNS.emberlight.at)
    // So far south a way along the Earth bows towards the pole.
    expect(course.length).toBeGreaterThan(ends)
    expect(course.length).toBeLessThan(ends * 1.01)
  })
})
