import { JourneyError } from '#core/error'
import type { TileRuns, TileService } from '#core/journey/schema'
import { planeMap } from '#core/geo/plane'
import type { SheetPlan } from '#core/tiles/sheet-plan'
import { georeferenceOfPlan, serviceTilesOf } from '#core/tiles/sheet-plan'
import type { ServiceTile } from '#core/tiles/template'
import type { Client } from './client'
import { NotHad } from './client'
import { openTakenFile } from './taken-file'
import type { TileFormat } from './tile-source'
import { tileSource } from './tile-source'

/** What is written at once: so many tiles are lost at most when the process is killed. */
const BATCH = 32

/** What came of taking tiles. */
export interface TakeResult {
  /** Tiles that are in the file, that the service has not, and that did not come. */
  came: number
  nothing: number
  missing: number
}

/**
 * Takes the tiles of a sheet into a file, the coarsest first. What is there already is not asked for again.
 * @param onProgress called with the share of the tiles that is settled
 * @throws JourneyError if the service refuses, or nothing at all comes; what has come stays in the file
 */
export async function takeTiles(
  out: string,
  service: TileService,
  plan: SheetPlan,
  wanted: TileRuns,
  client: Client,
  onProgress: (share: number) => void,
): Promise<TakeResult> {
  const { grid } = service
  const all = serviceTilesOf(grid, plan, wanted)
  const file = openTakenFile(out, grid, plan)
  const taken: TakeResult = { came: 0, nothing: 0, missing: 0 }
  try {
    const open = all.filter((tile) => !file.has(tile))
    taken.came = all.length - open.length
    const source = tileSource(service, client)
    const ready: [ServiceTile, Buffer | 'nothing'][] = []
    const write = () => file.inTransaction(() => ready.splice(0).forEach(([tile, body]) => file.put(tile, body)))
    let format: TileFormat | undefined
    let reason = ''
    let settled = taken.came
    const takeOne = async (tile: ServiceTile) => {
      try {
        const found = await source(tile)
        ready.push([tile, found === 'nothing' ? found : found.body])
        if (found !== 'nothing') format ??= found.format
        taken[found === 'nothing' ? 'nothing' : 'came']++
      } catch (error) {
        if (!(error instanceof NotHad)) throw error
        reason ||= error.message
        taken.missing++
      }
      if (ready.length >= BATCH) write()
      onProgress(++settled / all.length)
    }
    try {
      await inTurn(open, takeOne)
    } finally {
      write()
    }
    if (taken.came === 0)
      throw new JourneyError(reason || 'The service has no tiles of this region at these levels: choose another region or level.')
    file.setMetadata(metadataOf(service, plan, format))
    return taken
  } finally {
    file.close()
  }
}

/** So many tiles are asked for at a time; the client lets fewer through. */
const IN_HAND = 16

/** Does something for each of a list, several at a time; the first failure ends all of it. */
async function inTurn<T>(list: readonly T[], one: (item: T) => Promise<void>): Promise<void> {
  const rest = list[Symbol.iterator]()
  let failed = false
  const worker = async () => {
    for (const item of rest) {
      if (failed) return
      await one(item).catch((error: unknown) => {
        failed = true
        throw error
      })
    }
  }
  await Promise.all(Array.from({ length: IN_HAND }, worker))
}

/** The metadata of an MBTiles file. Source: MBTiles 1.3, content. */
function metadataOf({ name, grid }: TileService, plan: SheetPlan, format: TileFormat | undefined): Record<string, string> {
  const matrix = georeferenceOfPlan(grid, plan)
  if (matrix.kind !== 'affine') throw new Error('A planned sheet lies by an affine matrix.')
  const [r, , left, , , top] = matrix.matrix
  const map = planeMap({ kind: grid.plane })
  const upper = map.inverse({ x: left, y: top })
  const lower = map.inverse({ x: left + r * plan.width, y: top - r * plan.height })
  return {
    name,
    type: 'baselayer',
    version: '1',
    ...(format && { format }),
    ...(upper && lower && { bounds: [upper.lon, lower.lat, lower.lon, upper.lat].map((value) => value.toFixed(6)).join(',') }),
    maxzoom: grid.levels[plan.finest]!.id,
  }
}
