import { projectionAt } from '../camera/view-track'
import type { Projection } from '../camera/projection-type'
import { addSheet } from '../edits/ground/sheets'
import { JourneyError } from '../error'
import type { GroundGeo } from '../geo/ground'
import { groundGeo } from '../geo/ground'
import { planeMap } from '../geo/plane'
import type { Box } from '../geometry/box'
import type { Point } from '../geometry/point'
import { distance } from '../geometry/point'
import type { Journey, Region, Sheet, TileGrid, TileRuns } from '../journey/schema'
import { sheetSchema } from '../journey/schema'
import { frameTime } from '../pace/rate'
import type { TileAddress } from '../sheet/pyramid'
import { tileGrid } from '../sheet/pyramid'
import { bentMosaic, levelsFor } from '../sheet/mosaic'
import type { CompiledJourney } from '../trips/compiled'
import { earthWidth, regionAbout, regionOfBox, resolutionOf } from './grids'
import type { SheetPlan } from './sheet-plan'
import { georeferenceOfPlan, levelsTaken, planSheet, serviceTilesOf } from './sheet-plan'

/** The tiles with which a sheet is as sharp as the film everywhere, at every frame. */
export interface CameraNeed {
  region: Region
  plan: SheetPlan
  wanted: TileRuns
  /** How many tiles of the service that are. */
  count: number
  /** A small region round the place that is seen most closely. */
  closest: Region
  /** Whether the closest shot would need tiles that are finer than the service has, or more than a sheet may have. */
  isLimited: boolean
}

/** Places of the frame at which the ground is looked at, across and down. */
const LOOKS = 6

/** The region reaches so far beyond what is seen, as a share of it. */
const MARGIN = 0.02

/** Levels with so few tiles are taken whole, so that there is a picture everywhere. */
const FEW = 48

/** The views of a film, each once where it stays the same from frame to frame. */
function* viewsOf(compiled: CompiledJourney): Generator<Projection> {
  let last: Projection | undefined
  for (let frame = 0; frame < compiled.frames; frame++) {
    const projection = projectionAt(compiled, frameTime(frame, compiled.journey.frame.rate))
    if (last && isSameView(projection.view, last.view)) continue
    last = projection
    yield projection
  }
}

const isSameView = (a: Projection['view'], b: Projection['view']): boolean =>
  a === b ||
  (a.zoom === b.zoom &&
    a.bearing === b.bearing &&
    a.pitch === b.pitch &&
    a.bend?.share === b.bend?.share &&
    distance(a.centre, b.centre) === 0)

/** Ground points that a view shows, all over the frame. */
function seenPoints({ reference: { width, height }, toGround, bent }: Projection): Point[] {
  const points: Point[] = []
  for (let i = 0; i <= LOOKS; i++)
    for (let k = 0; k <= LOOKS; k++) {
      const place = { x: (width * i) / LOOKS, y: (height * k) / LOOKS }
      const ground = bent ? (bent.inside(place) > 0 ? bent.groundBy(place) : undefined) : toGround(place)
      if (ground) points.push(ground)
    }
  return points
}

/** What the camera sees of the plane of a grid, and the finest resolution at which it sees any of that. */
function seenInPlane(
  compiled: CompiledJourney,
  grid: TileGrid,
  geo: GroundGeo,
): { box: Box; resolution: number; closest: Point } | undefined {
  const map = planeMap({ kind: grid.plane })
  const round = earthWidth(grid)
  let near: number | undefined
  const toPlane = (p: Point): Point | undefined => {
    const at = geo.toLonLat(p)
    const spot = at && map.forward(at)
    if (!spot) return undefined
    // What lies beyond the antimeridian goes on where it is next to what was seen before.
    const x = spot.x + (near === undefined ? 0 : round * Math.round((near - spot.x) / round))
    return { x, y: spot.y }
  }
  const box = { left: Infinity, right: -Infinity, top: -Infinity, bottom: Infinity }
  let resolution = Infinity
  let closest = { x: 0, y: 0 }
  for (const projection of viewsOf(compiled))
    for (const p of seenPoints(projection)) {
      const step = 1 / projection.scaleAt(p)
      const [at, beside] = [toPlane(p), toPlane({ x: p.x + step, y: p.y })]
      if (!at) continue
      near ??= at.x
      box.left = Math.min(box.left, at.x)
      box.right = Math.max(box.right, at.x)
      box.top = Math.max(box.top, at.y)
      box.bottom = Math.min(box.bottom, at.y)
      const own = beside ? distance(at, beside) / compiled.scale : Infinity
      if (own < resolution) [resolution, closest] = [own, at]
    }
  return box.right > box.left && box.top > box.bottom && resolution > 0 ? { box, resolution, closest } : undefined
}

/** A box with a margin round it. */
function withMargin({ left, right, top, bottom }: Box): Box {
  const [dx, dy] = [(right - left) * MARGIN, (top - bottom) * MARGIN]
  return { left: left - dx, right: right + dx, top: top + dy, bottom: bottom - dy }
}

/** A sheet as it would lie if it were taken. */
function laidSheet(journey: Journey, grid: TileGrid, plan: SheetPlan): Sheet {
  const { width, height } = plan
  const sheet = sheetSchema.parse({
    id: 'taken',
    name: 'Tiles',
    image: '0'.repeat(64),
    width,
    height,
    georeference: georeferenceOfPlan(grid, plan),
  })
  return addSheet(journey, sheet).sheets.at(-1)!
}

/** The tiles of a sheet that a view shows, just those that the painter asks for. */
function tilesSeen(sheet: Sheet, projection: Projection, scale: number): TileAddress[] {
  if (projection.bent) return bentMosaic(sheet, projection, projection.bent, scale)?.tiles ?? []
  return levelsFor(sheet, 'plain', projection, scale).flatMap(({ tiles }) => tiles)
}

/** Which tiles of a planned sheet the film shows, with the coarser ones that they lie in. */
function wantedBy(compiled: CompiledJourney, grid: TileGrid, plan: SheetPlan): TileRuns {
  const sheet = laidSheet(compiled.journey, grid, plan)
  const levels = levelsTaken(plan)
  const seen = Array.from({ length: levels }, () => new Set<number>())
  const grids = Array.from({ length: levels }, (_, level) => tileGrid(plan, level))
  const add = ({ level, column, row }: TileAddress) => {
    for (let k = level, c = column, r = row; k < levels; k++, c >>= 1, r >>= 1) {
      const at = r * grids[k]!.columns + c
      if (seen[k]!.has(at)) return
      seen[k]!.add(at)
    }
  }
  for (const projection of viewsOf(compiled)) for (const tile of tilesSeen(sheet, projection, compiled.scale)) add(tile)
  return seen.map((tiles, level) => {
    const { columns, rows } = grids[level]!
    return columns * rows <= FEW ? Array.from({ length: rows }, (_, row) => [row, 0, columns - 1]) : runsOf(tiles, columns)
  })
}

/** Tiles, counted along the rows, as runs. */
function runsOf(tiles: ReadonlySet<number>, columns: number): TileRuns[number] {
  const runs: TileRuns[number] = []
  for (const at of [...tiles].sort((a, b) => a - b)) {
    const [row, column] = [Math.floor(at / columns), at % columns]
    const run = runs.at(-1)
    if (run && run[0] === row && run[2] === column - 1) run[2] = column
    else runs.push([row, column, column])
  }
  return runs
}

/**
 * Works out what a film needs of a tile service: the region that its camera sees, the level at which the closest shot is sharp, and the tiles that are seen
 * at each level. Undefined where it is not known where on the Earth the journey lies.
 */
export function cameraNeed(compiled: CompiledJourney, grid: TileGrid): CameraNeed | undefined {
  const geo = groundGeo(compiled.journey)
  const seen = geo && seenInPlane(compiled, grid, geo)
  if (!seen) return undefined
  const region = regionOfBox(grid, withMargin(seen.box))
  const last = grid.levels.length - 1
  const sharp = Math.max(0, Math.ceil(Math.log2(resolutionOf(grid, 0) / seen.resolution) - 1e-6))
  for (let finest = Math.min(sharp, last); ; finest--) {
    try {
      const plan = planSheet(grid, region, finest)
      const wanted = wantedBy(compiled, grid, plan)
      return {
        region,
        plan,
        wanted,
        count: serviceTilesOf(grid, plan, wanted).length,
        closest: regionAbout(grid, seen.closest, finest),
        isLimited: finest < sharp,
      }
    } catch (error) {
      if (!(error instanceof JourneyError) || finest === 0) throw error
    }
  }
}
