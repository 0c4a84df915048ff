import { geoPath, geoProjection } from 'd3-geo'
import type { GeoProjection } from 'd3-geo'
import type { Feature } from 'geojson'
import { degrees } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import type { Georeference } from '../journey/schema'
import { geoSheet } from '../geo/georeference'
import { d3Projection } from '../geo/plane'

/** A projection from degrees to a sheet's pixels, with which d3-geo cuts shapes where the map is cut. */
function projectionTo(georeference: Georeference, size: { width: number; height: number }, middle: { lon: number }): GeoProjection {
  if (georeference.kind === 'affine' && georeference.plane.kind === 'drawn') {
    const [a, , c, , e, f] = georeference.matrix
    return d3Projection(georeference.plane)
      .scale(1 / a)
      .translate([-c / a, -f / e])
  }
  const { toSheet } = geoSheet(georeference, size)
  // Latitudes are clamped: nearer to a pole there may be nothing, or what there is may lie at infinity.
  const raw = (lambda: number, phi: number): [number, number] => {
    const p = toSheet({ lon: degrees(lambda) + middle.lon, lat: clamp(degrees(phi), -85, 85) })
    // d3-geo turns the y axis over after this.
    return p ? [p.x, -p.y] : [0, 0]
  }
  // It also moves the image of 0, 0 to the origin, from where it must be moved back.
  const [x, y] = raw(0, 0)
  return geoProjection(raw).rotate([-middle.lon, 0]).scale(1).translate([x, -y])
}

/** The outlines of a feature in a sheet's pixels, rings x, y, x, y, …; only those that come near the sheet. */
export function ringsOnSheet(
  feature: Feature,
  georeference: Georeference,
  { width, height }: { width: number; height: number },
): number[][] {
  const centre = geoSheet(georeference, { width, height }).toLonLat({ x: width / 2, y: height / 2 }) ?? { lon: 0 }
  const rings: number[][] = []
  const context = {
    beginPath() {},
    moveTo: (x: number, y: number) => void rings.push([x, y]),
    lineTo: (x: number, y: number) => void rings.at(-1)!.push(x, y),
    arc() {},
    closePath() {},
  }
  geoPath(projectionTo(georeference, { width, height }, centre), context)(feature)
  return rings
    .filter((ring) => ring.length >= 6 && comesNear(ring, width, height))
    .map((ring) => ring.map((v) => Math.round(v * 100) / 100))
}

function comesNear(ring: readonly number[], width: number, height: number): boolean {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  for (let i = 0; i + 1 < ring.length; i += 2) {
    left = Math.min(left, ring[i]!)
    right = Math.max(right, ring[i]!)
    top = Math.min(top, ring[i + 1]!)
    bottom = Math.max(bottom, ring[i + 1]!)
  }
  return right > -width && left < 2 * width && bottom > -height && top < 2 * height
}

/** How many degrees of longitude a sheet spans along its middle; all of them where its sides are off the Earth. */
export function lonSpan(georeference: Georeference, { width, height }: { width: number; height: number }): number {
  const { toLonLat } = geoSheet(georeference, { width, height })
  const [west, east] = [toLonLat({ x: 0, y: height / 2 }), toLonLat({ x: width, y: height / 2 })]
  return west && east ? (east.lon - west.lon + 360) % 360 || 360 : 360
}
