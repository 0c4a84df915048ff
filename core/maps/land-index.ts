import type { Position } from 'geojson'
import { radians } from '../geometry/angle'
import { clamp } from '../geometry/clamp'
import { METRES_PER_DEGREE } from '../geo/earth'

/**
 * The land of the Earth in a form from which any part is taken quickly, as detailed as it is needed: rings of land and of the lakes in it, to be filled by the
 * even-odd rule. A ring is parted into chunks, of which those far off are stood in for by their first vertex.
 */
export interface LandIndex {
  /** Vertices ring by ring, without the last one, which is the first again; in units of a hundred-thousandth of a degree. */
  lon: Int32Array
  lat: Int32Array
  /** How much each vertex matters, see `weightOf`. */
  weight: Uint8Array
  /** The first vertex of each chunk, and the number of all vertices. */
  chunks: Uint32Array
  /** West, south, east and north of each chunk, with the vertex that follows it. */
  boxes: Int32Array
  /** The first chunk of each ring, and the number of all chunks. */
  rings: Uint32Array
  /** 1 for each ring that is a lake, 0 for one that is land. */
  lakes: Uint8Array
}

/** A part of the Earth in degrees. East is greater than west, so that either may lie beyond 180 degrees. */
export interface LonLatBox {
  west: number
  south: number
  east: number
  north: number
}

const UNITS = 1e5
const CHUNK = 128

/** Steps to a doubling of the distance. */
const STEPS = 10
/** The weight of a vertex by how far, in metres, the line would be from it without it: 0..255, logarithmic. */
const weightOf = (metres: number): number => Math.min(255, Math.round(STEPS * Math.log2(1 + metres)))

/** Puts land into an index. @param polygons in degrees, each its outline and then its lakes, all closed and none across the antimeridian */
export function indexLand(polygons: Iterable<readonly Position[][]>): LandIndex {
  const kept = [...polygons]
    .flatMap((polygon) => polygon.map((ring, i) => ({ ring, isLake: i > 0 })))
    .filter(({ ring }) => ring.length >= 4)
  const rings = kept.map(({ ring }) => ring)
  const vertices = rings.reduce((sum, ring) => sum + ring.length - 1, 0)
  const [lon, lat, weight] = [new Int32Array(vertices), new Int32Array(vertices), new Uint8Array(vertices)]
  const chunks: number[] = []
  const firsts: number[] = []
  let at = 0
  for (const ring of rings) {
    firsts.push(chunks.length)
    const length = ring.length - 1
    for (let i = 0; i < length; i++) {
      if (i % CHUNK === 0) chunks.push(at + i)
      lon[at + i] = Math.round(ring[i]![0]! * UNITS)
      lat[at + i] = Math.round(ring[i]![1]! * UNITS)
    }
    weigh(lon.subarray(at, at + length), lat.subarray(at, at + length), weight.subarray(at, at + length))
    at += length
  }
  firsts.push(chunks.length)
  chunks.push(vertices)
  const index = {
    lon,
    lat,
    weight,
    chunks: Uint32Array.from(chunks),
    rings: Uint32Array.from(firsts),
    lakes: Uint8Array.from(kept, ({ isLake }) => Number(isLake)),
    boxes: new Int32Array(0),
  }
  return { ...index, boxes: boxesOf(index) }
}

function boxesOf({ lon, lat, chunks, rings }: Omit<LandIndex, 'boxes'>): Int32Array {
  const boxes = new Int32Array(4 * (chunks.length - 1))
  for (let ring = 0; ring + 1 < rings.length; ring++) {
    for (let chunk = rings[ring]!; chunk < rings[ring + 1]!; chunk++) {
      const next = chunk + 1 === rings[ring + 1]! ? chunks[rings[ring]!]! : chunks[chunk + 1]!
      let [west, south, east, north] = [lon[next]!, lat[next]!, lon[next]!, lat[next]!]
      for (let i = chunks[chunk]!; i < chunks[chunk + 1]!; i++) {
        west = Math.min(west, lon[i]!)
        east = Math.max(east, lon[i]!)
        south = Math.min(south, lat[i]!)
        north = Math.max(north, lat[i]!)
      }
      boxes.set([west, south, east, north], 4 * chunk)
    }
  }
  return boxes
}

/** Weighs the vertices of a ring as Douglas and Peucker (1973) choose them, but for all tolerances at once: none outweighs those that were chosen before it. */
function weigh(lon: Int32Array, lat: Int32Array, weight: Uint8Array): void {
  const length = lon.length
  const unit = METRES_PER_DEGREE / UNITS
  const across = Math.cos(radians(lat[0]! / UNITS))
  let [opposite, size] = [0, 0]
  for (let i = 1; i < length; i++) {
    const away = Math.hypot((lon[i]! - lon[0]!) * across, lat[i]! - lat[0]!)
    if (away > size) [opposite, size] = [i, away]
  }
  // A ring is gone altogether where less than its size matters.
  weight[0] = weight[opposite] = weightOf(size * unit)
  const open: [from: number, to: number, most: number][] = [
    [0, opposite, Infinity],
    [opposite, length, Infinity],
  ]
  for (let part = open.pop(); part; part = open.pop()) {
    const [from, to, most] = part
    if (to - from < 2) continue
    const end = to % length
    const [ax, ay] = [lon[from]! * across, lat[from]!]
    const [dx, dy] = [lon[end]! * across - ax, lat[end]! - ay]
    const squared = dx * dx + dy * dy
    let [furthest, away] = [from + 1, -1]
    for (let i = from + 1; i < to; i++) {
      const [px, py] = [lon[i]! * across - ax, lat[i]! - ay]
      const t = squared === 0 ? 0 : Math.max(0, Math.min(1, (px * dx + py * dy) / squared))
      const distance = (px - t * dx) ** 2 + (py - t * dy) ** 2
      if (distance > away) [furthest, away] = [i, distance]
    }
    const metres = Math.min(most, Math.sqrt(away) * unit)
    weight[furthest] = weightOf(metres)
    open.push([from, furthest, metres], [furthest, to, metres])
  }
}

/**
 * The rings near a part of the Earth, x, y, x, y, … in degrees, with longitudes that go on beyond 180 where the part does. What is stood in for and lies further
 * off than half the part's size is drawn in to there: within the part that changes nothing.
 * @param metres vertices are left out where the line stays so near to them
 * @param smallest islands and lakes that are smaller, in metres, are left out
 */
export function landWithin(
  { lon, lat, weight, chunks, boxes, rings, lakes }: LandIndex,
  part: LonLatBox,
  metres: number,
  smallest: { island: number; lake: number },
): number[][] {
  const least = weightOf(metres)
  const leastRing = [weightOf(smallest.island), weightOf(smallest.lake)]
  const [aside, above] = [(part.east - part.west) / 2, (part.north - part.south) / 2]
  const found: number[][] = []
  for (const turn of [-360, 0, 360]) {
    const [west, south, east, north] = [part.west - turn, part.south, part.east - turn, part.north].map((v) => v * UNITS) as [number, number, number, number] // prettier-ignore
    if (east < -180 * UNITS || west > 180 * UNITS) continue
    const isNear = (chunk: number) =>
      boxes[4 * chunk]! <= east && boxes[4 * chunk + 2]! >= west && boxes[4 * chunk + 1]! <= north && boxes[4 * chunk + 3]! >= south
    const x = (i: number) => lon[i]! / UNITS + turn
    const y = (i: number) => lat[i]! / UNITS
    for (let ring = 0; ring + 1 < rings.length; ring++) {
      const [from, to] = [rings[ring]!, rings[ring + 1]!]
      // Most rings are one chunk, and far away.
      if (weight[chunks[from]!]! < leastRing[lakes[ring]!]! || (to - from === 1 && !isNear(from))) continue
      let isSeen = false
      let wasNear = isNear(to - 1)
      const points: number[] = []
      for (let chunk = from; chunk < to; chunk++) {
        const first = chunks[chunk]!
        const near = isNear(chunk)
        isSeen ||= near
        if (near) for (let i = first; i < chunks[chunk + 1]!; i++) if (weight[i]! >= least) points.push(x(i), y(i)) // prettier-ignore
        // The line from the last vertex of a chunk that is near goes to here, maybe through the part.
        if (!near && wasNear) points.push(x(first), y(first))
        if (!near && !wasNear) points.push(clamp(x(first), part.west - aside, part.east + aside), clamp(y(first), part.south - above, part.north + above)) // prettier-ignore
        wasNear = near
      }
      // A ring may lie all round the part without coming near.
      if (points.length >= 6 && (isSeen || surrounds(points, part))) found.push(points)
    }
  }
  return found
}

/** Whether the middle of a part lies within a ring: a ray to the east crosses it an odd number of times. */
function surrounds(points: readonly number[], { west, south, east, north }: LonLatBox): boolean {
  const [x, y] = [(west + east) / 2, (south + north) / 2]
  let isInside = false
  for (let i = 0, j = points.length - 2; i < points.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [points[i]!, points[i + 1]!, points[j]!, points[j + 1]!]
    if (ay > y !== by > y && x < ax + ((bx - ax) * (y - ay)) / (by - ay)) isInside = !isInside
  }
  return isInside
}
