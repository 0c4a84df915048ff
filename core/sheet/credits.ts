import type { Credit, DrawnMap, Journey, Sheet } from '../journey/schema'
import { imageryOf } from './imagery'

/** Sources of the data that comes with Zephyrine. GeoNames requires credit (CC BY 4.0); Natural Earth is in the public domain and is credited all the same. */
const GEONAMES: Credit = { title: 'Places', author: 'GeoNames', licence: 'CC BY 4.0', source: 'geonames.org' }
const NATURAL_EARTH: Credit = {
  title: 'Map data',
  author: 'Natural Earth',
  licence: 'Public domain',
  source: 'naturalearthdata.com',
}

/** The credit of a generated map: OpenStreetMap requires its own (ODbL), and GeoNames for the towns. */
export function creditOfMap({ style, towns }: DrawnMap): Credit {
  const imagery = imageryOf(style)
  const authors = [...(imagery ? [] : ['© OpenStreetMap contributors']), 'Natural Earth', 'NASA', ...(towns ? ['GeoNames'] : [])]
  const licences = [...(imagery ? [] : ['ODbL']), ...(towns ? ['CC BY 4.0'] : []), 'public domain']
  return { title: 'Map data', author: authors.join(', '), licence: licences.join(', '), source: imagery ? 'nasa.gov' : 'openstreetmap.org' }
}

export interface CreditEntry {
  /** The thing that the credit is for. */
  what: string
  credit: Credit
  /** Whether its licence is missing. */
  isUnlicensed: boolean
}

const entryOf = (what: string, credit: Credit): CreditEntry => ({ what, credit, isUnlicensed: credit.licence.trim() === '' })

/** The sheets visible in the film. */
const filmSheets = (journey: Journey): Sheet[] => journey.sheets.filter((sheet) => !sheet.tracing)

/** The credits of a journey: one for each of its sheets and data sources. */
export function creditsOf(journey: Journey): CreditEntry[] {
  const entries = filmSheets(journey).map((sheet) => entryOf(sheet.name, sheet.credit))
  const usesNaturalEarth = journey.areas.length > 0 && !journey.sheets.some((sheet) => sheet.drawn)
  if (usesNaturalEarth) entries.push(entryOf('Outlines of countries', NATURAL_EARTH))
  if (journey.stops.some((stop) => stop.found)) entries.push(entryOf('Found places', GEONAMES))
  return entries
}

const sentence = ({ title, author, licence, source }: Credit): string =>
  [[title, author].filter(Boolean).join(' by '), licence, source].filter((part) => part.trim() !== '').join(', ')

/** The credits as text, one per line. */
export const creditsText = (journey: Journey): string =>
  creditsOf(journey)
    .map(
      ({ what, credit, isUnlicensed }) => `${what}: ${sentence(credit) || 'no source noted'}${isUnlicensed ? ' (licence not noted)' : ''}`,
    )
    .join('\n')

/** The credits in one short line, each source once; empty where none is noted. */
export function creditLine(journey: Journey): string {
  const names = creditsOf(journey).flatMap(({ credit: { title, author, licence } }) => {
    const name = author || title
    return name ? [licence ? `${name} (${licence})` : name] : []
  })
  return [...new Set(names)].join(' · ')
}
