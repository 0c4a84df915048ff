import { createJourney } from '#core/journey/create'
import { editLeg } from '#core/edits/lines/legs'
import { addStop } from '#core/edits/trips/visits'
import type { LegPatch } from '#core/edits/lines/legs'
import type { Journey, Photo, Sheet } from '#core/journey/schema'
import { demoJourney, demoPhoto, demoSheet, stillDemo } from '#demo/journey'
import { SHEET } from '#demo/places'

/** A sheet that no file stands behind: enough for everything but painting. */
export const paperSheet: Sheet = demoSheet({ hash: '0'.repeat(64), ...SHEET })

/** A photo of which the same is true. */
export const paperPhoto: Photo = demoPhoto({ hash: '1'.repeat(64), width: 1500, height: 1000 })

export const demo = (): Journey => stillDemo(movingDemo())

/** The demo as it ships, with its moving camera. */
export const movingDemo = (): Journey => demoJourney(paperSheet, paperPhoto)

/** A journey over the given ground points, its stops named s0, s1, ... and its legs l1, l2, ... */
export function journeyOver(points: readonly (readonly [number, number])[], patch: LegPatch = {}, seconds = 10): Journey {
  let journey = createJourney('Test trip', undefined, seconds)
  points.forEach(([x, y], i) => {
    journey = addStop(journey, { x, y }, { stop: `s${i}`, leg: `l${i}` }, { traveller: 'traveller' })
    if (i > 0) journey = editLeg(journey, `l${i}`, patch)
  })
  return journey
}
