/**
 * The project's benchmark, `npm run bench`: painting, encoding the same frames alone, the whole export, and the preview in headless Chromium,
 * all in one run on the demo at 1080p. The machine is noisy, so ratios count, not seconds. `npm run bench -- frames dress` measures only those parts: frames,
 * export, tilt, globe, dress, sheets, preview.
 */
import { execFileSync, spawn } from 'node:child_process'
import { createReadStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import sharp from 'sharp'
import { referenceSize } from '#core/camera/view'
import { viewAt } from '#core/camera/view-track'
import { wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import type { Journey, Sheet } from '#core/journey/schema'
import { depthSchema, drawnMapSchema, inkSchema, sheetSchema, shotSchema } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { fillingView } from '#core/sheet/framing'
import { createJourney } from '#core/journey/create'
import { setDepth } from '#core/edits/journey'
import { setPlan } from '#core/edits/camera/shots'
import { editLeg } from '#core/edits/lines/legs'
import { addPostcard, newPostcard } from '#core/edits/marks/postcards'
import { addStop } from '#core/edits/trips/visits'
import { stillDemo } from '#demo/journey'
import { freshDemo } from '#demo/seed'
import { createPainter } from '#draw/painter'
import { startEncoder } from '#render/start-encoder'
import { renderFilm } from '#render/film'
import { createServerStudio, createServerSurface } from '#render/studio'
import { writeMap } from '../../server/maps/draw'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { openDatabase } from '../../server/storage/database'

/** The frames that are measured: the end of a layover, a leg with a glow, a change of vehicles, the start of a dashed leg. */
const FROM = 15
const COUNT = 300

const now = () => performance.now()
const line = (what: string, value: string, target = '') => console.log(`${what.padEnd(44)} ${value.padStart(12)}   ${target}`)
const rate = (frames: number, ms: number) => `${((frames * 1000) / ms).toFixed(1)} fps`

function measureFrameAt(journey: Journey, what: string, target: string): void {
  const compiled = compile(journey)
  const runs = 20
  const start = now()
  for (let run = 0; run < runs; run++) for (let k = 0; k < compiled.frames; k++) frameAt(compiled, frameTime(k, journey.frame.rate))
  line(`frameAt, ${what}`, `${((now() - start) / (runs * compiled.frames)).toFixed(4)} ms`, target)
}

/** A trip of a hundred stops, with a vehicle on all legs. */
function hundredStops(): Journey {
  let trip = createJourney('A hundred', undefined, 120)
  for (let i = 0; i < 100; i++)
    trip = addStop(
      trip,
      { x: 960 + 8 * i * Math.cos(i / 4), y: 540 + 5 * i * Math.sin(i / 4) },
      { stop: `s${i}`, leg: `l${i}` },
      { traveller: 'traveller' },
    )
  const [traveller] = trip.travellers
  return traveller!.legs.reduce(
    (j, { id }) => editLeg(j, id, { vehicle: { kind: 'catalogue', artwork: 'bus', colour: '#17646b', size: 60 } }),
    trip,
  )
}

/** Paints frames as the painter's thread does, `count` of them from one on. */
async function paintAlone(folder: string, journey: Journey, count: number, from = FROM): Promise<{ frames: Uint8Array[]; ms: number }> {
  const compiled = compile(journey)
  const studio = createServerStudio(folder)
  await studio.prepare(frameAt(compiled, 0), compiled.scale)
  const painter = createPainter(studio)
  const { width, height, rate: fps } = journey.frame
  const surface = createServerSurface(width, height)
  const current = new Uint8Array(width * height * 4)
  const frames: Uint8Array[] = []
  let ms = 0
  for (let k = from; k < from + count; k++) {
    const start = now()
    const frame = frameAt(compiled, frameTime(k, fps))
    if (await studio.prepare(frame, compiled.scale)) painter.invalidate()
    let isAnew = false
    const painted = painter.paint(frame, surface.context, compiled.scale, ({ data }) => {
      current.set(data)
      isAnew = true
    })
    surface.update(current, painted, !isAnew)
    ms += now() - start
    frames.push(Uint8Array.from(current))
  }
  return { frames, ms }
}

async function encodeAlone(frames: readonly Uint8Array[], journey: Journey, out: string): Promise<number> {
  const start = now()
  const encoder = startEncoder(out, wholeFilm(journey), journey.frame.rate)
  for (const frame of frames) await encoder.write(frame)
  await encoder.finish()
  return now() - start
}

async function measureExport(folder: string, journey: Journey, what: string, count: number, target: string): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  try {
    const painted = await paintAlone(folder, journey, count)
    line(`painting, ${what}`, rate(count, painted.ms))
    const ratios: number[] = []
    // Alternating, so that a slow spell of the machine affects both; the median of three ratios is printed.
    for (let turn = 0; turn < 3; turn++) {
      const encoding = await encodeAlone(painted.frames, journey, join(scratch, 'encoded.mp4'))
      const start = now()
      await renderFilm({
        folder,
        journey,
        out: join(scratch, 'film.mp4'),
        settings: { ...wholeFilm(journey), from: FROM, to: FROM + count },
      })
      const whole = now() - start
      ratios.push(whole / encoding)
      line(`encoding alone, turn ${turn + 1}`, rate(count, encoding))
      line(`whole export, turn ${turn + 1}`, rate(count, whole))
    }
    line(`whole export / encoding alone, ${what}`, median(ratios).toFixed(2), target)
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** A film whose camera moves all the time over the middle of the sheet, at a pitch. */
function moving(journey: Journey, pitch: number): Journey {
  const view = (x: number, zoom: number, bearing: number) => ({ centre: { x, y: 1900 }, zoom, bearing, pitch })
  const end = shotSchema.parse({
    kind: 'free',
    id: 'end',
    at: { at: 'start' },
    transition: 24,
    easing: 'linear',
    view: view(3800, 0.8, 20),
  })
  return { ...journey, camera: view(2600, 0.6, 0), shots: [end] }
}

/** What a frame costs that is looked at from aside, against one that is looked at from above, while the camera moves. */
async function measureTilt(folder: string, journey: Journey): Promise<void> {
  const [flat, tilted, soft]: [number[], number[], number[]] = [[], [], []]
  const inFocus = setDepth(moving(journey, 45), depthSchema.parse({ softFocus: { strength: 1 }, haze: {} }))
  for (let turn = 0; turn < 3; turn++) {
    flat.push((await paintAlone(folder, moving(journey, 0), 60)).ms)
    tilted.push((await paintAlone(folder, moving(journey, 45), 60)).ms)
    soft.push((await paintAlone(folder, inFocus, 60)).ms)
  }
  line('a frame, moving', `${(median(flat) / 60).toFixed(1)} ms`)
  line('a frame, moving at pitch 45', `${(median(tilted) / 60).toFixed(1)} ms`)
  line('a frame at pitch 45 / a flat one', (median(tilted) / median(flat)).toFixed(2), 'target: at most 1.8')
  line('one with soft focus and haze / a flat one', (median(soft) / median(flat)).toFixed(2), 'target: at most 2.5')
}

/** What a frame of the globe costs, whole and half flattened, against one of the flat map, while the camera moves over a drawn map of the world. */
async function measureGlobe(): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const db = openDatabase(scratch)
  try {
    const map = drawnMapSchema.parse({
      region: { west: -180, east: 180, south: -70, north: 80 },
      projection: 'mercator',
      style: 'atlas',
      borders: true,
      graticule: true,
      aspect: 1.5,
    })
    const path = join(scratch, 'world.svg')
    const georeference = await writeMap(map, path)
    const { image } = await importSheetFile(db, scratch, 'world.svg', createReadStream(path))
    const { hash, width, height, vector } = image
    const sheet = sheetSchema.parse({ id: 'world', name: 'World', image: hash, width, height, vector, georeference })
    const shot = (fields: object) => shotSchema.parse({ easing: 'linear', ...fields })
    const globe = shot({ kind: 'globe', id: 'globe', at: { at: 'start', offset: 0 }, transition: 0, spin: 15, fill: 1.5 })
    const whole = createJourney('World', undefined, 20)
    const film = { ...whole, sheets: [sheet], camera: { ...fillingView(sheet, referenceSize(whole.frame)), pitch: 20 } }
    const onto = shot({ kind: 'free', id: 'flat', at: { at: 'start', offset: 1 }, transition: 14, view: { ...film.camera, bearing: 20 } })
    const films = [{ ...film, shots: [{ ...onto, at: { at: 'start' as const, offset: 0 } }] }, { ...film, shots: [globe] }, { ...film, shots: [globe, onto] }] // prettier-ignore
    const costs = films.map(() => [] as number[])
    for (let turn = 0; turn < 3; turn++)
      for (const [i, one] of films.entries()) costs[i]!.push((await paintAlone(scratch, one, 30, 290)).ms)
    const [flat, round, half] = costs.map((list) => median(list) / 30)
    line('a frame, a tilted map of the world', `${flat!.toFixed(1)} ms`)
    line('a frame, the globe', `${round!.toFixed(1)} ms`)
    line('a frame, the globe half flattened', `${half!.toFixed(1)} ms`)
    line('the globe / a tilted map', (round! / flat!).toFixed(2))
  } finally {
    db.close()
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** A trip with everything that makes a film look good, and the same trip plain: eight stops over the demo's sheet, and its shots at three of them. */
function dressedAndPlain(journey: Journey): [dressed: Journey, plain: Journey] {
  const { photo } = journey.stops.find(({ postcards }) => postcards.length > 0)!.postcards[0]!
  let trip: Journey = {
    ...journey,
    captions: [],
    shots: [],
    stops: [],
    networks: [],
    travellers: [{ ...journey.travellers[0]!, visits: [], legs: [] }],
  }
  for (let i = 0; i < 8; i++)
    trip = addStop(
      trip,
      { x: 800 + 640 * i, y: 1500 + 700 * Math.sin(1.7 * i) },
      { stop: `s${i}`, leg: `l${i}` },
      { traveller: 'traveller', name: `Harbour ${i + 1}` },
    )
  trip = { ...trip, shots: journey.shots.map((shot, i) => ({ ...shot, at: { ...shot.at, stop: `s${3 * i}` } })) }
  const legs = trip.travellers[0]!.legs.map(({ id }) => id)
  const plain = legs.reduce((j, id) => editLeg(j, id, { ink: inkSchema.parse({}), vehicle: null }), {
    ...trip,
    stops: trip.stops.map((stop) => ({ ...stop, label: { ...stop.label, shown: false } })),
  })
  const ink = inkSchema.parse({ gradient: ['#ffd27a', '#17646b'], hand: 'brush', glow: {} })
  const dressed = legs.reduce((j, id) => editLeg(j, id, { ink, vehicle: null }), trip)
  return [addPostcard(dressed, 's3', newPostcard(dressed.stops[3]!, 'card', { photo, text: 'Half-way' })), plain]
}

/**
 * What the dress of a film costs, against the plain one, where the camera moves as it does in the demo and where it rests: glow, gradient, ink by hand,
 * eight labels and a postcard.
 */
async function measureDress(folder: string, demo: Journey): Promise<void> {
  for (const [what, journey, target] of [
    ['as the demo moves', demo, 'target: at most 1.6'],
    ['the camera at rest', stillDemo(demo), ''],
  ] as const) {
    const trips = dressedAndPlain(journey)
    const [dressed, plain]: [number[], number[]] = [[], []]
    for (let turn = 0; turn < 3; turn++)
      for (const [i, list] of [dressed, plain].entries()) list.push((await paintAlone(folder, trips[i]!, 300)).ms)
    line(`a frame, plain, ${what}`, `${(median(plain) / 300).toFixed(1)} ms`)
    line(`a frame, dressed, ${what}`, `${(median(dressed) / 300).toFixed(1)} ms`)
    line(`a dressed frame / a plain one, ${what}`, (median(dressed) / median(plain)).toFixed(2), target)
  }
}

/**
 * The same film over a sheet of 384 megapixels and over one of 6, filling the frame and four times closer: painted from scratch for each frame, tiles
 * and all, as under a moving camera; and the whole export. Also what taking in the large one costs.
 */
async function measureSheetSize(journey: Journey): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const db = openDatabase(scratch)
  try {
    const made: { name: string; sheet: Sheet }[] = []
    for (const [name, width, height] of [
      ['384 MP', 24_000, 16_000],
      ['6 MP', 3000, 2000],
    ] as const) {
      const path = join(scratch, `${width}.png`)
      await sharp('demo/lantern-isles.webp')
        .resize(width, height, { fit: 'fill', kernel: 'linear' })
        .png({ compressionLevel: 2 })
        .toFile(path)
      const start = now()
      const { image, peakMiB } = await importSheetFile(db, scratch, `${width}.png`, createReadStream(path))
      line(`taking in ${name}`, `${((now() - start) / 1000).toFixed(1)} s`, `peak ${peakMiB} MiB; target: under 1536 MiB`)
      made.push({ name, sheet: sheetSchema.parse({ id: 'bench', name, image: image.hash, width, height }) })
    }
    for (const closer of [1, 4]) {
      const costs = made.map(({ sheet }) => {
        const filling = fillingView(sheet, referenceSize(journey.frame))
        return {
          film: { ...journey, sheets: [sheet], camera: { ...filling, zoom: filling.zoom * closer } },
          fresh: [] as number[],
          whole: [] as number[],
        }
      })
      // Alternating, so that a slow spell of the machine affects both.
      for (let turn = 0; turn < 3; turn++) {
        for (const { film, fresh, whole } of costs) {
          fresh.push(await paintAfresh(scratch, film))
          const start = now()
          await renderFilm({
            folder: scratch,
            journey: film,
            out: join(scratch, 'film.mp4'),
            settings: { ...wholeFilm(film), from: FROM, to: FROM + 60 },
          })
          whole.push(now() - start)
        }
      }
      const ratio = (pick: (cost: (typeof costs)[number]) => number[]) => (median(pick(costs[0]!)) / median(pick(costs[1]!))).toFixed(2)
      const where = closer === 1 ? 'filling the frame' : `${closer} times closer`
      // At close range the small sheet is magnified from few pixels, so there is less of it to read.
      const target = 'target: at most 1.3'
      line(
        `384 MP / 6 MP, painted afresh, ${where}`,
        ratio((cost) => cost.fresh),
        closer === 1 ? target : '',
      )
      line(
        `384 MP / 6 MP, whole export, ${where}`,
        ratio((cost) => cost.whole),
        target,
      )
    }
  } finally {
    db.close()
    closeTileFiles()
    rmSync(scratch, { recursive: true, force: true })
  }
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!

/** The mean time, in milliseconds, of a frame painted from scratch, with its tiles read. */
async function paintAfresh(folder: string, journey: Journey): Promise<number> {
  const compiled = compile(journey)
  const surface = createServerSurface(journey.frame.width, journey.frame.height)
  const count = 8
  const start = now()
  for (let k = 0; k < count; k++) {
    const studio = createServerStudio(folder)
    const frame = frameAt(compiled, frameTime(FROM + k, journey.frame.rate))
    await studio.prepare(frame, compiled.scale)
    createPainter(studio).paint(frame, surface.context, compiled.scale)
    surface.pixels()
  }
  return (now() - start) / count
}

const SMOOTH = 'target: at least 30 fps'
const SMOOTH_TILTED = 'target: at least 24 fps'

/** Scrubs through the journey that is open, once; frames a second. */
async function scrub(page: Page): Promise<string> {
  const steps = 150
  const ms = await page.evaluate(async (count) => {
    const strip = document.querySelector('[data-testid="pace-strip"] svg.ruler')!
    const box = strip.getBoundingClientRect()
    const fire = (type: string, x: number, target: EventTarget) =>
      target.dispatchEvent(new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX: x, clientY: box.top + 10 }))
    const frame = () => new Promise(requestAnimationFrame)
    fire('pointerdown', box.left + 30, strip)
    const begin = performance.now()
    for (let i = 0; i < count; i++) {
      fire('pointermove', box.left + 30 + ((box.width - 60) * i) / count, window)
      await frame()
    }
    const took = performance.now() - begin
    fire('pointerup', box.left, window)
    return took
  }, steps)
  return rate(steps, ms)
}

/** A made-up walk of so many points through the Lantern Isles, one a second, with heights and times. */
function longWalk(points: number): string {
  const written: string[] = []
  let [lon, lat, heading, seed] = [84.4, -38.6, 0, 1]
  for (let i = 0; i < points; i++) {
    // Park and Miller's generator (1988).
    seed = (seed * 48_271) % 2_147_483_647
    heading += (seed / 2_147_483_647 - 0.5) * 0.3
    lon += 1.2e-5 * Math.cos(heading)
    lat += 0.8e-5 * Math.sin(heading)
    const time = new Date(1_790_000_000_000 + i * 1000).toISOString()
    written.push(`<trkpt lat="${lat.toFixed(7)}" lon="${lon.toFixed(7)}"><ele>${(i % 700) / 10}</ele><time>${time}</time></trkpt>\n`)
  }
  return `<gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>\n${written.join('')}</trkseg></trk></gpx>`
}

/** A recorded track of a million points, imported from its file with its summary, and scrubbed at the default tolerance. */
async function measureTrack(page: Page, folder: string): Promise<void> {
  const path = join(folder, 'walk.gpx')
  writeFileSync(path, longWalk(1_000_000))
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByTestId('open-track').click()])
  const chosen = now()
  await chooser.setFiles(path)
  await page.getByTestId('track-facts').waitFor({ timeout: 60_000 })
  line('a track of a million points, read', `${((now() - chosen) / 1000).toFixed(2)} s`, 'target: under 5 s')
  await page.getByTestId('lay-track').click()
  await page.getByTestId('traveller').nth(1).waitFor({ timeout: 60_000 })
  line('scrubbing with it on the stage', await scrub(page), SMOOTH)
}

/** Lines of a made-up network, side by side over the Lantern Isles: 210 of a hundred points. */
const manyLines = (): Journey['networks'] => [
  {
    id: 'many',
    name: 'Many lines',
    mode: 'road',
    lines: Array.from({ length: 210 }, (_, row) => ({
      points: Array.from({ length: 100 }, (_, i) => `${i * 60},${300 + row * 14 + ((i * row) % 5)}`).join(' '),
      speed: 50,
    })),
  },
]

/** Stores a journey. @returns its id */
async function store(address: string, journey: Journey): Promise<string> {
  const response = await fetch(`${address}/api/journeys`, {
    method: 'POST',
    headers: { 'x-zephyrine': 'bench' },
    body: JSON.stringify({ journey }),
  })
  return ((await response.json()) as { id: string }).id
}

/** Waits until no poster is being painted, which keeps a processor busy. */
async function postersAreMade(address: string): Promise<void> {
  for (;;) {
    const journeys = (await (await fetch(`${address}/api/journeys`)).json()) as { posterIsComing: boolean }[]
    if (!journeys.some((journey) => journey.posterIsComing)) return
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
}

/** One step of dragging a stop, from the pointer event until the page is up to date: the median of 60, in milliseconds. */
async function measureDrag(page: Page, address: string, what: string, journey: Journey, target: string): Promise<void> {
  const id = await store(address, journey)
  await postersAreMade(address)
  await page.goto(`${address}/journeys/${id}`)
  await page.getByTestId('stop-handle').first().waitFor()
  await page.waitForTimeout(1500)
  const ms = await page.evaluate(async () => {
    const handle = document.querySelector('[data-testid="stop-handle"]')!
    const box = handle.getBoundingClientRect()
    const fire = (type: string, by: number, on: EventTarget) =>
      on.dispatchEvent(
        new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX: box.left + 15 + by, clientY: box.top + 15 + by / 3 }),
      )
    fire('pointerdown', 0, handle)
    const took: number[] = []
    for (let i = 1; i <= 60; i++) {
      const start = performance.now()
      fire('pointermove', i, window)
      // The update runs in microtasks, so it is done by the next task.
      await new Promise((resolve) => setTimeout(resolve))
      took.push(performance.now() - start)
      await new Promise(requestAnimationFrame)
    }
    fire('pointerup', 60, window)
    return took.sort((a, b) => a - b)[30]!
  })
  line(`a step of dragging a stop, ${what}`, `${ms.toFixed(1)} ms`, target)
}

async function measureDrags(page: Page, address: string, demo: Journey): Promise<void> {
  const [traveller, ...others] = demo.travellers
  const led = traveller!.legs.map((leg): Journey['travellers'][number]['legs'][number] => ({
    ...leg,
    course: { kind: 'network', mode: 'road', by: 'time', vias: [] },
  }))
  const network = { ...demo, networks: manyLines(), travellers: [{ ...traveller!, legs: led }, ...others] }
  await measureDrag(page, address, 'a network of 21 000 points', network, 'target: at most 16 ms')
  const points = Array.from(
    { length: 100_000 },
    (_, i) => `${400 + (i * 5000) / 1e5},${(1500 + 900 * Math.sin(i / 4000) + (i % 7) / 10).toFixed(2)}`,
  )
  const recorded = traveller!.legs.map((leg, i) =>
    i === 0 ? { ...leg, course: { kind: 'track' as const, points: points.join(' '), times: null, began: null, heights: null } } : leg,
  )
  const track = { ...demo, travellers: [{ ...traveller!, legs: recorded }, ...others] }
  await measureDrag(page, address, 'a track of 100 000 points', track, 'target: at most 40 ms')
}

/** Three travellers over the same hundred stops. */
function threeTrips(): Journey {
  const trip = hundredStops()
  const [first] = trip.travellers
  const other = (name: string, way: number) => ({
    ...first!,
    id: name,
    name,
    visits: way > 0 ? first!.visits : first!.visits.toReversed(),
    legs: first!.legs.map((leg, i) => ({ ...leg, id: `${name}${i}` })),
  })
  return { ...trip, travellers: [first!, other('second', 1), other('third', -1)] }
}

/** Drags the end of a leg on the pace strip with three travellers of a hundred stops, all shown; frames a second. */
async function measureStrip(page: Page, address: string): Promise<void> {
  await page.goto(`${address}/journeys/${await store(address, threeTrips())}`)
  await page.getByTestId('strip-travellers').waitFor()
  await postersAreMade(address)
  await page.getByTestId('strip-travellers').click()
  // So many stops are drawn in a few lines, but for what is selected.
  await page.getByRole('button', { name: 'Leg 4', exact: true }).click()
  await page.waitForTimeout(1500)
  const steps = 90
  const ms = await page.evaluate(async (count) => {
    const handle = document.querySelector('[data-testid="ribbon-end-3"]')!
    const box = handle.getBoundingClientRect()
    const fire = (type: string, by: number, on: EventTarget) =>
      on.dispatchEvent(
        new PointerEvent(type, { bubbles: true, button: 0, pointerId: 1, clientX: box.left + 12 + by, clientY: box.top + 12 }),
      )
    fire('pointerdown', 0, handle)
    const begin = performance.now()
    for (let i = 1; i <= count; i++) {
      fire('pointermove', i, window)
      await new Promise(requestAnimationFrame)
    }
    const took = performance.now() - begin
    fire('pointerup', count, window)
    return took
  }, steps)
  line('dragging on the strip, 3 trips of 100 stops', rate(steps, ms), SMOOTH)
}

/** Opening and scrubbing the demo in the built application, and what takes long in it. */
async function measurePreview(): Promise<void> {
  const { chromium } = await import('playwright-core')
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const env = { ...process.env, ZEPHYRINE_DATA: folder, NITRO_PORT: '3977', NODE_ENV: 'production' }
  execFileSync(process.execPath, ['scripts/run.mjs', 'seed'], { env })
  const server = spawn(process.execPath, ['.output/server/index.mjs'], { env, stdio: 'ignore' })
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  })
  try {
    const address = 'http://127.0.0.1:3977'
    while (!(await fetch(address).catch(() => undefined))) await new Promise((resolve) => setTimeout(resolve, 50))
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    // The loader of this script wraps named functions in a helper that the page lacks.
    await context.addInitScript('globalThis.__name = (f) => f')
    const page = await context.newPage()
    const start = now()
    await page.goto(`${address}/journeys/demo`)
    await page.waitForFunction(() => {
      // The sea at the frame's upper left corner: bluer than the ground's colour, which shows before the sheet has loaded.
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="stage-canvas"]')
      const pixel = canvas?.width ? canvas.getContext('2d')!.getImageData(5, 5, 1, 1).data : undefined
      return pixel !== undefined && pixel[3] === 255 && pixel[2]! > pixel[0]! + 20
    })
    line('opening the demo to its first picture', `${((now() - start) / 1000).toFixed(2)} s`, 'target: under 2 s')
    line('scrubbing in the preview, 960 x 540', await scrub(page), SMOOTH)
    const stored = (await (await fetch(`${address}/api/journeys/demo`)).json()) as { journey: Journey }
    const flight = { ...stored.journey, camera: viewAt(compile(stored.journey), 16), shots: [] }
    await page.goto(`${address}/journeys/${await store(address, flight)}`)
    await page.getByTestId('stop-handle').first().waitFor()
    await page.waitForTimeout(1500)
    line('scrubbing in the preview at pitch 52', await scrub(page), SMOOTH_TILTED)
    await page.goto(`${address}/journeys/${await store(address, setPlan({ ...stored.journey, shots: [] }, 'lively'))}`)
    await page.getByTestId('pace-shot').first().waitFor()
    await page.waitForTimeout(1500)
    line('scrubbing in the preview, a lively plan', await scrub(page), SMOOTH_TILTED)
    await page.goto(`${address}/journeys/${await store(address, stillDemo(stored.journey))}`)
    await page.getByTestId('stop-handle').first().waitFor()
    await page.waitForTimeout(1500)
    await page.getByRole('button', { name: 'Leg 2', exact: true }).click()
    const asked = now()
    await page.keyboard.press('p')
    await page.getByText(/^Found: /).waitFor()
    line('finding a road of 1260 px on a sheet of 6400', `${((now() - asked) / 1000).toFixed(2)} s`, 'target: under 2 s')
    await page.keyboard.press('Escape')
    await page.keyboard.press('Escape')
    // In a renderer of its own, and before a million points fill the memory of the other.
    const other = await context.newPage()
    await measureDrags(other, address, stillDemo(stored.journey))
    await other.close()
    await measureTrack(page, folder)
    await measureStrip(page, address)
  } finally {
    await browser.close()
    server.kill('SIGKILL')
    rmSync(folder, { recursive: true, force: true })
  }
}

const { journey: film, folder } = await freshDemo()
/** Most is measured with a camera that rests over the whole sheet. */
const journey = stillDemo(film)
const PARTS = {
  frames() {
    measureFrameAt(film, 'the demo', 'target: under 0.1 ms')
    measureFrameAt(hundredStops(), 'a hundred stops', 'target: at most 0.1 ms')
  },
  async export() {
    await measureExport(folder, journey, 'a view that rests', COUNT, 'target: at most 1.35')
    await measureExport(folder, moving(journey, 0), 'a view that moves', 120, 'target: at most 1.25')
    await measureExport(folder, setPlan({ ...film, shots: [] }, 'lively'), 'a lively plan', 120, 'target: at most 1.25')
  },
  tilt: () => measureTilt(folder, journey),
  globe: measureGlobe,
  dress: () => measureDress(folder, film),
  sheets: () => measureSheetSize(journey),
  preview: measurePreview,
}
const asked = process.argv.slice(2)
for (const [name, measure] of Object.entries(PARTS)) if (asked.length === 0 || asked.includes(name)) await measure()
