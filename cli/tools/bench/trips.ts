/** Journeys that are measured. */
import { addPostcard, newPostcard } from '#core/edits/marks/postcards'
import { editLeg } from '#core/edits/lines/legs'
import { addStop } from '#core/edits/trips/visits'
import { createJourney } from '#core/journey/create'
import type { Journey } from '#core/journey/schema'
import { inkSchema, shotSchema } from '#core/journey/schema'

/** A trip of a hundred stops, with a vehicle on all legs. */
export function hundredStops(): Journey {
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

/** Three travellers over the same hundred stops. */
export function threeTrips(): Journey {
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

/** A film whose camera moves all the time over the middle of the sheet, at a pitch. */
export function moving(journey: Journey, pitch: number): Journey {
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

/** A trip with everything that makes a film look good, and the same trip plain: eight stops over the demo's sheet, and its shots at three of them. */
export function dressedAndPlain(journey: Journey): [dressed: Journey, plain: Journey] {
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

/** Lines of a made-up network, side by side over the Lantern Isles: 210 of a hundred points. */
export const manyLines = (): Journey['networks'] => [
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

/** A made-up walk of so many points through the Lantern Isles, one a second, with heights and times. */
export function longWalk(points: number): string {
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
