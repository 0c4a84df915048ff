/** Maps taken from tile services: from the stand-in in each of its forms and with each of its faults, and from servers that mean no good. */
import { readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import type { IncomingMessage, Server, ServerResponse } from 'node:http'
import { createServer } from 'node:http'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { gzipSync } from 'node:zlib'
import { PMTiles } from 'pmtiles'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { parseJourney } from '#core/journey/parse'
import { createJourney } from '#core/journey/create'
import type { Journey, Region, Sheet, TileService } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { webMercator } from '#core/geo/plane'
import { webMercatorGrid, withSide } from '#core/tiles/grids'
import type { TileOrder } from '#core/tiles/order'
import { planSheet, serviceTilesOf, wholeSheet } from '#core/tiles/sheet-plan'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'
import { ISLES, islesTile } from '#demo/stand-in/isles-tiles'
import { STAND_IN_KEY, startStandIn } from '#demo/stand-in/service'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { readTile } from '../../server/sheets/tiles'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import type { ImageRecord } from '../../server/storage/images'
import { openAnswerCache } from '../../server/tiles/answer-cache'
import { createClient } from '../../server/tiles/client'
import { describeService, glimpseService } from '../../server/tiles/services'
import { listBrokenOff, takeSheet } from '../../server/tiles/take-sheet'
import { temporaryFolder } from '../support/server'

let folder: string
let db: Db
let root: string
let standIn: Server
/** The addresses that the stand-in was asked for, and how many requests were under way at once. */
const asked: string[] = []
let most = 0
beforeAll(async () => {
  folder = temporaryFolder()
  db = openDatabase(folder)
  const started = await startStandIn(0)
  root = started.root
  standIn = started.server
  let underWay = 0
  standIn.on('request', (request: IncomingMessage, response: ServerResponse) => {
    asked.push(request.url!)
    most = Math.max(most, ++underWay)
    response.on('close', () => underWay--)
  })
})
afterAll(() => {
  closeTileFiles()
  db.close()
  standIn.closeAllConnections()
  standIn.close()
  rmSync(folder, { recursive: true, force: true })
})

const ISLES_REGION: Region = { west: 84.2, south: -38.85, east: 85.2, north: -38.35 }
const credit = { title: 'Isles', author: 'Zephyrine', licence: 'CC0 1.0', source: '' }

const orderOf = (service: TileService, region: Region, finest: number): TileOrder => ({
  name: service.name,
  service,
  region,
  sharp: 'region',
  plan: planSheet(service.grid, region, finest),
  wanted: null,
  credit,
})
const at = (address: string, side = 256): TileService => ({
  name: 'Isles',
  kind: 'template',
  address,
  grid: webMercatorGrid(side, 0, 16),
  covers: null,
})
async function pixelsAt(image: ImageRecord, level: number, column: number, row: number): Promise<Buffer> {
  const data = await readTile(folder, { ...image, image: image.hash }, { level, column, row })
  return sharp(data!).removeAlpha().raw().toBuffer()
}
const greatestDifference = (a: Uint8Array, b: Uint8Array): number => {
  let most = 0
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!))
  return most
}
const messageOf = async (run: Promise<unknown>): Promise<string> =>
  run.then(
    () => 'it went well',
    (error: Error) => error.message,
  )

describe('a sheet is taken from the stand-in', () => {
  let byTemplate: ImageRecord
  it('as a template, four requests at a time and none twice, each level from its own level of the service', async () => {
    asked.length = 0
    most = 0
    const order = orderOf(at(`${root}/xyz/{z}/{x}/{y}.png`), ISLES_REGION, 10)
    const { image, missing, count } = await takeSheet(db, folder, order, undefined)
    byTemplate = image
    expect(missing).toBe(0)
    expect(asked).toHaveLength(count)
    expect(new Set(asked).size).toBe(count)
    expect(most).toBeLessThanOrEqual(4)
    const { plan, service } = order
    // A tile of the sheet against those that the stand-in makes, put side by side by hand.
    for (const level of [0, 1]) {
      const pixels = await pixelsAt(image, level, 0, 0)
      const x = plan.left / 2 ** level
      const y = plan.top / 2 ** level
      const tile = { level: 10 - level, column: Math.floor(x / 256) + 1, row: Math.floor(y / 256) + 1 }
      const own = await sharp(await islesTile(service.grid, tile, 'png'))
        .raw()
        .toBuffer()
      const [dx, dy] = [tile.column * 256 - x, tile.row * 256 - y]
      for (const [u, v] of [
        [0, 0],
        [255 - (dx > 256 ? dx - 256 : 0), 10],
        [40, 90],
      ] as const)
        // prettier-ignore
        expect([...pixels.subarray(((dy + v) * 512 + dx + u) * 3).subarray(0, 3)]).toEqual([...own.subarray((v * 256 + u) * 3).subarray(0, 3)])
    }
  })

  it.each([
    ['a TileJSON', '/tiles.json', undefined],
    ['a WMTS with resource addresses', '/wmts/1.0.0/WMTSCapabilities.xml', 'isles/day/WebMercatorQuad'],
    ['the bare address of a WMTS', '/wmts', 'isles/day/WebMercatorQuad'],
    ['addresses of the Tile Map Service', '/tms/{z}/{x}/{-y}.png', undefined],
  ])('as %s, with the same picture', async (_, path, map) => {
    const described = await describeService(folder, root + path, undefined, new AbortController().signal)
    const { service } = map ? described.maps.find(({ id }) => id === map)! : described.maps[0]!
    const finest = service.grid.levels.findIndex(({ id }) => id === '10')
    const { image } = await takeSheet(db, folder, orderOf(service, ISLES_REGION, finest), undefined)
    expect([image.width, image.height]).toEqual([byTemplate.width, byTemplate.height])
    for (const level of [0, 1])
      expect(greatestDifference(await pixelsAt(image, level, 0, 0), await pixelsAt(byTemplate, level, 0, 0))).toBe(0)
  })

  it.each([
    ['quadkeys and JPEG', '/quad/{quadkey}.jpg', 10],
    ['key-value pairs of a WMTS', '/wmts', 10],
    ['a PMTiles archive', '/isles.pmtiles', 10],
    ['AVIF', '/xyz/{z}/{x}/{y}.avif', 10],
    ['tiles of 512 pixels', '/xyz/{z}/{x}/{y}{r}.webp', 9],
  ])('as %s, with a picture that is the same but for its coding', async (what, path, id) => {
    const described = await describeService(folder, root + path, undefined, new AbortController().signal)
    const { service } = what.startsWith('key') ? described.maps.find((map) => map.id.startsWith('isles-kvp'))! : described.maps[0]!
    const finest = service.grid.levels.findIndex((level) => level.id === String(id))
    const { image } = await takeSheet(db, folder, orderOf(service, ISLES_REGION, finest), undefined)
    const [a, b] = [await pixelsAt(image, 0, 1, 0), await pixelsAt(byTemplate, 0, 1, 0)]
    if (image.width === byTemplate.width && image.height === byTemplate.height) {
      const mean = a.reduce((sum, value, i) => sum + Math.abs(value - b[i]!), 0) / a.length
      expect(mean).toBeLessThan(6)
    } else expect(id).toBe(9)
    expect(image.georeference).toMatchObject({ kind: 'affine', source: 'tiles' })
  })

  it('in degrees, from the plate carrée of a WMTS, with every place where it belongs', async () => {
    const { maps } = await describeService(folder, `${root}/wmts`, undefined, new AbortController().signal)
    const { service } = maps.find(({ id }) => id === 'isles/day/WorldCRS84Quad')!
    const { image } = await takeSheet(db, folder, orderOf(service, ISLES_REGION, 9), undefined)
    const georeference = image.georeference!
    if (georeference.kind !== 'affine') throw new Error('Tiles lie by a matrix.')
    const [r, , left, , , top] = georeference.matrix
    // A place on land: the same colour as on the sheet itself, by its own placing.
    const [lon, lat] = [84.55, -38.6]
    const own = webMercator.forward({ lon, lat })!
    const [sx, sy] = [Math.floor((own.x - ISLES.left) / ISLES.pixel), Math.floor((ISLES.top - own.y) / ISLES.pixel)]
    const there = await sharp('demo/lantern-isles.webp')
      .extract({ left: sx - 3, top: sy - 3, width: 7, height: 7 })
      .resize(1, 1)
      .raw()
      .toBuffer()
    const [x, y] = [Math.floor((lon - left) / r), Math.floor((top - lat) / r)]
    const pixels = await pixelsAt(image, 0, Math.floor(x / 512), Math.floor(y / 512))
    const found = pixels.subarray(((y % 512) * 512 + (x % 512)) * 3).subarray(0, 3)
    expect(greatestDifference(found, there)).toBeLessThan(40)
  })

  it('and makes the very film that its picture makes: within 3 of 255 at level 16', async () => {
    // A part of the sheet, without loss, lies by the same numbers as the stand-in has it.
    const part = { left: 1100, top: 1200, width: 800, height: 500 }
    const cut = await sharp('demo/lantern-isles.webp').extract(part).png({ compressionLevel: 1 }).toBuffer()
    const { image: picture } = await importSheetFile(db, folder, 'isles.png', Readable.from([cut]))
    const { pixel } = ISLES
    const [left, top] = [ISLES.left + part.left * pixel, ISLES.top - part.top * pixel]
    const bySheet = sheetSchema.parse({
      id: 'picture',
      name: 'Picture',
      image: picture.hash,
      width: picture.width,
      height: picture.height,
      georeference: { kind: 'affine', source: 'world-file', plane: { kind: 'mercator' }, matrix: [pixel, 0, left, 0, -pixel, top] },
    })
    const middle = webMercator.inverse({ x: left + 400 * pixel, y: top - 250 * pixel })!
    const region = { west: middle.lon - 0.03, east: middle.lon + 0.03, south: middle.lat - 0.014, north: middle.lat + 0.014 }
    const { image, count } = await takeSheet(db, folder, orderOf(at(`${root}/xyz/{z}/{x}/{y}.png`), region, 16), undefined)
    expect(count).toBeGreaterThan(50)
    const byTiles = sheetSchema.parse({
      ...bySheet,
      id: 'tiles',
      image: image.hash,
      width: image.width,
      height: image.height,
      georeference: image.georeference,
    })
    const film = (sheet: Sheet): Journey => {
      const base = parseJourney(createJourney('Film', { width: 1280, height: 720, rate: '30/1' }))
      const georeference = sheet.georeference!
      if (georeference.kind !== 'affine') throw new Error('Both lie by matrices.')
      const [r, , x0, , , y0] = georeference.matrix
      const own = webMercator.forward(middle)!
      const pixel16 = 2.38865713391176
      const edge = Math.PI * 6_378_137
      const centre = { x: Math.round((own.x + edge) / pixel16) * pixel16 - edge, y: edge - Math.round((edge - own.y) / pixel16) * pixel16 }
      // A film pixel shows just a pixel of level 16: 2.388 m.
      const zoom = (r / pixel16) * (1080 / 720)
      return {
        ...base,
        sheets: [sheet],
        camera: { centre: { x: (centre.x - x0) / r, y: (y0 - centre.y) / r }, zoom, bearing: 0, pitch: 0 },
      }
    }
    const painted = async (sheet: Sheet) => {
      const compiled = compile(film(sheet))
      const frame = frameAt(compiled, 0)
      const studio = createServerStudio(folder)
      const surface = createServerSurface(1280, 720)
      await studio.prepare(frame, compiled.scale)
      createPainter(studio).paint(frame, surface.context, compiled.scale)
      return surface.pixels()
    }
    const [a, b] = [await painted(bySheet), await painted(byTiles)]
    expect(new Set(a).size).toBeGreaterThan(60)
    expect(greatestDifference(a, b)).toBeLessThanOrEqual(3)
  })
})

describe('a service with faults', () => {
  const small = (address: string) => orderOf(at(address), ISLES_REGION, 7)
  it.each(['faulty', 'busy', 'slow'])('that is %s gives all its tiles in the end', async (fault) => {
    const order =
      fault === 'busy' ? orderOf(at(`${root}/busy/xyz/{z}/{x}/{y}.png`), ISLES_REGION, 10) : small(`${root}/${fault}/xyz/{z}/{x}/{y}.png`)
    const { image, missing } = await takeSheet(db, folder, order, undefined)
    expect(missing).toBe(0)
    expect(await readTile(folder, { ...image, image: image.hash }, { level: 0, column: 0, row: 0 })).toBeDefined()
  })

  it('that wants a key says so, and has it nowhere but in the file for keys', async () => {
    const typed = `${root}/locked/tiles.json?key=${STAND_IN_KEY}`
    expect(await messageOf(describeService(folder, `${root}/locked/tiles.json`, undefined, new AbortController().signal))).toContain(
      'refuses (403): it may want a key',
    )
    expect(
      await messageOf(describeService(folder, `${root}/locked/tiles.json?key=wr0ngsecret`, undefined, new AbortController().signal)),
    ).not.toContain('wr0ngsecret')
    const described = await describeService(folder, typed, undefined, new AbortController().signal)
    expect(JSON.stringify(described)).not.toContain(STAND_IN_KEY)
    expect(described.hasKey).toBe(true)
    const { image } = await takeSheet(db, folder, orderOf(described.maps[0]!.service, ISLES_REGION, 9), undefined)
    expect(image.width).toBeGreaterThan(0)
    expect(statSync(join(folder, 'service-keys.json')).mode & 0o077).toBe(0)
    const files = readdirSync(folder, { recursive: true, withFileTypes: true }).filter(
      (entry) => entry.isFile() && entry.name !== 'service-keys.json',
    )
    expect(files.length).toBeGreaterThan(5)
    for (const { parentPath, name } of files)
      expect(readFileSync(join(parentPath, name)).includes(`key=${STAND_IN_KEY}`), join(parentPath, name)).toBe(false)
  })

  it('that goes away in between is gone on with later, and no tile is asked for again', async () => {
    asked.length = 0
    const order = orderOf(at(`${root}/xyz/{z}/{x}/{y}.jpg`), ISLES_REGION, 11)
    const all = serviceTilesOf(order.service.grid, order.plan, wholeSheet(order.plan)).length
    const control = new AbortController()
    const onProgress = (share: number) => share > 0.6 && control.abort(new Error('cancelled'))
    expect(await messageOf(takeSheet(db, folder, order, undefined, { onProgress, signal: control.signal }))).toBe('cancelled')
    const broken = listBrokenOff(folder).find(({ order: one }) => one.service.address === order.service.address)!
    expect(broken.came).toBeGreaterThan(0)
    expect(broken.came).toBeLessThan(all)
    const before = asked.length
    const { missing } = await takeSheet(db, folder, broken.order, undefined)
    expect(missing).toBe(0)
    // Those that were on their way when it was killed are asked for again, unless the answer could be kept.
    expect(asked.length).toBeLessThanOrEqual(all + 36)
    expect(asked.length - before).toBeLessThanOrEqual(all - broken.came)
    expect(listBrokenOff(folder).some(({ order: one }) => one.service.address === order.service.address)).toBe(false)
  })

  it('is asked only for what a sheet has not yet, when more is taken', async () => {
    const address = `${root}/xyz/{z}/{x}/{y}.webp`
    const { image } = await takeSheet(db, folder, orderOf(at(address), ISLES_REGION, 9), undefined)
    asked.length = 0
    const more = orderOf(at(address), ISLES_REGION, 10)
    rmSync(join(folder, 'service-answers.sqlite'), { force: true })
    const { count } = await takeSheet(db, folder, more, image.hash)
    expect(asked.length).toBeGreaterThan(0)
    expect(asked.every((path) => path.startsWith('/xyz/10/'))).toBe(true)
    expect(asked.length).toBeLessThan(count)
  })

  it('with gaps shows the coarser level there, and names how many tiles did not come', async () => {
    const real = createServer((request, response) => {
      const [, z, x] = /^\/(\d+)\/(\d+)\//.exec(request.url!)!
      if (z === '11' && Number(x) % 2 === 0) return response.writeHead(500).end()
      if (z === '11' && Number(x) % 4 === 1) return response.writeHead(404).end()
      void fetch(`${root}/xyz${request.url}`).then(async (answer) => response.writeHead(200).end(Buffer.from(await answer.arrayBuffer())))
    })
    await new Promise<void>((resolve) => real.listen(0, '127.0.0.1', resolve))
    const own = `http://127.0.0.1:${(real.address() as { port: number }).port}`
    const narrow = { west: 84.4, east: 84.75, south: -38.65, north: -38.55 }
    const order = orderOf(at(`${own}/{z}/{x}/{y}.png`), narrow, 11)
    const { image, missing } = await takeSheet(db, folder, order, undefined)
    real.close()
    expect(missing).toBeGreaterThan(0)
    const whole = (await takeSheet(db, folder, orderOf(at(`${root}/xyz/{z}/{x}/{y}.png`), narrow, 11), undefined)).image
    const [a, b] = [await pixelsAt(image, 0, 0, 0), await pixelsAt(whole, 0, 0, 0)]
    // Coarser, but the same place: near on average, and not the same.
    const mean = a.reduce((sum, value, i) => sum + Math.abs(value - b[i]!), 0) / a.length
    expect(mean).toBeGreaterThan(0.2)
    expect(mean).toBeLessThan(12)
  })
})

describe('a server that means no good', () => {
  let own: string
  let server: Server
  const png = () => islesTile(webMercatorGrid(256), { level: 1, column: 0, row: 0 }, 'png')
  beforeAll(async () => {
    const tile = await png()
    server = createServer((request, response) => {
      const [, what = '', rest = ''] = /^\/([\w-]+)(\/.*)?$/.exec(request.url!.split('?')[0]!) ?? []
      const lead = (to: string) => response.writeHead(302, { location: to }).end()
      switch (what) {
        case 'good':
          return response.writeHead(200, { 'cache-control': 'max-age=0', etag: '"one"' }).end(tile)
        case 'round':
          return lead(`/round/${Math.random()}`)
        case 'file':
          return lead('file:///etc/passwd')
        case 'once':
          return lead(`/good${rest}`)
        case 'endless': {
          const chunk = Buffer.alloc(65536, 'x')
          const push = () => {
            while (!response.destroyed && response.write(chunk));
          }
          response.writeHead(200).on('drain', push)
          return push()
        }
        case 'page':
          return response
            .writeHead(200, { 'content-type': 'text/html' })
            .end('<!doctype html><title>Tiles</title><p>Your quota is used up.')
        case 'lines':
          return response.writeHead(200).end(gzipSync(Buffer.from([0x1a, 5, 1, 2, 3, 4, 5])))
        case 'large':
          return response.writeHead(200).end(largePng)
        case 'entities':
          return response.writeHead(200).end('<?xml version="1.0"?><!DOCTYPE a [<!ENTITY a "aaaa">]><Capabilities>&a;</Capabilities>')
        case 'bomb':
          return response.writeHead(200, { 'content-encoding': 'gzip' }).end(bomb)
        case 'nothing':
          return response.writeHead(204).end()
        default:
          return response.writeHead(404).end()
      }
    })
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    own = `http://127.0.0.1:${(server.address() as { port: number }).port}`
  })
  afterAll(() => {
    server.closeAllConnections()
    server.close()
  })
  const bomb = gzipSync(Buffer.alloc(64 * 1024 ** 2, ' '))
  let largePng: Buffer
  beforeAll(async () => {
    largePng = await sharp({ create: { width: 3000, height: 3000, channels: 3, background: '#888' } })
      .png()
      .toBuffer()
  })
  const look = (what: string) =>
    messageOf(
      glimpseService(
        folder,
        { service: at(`${own}/${what}/{z}/{x}/{y}`), region: ISLES_REGION, width: 300, level: null },
        new AbortController().signal,
      ),
    )

  it.each([
    ['round', 'leads on from address to address: more than 3 times'],
    ['file', 'which is neither http nor https'],
    ['endless', 'sends more than the 4096 KiB'],
    ['page', 'not a picture but says: “Tiles Your quota is used up.”'],
    ['lines', 'has vector tiles'],
    ['large', 'not pictures of 64 to 1024 pixels'],
    ['nothing', 'has no tiles here'],
    ['missing', 'has no tiles here'],
    ['bomb', 'sends more than the 4096 KiB'],
    ['once', 'it went well'],
  ])('%s: one sentence, or what it led to', async (what, words) => {
    expect(await look(what)).toContain(words)
  })

  it.each([
    ['bomb', 'sends more than the 16384 KiB'],
    ['entities', 'entities of its own'],
    ['page', 'answers with a web page'],
    ['missing', 'nothing at this address'],
    ['good', 'describes no tiles'],
  ])('%s instead of a description: one sentence', async (what, words) => {
    expect(await messageOf(describeService(folder, `${own}/${what}?request=x`, undefined, new AbortController().signal))).toContain(words)
  })

  it('is not followed from the open network into a private one, nor from https to http', async () => {
    const { redirected } = await import('../../server/tiles/http')
    const from = new URL('https://tiles.example/1')
    for (const to of [
      'https://127.0.0.1/',
      'https://localhost:3000/',
      'https://192.168.1.1/',
      'https://10.0.0.8/',
      'https://[::1]/',
      'https://169.254.169.254/latest',
    ])
      expect(() => redirected(from, to, undefined), to).toThrow('in a private network')
    expect(() => redirected(from, 'http://tiles.example/2', undefined)).toThrow('not encrypted any more')
    expect(redirected(from, '/2', undefined).href).toBe('https://tiles.example/2')
    expect(() => redirected(from, 'ftp://tiles.example/?k=secret', 'secret')).toThrow('{key}')
  })

  it('is asked again only where its answer is not fresh, and then whether it has changed', async () => {
    const cache = openAnswerCache(join(folder, 'a-cache.sqlite'))
    const requests: (string | undefined)[] = []
    const counting = (request: IncomingMessage, response: ServerResponse) => {
      requests.push(request.headers['if-none-match'])
      const isKnown = request.headers['if-none-match'] === '"one"'
      if (request.url === '/fresh') response.writeHead(200, { 'cache-control': 'max-age=600' }).end('fresh')
      else if (request.url === '/secret') response.writeHead(200, { 'cache-control': 'no-store', etag: '"one"' }).end('secret')
      else response.writeHead(isKnown ? 304 : 200, { 'cache-control': 'max-age=0', etag: '"one"' }).end(isKnown ? undefined : 'stale')
    }
    const counted = createServer(counting)
    await new Promise<void>((resolve) => counted.listen(0, '127.0.0.1', resolve))
    const address = `http://127.0.0.1:${(counted.address() as { port: number }).port}`
    const client = createClient(undefined, cache, new AbortController().signal)
    const words = async (path: string) => {
      const found = await client.get(address + path, 1000)
      return found === 'nothing' ? found : found.body.toString()
    }
    expect([await words('/fresh'), await words('/fresh')]).toEqual(['fresh', 'fresh'])
    expect(requests).toEqual([undefined])
    expect([await words('/stale'), await words('/stale')]).toEqual(['stale', 'stale'])
    expect(requests).toEqual([undefined, undefined, '"one"'])
    await words('/secret')
    await words('/secret')
    // What may not be stored is not.
    expect(requests.slice(3)).toEqual([undefined, undefined])
    cache.close()
    counted.close()
  })
})

it('the stand-in’s archive is one to the package that reads archives', async () => {
  const archive = new PMTiles(`${root}/isles.pmtiles`)
  const header = await archive.getHeader()
  expect(header).toMatchObject({ specVersion: 3, minZoom: 0, maxZoom: 12, tileType: 4 })
  expect(header.minLon).toBeCloseTo(84, 2)
  const found = await archive.getZxy(11, 1507, 1259)
  const own = await islesTile(webMercatorGrid(256), { level: 11, column: 1507, row: 1259 }, 'webp')
  expect(Buffer.from(found!.data).equals(own)).toBe(true)
})

it('a PMTiles file is laid like any map', async () => {
  const file = Buffer.from(await (await fetch(`${root}/isles.pmtiles`)).arrayBuffer())
  const { image } = await importSheetFile(db, folder, 'isles.pmtiles', Readable.from([file]))
  expect(image).toMatchObject({ format: 'pmtiles', vector: false, georeference: { kind: 'affine', plane: { kind: 'mercator' } } })
  expect(image.width).toBeGreaterThan(5000)
  const cut = messageOf(importSheetFile(db, folder, 'isles.pmtiles', Readable.from([file.subarray(0, 4000)])))
  expect(await cut).toMatch(/“isles.pmtiles” (is damaged|has no tile|holds)/)
  const vector = Buffer.from(file)
  vector[99] = 1
  expect(await messageOf(importSheetFile(db, folder, 'v.pmtiles', Readable.from([vector])))).toContain('has vector tiles')
})

it('tiles of another side than was thought are laid by their own', () => {
  const grid = withSide(webMercatorGrid(256), 512)
  expect(grid.resolution * grid.side).toBeCloseTo(webMercatorGrid(256).resolution * 256, 6)
})
