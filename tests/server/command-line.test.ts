import { execFile } from 'node:child_process'
import { existsSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { promisify } from 'node:util'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Command } from '../../cli/command'
import { runCommand } from '../../cli/command'
import { walkJourney } from '#demo/walk'
import * as commands from '../../cli/commands'
import { paperSheet } from '../support/journeys'
import { startStandIn } from '#demo/stand-in/service'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'
import { probe } from '../support/video'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Said {
  code: number
  stdout: string
  stderr: string
}

/** A command, run within this process; that it runs in one of its own is tested once. */
const running =
  <Options>(command: Command<Options>) =>
  async (...args: string[]): Promise<Said> => {
    const said = { stdout: '', stderr: '' }
    const code = await runCommand(command, args, {
      result: (text) => void (said.stdout += text),
      complain: (text) => void (said.stderr += `${text}\n`),
    })
    return { code, ...said }
  }
const render = running(commands.render)
const sheet = running(commands.sheet)
const map = running(commands.map)
const places = running(commands.places)
const follow = running(commands.follow)
const track = running(commands.track)
const trip = running(commands.trip)
const pack = running(commands.pack)
const check = running(commands.check)
const lastLine = (text: string) => JSON.parse(text.trim().split('\n').at(-1)!) as Record<string, unknown>

describe('a command as a process', () => {
  const inProcess = async (...args: string[]): Promise<Said> => {
    try {
      return { code: 0, ...(await promisify(execFile)(process.execPath, ['scripts/run.mjs', 'main', ...args])) }
    } catch (error) {
      return error as Said
    }
  }

  it('prints its result', async () => {
    const { code, stdout, stderr } = await inProcess('render', '--frames-json', '0')
    expect([code, stderr]).toEqual([0, ''])
    expect(lastLine(stdout)).toMatchObject({ frame: 0, time: 0 })
  })

  it('refuses what it does not know with one sentence and exit code 2', async () => {
    const { code, stdout, stderr } = await inProcess('render', '--speed', '3')
    expect([code, stdout, stderr]).toEqual([2, '', "Unknown option '--speed'.\n"])
  })

  it('says how it is called where nothing is asked', async () => {
    const { code, stderr } = await inProcess('track')
    expect(code).toBe(2)
    expect(stderr).toMatch(/^The path of the track is missing\.\nnpm run track -- FILE/)
  })
})

describe('npm run render', () => {
  it('makes a film of a part of the demo and says what it made', async () => {
    const out = join(folder, 'trip.mp4')
    const { code, stdout } = await render(
      '--journey',
      'demo',
      '--out',
      out,
      '--size',
      '640x360',
      '--fps',
      '29.97',
      '--from',
      '3',
      '--to',
      '4',
    )
    expect(code).toBe(0)
    expect(lastLine(stdout)).toEqual({
      frames: 30,
      fps: '30000/1001',
      width: 640,
      height: 360,
      seconds: (30 * 1001) / 30000,
      bytes: readFileSync(out).length,
      out,
    })
    expect(probe(out)).toMatchObject({ nb_read_frames: '30', r_frame_rate: '30000/1001', width: 640, height: 360 })
  })

  it('makes a picture of one frame', async () => {
    const out = join(folder, 'still.png')
    expect((await render('--journey', 'demo', '--frame', '719', '--out', out, '--size', '640x360')).code).toBe(0)
    expect(await sharp(out).metadata()).toMatchObject({ format: 'png', width: 640, height: 360 })
  })

  it('makes a file of each pass', async () => {
    const out = join(folder, 'passes.png')
    const { code, stdout } = await render('--journey', 'demo', '--frame', '300', '--out', out, '--size', '320x180', '--passes')
    expect(code).toBe(0)
    const made = stdout.trim().split('\n').map((line) => JSON.parse(line) as { out: string }) // prettier-ignore
    const passes = ['1-ground', '2-lines', '3-marks', '4-vehicles', '5-labels', '6-cards', '7-titles']
    expect(made.map((file) => file.out)).toEqual(passes.map((pass) => join(folder, `passes-${pass}.png`)))
    const alpha = await Promise.all(made.map(async (file) => (await sharp(file.out).metadata()).hasAlpha))
    expect(alpha).toEqual([false, true, true, true, true, true, true])
  })

  it('prints a frame as JSON: positions, headings, ink lengths', async () => {
    const { stdout } = await render('--frames-json', '150')
    const frame = lastLine(stdout) as { travellers: Record<string, unknown>[]; items: Record<string, unknown>[] }
    expect(frame).toMatchObject({ frame: 150, fps: '30/1', time: 5 })
    expect(frame.travellers[0]).toMatchObject({
      leg: 0,
      heading: expect.any(Number),
      position: { x: expect.any(Number), y: expect.any(Number) },
    })
    const ink = frame.items.find((item) => item.kind === 'ink')!
    expect(ink.length).toBeLessThan(frame.travellers[0]!.travelled as number)
    expect(ink.length).toBeGreaterThan((frame.travellers[0]!.travelled as number) - 200)
  })

  it('reads a journey file', async () => {
    const file = join(folder, 'own.json')
    writeFileSync(
      file,
      JSON.stringify(
        journeyOver(
          [
            [100, 100],
            [900, 500],
          ],
          {},
          5,
        ),
      ),
    )
    const out = join(folder, 'own.mp4')
    const { stdout } = await render('--journey', file, '--out', out, '--size', '320x180', '--fps', '24')
    expect(lastLine(stdout)).toMatchObject({ frames: 120, fps: '24/1' })
  })

  it.each<[string, string[], RegExp]>([
    ['an unknown option', ['--speed', '3'], /--speed/],
    ['a missing out', ['--journey', 'demo'], /--out is missing/],
    ['a size that is none', ['--out', 'x.mp4', '--size', 'big'], /--size should look like 1280x720, not "big"/],
    ['passes without the ground', ['--out', 'x.mov', '--passes', '--without-ground'], /--passes and --without-ground do not go together/],
    ['passes in a format that cannot be transparent', ['--out', 'x.mp4', '--passes'], /MP4 \(H\.264\) cannot be transparent/],
    ['no painters', ['--out', 'x.mp4', '--painters', '0'], /--painters should be from 1 to 64, not "0"/],
    ['an odd width', ['--out', 'x.mp4', '--size', '641x360'], /even/],
    ['an odd height', ['--out', 'x.mp4', '--size', '640x361'], /even/],
    [
      'a frame rate that is not on offer',
      ['--out', 'x.mp4', '--fps', '31'],
      /--fps should be one of 23\.976, 24, 25, 29\.97, 30, 48, 50, 59\.94, 60, not "31"/,
    ],
    ['a frame beyond the end', ['--out', 'x.png', '--frame', '720'], /--frame should be a whole number from 0 to 719, not "720"/],
    ['an end before the start', ['--out', 'x.mp4', '--from', '5', '--to', '5'], /--from should be earlier than --to/],
    ['a time beyond the film', ['--out', 'x.mp4', '--to', '99'], /--to should be a time in seconds from 0 to 24, not "99"/],
    ['a file that is not there', ['--journey', 'nowhere.json', '--out', 'x.mp4'], /nowhere\.json cannot be read/],
    ['a film with a wrong ending', ['--out', 'film.avi'], /--out should end in one of \.mp4, .*\.apng/],
  ])('refuses %s in one sentence, with exit code 2', async (_what, options, message) => {
    const { code, stderr } = await render(...options)
    expect(stderr).toMatch(message)
    expect(stderr.trim().split('\n')).toHaveLength(1)
    expect(code).toBe(2)
    expect(existsSync('x.mp4')).toBe(false)
  })

  it('refuses a journey file that is damaged, and names the field', async () => {
    const file = join(folder, 'damaged.json')
    writeFileSync(file, '{"format": "zephyrine-journey", "version": 1')
    expect((await render('--journey', file, '--frames-json', '0')).stderr).toMatch(/is not JSON/)
    writeFileSync(file, JSON.stringify({ ...journeyOver([[1, 1]]), seconds: 'long' }))
    const { code, stderr } = await render('--journey', file, '--frames-json', '0')
    expect(stderr).toMatch(/The journey cannot be used: seconds:/)
    expect(code).toBe(2)
  })
})

describe('npm run sheet', () => {
  const map = join(folder, 'map.png')
  beforeAll(async () => {
    await sharp({ create: { width: 1000, height: 600, channels: 3, background: '#456' } })
      .png()
      .toFile(map)
  })
  const written = (name: string, text: string) => {
    writeFileSync(join(folder, name), text)
    return join(folder, name)
  }

  it('says what came of a picture, in one line of JSON', async () => {
    const { code, stdout } = await sheet(map)
    expect(code).toBe(0)
    expect(stdout.trim().split('\n')).toHaveLength(1)
    const said = lastLine(stdout)
    expect(said).toMatchObject({ width: 1000, height: 600, levels: 2, georeference: null })
    expect(said.seconds).toBeGreaterThan(0)
    expect(said.peakMiB).toBeGreaterThan(20)
  })

  it('tells the corners by a world file, and the residuals of control points', async () => {
    const byWorldFile = lastLine((await sheet(map, '--world-file', written('map.pgw', '0.01\n0\n0\n-0.01\n10.005\n49.995\n'))).stdout)
    expect((byWorldFile.georeference as { kind: string }).kind).toBe('world-file')
    const rounded = (byWorldFile.georeference as { corners: [number, number][] }).corners.map((corner) =>
      corner.map((v) => Number(v.toFixed(9))),
    )
    expect(rounded).toEqual([
      [10, 50],
      [20, 50],
      [20, 44],
      [10, 44],
    ])
    // In metres it has to be said of which system; in Bern lies the origin of the Swiss grid.
    const metres = written('grid.pgw', '10\n0\n0\n-10\n2600005\n1199995\n')
    expect((await sheet(map, '--world-file', metres)).stderr).toMatch(/does not say in which coordinate system its metres are/)
    const bySystem = lastLine((await sheet(map, '--world-file', metres, '--crs', 'EPSG:2056')).stdout).georeference as {
      plane: string
      corners: [number, number][]
    }
    expect([bySystem.plane, ...bySystem.corners[0]!.map((v) => v.toFixed(4))]).toEqual(['EPSG:2056 (CH1903+ / LV95)', '7.4386', '46.9511'])
    const points = [
      { x: 0, y: 0, lon: 10, lat: 1 },
      { x: 1000, y: 0, lon: 20, lat: 1 },
      { x: 1000, y: 600, lon: 20, lat: -5 },
      { x: 0, y: 600, lon: 10, lat: -5 },
      { x: 500, y: 310, lon: 15, lat: -2, name: 'Off' },
    ]
    const byPoints = lastLine((await sheet(map, '--points', written('points.json', JSON.stringify(points)))).stdout)
    expect(byPoints.georeference).toMatchObject({ kind: 'affine', worst: { name: 'Off' } })
    expect((byPoints.georeference as { rmsPx: number }).rmsPx).toBeGreaterThan(1)
    expect((byPoints.georeference as { rmsMetres: number }).rmsMetres).toBeGreaterThan(1000)
  })

  it('takes the tiles of a service, and keeps them as a map that can be laid', async () => {
    const { root, server } = await startStandIn(0)
    const out = join(folder, 'isles.mbtiles')
    const region = ['--region', '84.2,-38.8,85,-38.4', '--credit', 'Zephyrine (CC0 1.0)']
    const { code, stdout } = await sheet('--tiles', `${root}/tiles.json`, ...region, '--sharp-at', '250', '--out', out)
    server.closeAllConnections()
    server.close()
    expect(code).toBe(0)
    // Level 9 has 156543.03 / 2 ** 9 m to the pixel at the equator, and 239 at 38.6 degrees.
    const said = lastLine(stdout)
    expect(said).toMatchObject({ map: 'Lantern Isles', level: '9', missing: 0 })
    expect(said.metresToPixel).toBeCloseTo(238.95, 1)
    const kept = lastLine((await sheet(out)).stdout)
    expect(kept).toMatchObject({ width: said.width, height: said.height, georeference: { kind: 'tiles', plane: 'Web Mercator' } })
  })

  const TILES = 'http://127.0.0.1:9/{z}/{x}/{y}.png'
  it.each<[string, () => string[], RegExp]>([
    ['no file', () => [], /^The path of the map file is missing;/],
    ['a file that is not there', () => [join(folder, 'gone.png')], /cannot be read: check the path/],
    ['a file that is no map', () => [written('letter.png', 'Dear Sir')], /“letter.png” is not a PNG/],
    [
      'a world file with five lines',
      () => [map, '--world-file', written('five.pgw', '1\n0\n0\n-1\n5\n')],
      /has 5 lines; a world file has six/,
    ],
    [
      'collinear control points',
      () => [map, '--points', written('line.json', JSON.stringify([0, 1, 2].map((i) => ({ x: 100 * i, y: 100 * i, lon: i, lat: i }))))],
      /lie on one line/,
    ],
    [
      'a coordinate system that is none',
      () => [map, '--world-file', written('m.pgw', '1\n0\n0\n-1\n5\n9\n'), '--crs', 'moon'],
      /--crs should be a number/,
    ],
    ['both ways at once', () => [map, '--points', 'a', '--world-file', 'b'], /Give either --world-file or --points/],
    ['an unknown option', () => [map, '--turn'], /Unknown option '--turn'/],
    ['a region without tiles', () => [map, '--region', '1,2,3,4'], /--region is for tiles of a service/],
    ['tiles without a region', () => ['--tiles', TILES, '--credit', 'A (B)'], /--region is missing/],
    [
      'tiles of a region upside down',
      () => ['--tiles', TILES, '--region', '1,4,3,2', '--credit', 'A (B)'],
      /--region should be west, south/,
    ],
    ['tiles without a credit', () => ['--tiles', TILES, '--region', '1,2,3,4'], /--credit is missing/],
    ['tiles without a licence', () => ['--tiles', TILES, '--region', '1,2,3,4', '--credit', 'A'], /--credit should end with the licence/],
    ['tiles and a file', () => [map, '--tiles', TILES], /Give either a map file or --tiles/],
    [
      'tiles without a place for their numbers',
      () => ['--tiles', 'http://127.0.0.1:9/{z}.png', '--region', '-3,2,3,4', '--credit', 'A (B)'],
      /needs {z}, {x}/,
    ],
    [
      'tiles that nobody gives',
      () => ['--tiles', 'http://127.0.0.1:9/tiles.json', '--region', '-3,2,3,4', '--credit', 'A (B)'],
      /does not answer as it should/,
    ],
  ])('refuses %s with one sentence and exit code 2', async (_what, options, message) => {
    const { code, stdout, stderr } = await sheet(...options())
    expect([code, stdout]).toEqual([2, ''])
    expect(stderr).toMatch(message)
  })
})

describe('npm run map', () => {
  it('draws a region as a picture, and says whom it is by', async () => {
    const out = join(folder, 'iberia.png')
    const { code, stdout } = await map('--region', '-10,36,4,44', '--style', 'relief', '--size', '640x360', '--towns', '--out', out)
    expect(code).toBe(0)
    expect(lastLine(stdout)).toMatchObject({ width: 640, height: 360, credit: '© OpenStreetMap contributors, Natural Earth, NASA, GeoNames (ODbL, CC BY 4.0, public domain)' }) // prettier-ignore
    const { data, info } = await sharp(out).raw().toBuffer({ resolveWithObject: true })
    expect([info.width, info.height, info.channels]).toEqual([640, 360, 3])
    // The sea in the lower left corner is blue, and the land in the middle is not.
    const at = (x: number, y: number) => [...data.subarray(3 * (y * 640 + x), 3 * (y * 640 + x) + 3)]
    expect(at(20, 340)[2]! - at(20, 340)[0]!).toBeGreaterThan(40)
    expect(at(250, 180)[2]! - at(250, 180)[0]!).toBeLessThan(10)
  })

  it.each([
    [[], /^--region is missing/],
    [['--region', '-12,35,32,61'], /--out is missing: a file that ends in \.png/],
    [['--region', '-12,35,32', '--out', 'a.png'], /--region should be west, south, east and north/],
    [['--region', '-12,35,32,61', '--out', 'a.png', '--style', 'pink'], /--style should be one of atlas, relief/],
    [['--region', '-12,35,32,61', '--out', 'a.png', '--projection', 'cone'], /--projection should be one of mercator/],
    [['--region', '-12,35,32,61', '--out', 'a.png', '--size', '99999x10'], /--size should be width and height/],
    [['--region', '-12,35,32,61', '--out', 'a.png', '--size', '1000x10'], /at most five times as wide/],
    [['--region', '-170,35,170,61', '--out', 'a.png'], /up to half the way round the Earth/],
  ] as const)('refuses %j with one sentence and exit code 2', async (options, message) => {
    const { code, stderr } = await map(...options)
    expect(code).toBe(2)
    expect(stderr).toMatch(message)
  })
})

describe('npm run places', () => {
  it('prints the ten best matches as JSON', async () => {
    const { code, stdout } = await places('Springfield', '--near', '-89.6,39.8')
    expect(code).toBe(0)
    const found = JSON.parse(stdout) as { name: string; lon: number }[]
    expect(found).toHaveLength(10)
    expect(found[0]!.name).toBe('Springfield')
    expect(found[0]!.lon).toBeCloseTo(-89.64, 1)
  })

  it.each([
    [[], /^The name of a place is missing\./],
    [['Paris', '--near', 'here'], /--near should be a longitude and a latitude/],
    [['Paris', '--near', '200,0'], /--near should be a longitude and a latitude/],
  ] as const)('refuses %j with one sentence and exit code 2', async (options, message) => {
    const { code, stderr } = await places(...options)
    expect(code).toBe(2)
    expect(stderr).toMatch(message)
  })
})

describe('npm run track', () => {
  const file = (name: string, text: string) => {
    writeFileSync(join(folder, name), text)
    return join(folder, name)
  }
  const trackPoint = (lat: number, lon: number) => `<trkpt lat="${lat}" lon="${lon}"/>`
  const gpx = (body: string) => `<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">${body}</gpx>`

  it('says what a track amounts to, in one line of JSON', async () => {
    const path = file('way.gpx', gpx(`<trk><trkseg>${trackPoint(47, 8)}${trackPoint(47.00001, 8.1)}${trackPoint(47, 8.2)}</trkseg></trk>`))
    const { code, stdout } = await track(path, '--simplify', '50')
    expect(code).toBe(0)
    expect(stdout.trim().split('\n')).toHaveLength(1)
    expect(lastLine(stdout)).toMatchObject({
      points: 3,
      kept: 2,
      segments: 1,
      bounds: [8, 47, 8.2, 47.00001],
      movingSeconds: null,
      stops: [],
    })
  })

  it.each<[string, () => string[], RegExp]>([
    ['no file', () => [], /^The path of the track is missing\./],
    ['a file that is not there', () => [join(folder, 'gone.gpx')], /cannot be read: check the path/],
    [
      'swapped coordinates',
      () => [file('swapped.gpx', gpx(`<trk><trkseg>${trackPoint(151, -33)}${trackPoint(152, -33)}</trkseg></trk>`))],
      /seem to be swapped/,
    ],
    ['a tolerance that is none', () => [join(folder, 'way.gpx'), '--simplify', 'much'], /--simplify should be a distance in metres/],
  ])('refuses %s with one sentence and exit code 2', async (_what, options, message) => {
    const { code, stdout, stderr } = await track(...options())
    expect([code, stdout]).toEqual([2, ''])
    expect(stderr).toMatch(message)
  })
})

describe('npm run trip', () => {
  it('makes a film of a few words, and tells what is not certain, not found, and not understood', async () => {
    const out = join(folder, 'trip.mp4')
    const text = 'Lisbon, by train to Madrid\nby llama to Qwxzyvut\n31 June Springfield\nfly to Marrakesh'
    const { code, stdout, stderr } = await trip('--text', text, '--out', out, '--size', '320x180')
    expect(code, stderr).toBe(0)
    expect(stderr).toContain('“llama” is no way to travel')
    expect(stderr).toContain('“31 June” is no day that exists')
    expect(stderr).toContain('“Qwxzyvut” was not found and is left out.')
    expect(stderr).toMatch(/“Springfield” is taken for Springfield, .*, which is not certain/)
    expect(stderr).not.toContain('Lisbon')
    // Four places: 4 s and 3 for each.
    expect(lastLine(stdout)).toMatchObject({ frames: 480, width: 320, height: 180 })
  })

  it('reads a file, and writes a journey that can be rendered', async () => {
    const [file, out] = [join(folder, 'trip.txt'), join(folder, 'trip.json')]
    writeFileSync(file, '# by bicycle\n2026-05-12 Wien\nbike to Linz\nbike to Passau: the end\n')
    const data = temporaryFolder()
    process.env.ZEPHYRINE_DATA = data
    try {
      const { code, stdout, stderr } = await trip('--file', file, '--journey-out', out, '--plan', 'lively', '--style', 'nightfall')
      expect([code, stderr]).toEqual([0, ''])
      expect(lastLine(stdout)).toMatchObject({ journey: 'Wien to Passau', stops: 3 })
      expect(JSON.parse(readFileSync(out, 'utf8'))).toMatchObject({
        plan: { temperament: 'lively' },
        // The styles of the night show towns by their light.
        sheets: [{ drawn: { style: 'nightfall', towns: true } }],
      })
      const still = join(folder, 'trip.png')
      expect((await render('--journey', out, '--frame', '0', '--out', still, '--size', '320x180')).code).toBe(0)
      expect((await sharp(still).metadata()).width).toBe(320)
    } finally {
      delete process.env.ZEPHYRINE_DATA
      rmSync(data, { recursive: true, force: true })
    }
  })

  it('prints what would look wrong in a film, and says by its exit code whether there is anything', async () => {
    expect(await check('--journey', 'demo')).toEqual({ code: 0, stdout: '', stderr: '' })
    const file = join(folder, 'faulty.json')
    const { captions, ...walk } = walkJourney(paperSheet)
    writeFileSync(
      file,
      JSON.stringify({ ...walk, captions: captions.map((caption) => ({ ...caption, style: { ...caption.style, size: 20 } })) }),
    )
    const { code, stdout } = await check('--journey', file, '--format', 'json')
    expect(code).toBe(3)
    expect(JSON.parse(stdout)).toContainEqual({ check: 'small', text: expect.stringMatching(/^“Over Great Wick” has capitals of/) as unknown, at: expect.any(Number) as unknown }) // prettier-ignore
    expect((await check('--journey', file)).stdout).toMatch(/^\d+\.\d s {2}“Over Great Wick” has capitals/m)
    expect(await check('--format', 'xml')).toMatchObject({ code: 2 })
  })

  it('writes a journey file that is rendered where nothing else is', async () => {
    const [table, out, still] = [join(folder, 'trip.csv'), join(folder, 'trip.zephyrine'), join(folder, 'from-file.png')]
    writeFileSync(table, 'place;latitude;longitude;mode\nHere;38,72;-9,14;\nThere;40,42;-3,7;train\n')
    const made = await trip('--file', table, '--journey-out', out)
    expect([made.code, made.stderr]).toEqual([0, ''])
    const empty = temporaryFolder()
    process.env.ZEPHYRINE_DATA = empty
    try {
      expect((await render('--journey', out, '--frame', '0', '--out', still, '--size', '320x180')).code).toBe(0)
      expect((await sharp(still).metadata()).width).toBe(320)
      const again = join(folder, 'again.zephyrine')
      const { code, stdout } = await pack('--journey', out, '--out', again)
      expect(code).toBe(0)
      expect(lastLine(stdout)).toMatchObject({ journey: 'Here to There', files: 1, versions: 0, bytes: statSync(again).size })
      expect(existsSync(join(empty, 'zephyrine.sqlite'))).toBe(false)
      expect(await pack('--journey', 'demo', '--out', join(folder, 'a.zip'))).toMatchObject({ code: 2, stderr: expect.stringMatching(/ends in \.zephyrine/) as unknown }) // prettier-ignore
      expect(await pack('--journey', table.replace('.csv', '.zephyrine.zephyrine'), '--out', again)).toMatchObject({ code: 2, stderr: expect.stringMatching(/cannot be read/) as unknown }) // prettier-ignore
    } finally {
      delete process.env.ZEPHYRINE_DATA
      rmSync(empty, { recursive: true, force: true })
    }
  })

  it.each([
    [['--out', 'a.mp4'], /The trip is missing/],
    [['--text', 'A - B', '--file', 'x', '--out', 'a.mp4'], /one of the two/],
    [['--text', 'Lisbon - Madrid'], /--out is missing/],
    [['--text', 'Lisbon', '--out', 'a.mp4'], /two places at least/],
    [['--text', 'A - B', '--out', 'a.txt'], /--out should end in/],
    [['--file', '/nowhere/trip.txt', '--out', 'a.mp4'], /cannot be read/],
    [['--text', 'A - B', '--out', 'a.mp4', '--plan', 'wild'], /--plan should be one of/],
    [['--text', 'A - B', '--out', 'a.mp4', '--style', 'wild'], /--style should be one of/],
  ])('refuses %j with one sentence', async (args, sentence) => {
    const { code, stderr } = await trip(...args)
    expect(code).toBe(2)
    expect(stderr).toMatch(sentence)
  })
})

describe('npm run follow', () => {
  it('prints the course found along the picture', async () => {
    const { code, stdout } = await follow('--sheet', 'demo', '--from', '2230,2500', '--to', '2752,1600', '--colour', '#fbf3dc')
    expect(code).toBe(0)
    const { colour, length, onRoad, points } = lastLine(stdout) as {
      colour: string
      length: number
      onRoad: number
      points: [number, number][]
    }
    expect(colour).toBe('#fbf3dc')
    expect(onRoad).toBeGreaterThan(0.97)
    expect([points[0], points.at(-1)]).toEqual([
      [2230, 2500],
      [2752, 1600],
    ])
    const sum = points.slice(1).reduce((total, [x, y], i) => total + Math.hypot(x - points[i]![0], y - points[i]![1]), 0)
    expect(Math.abs(sum - length)).toBeLessThan(0.01 * length)
  })

  it('follows a road on a map file, and says when there is none', async () => {
    const path = join(folder, 'one-road.png')
    const road = '<svg width="600" height="400"><rect width="600" height="400" fill="#7a9c68"/>'
    const line = '<path d="M40 60C200 60 300 340 560 340" fill="none" stroke="#f4e6c0" stroke-width="7"/></svg>'
    await sharp(Buffer.from(road + line))
      .png()
      .toFile(path)
    const found = await follow('--sheet', path, '--from', '42,60', '--to', '558,340')
    expect(found.code).toBe(0)
    expect(lastLine(found.stdout).width).toBeGreaterThan(4)
    const lost = await follow('--sheet', path, '--from', '42,60', '--to', '580,30', '--colour', '#f4e6c0')
    expect(lost.code).toBe(3)
    expect(lost.stdout).toBe('')
    expect(lost.stderr.trim()).toMatch(
      /^The road is lost for \d+ px of the sheet\.$|^There is no road of this colour between these spots\.$/,
    )
  })

  it.each([
    [['--from', '1,1', '--to', '2,2'], /--sheet is missing/],
    [['--sheet', 'demo', '--from', '1', '--to', '2,2'], /--from should be a spot/],
    [['--sheet', 'demo', '--from', '1,1'], /--to should be a spot/],
    [['--sheet', 'demo', '--from', '1,1', '--to', '9000,2'], /beyond the map/],
    [['--sheet', 'demo', '--from', '1,1', '--to', '2,2', '--colour', 'red'], /--colour should be like/],
    [['--sheet', '/nowhere.png', '--from', '1,1', '--to', '2,2'], /cannot be read/],
  ])('refuses %j in one sentence', async (options, message) => {
    const { code, stderr } = await follow(...options)
    expect(code).toBe(2)
    expect(stderr.trim()).toMatch(message)
    expect(stderr.trim().split('\n')).toHaveLength(1)
  })
})
