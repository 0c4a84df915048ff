import type { Point } from '../geometry/point'
import type { Journey, Sheet } from '../journey/schema'
import { groundToSheet, sheetToGround } from '../sheet/place'
import { tryGeoSheet } from './georeference'
import type { LonLat } from './lon-lat'

/** The ways between the Earth and a journey's ground. */
export interface GroundGeo {
  /** The sheet whose georeference is used. */
  sheet: Sheet
  toGround(at: LonLat): Point | undefined
  toLonLat(p: Point): LonLat | undefined
}

export function geoOfSheet(sheet: Sheet): GroundGeo | undefined {
  const geo = tryGeoSheet(sheet.georeference, sheet)
  return (
    geo && {
      sheet,
      toGround(at) {
        const p = geo.toSheet(at)
        return p && sheetToGround(sheet.place, p)
      },
      toLonLat: (p) => geo.toLonLat(groundToSheet(sheet.place, p)),
    }
  )
}

/** The lowest georeferenced sheet speaks for the ground; undefined where no sheet is georeferenced. */
export function groundGeo({ sheets }: Pick<Journey, 'sheets'>): GroundGeo | undefined {
  for (const sheet of sheets) {
    const geo = geoOfSheet(sheet)
    if (geo) return geo
  }
  return undefined
}
