import { addStop } from '#core/edits/trips/visits'
import { editLeg } from '#core/edits/lines/legs'
import { globeOf } from '#core/shots/globe'
import { groundGeo } from '#core/geo/ground'
import { createJourney } from '#core/journey/create'
import type { Georeference, Journey, Sheet } from '#core/journey/schema'
import { sheetSchema } from '#core/journey/schema'

/** Radians to a pixel of a map of the world 4096 pixels wide. */
const PER_PIXEL = (2 * Math.PI) / 4096

/** How a map of the world 4096 by 2896 pixels lies on the Earth: Web Mercator, or longitude and latitude up to 85 degrees in whole. */
export const WORLDS: Readonly<Record<'mercator' | 'degrees', Georeference>> = {
  mercator: {
    kind: 'affine',
    source: 'world-file',
    plane: { kind: 'mercator' },
    matrix: [PER_PIXEL * 6378137, 0, -Math.PI * 6378137, 0, -PER_PIXEL * 6378137, 1448 * PER_PIXEL * 6378137],
  },
  degrees: {
    kind: 'affine',
    source: 'world-file',
    plane: { kind: 'degrees' },
    matrix: [360 / 4096, 0, -180, 0, -170 / 2896, 85],
  },
}

export const worldSheet = (georeference: Georeference = WORLDS.mercator): Sheet =>
  sheetSchema.parse({ id: 'world', name: 'World', image: 'f'.repeat(64), width: 4096, height: 2896, georeference })

export const geoOfWorld = (georeference: Georeference = WORLDS.mercator) => groundGeo({ sheets: [worldSheet(georeference)] })!

export const worldGlobe = (georeference: Georeference = WORLDS.mercator) => globeOf(geoOfWorld(georeference))

/** A flight over four places of the world, in the given seconds. */
export function worldTrip(seconds = 14, georeference: Georeference = WORLDS.mercator): Journey {
  const sheets = [worldSheet(georeference)]
  const geo = groundGeo({ sheets })!
  let journey: Journey = { ...createJourney('World', undefined, seconds), sheets }
  for (const [i, [lon, lat]] of (
    [
      [-9, 38],
      [18, 59],
      [72, 19],
      [139, 35],
    ] as const
  ).entries())
    journey = addStop(journey, geo.toGround({ lon, lat })!, { stop: `s${i}`, leg: `l${i}` }, { traveller: 'traveller' })
  return journey.travellers[0]!.legs.reduce((j, { id }) => editLeg(j, id, { course: { kind: 'great-circle' } }), journey)
}
