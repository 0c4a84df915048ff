import { turnBetween } from '#core/geometry/angle'
import type { Globe, Spot } from '#core/camera/globe'
import { nearestCopy } from '#core/camera/globe'
import type { Projection } from '#core/camera/projection-type'
import type { Sheet } from '#core/journey/schema'
import { sheetToGround, usedPart } from '#core/sheet/place'
import type { Texture } from './texture'

/**
 * A sheet's picture as squares whose corners are laid on the globe: what lies between them is interpolated. They are so small that this is not seen, and where they
 * lie on the Earth is worked out once for each picture.
 */
export interface Mesh {
  columns: number
  rows: number
  /** For each corner, row by row: the pixel of the texture, the place on the ground, and the spot on the Earth, NaN where there is none. */
  u: Float64Array
  v: Float64Array
  x: Float64Array
  y: Float64Array
  lon: Float64Array
  lat: Float64Array
  /** For each row of corners, how coarsely it is seen at the least: beyond the edge of a map of the world nothing is known but its colour. */
  blur: Float64Array
  /** Whether the picture is of all the Earth, so that its edges go on: up to the poles, which no map shows. */
  clamps: boolean
  /** 1, or -1 where the picture is that of a mirrored map. */
  facing: number
}

/** Pixels of the texture to the side of a square. */
const SIDE = 24
/** Beyond the edge of a picture its edge is still seen to fade, over so many pixels. */
const MARGIN = 1
/** At its two edges a map of the world mixes with what is beside it: so many pixels of the texture are not shown. */
const RIM = 1.5
/** Rows of squares between the edge of a map of the world and a pole. */
const CAP_ROWS = 6
/** At a pole the edge is as it looks so many halvings before all is one pixel: coarser, it would be mixed with what is far from it. */
const CAP_LEVELS = 4
/** A map of the world that ends nearer to the equator than this, in radians, is not stretched up to the poles. */
const CAP_FROM = 1

const meshes = new WeakMap<Texture, { globe: Globe; mesh: Mesh }>()

/** The mesh of a texture of a sheet on a globe; made once. */
export function meshOf(texture: Texture, sheet: Sheet, globe: Globe): Mesh {
  const known = meshes.get(texture)
  if (known?.globe === globe) return known.mesh
  const mesh = makeMesh(texture, sheet, globe)
  meshes.set(texture, { globe, mesh })
  return mesh
}

/** Whether east is to the right of north in the picture, at one of its squares: 1, else -1. */
function facingOf({ columns, lon, lat }: Mesh, i: number): number {
  const [right, down] = [i + 1, i + columns]
  const turn = (k: number) => turnBetween(lon[i]!, lon[k]!)
  return turn(right) * (lat[down]! - lat[i]!) - turn(down) * (lat[right]! - lat[i]!) > 0 ? -1 : 1
}

function makeMesh({ x: left, y: top, step, levels }: Texture, sheet: Sheet, globe: Globe): Mesh {
  const { width, height } = levels[0]!
  const part = usedPart(sheet)
  const { round } = globe
  const clamps = round !== undefined && (part.right - part.left) * sheet.place.scale > 0.99 * Math.hypot(round.x, round.y)
  const us = ticks(width, clamps ? 0 : MARGIN)
  const inner = ticks(height, clamps ? 0 : MARGIN)
  const spotAt = (u: number, v: number) => globe.toSpot(sheetToGround(sheet.place, { x: left + u * step, y: top + v * step }))
  /** The pole beyond an edge of the picture, if that is where a map of the world ends. */
  const poleBeyond = (v: number, isEdge: boolean): number | undefined => {
    const lat = spotAt(width / 2, v)?.lat
    return clamps && isEdge && lat !== undefined && Math.abs(lat) > CAP_FROM ? (Math.sign(lat) * Math.PI) / 2 : undefined
  }
  const [north, south] = [
    poleBeyond(0.5, Math.abs(top - part.top) < step),
    poleBeyond(height - 0.5, Math.abs(top + height * step - part.bottom) < step),
  ]
  const cap = (pole: number | undefined) => (pole === undefined ? 0 : CAP_ROWS)
  const rows = cap(north) + inner.length + cap(south)
  const columns = us.length
  const made = () => new Float64Array(columns * rows)
  const mesh: Mesh = {
    columns,
    rows,
    u: made(),
    v: made(),
    x: made(),
    y: made(),
    lon: made(),
    lat: made(),
    blur: new Float64Array(rows),
    clamps,
    facing: 1,
  }
  for (let row = 0; row < rows; row++) {
    const k = row - cap(north)
    const v = inner[Math.min(inner.length - 1, Math.max(0, k))]!
    // How far on the way from the edge to the pole.
    const beyond = k < 0 ? -k / CAP_ROWS : k >= inner.length ? (k - inner.length + 1) / CAP_ROWS : 0
    const pole = (k < 0 ? north : south) ?? 0
    mesh.blur[row] = Math.max(0, levels.length - 1 - CAP_LEVELS) * Math.sqrt(beyond)
    for (let column = 0; column < columns; column++) {
      const u = us[column]!
      const i = row * columns + column
      const ground = sheetToGround(sheet.place, { x: left + u * step, y: top + v * step })
      const spot = clamps ? spotAt(within(u, width), within(v, height)) : globe.toSpot(ground)
      mesh.u[i] = clamps ? Math.min(width - RIM, Math.max(RIM, u)) : u
      mesh.v[i] = v
      mesh.x[i] = ground.x
      mesh.y[i] = ground.y
      mesh.lon[i] = spot?.lon ?? NaN
      mesh.lat[i] = spot ? spot.lat + (pole - spot.lat) * beyond : NaN
    }
  }
  mesh.facing = facingOf(mesh, Math.floor((rows - 2) / 2) * columns + Math.floor((columns - 2) / 2))
  return mesh
}

/** The two edges of a map of the world are one meridian: a hair within them each spot is on the side that is meant. */
const HAIR = 1e-3
const within = (value: number, length: number): number => Math.min(length - HAIR, Math.max(HAIR, value))

/** From one edge of a picture to the other in squares, and a little beyond them. */
function ticks(length: number, margin: number): number[] {
  const count = Math.ceil(length / SIDE)
  const inner = Array.from({ length: count + 1 }, (_, i) => (length * i) / count)
  return margin > 0 ? [-margin, ...inner, length + margin] : inner
}

/**
 * The numbers of a square in the frame: of its corners, left above, right above, left below, right below, first x and then y in output pixels, then u and v in pixels
 * of the texture; at last how coarsely it is seen at the least.
 */
export const SQUARE = 17

/**
 * The squares of a mesh that are seen, `SQUARE` numbers for each.
 *
 * @param projection one of bent ground
 * @param scale output pixels per reference pixel
 */
export function seenSquares(mesh: Mesh, { view, reference, bent }: Projection, scale: number): Float64Array {
  const { columns, rows } = mesh
  const { globe, share } = view.bend!
  const count = columns * rows
  const [x, y, height] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)]
  const turns = new Int32Array(count)
  const out = new Float64Array(3)
  const spot: Spot = { lon: 0, lat: 0 }
  const { round } = globe
  const isMoved = round !== undefined && share < 1
  const lay = (i: number, dx: number, dy: number): void => {
    spot.lon = mesh.lon[i]!
    spot.lat = mesh.lat[i]!
    bent!.lay(mesh.x[i]! + dx, mesh.y[i]! + dy, spot, out)
  }
  for (let i = 0; i < count; i++) {
    let [dx, dy] = [0, 0]
    if (isMoved) {
      const p = { x: mesh.x[i]!, y: mesh.y[i]! }
      const near = nearestCopy(globe, p, view.centre)
      ;[dx, dy] = [near.x - p.x, near.y - p.y]
      turns[i] = Math.round((dx * round.x + dy * round.y) / (round.x * round.x + round.y * round.y))
    }
    lay(i, dx, dy)
    x[i] = out[0]! * scale
    y[i] = out[1]! * scale
    height[i] = out[2]!
  }
  const [right, bottom] = [reference.width * scale, reference.height * scale]
  const squares = new Float64Array(SQUARE * (rows - 1) * (columns - 1))
  let found = 0
  for (let row = 0; row + 1 < rows; row++) {
    for (let column = 0; column + 1 < columns; column++) {
      const first = row * columns + column
      const third = first + columns
      if (!(height[first]! > 0 || height[first + 1]! > 0 || height[third]! > 0 || height[third + 1]! > 0)) continue
      const turn = turns[first]!
      for (let k = 0; k < 4; k++) {
        const i = (k < 2 ? first : third) + (k & 1)
        if (turns[i] === turn) {
          squares[found + k] = x[i]!
          squares[found + 4 + k] = y[i]!
        } else {
          // The corners of one square are of one copy of the map.
          lay(i, turn * round!.x, turn * round!.y)
          squares[found + k] = out[0]! * scale
          squares[found + 4 + k] = out[1]! * scale
        }
        squares[found + 8 + k] = mesh.u[i]!
        squares[found + 12 + k] = mesh.v[i]!
      }
      squares[found + 16] = Math.max(mesh.blur[row]!, mesh.blur[row + 1]!)
      if (!isBeside(squares, found, right) && !isBeside(squares, found + 4, bottom)) found += SQUARE
    }
  }
  return squares.subarray(0, found)
}

/** Whether four places along an axis are all before or all beyond the frame. @param from where they begin */
const isBeside = (at: Float64Array, from: number, end: number): boolean => {
  const [a, b, c, d] = [at[from]!, at[from + 1]!, at[from + 2]!, at[from + 3]!]
  return (a < 0 && b < 0 && c < 0 && d < 0) || (a > end && b > end && c > end && d > end)
}
