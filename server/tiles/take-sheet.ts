import { createHash } from 'node:crypto'
import { createReadStream, existsSync, readdirSync, rmSync, statSync } from 'node:fs'
import { copyFile, link, mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import Database from 'better-sqlite3'
import equal from 'fast-deep-equal'
import { nanoid } from 'nanoid'
import { JourneyError } from '#core/error'
import type { TileOrder } from '#core/tiles/order'
import { tileOrderSchema } from '#core/tiles/order'
import { serviceTilesOf, wholeSheet } from '#core/tiles/sheet-plan'
import type { ImportOptions } from '../sheets/import-sheet'
import { importReceived } from '../sheets/import-sheet'
import type { Answer } from '../sheets/job'
import { answerSchema } from '../sheets/job'
import { failureOf, startReader } from '../sheets/reader'
import type { Db } from '../storage/database'
import { imagePath } from '../storage/image-files'
import type { ImageRecord } from '../storage/images'
import { keyFor } from './keys'
import { cacheIn } from './services'
import { countTaken, openTakenFile, orderIn, planIn } from './taken-file'

/** The processor time that taking a tile may cost, and taking any, in milliseconds: a process that needs more has gone astray. */
const TIME_PER_TILE = 40
const LEAST_TIME = 60_000

/** The share of the work that taking tiles is; the rest is putting the sheet together. */
const TAKING = 0.75

/** Sheets whose taking was broken off are kept so long, in milliseconds. */
const KEPT = 14 * 24 * 3600 * 1000

const takesIn = (folder: string) => join(folder, 'takes')

/** The same order always has the same file, so that it goes on where it was broken off. */
function fileOf(folder: string, { service, plan, wanted }: TileOrder): string {
  const digest = createHash('sha256').update(JSON.stringify({ service, plan, wanted })).digest('hex')
  return join(takesIn(folder), `${digest.slice(0, 32)}.mbtiles`)
}

/**
 * Takes the tiles of a sheet and makes an image of them. What has come is kept when it is cancelled or fails, and is not asked for again by the same order.
 * @param from a sheet's image whose tiles need not be asked for again either
 * @returns the image, and how many tiles did not come
 * @throws JourneyError that says what is wrong; the signal's reason when aborted
 */
export async function takeSheet(
  db: Db,
  folder: string,
  order: TileOrder,
  from: string | undefined,
  { onProgress = () => {}, signal }: ImportOptions = {},
): Promise<{ image: ImageRecord; missing: number; count: number }> {
  const wanted = order.wanted ?? wholeSheet(order.plan)
  const count = serviceTilesOf(order.service.grid, order.plan, wanted).length
  const out = fileOf(folder, order)
  await begin(folder, out, order, from)
  const { missing } = await takeInProcess(folder, out, { ...order, wanted }, count, (share) => onProgress(TAKING * share), signal)
  const file = {
    path: join(folder, 'images', `incoming-${nanoid(10)}`),
    name: order.name,
    format: 'mbtiles' as const,
    hash: await hashOf(out),
    bytes: statSync(out).size,
  }
  await mkdir(join(folder, 'images'), { recursive: true })
  // The import does away with its file: what was taken stays until the sheet is made.
  await link(out, file.path)
  const { image } = await importReceived(db, folder, file, { onProgress: (share) => onProgress(TAKING + (1 - TAKING) * share), signal })
  await rm(out, { force: true })
  return { image, missing, count }
}

/** Makes the file for the tiles, if it is not there from before: with those of another sheet of the same grid, if there is one. */
async function begin(folder: string, out: string, order: TileOrder, from: string | undefined): Promise<void> {
  await mkdir(takesIn(folder), { recursive: true })
  const { grid } = order.service
  if (!existsSync(out) && from !== undefined && hasGrid(imagePath(folder, from), grid)) {
    await copyFile(imagePath(folder, from), `${out}.part`)
    await rename(`${out}.part`, out)
  }
  const file = openTakenFile(out, grid, order.plan)
  file.setOrder(order)
  file.close()
}

function hasGrid(path: string, grid: TileOrder['service']['grid']): boolean {
  if (!existsSync(path)) return false
  let db: Database.Database | undefined
  try {
    db = new Database(path, { readonly: true })
    return equal(planIn(db)?.grid, grid)
  } catch {
    return false
  } finally {
    db?.close()
  }
}

async function hashOf(path: string): Promise<string> {
  const digest = createHash('sha256')
  await pipeline(createReadStream(path), digest)
  return digest.digest('hex')
}

/** Takes tiles in the process that reads what comes from outside. */
function takeInProcess(
  folder: string,
  out: string,
  { service, plan, wanted }: TileOrder,
  count: number,
  onProgress: (share: number) => void,
  signal: AbortSignal | undefined,
): Promise<Extract<Answer, { is: 'taken' }>> {
  signal?.throwIfAborted()
  const child = startReader(LEAST_TIME + TIME_PER_TILE * count)
  const stop = () => child.kill('SIGKILL')
  return new Promise<Extract<Answer, { is: 'taken' }>>((resolve, reject) => {
    signal?.addEventListener('abort', stop)
    child.on('message', (message) => {
      const answer = answerSchema.parse(message)
      if (answer.is === 'progress') onProgress(answer.share)
      else if (answer.is === 'taken') resolve(answer)
      else if (answer.is === 'failed') reject(failureOf(answer))
    })
    child.on('error', reject)
    child.on('exit', () =>
      reject(
        signal?.aborted
          ? (signal.reason as Error)
          : new JourneyError(`“${service.name}” sends what takes too much memory or time to read.`),
      ),
    )
    child.send({ do: 'take', out, service, plan, wanted, key: keyFor(folder, service.address), cache: cacheIn(folder) })
  }).finally(() => {
    signal?.removeEventListener('abort', stop)
    child.kill('SIGKILL')
  })
}

/** A sheet whose taking was broken off. */
export interface BrokenOff {
  id: string
  order: TileOrder
  /** Tiles that are there, of how many. */
  came: number
  count: number
}

const isId = (id: string) => /^[0-9a-f]{32}$/.test(id)

/** The sheets whose taking was broken off, the last first. Files that cannot be read are left out. */
export function listBrokenOff(folder: string): BrokenOff[] {
  if (!existsSync(takesIn(folder))) return []
  return readdirSync(takesIn(folder))
    .filter((name) => name.endsWith('.mbtiles') && isId(name.slice(0, -8)))
    .map((name) => ({ id: name.slice(0, -8), at: statSync(join(takesIn(folder), name)).mtimeMs }))
    .sort((a, b) => b.at - a.at)
    .flatMap(({ id }) => brokenOff(folder, id) ?? [])
}

/** One of them. */
function brokenOff(folder: string, id: string): BrokenOff | undefined {
  const path = join(takesIn(folder), `${id}.mbtiles`)
  if (!isId(id) || !existsSync(path)) return undefined
  let db: Database.Database | undefined
  try {
    db = new Database(path, { readonly: true })
    const { success, data: order } = tileOrderSchema.safeParse(orderIn(db))
    if (!success) return undefined
    const all = serviceTilesOf(order.service.grid, order.plan, order.wanted ?? wholeSheet(order.plan))
    return { id, order, came: Math.min(all.length, countTaken(db)), count: all.length }
  } catch {
    return undefined
  } finally {
    db?.close()
  }
}

/** Deletes what has come of a sheet whose taking was broken off. */
export function discardBrokenOff(folder: string, id: string): void {
  if (isId(id)) for (const end of ['', '-journal']) rmSync(join(takesIn(folder), `${id}.mbtiles${end}`), { force: true })
}

/** Deletes those that nobody has gone on with for a long time. */
export function sweepBrokenOff(folder: string): void {
  if (!existsSync(takesIn(folder))) return
  for (const name of readdirSync(takesIn(folder))) {
    const path = join(takesIn(folder), name)
    if (statSync(path).mtimeMs < Date.now() - KEPT) rmSync(path, { force: true })
  }
}
