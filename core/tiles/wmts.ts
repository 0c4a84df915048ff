import { JourneyError } from '../error'
import { SEMI_MAJOR_AXIS } from '../geo/earth'
import type { TileGrid, TileService } from '../journey/schema'
import { tileGridSchema, tileServiceSchema } from '../journey/schema'
import type { Described } from './described'
import { plainText } from './described'
import { checkAddress } from './template'
import { regionOfBounds } from './tilejson'
import type { XmlElement } from './xml-tree'
import { childrenOf, elementAt, readXmlTree, textAt } from './xml-tree'

/** Capabilities of a Web Map Tile Service. Source: OGC 07-057r7, OpenGIS Web Map Tile Service Implementation Standard 1.0.0. */

/** Metres to a pixel of the standard's rendering at a scale of 1:1. Source: OGC 07-057r7, section 6.1. */
const PIXEL = 0.00028

/** Metres to a degree of the equator, by which scales are reckoned in coordinate systems of degrees. Source: OGC 07-057r7, section 6.1. */
const METRES_PER_DEGREE = (Math.PI * SEMI_MAJOR_AXIS) / 180

/** Pictures that can be read, the best first: without loss before small. */
const FORMATS = ['image/png', 'image/png8', 'image/png; mode=8bit', 'image/webp', 'image/jpeg', 'image/jpg', 'image/jpgpng', 'image/avif']

/** The plane of a coordinate system, by its URN or code; undefined for others than Web Mercator and plate carrée. */
function planeOf(crs: string): TileGrid['plane'] | undefined {
  if (/(^|:)(3857|3785|900913|102100)$/.test(crs)) return 'mercator'
  if (/(^|:)(4326|CRS84)$/i.test(crs)) return 'degrees'
  return undefined
}

interface Matrix {
  id: string
  resolution: number
  left: number
  top: number
  side: number
  columns: number
  rows: number
}

/** A level of a set; undefined where it has no square tiles, or not the numbers it needs. */
function matrixOf(element: XmlElement, plane: TileGrid['plane'], crs: string): Matrix | undefined {
  const numberAt = (name: string) => Number(textAt(element, name) || NaN)
  const corner = textAt(element, 'TopLeftCorner').split(/\s+/).map(Number)
  const [width, height] = [numberAt('TileWidth'), numberAt('TileHeight')]
  const scale = numberAt('ScaleDenominator')
  const [first = NaN, second = NaN] = corner
  const [left, top] = isLatitudeFirst(plane, crs, first) ? [second, first] : [first, second]
  const matrix: Matrix = {
    id: textAt(element, 'Identifier'),
    resolution: (scale * PIXEL) / (plane === 'degrees' ? METRES_PER_DEGREE : 1),
    left,
    top,
    side: width,
    columns: numberAt('MatrixWidth'),
    rows: numberAt('MatrixHeight'),
  }
  const isUsable =
    matrix.id !== '' &&
    width === height &&
    [matrix.resolution, width, matrix.columns, matrix.rows].every((value) => Number.isFinite(value) && value > 0) &&
    [left, top].every((value) => Math.abs(value) < 1e9)
  return isUsable ? matrix : undefined
}

/** By the URN of EPSG:4326 the latitude comes first; CRS84, and many services against the standard, have the longitude first. */
const isLatitudeFirst = (plane: TileGrid['plane'], crs: string, first: number): boolean =>
  plane === 'degrees' && !/CRS84$/i.test(crs) && Math.abs(first) <= 90

/** How far levels may be from having pixels half as large as those before, as a share: what rounding in a document makes of them. */
const ROUNDING = 1e-4

const isHalfOf = (finer: Matrix, coarser: Matrix): boolean =>
  Math.abs((2 * finer.resolution) / coarser.resolution - 1) < ROUNDING &&
  Math.abs(finer.left - coarser.left) < coarser.resolution * ROUNDING * coarser.side + 1e-6 &&
  Math.abs(finer.top - coarser.top) < coarser.resolution * ROUNDING * coarser.side + 1e-6 &&
  finer.side === coarser.side

/** The longest run of levels of which each is twice as fine as the one before. */
function longestRun(matrices: readonly Matrix[]): Matrix[] {
  const sorted = [...matrices].sort((a, b) => b.resolution - a.resolution)
  let best: Matrix[] = []
  let run: Matrix[] = []
  for (const matrix of sorted) {
    run = run.length > 0 && isHalfOf(matrix, run.at(-1)!) ? [...run, matrix] : [matrix]
    if (run.length > best.length) best = run
  }
  return best.slice(0, 30)
}

/** The grid of a set of levels, or why it cannot be used. */
function gridOf(set: XmlElement): TileGrid | string {
  const id = textAt(set, 'Identifier')
  const crs = textAt(set, 'SupportedCRS')
  const plane = planeOf(crs)
  if (!plane) return `is in ${plainText(crs, 60) || 'a coordinate system of its own'}; only Web Mercator and plate carrée can be used`
  const all = childrenOf(set, 'TileMatrix')
  const matrices = all.flatMap((matrix) => matrixOf(matrix, plane, crs) ?? [])
  const run = longestRun(matrices)
  const [first] = run
  if (!first) return `has no level with square tiles`
  if (matrices.length > 1 && run.length === 1) return `has levels (“${id}”) that are not each twice as fine as the one before`
  const grid = tileGridSchema.safeParse({
    plane,
    left: first.left,
    top: first.top,
    side: first.side,
    resolution: first.resolution,
    levels: run.map(({ id: name, columns, rows }) => ({ id: name, columns, rows })),
  })
  return grid.data ?? `has levels (“${id}”) whose numbers cannot be right`
}

/** The value of a further dimension, such as time: its default, else the first that it has. */
const dimensionsOf = (layer: XmlElement): [name: string, value: string][] =>
  childrenOf(layer, 'Dimension').map((dimension) => [
    textAt(dimension, 'Identifier'),
    textAt(dimension, 'Default') || textAt(dimension, 'Value').split('/')[0]!,
  ])

/** The address of GetTile with key-value pairs (KVP); undefined where the service has none. Source: OGC 07-057r7, section 8.2. */
function kvpAddress(root: XmlElement): string | undefined {
  const operation = childrenOf(elementAt(root, 'OperationsMetadata') ?? root, 'Operation').find(
    ({ attributes }) => attributes.name === 'GetTile',
  )
  const gets = operation ? childrenOf(elementAt(operation, 'DCP', 'HTTP') ?? operation, 'Get') : []
  const encodingOf = (get: XmlElement) =>
    childrenOf(get, 'Constraint').flatMap(({ children }) =>
      children.flatMap((values) => childrenOf(values, 'Value').map(({ text }) => text.toUpperCase())),
    )
  const found = gets.find((get) => encodingOf(get).includes('KVP')) ?? gets.find((get) => encodingOf(get).length === 0)
  return found?.attributes.href
}

interface Choice {
  layer: string
  style: string
  set: string
  format: string
  dimensions: [name: string, value: string][]
}

function kvpTemplate(base: string, { layer, style, set, format, dimensions }: Choice): string {
  const pairs = [
    ['SERVICE', 'WMTS'],
    ['REQUEST', 'GetTile'],
    ['VERSION', '1.0.0'],
    ['LAYER', layer],
    ['STYLE', style],
    ['FORMAT', format],
    ['TILEMATRIXSET', set],
    ...dimensions,
  ].map(([name, value]) => `${name}=${encodeURIComponent(value!)}`)
  const start = base.includes('?') ? (/[?&]$/.test(base) ? base : `${base}&`) : `${base}?`
  return `${start}${pairs.join('&')}&TILEMATRIX={z}&TILEROW={y}&TILECOL={x}`
}

/** A template of the standard's resource addresses, with our names of what differs from tile to tile. Source: OGC 07-057r7, section 10.2.1. */
function resourceTemplate(template: string, { layer, style, set, dimensions }: Choice): string {
  const values = new Map([['layer', layer], ['style', style], ['tilematrixset', set], ...dimensions.map(([name, value]) => [name.toLowerCase(), value] as const)]) // prettier-ignore
  const places: Readonly<Record<string, string>> = { tilematrix: '{z}', tilecol: '{x}', tilerow: '{y}' }
  return template.replace(/\{([^{}]+)\}/g, (whole, name: string) => {
    const key = name.toLowerCase()
    const value = values.get(key)
    return places[key] ?? (value === undefined ? whole : encodeURIComponent(value))
  })
}

/** The box of a layer on the Earth; null where it gives none. */
function regionOf(layer: XmlElement) {
  const box = elementAt(layer, 'WGS84BoundingBox')
  const corner = (name: string) => textAt(box, name).split(/\s+/).map(Number)
  const [west = NaN, south = NaN] = corner('LowerCorner')
  const [east = NaN, north = NaN] = corner('UpperCorner')
  return regionOfBounds([west, Math.max(-90, south), east, Math.min(90, north)])
}

/** The most maps that are offered of a service. */
const MOST_MAPS = 2000

/**
 * Reads what a WMTS says of itself: each layer in each style and each set of levels that can be used.
 * @throws JourneyError that says what is wrong with it
 */
export function readCapabilities(text: string): Described {
  const root = readXmlTree(text, 'What the service says of itself (its capabilities)')
  if (root.name !== 'Capabilities') throw new JourneyError(exceptionIn(root) ?? 'This address gives XML, but no capabilities of a WMTS.')
  const contents = elementAt(root, 'Contents')
  const grids = new Map(
    contents ? childrenOf(contents, 'TileMatrixSet').map((set) => [textAt(set, 'Identifier'), gridOf(set)] as const) : [],
  )
  const kvp = kvpAddress(root)
  const maps: Described['maps'] = []
  const unusable: string[] = []
  for (const layer of contents ? childrenOf(contents, 'Layer') : []) {
    if (maps.length >= MOST_MAPS) break
    const found = mapsOfLayer(layer, grids, kvp)
    if (typeof found === 'string') unusable.push(found)
    else for (const map of found) maps.push(map)
  }
  const service = elementAt(root, 'ServiceIdentification')
  const name = plainText(textAt(service, 'Title'), 120)
  if (maps.length === 0)
    throw new JourneyError(unusable[0] ? `Nothing of this service can be used. ${unusable[0]}` : 'This service has no layers.')
  const stated = (words: string) => (/^none\.?$/i.test(words) ? '' : words)
  const fees = stated(plainText(textAt(service, 'Fees')))
  const access = stated(plainText(textAt(service, 'AccessConstraints')))
  return {
    is: 'wmts',
    credit: {
      title: name,
      author: plainText(textAt(elementAt(root, 'ServiceProvider'), 'ProviderName')),
      licence: '',
      source: plainText(elementAt(root, 'ServiceProvider', 'ProviderSite')?.attributes.href ?? ''),
    },
    terms: [fees && `Fees: ${fees}`, access && `Access: ${access}`].filter(Boolean).join('. '),
    maps,
    unusable,
  }
}

/** What a service says instead of its capabilities. Source: OGC 06-121r3, OWS Common, section 8. */
function exceptionIn(root: XmlElement): string | undefined {
  if (root.name !== 'ExceptionReport') return undefined
  return `The service refuses: ${plainText(textAt(root, 'Exception', 'ExceptionText'), 200) || 'it does not say why'}.`
}

/** The maps of a layer, or why there are none. */
function mapsOfLayer(
  layer: XmlElement,
  grids: ReadonlyMap<string, TileGrid | string>,
  kvp: string | undefined,
): Described['maps'] | string {
  const id = textAt(layer, 'Identifier')
  const title = plainText(textAt(layer, 'Title'), 120) || plainText(id, 120) || 'A layer'
  const formats = childrenOf(layer, 'Format').map(({ text }) => text)
  const format = FORMATS.find((known) => formats.some((offered) => offered.toLowerCase() === known))
  if (!format) return `“${title}” has no pictures that can be read, only ${plainText(formats.join(', '), 80) || 'nothing'}.`
  const resource = childrenOf(layer, 'ResourceURL').find(
    ({ attributes }) => attributes.resourceType === 'tile' && attributes.format?.toLowerCase() === format,
  )?.attributes.template
  if (!resource && !kvp) return `“${title}” does not say at which address its tiles are.`
  const links = childrenOf(layer, 'TileMatrixSetLink')
  const sets = links.map((link) => textAt(link, 'TileMatrixSet'))
  const usable = links.flatMap((link, i) => {
    const grid = grids.get(sets[i]!)
    const own = grid && typeof grid !== 'string' ? withinLimits(grid, link) : undefined
    return own ? [{ set: sets[i]!, grid: own }] : []
  })
  if (usable.length === 0) {
    const why = sets.map((set) => grids.get(set)).find((grid) => typeof grid === 'string')
    return `“${title}” ${why ?? 'names no levels that the service describes'}.`
  }
  const styles = childrenOf(layer, 'Style').sort(
    (a, b) => Number(b.attributes.isDefault === 'true') - Number(a.attributes.isDefault === 'true'),
  )
  const covers = regionOf(layer)
  const maps: Described['maps'] = []
  for (const style of styles.length > 0 ? styles : [undefined])
    for (const { set, grid } of usable) {
      const choice: Choice = {
        layer: id,
        style: style ? textAt(style, 'Identifier') : 'default',
        set,
        format: exactly(formats, format),
        dimensions: dimensionsOf(layer),
      }
      const address = resource ? resourceTemplate(resource, choice) : kvpTemplate(kvp!, choice)
      const name = styles.length > 1 ? `${title} · ${plainText(textAt(style, 'Title'), 60) || choice.style}` : title
      const service = serviceOf(name, address, grid, covers)
      if (service) maps.push({ id: [id, choice.style, set].join('/'), title: usable.length > 1 ? `${name} · ${set}` : name, service })
    }
  return maps.length > 0 ? maps : `“${title}” gives an address for its tiles that cannot be used.`
}

/** The levels of a grid that a layer has, where it says so: from its first to its last. Source: OGC 07-057r7, section 7.1.1.1.3, TileMatrixLimits. */
function withinLimits(grid: TileGrid, link: XmlElement): TileGrid | undefined {
  const limits = elementAt(link, 'TileMatrixSetLimits')
  if (!limits) return grid
  const named = new Set(childrenOf(limits, 'TileMatrixLimits').map((limit) => textAt(limit, 'TileMatrix')))
  const first = grid.levels.findIndex(({ id }) => named.has(id))
  if (first < 0) return undefined
  const last = grid.levels.findLastIndex(({ id }) => named.has(id))
  return { ...grid, resolution: grid.resolution / 2 ** first, levels: grid.levels.slice(first, last + 1) }
}

/** A format as the service writes it. */
const exactly = (formats: readonly string[], known: string): string => formats.find((format) => format.toLowerCase() === known)!

function serviceOf(name: string, address: string, grid: TileGrid, covers: TileService['covers']): TileService | undefined {
  try {
    checkAddress(address)
  } catch (error) {
    if (error instanceof JourneyError) return undefined
    throw error
  }
  return tileServiceSchema.safeParse({ name: name.slice(0, 255), kind: 'template', address, grid, covers }).data
}
