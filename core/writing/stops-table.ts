import { differenceInCalendarDays, parseISO } from 'date-fns'
import Papa from 'papaparse'
import { groundGeo } from '../geo/ground'
import { nameOfStop } from '../journey/lookup'
import type { Journey, Leg, Traveller } from '../journey/schema'
import type { Mode } from './modes'
import { MODE_IDS, MODES } from './modes'

/**
 * The stops of a traveller as a table, one row a visit, as a trip is written: CSV of RFC 4180, which spreadsheets open and which makes the same trip again.
 * Where the ground is not known to lie on the Earth there are no coordinates.
 */
export function writeStopsTable(journey: Journey, { visits, legs }: Pick<Traveller, 'visits' | 'legs'>): string {
  const geo = groundGeo(journey)
  const rows = visits.map(({ stop: id, date }, i) => {
    const stop = journey.stops.find((each) => each.id === id)!
    const at = stop.place ?? geo?.toLonLat(stop.at)
    const next = visits[i + 1]?.date
    const nights = date && next ? differenceInCalendarDays(parseISO(next), parseISO(date)) : 0
    const mode = i > 0 ? modeOfLeg(legs[i - 1]) : undefined
    const { second } = stop.label
    return {
      name: nameOfStop(stop),
      latitude: at ? degrees(at.lat) : '',
      longitude: at ? degrees(at.lon) : '',
      travel: mode ? MODES[mode].words[0] : '',
      arrival: date ?? '',
      nights: nights > 0 ? String(nights) : '',
      note: second?.kind === 'note' ? second.text : '',
    }
  })
  return `${Papa.unparse(rows, { columns: ['name', 'latitude', 'longitude', 'travel', 'arrival', 'nights', 'note'] })}\r\n`
}

/** A hundred-thousandth of a degree is a metre. */
const degrees = (value: number): string => String(Math.round(value * 1e6) / 1e6)

/** How a leg is travelled, by its vehicle; undefined where that says none of the ways that are known. */
function modeOfLeg(leg: Leg | undefined): Mode | undefined {
  const vehicle = leg?.vehicle
  return vehicle?.kind === 'catalogue' ? MODE_IDS.find((mode) => MODES[mode].vehicle === vehicle.artwork) : undefined
}
