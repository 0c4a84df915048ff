import { JourneyError } from '../error'
import type { TileGrid } from '../journey/schema'

/** The address of a tile: the level's name, and column and row counted from the west and the north. */
export interface ServiceTile {
  level: number
  column: number
  row: number
}

const PLACEHOLDER = /\{([^{}]*)\}/g

/** What stands in braces in an address. `{r}` is where services put “@2x” for tiles of twice the pixels. */
const KNOWN: ReadonlySet<string> = new Set(['z', 'x', 'y', '-y', 's', 'r', 'quadkey', 'key'])

/** Names of the servers that share the work: `{a-c}`, `{0-3}`, `{switch:a,b}`. Common practice, no source. */
function serversIn(name: string): string[] | undefined {
  if (name === 's') return ['a', 'b', 'c']
  if (name.startsWith('switch:')) return name.slice(7).split(',').filter(Boolean)
  const [, from, to] = /^([a-z0-9])-([a-z0-9])$/.exec(name) ?? []
  if (from === undefined || to === undefined || from > to) return undefined
  return Array.from({ length: to.charCodeAt(0) - from.charCodeAt(0) + 1 }, (_, i) => String.fromCharCode(from.charCodeAt(0) + i))
}

/** Whether an address is one of tiles, with places for their numbers. */
export const isTemplate = (address: string): boolean => /\{(x|quadkey)\}/.test(address)

/**
 * Checks an address, with or without placeholders, before anything is asked of it.
 * @throws JourneyError that says what is wrong with it
 */
export function checkAddress(address: string): void {
  if (!/^https?:\/\/[^/?#\s]+([/?#]\S*)?$/i.test(address.replace(PLACEHOLDER, '0')))
    throw new JourneyError('This is not an address that can be asked for tiles: it should begin with https:// or http://.')
  if (hostOf(address).includes('@'))
    throw new JourneyError('The address holds a name or password before the @: leave it out, and give a key in its own field.')
  const names = [...address.matchAll(PLACEHOLDER)].map(([, name]) => name!)
  const strange = names.find((name) => !KNOWN.has(name) && !serversIn(name)?.length)
  if (strange !== undefined)
    throw new JourneyError(
      `The address has {${strange.slice(0, 30)}} in it, which is not known here: use {z}, {x} and {y}, {-y}, {quadkey}, {s}, {r} or {key}.`,
    )
  if (!names.some((name) => ['x', 'y', '-y', 'z', 'quadkey'].includes(name))) return
  const isWhole = names.includes('quadkey') || (names.includes('z') && names.includes('x') && names.includes('y') !== names.includes('-y'))
  if (!isWhole) throw new JourneyError('The address of a tile needs {z}, {x}, and one of {y} and {-y}; or {quadkey} alone.')
}

/** A tile's number in base 4, a digit for each level: bit of the column plus twice that of the row. Common practice, no source. */
function quadkey({ column, row }: ServiceTile, digits: number): string {
  let key = ''
  for (let bit = digits - 1; bit >= 0; bit--) key += ((column >> bit) & 1) + 2 * ((row >> bit) & 1)
  return key
}

/** The address of a tile, still with `{key}` where a key belongs. The same tile always has the same address. */
export function tileAddressOf(template: string, grid: TileGrid, tile: ServiceTile): string {
  const { level, column, row } = tile
  const { id, rows } = grid.levels[level]!
  return template.replace(PLACEHOLDER, (whole, name: string) => {
    switch (name) {
      case 'z':
        return encodeURIComponent(id)
      case 'x':
        return String(column)
      case 'y':
        return String(row)
      case '-y':
        return String(rows - 1 - row)
      case 'r':
        return grid.side >= 512 ? '@2x' : ''
      case 'quadkey':
        return quadkey(tile, Number(id))
      case 'key':
        return whole
      default: {
        const servers = serversIn(name) ?? []
        return servers[(column + row) % Math.max(1, servers.length)] ?? whole
      }
    }
  })
}

/** Names of fields of an address that hold a key. Common practice, no source. */
const KEY_FIELD =
  /^(api[-_]?key|map[-_]?key|key|access[-_]?(key|token)|api[-_]?token|token|auth|app[-_]?(id|key|code)|subscription[-_]?key|client[-_]?secret|sig|signature)$/i

/** An address without the key that stands in it, which is given apart; `key` is undefined where none is recognised. */
export function withoutKey(address: string): { address: string; key: string | undefined } {
  let key: string | undefined
  const bare = address.replace(/([?&])([^=&#]+)=([^&#]*)/g, (whole, mark: string, name: string, value: string) => {
    if (key !== undefined || value === '' || value.includes('{') || !KEY_FIELD.test(name)) return whole
    key = decodeURIComponent(value.replace(/%(?![0-9a-f]{2})/gi, '%25'))
    return `${mark}${name}={key}`
  })
  return { address: bare, key }
}

/** Text, such as an address that a service gives or an error, with `{key}` instead of a key. */
export const hidingKey = (text: string, key: string | undefined): string =>
  key ? text.replaceAll(encodeURIComponent(key), '{key}').replaceAll(key, '{key}') : text

/** An address with its key, to be asked. @throws JourneyError where it wants one that is not there */
export function withKey(address: string, key: string | undefined): string {
  if (!address.includes('{key}')) return address
  if (!key) throw new JourneyError(`${hostOf(address)} wants a key: give yours in the field for it.`)
  return address.replaceAll('{key}', encodeURIComponent(key))
}

/** The host that an address belongs to, as its key is kept under it; names of servers that share the work are one host. */
export const hostOf = (address: string): string => /^https?:\/\/([^/?#]+)/i.exec(address)?.[1]?.toLowerCase() ?? ''
