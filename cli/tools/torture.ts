/** Attacks a server of its own for as long as asked, and counts what did not stand: see USAGE. */
import type { ChildProcess } from 'node:child_process'
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { parseArgs } from 'node:util'
import sharp from 'sharp'
import { readControlPoints } from '#core/formats/control-points'
import { readTrackFile } from '#core/formats/track-file'
import { readingOfWorldFile } from '#core/formats/world-file-georeference'
import { rename } from '#core/edits/journey'
import { JourneyError } from '#core/error'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { openDatabase } from '../../server/storage/database'
import { seeded } from '../../tests/support/drawings'
import { journeyWithEveryKind } from '../../tests/support/every-kind'
import { mbtiles, MBTILES_TABLES } from '../../tests/support/mbtiles'
import { HOSTILE } from '../../tests/support/hostile'
import { parseFault, runCommand, UsageError } from '../command'

const USAGE = `npm run torture -- [--kills N] [--files N] [--tracks N] [--hostile] [--seed N]

  --kills N   kill the server at N random moments of saving, exporting, importing and drawing (default 200)
  --files N   import N mutated files of maps and pictures (default 500)
  --tracks N  read N mutated tracks, journeys, world files and control points (default 50000)
  --hostile   import the small files that would take much memory or time
  --seed N    begin with this seed (default 1)`

const OWN = { 'x-zephyrine': 'torture' }
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const say = (what: string, value: string | number) => console.log(`${what.padEnd(52)} ${value}`)

interface Running {
  child: ChildProcess
  address: string
}

/** Starts the server over a folder. @returns undefined if it does not start */
async function startOver(folder: string): Promise<Running | undefined> {
  const child = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: { ...process.env, NODE_ENV: 'production', ZEPHYRINE_DATA: folder, NITRO_PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const address = await new Promise<string | undefined>((resolve) => {
    child.stdout.on('data', (data: Buffer) => {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(data.toString())
      if (found) resolve(found[0])
    })
    child.once('exit', () => resolve(undefined))
  })
  return address === undefined ? undefined : { child, address }
}

const kill = ({ child }: Running) =>
  new Promise<void>((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) return resolve()
    child.once('exit', () => resolve())
    child.kill('SIGKILL')
  })

/** The processes that still read files for a server. */
const readersOf = ({ child }: Running): number =>
  execFileSync('ps', ['-eo', 'args'], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line.includes(`reader.js ${child.pid} `)).length

/** Kills the server at random moments, and checks after each start that nothing is lost that was acknowledged. */
async function tortureByKilling(folder: string, kills: number, random: () => number): Promise<number> {
  const picture =
    await sharp({ create: { width: 5000, height: 4000, channels: 3, background: '#777', noise: { type: 'gaussian', mean: 128, sigma: 50 } } }) // prettier-ignore
      .png({ compressionLevel: 1 })
      .toBuffer()
  let [lost, unstarted, halves, left] = [0, 0, 0, 0]
  /** The name that was acknowledged last, and the one that was sent after it without an answer. */
  let acknowledged = ''
  let sent = ''
  for (let k = 0; k < kills; k++) {
    const server = await startOver(folder)
    if (!server) {
      unstarted++
      continue
    }
    const ask = (path: string, options: RequestInit = {}) => fetch(server.address + path, { ...options, headers: OWN })
    const read = async () => (await (await ask('/api/journeys/demo')).json()) as { journey: Journey; revision: number }
    let { journey, revision } = await read()
    if (acknowledged !== '' && journey.name !== acknowledged && journey.name !== sent) {
      lost++
      console.error(`Found “${journey.name}”, acknowledged “${acknowledged}”, sent “${sent}”`)
    }
    for (const film of (await (await ask('/api/journeys/demo/exports')).json()) as { id: string; state: string; bytes: number }[]) {
      if (film.state !== 'done') continue
      const body = await (await ask(`/api/exports/${film.id}/file`)).arrayBuffer()
      if (body.byteLength !== film.bytes || body.byteLength === 0) halves++
    }
    acknowledged = journey.name
    const control = new AbortController()
    const quietly = (work: Promise<unknown>) => void work.catch(() => undefined)
    if (random() < 0.5)
      quietly(ask(`/api/images?name=p${k}.png`, { method: 'POST', body: new Uint8Array(picture), signal: control.signal }))
    if (random() < 0.5) quietly(ask('/api/journeys/demo/exports', { method: 'POST', body: '{}' }))
    if (random() < 0.5)
      quietly(ask('/api/maps/preview', { method: 'POST', body: JSON.stringify({ map: { region: { west: -20, south: 35, east: 19, north: 65 }, projection: 'mercator', style: 'atlas', borders: true, graticule: true, aspect: 1.5 } }) })) // prettier-ignore
    const until = Date.now() + 100 + random() * 2500
    const saving = (async () => {
      for (let i = 0; Date.now() < until + 500; i++) {
        sent = `Kill ${k}, save ${i}`
        journey = rename(journey, sent)
        const response = await ask('/api/journeys/demo', { method: 'PUT', body: JSON.stringify({ revision, journey }) })
        if (!response.ok) break
        revision = ((await response.json()) as { revision: number }).revision
        acknowledged = sent
      }
    })()
    quietly(saving)
    await pause(until - Date.now())
    await kill(server)
    control.abort()
    await saving.catch(() => undefined)
    for (let waited = 0; readersOf(server) > 0 && waited < 5000; waited += 200) await pause(200)
    left += readersOf(server)
  }
  say('kills', kills)
  say('acknowledged edits lost', lost)
  say('starts that failed', unstarted)
  say('exports offered that are not whole', halves)
  say('readers left after 5 s', left)
  return lost + unstarted + halves + left
}

/** A file with some bytes changed, cut out or repeated. */
function mutated(bytes: Uint8Array, random: () => number): Buffer {
  const copy = Buffer.from(bytes)
  const spot = () => Math.floor(random() * copy.length)
  const how = random()
  if (how < 0.15) return copy.subarray(0, spot())
  if (how < 0.3) {
    const [a, b] = [spot(), spot()].sort((x, y) => x - y) as [number, number]
    return Buffer.concat([copy.subarray(0, b), copy.subarray(a)])
  }
  for (let n = 1 + Math.floor(random() * 12); n > 0; n--) copy[spot()] = Math.floor(random() * 256)
  return copy
}

const isSentence = (error: unknown): boolean =>
  error instanceof JourneyError && /^[^\n]{5,600}\.$/.test(error.message) && !error.message.includes(process.cwd())

/** Reads mutated tracks, journeys, world files and control points in this process, as the page and the server do. */
function tortureTracks(count: number, random: () => number): number {
  const gpx = Buffer.from(`<gpx version="1.1" creator="made up" xmlns="http://www.topografix.com/GPX/1/1"><wpt lat="1" lon="2"><name>Quay</name></wpt><trk><name>Walk</name><trkseg>${Array.from({ length: 40 }, (_, i) => `<trkpt lat="${-38 + i / 1000}" lon="${84 + i / 900}"><ele>${i}</ele><time>2026-05-01T10:${String(i).padStart(2, '0')}:00Z</time></trkpt>`).join('')}</trkseg></trk></gpx>`) // prettier-ignore
  const kml = Buffer.from(`<kml xmlns="http://www.opengis.net/kml/2.2"><Placemark><name>A</name><LineString><coordinates>${Array.from({ length: 40 }, (_, i) => `${84 + i / 900},${-38 + i / 1000},${i}`).join(' ')}</coordinates></LineString></Placemark></kml>`) // prettier-ignore
  const json = Buffer.from(JSON.stringify({ type: 'FeatureCollection', features: [{ type: 'Feature', properties: { name: 'A' }, geometry: { type: 'LineString', coordinates: Array.from({ length: 40 }, (_, i) => [84 + i / 900, -38 + i / 1000]) } }] })) // prettier-ignore
  const journey = Buffer.from(JSON.stringify(journeyWithEveryKind()))
  const seeds: [string, Buffer][] = [
    ['walk.gpx', gpx],
    ['walk.kml', kml],
    ['walk.geojson', json],
    ['map.pgw', Buffer.from('10.5\n0.25\n-0.25\n-10.5\n420000.5\n5890000.25\n')],
    ['points.json', Buffer.from(JSON.stringify([1, 2, 3].map((i) => ({ x: i * 100, y: i * i * 90, lon: 84 + i, lat: i - 38, name: `Mark ${i}` }))))], // prettier-ignore
    ['journey', journey],
  ]
  let wrong = 0
  let slowest = 0
  for (let i = 0; i < count; i++) {
    const [name, bytes] = seeds[i % seeds.length]!
    const file = mutated(bytes, random)
    const start = performance.now()
    try {
      if (name === 'journey') parseJourney(JSON.parse(file.toString('utf8')))
      else if (name === 'map.pgw') readingOfWorldFile(file.toString('utf8'), name, { width: 4000, height: 3000 })
      else if (name === 'points.json') readControlPoints(file.toString('utf8'), name)
      else readTrackFile(file, name)
    } catch (error) {
      if (!isSentence(error) && !(name === 'journey' && error instanceof SyntaxError)) {
        wrong++
        console.error(`${name}, file ${i}:`, error)
      }
    }
    slowest = Math.max(slowest, performance.now() - start)
  }
  say('mutated tracks, journeys and files of places', count)
  say('answers that are not one sentence', wrong)
  say('the slowest, in milliseconds', Math.round(slowest))
  return wrong
}

/** After so many files it is said how far it is. */
const TOLD = 500

/** Imports mutated maps, each in its reader, as the server does. */
async function tortureReaders(folder: string, count: number, random: () => number): Promise<number> {
  const noise = sharp({ create: { width: 600, height: 400, channels: 3, background: '#777', noise: { type: 'gaussian', mean: 128, sigma: 50 } } }) // prettier-ignore
  const seeds: [string, Buffer][] = [
    ['m.svg', Buffer.from('<svg viewBox="0 0 40 30" xmlns="http://www.w3.org/2000/svg"><g opacity=".5"><rect width="20" height="9" fill="red"/></g><path d="M1 1l9 9z" stroke="#123"/></svg>')], // prettier-ignore
    ['m.pdf', await HOSTILE.find(({ name }) => name === 'picture.pdf')!.bytes()],
  ]
  const square = await noise.clone().resize(256, 256, { fit: 'cover' }).png().toBuffer()
  const tiles = mbtiles((file) => {
    file.exec(MBTILES_TABLES)
    const put = file.prepare('INSERT INTO tiles VALUES (?, ?, ?, ?)')
    for (const [zoom, column, row] of [[0, 0, 0], [1, 0, 0], [1, 0, 1], [1, 1, 1]]) put.run(zoom, column, row, square) // prettier-ignore
  })
  seeds.push(['m.mbtiles', tiles])
  for (const format of ['png', 'jpeg', 'webp', 'tiff', 'avif'] as const)
    seeds.push([`m.${format === 'jpeg' ? 'jpg' : format === 'tiff' ? 'tif' : format}`, await noise.clone().toFormat(format).toBuffer()])
  const db = openDatabase(folder)
  let [wrong, peak, slowest] = [0, 0, 0]
  try {
    for (let i = 0; i < count; i++) {
      const [name, bytes] = seeds[i % seeds.length]!
      const start = performance.now()
      try {
        const { peakMiB } = await importSheetFile(db, folder, name, Readable.from([mutated(bytes, random)]))
        peak = Math.max(peak, peakMiB)
      } catch (error) {
        if (!isSentence(error)) {
          wrong++
          console.error(`${name}, file ${i}:`, error)
        }
      }
      slowest = Math.max(slowest, performance.now() - start)
      if ((i + 1) % TOLD === 0) say('maps so far', i + 1)
    }
    const incoming = readdirSync(join(folder, 'images')).filter((file) => file.startsWith('incoming-')).length
    say('mutated maps', count)
    say('answers that are not one sentence', wrong)
    say('files left over', incoming)
    say('most memory of those taken, in MiB', peak)
    say('the slowest, in seconds', (slowest / 1000).toFixed(1))
    return wrong + incoming
  } finally {
    db.close()
    closeTileFiles()
  }
}

/** Imports the small files that would take much memory or time. */
async function tortureByHostile(folder: string): Promise<number> {
  const db = openDatabase(folder)
  let wrong = 0
  try {
    for (const { what, name, bytes } of HOSTILE) {
      const start = performance.now()
      const answer = await importSheetFile(db, folder, name, Readable.from([await bytes()])).then(
        ({ peakMiB }) => `taken, ${peakMiB} MiB`,
        (error: unknown) => {
          if (!isSentence(error)) wrong++
          return String(error)
        },
      )
      say(what, `${((performance.now() - start) / 1000).toFixed(1)} s: ${answer}`)
    }
    return wrong
  } finally {
    db.close()
    closeTileFiles()
  }
}

const whole = (text: string, name: string): number => {
  const value = Number(text)
  if (!Number.isInteger(value) || value < 0) throw new UsageError(`--${name} must be a whole number.`)
  return value
}

function read(args: readonly string[]) {
  const option = (value: string) => ({ type: 'string', default: value }) as const
  let values
  try {
    values = parseArgs({
      args: [...args],
      options: {
        kills: option('200'),
        files: option('500'),
        tracks: option('50000'),
        hostile: { type: 'boolean', default: false },
        seed: option('1'),
      },
    }).values
  } catch (error) {
    throw parseFault(error)
  }
  const { kills, files, tracks, hostile, seed } = values
  return {
    kills: whole(kills, 'kills'),
    files: whole(files, 'files'),
    tracks: whole(tracks, 'tracks'),
    hostile,
    seed: whole(seed, 'seed'),
  }
}

async function run({ kills, files, tracks, hostile, seed }: ReturnType<typeof read>): Promise<number> {
  say('seed', seed)
  const random = seeded(seed)
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-torture-'))
  try {
    let wrong = tortureTracks(tracks, random)
    if (files > 0) wrong += await tortureReaders(join(folder, 'files'), files, random)
    if (hostile) wrong += await tortureByHostile(join(folder, 'hostile'))
    if (kills > 0) {
      const data = join(folder, 'kills')
      execFileSync(process.execPath, ['scripts/run.mjs', 'seed'], { env: { ...process.env, ZEPHYRINE_DATA: data } })
      wrong += await tortureByKilling(data, kills, random)
    }
    return wrong > 0 ? 1 : 0
  } finally {
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
  }
}

process.exitCode = await runCommand({ usage: USAGE, read, run }, process.argv.slice(2), {
  result: (text) => void process.stdout.write(text),
  complain: (text) => console.error(text),
})
