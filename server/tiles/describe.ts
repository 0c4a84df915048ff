import { JourneyError } from '#core/error'
import { xmlText } from '#core/formats/xml-text'
import type { Described } from '#core/tiles/described'
import { webMercatorGrid } from '#core/tiles/grids'
import { checkAddress, hidingKey, hostOf, isTemplate } from '#core/tiles/template'
import { readTileJson } from '#core/tiles/tilejson'
import { readCapabilities } from '#core/tiles/wmts'
import { describeArchive } from './archive'
import type { Client } from './client'
import { NotHad } from './client'

/** The most bytes of what a service says of itself: capabilities of large ones have several million. */
const MOST_WORDS = 16 * 1024 ** 2

const KINDS = 'the address of a tile with {z}, {x} and {y}, of a TileJSON, of the capabilities of a WMTS, or of a PMTiles archive'

/**
 * Finds out what there is at an address. Templates are not asked for anything.
 * @param key stands where the address has `{key}`, and is hidden wherever the service repeats it
 * @throws JourneyError that says what is wrong
 */
export async function describe(address: string, key: string | undefined, client: Client): Promise<Described> {
  checkAddress(address)
  if (isTemplate(address)) return describeTemplate(address)
  try {
    if (/\.pmtiles$/i.test(address.split(/[?#]/)[0]!)) return await describeArchive(address, client)
    return await readWords(address, key, client)
  } catch (error) {
    if (error instanceof JourneyError) throw error
    if (error instanceof NotHad) throw new JourneyError(`${error.message.replace(/\.$/, '')}: check the address, or try again.`)
    // The package that reads archives has errors of its own.
    throw new JourneyError('This is not a PMTiles archive of version 3, or it is damaged.', { cause: error })
  }
}

function describeTemplate(address: string): Described {
  const name = hostOf(address)
    .replace(/\{[^}]*\}\.?/g, '')
    .replace(/:\d+$/, '')
  return {
    is: 'template',
    credit: { title: '', author: '', licence: '', source: name },
    terms: '',
    maps: [
      {
        id: 'tiles',
        title: name,
        service: { name, kind: 'template', address, grid: webMercatorGrid(address.includes('{r}') ? 512 : 256), covers: null },
      },
    ],
    unusable: [],
  }
}

async function wordsAt(address: string, key: string | undefined, client: Client): Promise<string> {
  const found = await client.get(address, MOST_WORDS)
  if (found === 'nothing') throw new JourneyError(`There is nothing at this address of ${hostOf(address)}: give ${KINDS}.`)
  return hidingKey(xmlText(found.body), key)
}

/** The address at which a service is asked for its capabilities. Source: OGC 07-057r7, section 8.1. */
const capabilitiesOf = (address: string): string =>
  `${address}${address.includes('?') ? (/[?&]$/.test(address) ? '' : '&') : '?'}SERVICE=WMTS&REQUEST=GetCapabilities&VERSION=1.0.0`

async function readWords(address: string, key: string | undefined, client: Client): Promise<Described> {
  // The bare address of a WMTS answers with an error, or with a page for people.
  const isBare = !/request=/i.test(address)
  const words = await wordsAt(address, key, client).catch((error: unknown) => {
    if (isBare && error instanceof NotHad) return '<none/>'
    throw error
  })
  const start = words.replace(/^\uFEFF/, '').trimStart()
  if (start.startsWith('{') && !start.startsWith('{key}')) return readTileJson(parsed(start), address)
  if (start.startsWith('PMTiles')) return describeArchive(address, client)
  if (!start.startsWith('<')) throw new JourneyError(`What is at this address of ${hostOf(address)} describes no tiles: give ${KINDS}.`)
  const isHtml = /^<(!doctype html|html)/i.test(start)
  if (!isHtml && /Capabilities/.test(start.slice(0, 4000))) return readCapabilities(start)
  if (isBare) return readWords(capabilitiesOf(address), key, client)
  if (isHtml) throw new JourneyError(`${hostOf(address)} answers with a web page: give ${KINDS}.`)
  return readCapabilities(start)
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new JourneyError('What is at this address is not well-formed JSON.')
  }
}
