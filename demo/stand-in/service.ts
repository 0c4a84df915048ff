import type { IncomingMessage, Server, ServerResponse } from 'node:http'
import { createServer } from 'node:http'
import { createHash } from 'node:crypto'
import { setTimeout as wait } from 'node:timers/promises'
import type { TileGrid } from '#core/journey/schema'
import { webMercatorGrid } from '#core/tiles/grids'
import type { ServiceTile } from '#core/tiles/template'
import { islesArchive } from './archive'
import { capabilities, LAST_LEVEL, SETS } from './capabilities'
import type { IslesStyle, PictureFormat } from './isles-tiles'
import { islesTile, PICTURES, STYLES } from './isles-tiles'

/**
 * A small tile service of the Lantern Isles, which stands in for those of the open network: as templates, TileJSON, WMTS and PMTiles, and with the faults
 * that services have, each under an address of its own.
 */

/** The key that the addresses under /locked want. */
export const STAND_IN_KEY = 'lantern'

/** What the addresses begin with under which the service has a fault, and what that is. */
const FAULTS = {
  slow: 'answers after 1.5 seconds',
  faulty: 'fails one time in five',
  busy: 'has too much to do after 40 requests, for a second (429)',
  locked: `wants the key “${STAND_IN_KEY}”`,
} as const
type Fault = keyof typeof FAULTS

const SLOW = 1500
const BUSY_AFTER = 40
const BUSY_FOR = 1000
const FAILS_EVERY = 5

interface Reply {
  status: number
  type?: string
  body?: Buffer | string
  headers?: Record<string, string>
}

const NOTHING: Reply = { status: 404, type: 'text/plain', body: 'There is nothing here.' }

/** The addresses of the stand-in, as lines for people. */
export const standInAddresses = (root: string): string[] => [
  `${root}/xyz/{z}/{x}/{y}{r}.png`,
  `${root}/tms/{z}/{x}/{-y}.png`,
  `${root}/quad/{quadkey}.jpg`,
  `${root}/tiles.json`,
  `${root}/wmts/1.0.0/WMTSCapabilities.xml`,
  `${root}/isles.pmtiles`,
  ...Object.entries(FAULTS).map(
    ([fault, words]) => `${root}/${fault}/xyz/{z}/{x}/{y}.png${fault === 'locked' ? '?key={key}' : ''}   (${words})`,
  ),
]

const formatOf = (ending: string): PictureFormat | undefined => PICTURES.find((format) => format === (ending === 'jpg' ? 'jpeg' : ending))

async function tileReply(grid: TileGrid, tile: ServiceTile, ending: string, style: IslesStyle = 'day'): Promise<Reply> {
  const format = formatOf(ending)
  const level = grid.levels[tile.level]
  if (!format || !level || tile.column >= level.columns || tile.row >= level.rows) return NOTHING
  return {
    status: 200,
    type: `image/${format}`,
    body: await islesTile(grid, tile, format, style),
    headers: { 'cache-control': 'max-age=3600' },
  }
}

const MERCATOR = { 256: webMercatorGrid(256, 0, LAST_LEVEL), 512: webMercatorGrid(512, 0, LAST_LEVEL) } as const

let archive: Promise<Buffer> | undefined

async function archiveReply(range: string | undefined): Promise<Reply> {
  archive ??= islesArchive()
  const whole = await archive
  const [, from, to] = /^bytes=(\d+)-(\d+)$/.exec(range ?? '') ?? []
  if (from === undefined) return { status: 200, type: 'application/vnd.pmtiles', body: whole }
  const [start, end] = [Number(from), Math.min(whole.length - 1, Number(to))]
  if (start > end) return { status: 416 }
  return {
    status: 206,
    type: 'application/vnd.pmtiles',
    body: whole.subarray(start, end + 1),
    headers: { 'content-range': `bytes ${start}-${end}/${whole.length}` },
  }
}

const json = (value: unknown): Reply => ({ status: 200, type: 'application/json', body: JSON.stringify(value) })

async function wmtsReply(root: string, query: URLSearchParams, keyQuery: string): Promise<Reply> {
  const asked = new Map([...query].map(([name, value]) => [name.toLowerCase(), value]))
  if (asked.get('request') === 'GetCapabilities') return { status: 200, type: 'application/xml', body: capabilities(root, keyQuery) }
  const set = SETS[asked.get('tilematrixset') ?? '']
  const style = asked.get('style') ?? ''
  if (asked.get('request') !== 'GetTile' || !set || !(style in STYLES))
    return {
      status: 400,
      type: 'application/xml',
      body: '<ows:ExceptionReport xmlns:ows="http://www.opengis.net/ows/1.1"><ows:Exception exceptionCode="MissingParameterValue"><ows:ExceptionText>This is not a request of a WMTS.</ows:ExceptionText></ows:Exception></ows:ExceptionReport>',
    }
  const tile = { level: Number(asked.get('tilematrix')), column: Number(asked.get('tilecol')), row: Number(asked.get('tilerow')) }
  return tileReply(set.grid, tile, asked.get('format')?.replace('image/', '') ?? '', style as IslesStyle)
}

/** What is at a path, without the beginning that stands for a fault. */
async function replyTo(path: string, url: URL, root: string, range: string | undefined): Promise<Reply> {
  const key = url.searchParams.get('key')
  const keyQuery = key === null ? '' : `?key=${encodeURIComponent(key)}`
  const [, kind, z, x, y, side, ending] = /^\/(xyz|tms)\/(\d+)\/(\d+)\/(\d+)(@2x)?\.(\w+)$/.exec(path) ?? []
  if (kind) {
    const level = Number(z)
    const row = kind === 'tms' ? 2 ** level - 1 - Number(y) : Number(y)
    return tileReply(MERCATOR[side ? 512 : 256], { level, column: Number(x), row }, ending!)
  }
  const [, digits, quadEnding] = /^\/quad\/([0-3]{1,16})\.(\w+)$/.exec(path) ?? []
  if (digits) {
    const bits = (one: number) => [...digits].reduce((sum, digit) => 2 * sum + ((Number(digit) >> one) & 1), 0)
    return tileReply(MERCATOR[256], { level: digits.length, column: bits(0), row: bits(1) }, quadEnding!)
  }
  const [, style, set, matrix, row, column, restEnding] = /^\/wmts\/(\w+)\/(\w+)\/(\d+)\/(\d+)\/(\d+)\.(\w+)$/.exec(path) ?? []
  if (style && style in STYLES && SETS[set!])
    return tileReply(
      SETS[set!]!.grid,
      { level: Number(matrix), column: Number(column), row: Number(row) },
      restEnding!,
      style as IslesStyle,
    )
  switch (path) {
    case '/':
      return { status: 200, type: 'text/plain; charset=utf-8', body: `${standInAddresses(root).join('\n')}\n` }
    case '/tiles.json':
      return json({
        tilejson: '3.0.0',
        name: 'Lantern Isles',
        attribution: 'Zephyrine, made up for the demo',
        tiles: [`${root}/xyz/{z}/{x}/{y}.png${keyQuery}`],
        minzoom: 0,
        maxzoom: LAST_LEVEL,
        bounds: [84, -39.04, 85.84, -38.22],
      })
    case '/vector.json':
      return json({
        tilejson: '3.0.0',
        name: 'Lantern Isles as lines',
        tiles: [`${root}/vector/{z}/{x}/{y}.pbf`],
        vector_layers: [{ id: 'coast', fields: {} }],
      })
    case '/wmts/1.0.0/WMTSCapabilities.xml':
      return { status: 200, type: 'application/xml', body: capabilities(root, keyQuery) }
    case '/wmts':
      return wmtsReply(root, url.searchParams, keyQuery)
    case '/isles.pmtiles':
      return archiveReply(range)
    default:
      return NOTHING
  }
}

/** What a fault does to a request; undefined where it lets it through. */
function faults() {
  const counts: Record<string, number> = {}
  let busyUntil = 0
  return async (fault: Fault, url: URL): Promise<Reply | undefined> => {
    const count = (counts[fault] = (counts[fault] ?? 0) + 1)
    switch (fault) {
      case 'slow':
        await wait(SLOW)
        return undefined
      case 'faulty':
        return count % FAILS_EVERY === 0 ? { status: 500, type: 'text/plain', body: 'Something went wrong.' } : undefined
      case 'busy':
        if (count % BUSY_AFTER === 0) busyUntil = Date.now() + BUSY_FOR
        return Date.now() < busyUntil ? { status: 429, headers: { 'retry-after': '1' } } : undefined
      case 'locked':
        return url.searchParams.get('key') === STAND_IN_KEY ? undefined : { status: 403, type: 'text/plain', body: 'A key is needed.' }
      default:
        return fault satisfies never
    }
  }
}

function send(request: IncomingMessage, response: ServerResponse, { status, type, body = '', headers = {} }: Reply): void {
  const tag = `"${createHash('sha1').update(body).digest('hex').slice(0, 20)}"`
  const isKnown = status === 200 && request.headers['if-none-match'] === tag
  response.writeHead(isKnown ? 304 : status, {
    ...(type && { 'content-type': type }),
    ...(status === 200 && { etag: tag }),
    'accept-ranges': 'bytes',
    ...headers,
  })
  response.end(isKnown || request.method === 'HEAD' ? undefined : body)
}

/** Starts the stand-in on this machine alone. @param port 0 for any that is free @returns its address, and the server */
export async function startStandIn(port: number): Promise<{ root: string; server: Server }> {
  const trouble = faults()
  const server = createServer((request, response) => {
    const { port: own } = server.address() as { port: number }
    const url = new URL(request.url ?? '/', `http://127.0.0.1:${own}`)
    const [, first = ''] = url.pathname.split('/')
    const fault = first in FAULTS ? (first as Fault) : undefined
    const path = fault ? url.pathname.slice(first.length + 1) || '/' : url.pathname
    const root = fault ? `${url.origin}/${fault}` : url.origin
    const answer = async () => (fault && (await trouble(fault, url))) ?? (await replyTo(path, url, root, request.headers.range))
    answer()
      .catch((error: unknown): Reply => {
        console.error(error)
        return { status: 500 }
      })
      .then((reply) => send(request, response, reply))
  })
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', resolve)
  })
  return { root: `http://127.0.0.1:${(server.address() as { port: number }).port}`, server }
}
