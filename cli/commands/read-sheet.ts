import { createReadStream, existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { readControlPoints } from '#core/formats/control-points'
import { georeferenceIn, planeOfPrj, readingOfWorldFile } from '#core/formats/world-file-georeference'
import { geoCorners, geoSheet } from '#core/geo/georeference'
import { planeName } from '#core/geo/plane'
import type { Georeference, Plane } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import { planeOfEpsg } from '../../server/sheets/coordinate-systems'
import { importSheetFile } from '../../server/sheets/import-sheet'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import type { ImageRecord } from '../../server/storage/images'
import type { Output } from '../command'
import { UsageError } from '../command'
import type { FileOptions, SheetOptions } from './sheet-options'
import { takeTiles } from './take-tiles'

/** Reads a text file of limited size, as none of those read here is large. */
function readText(path: string): string {
  try {
    if (statSync(path).size > 1024 ** 2) throw new UsageError(`The file ${path} is too large for what it should be.`)
    return readFileSync(path, 'utf8')
  } catch (error) {
    throw error instanceof UsageError ? error : new UsageError(`The file ${path} cannot be read: check the path.`)
  }
}

/** The coordinate system given by option, by a .prj file beside the world file, or by the only one that its numbers allow. */
function systemOf(worldFile: string, crs: string | undefined, plane: Plane | undefined): Plane {
  if (crs !== undefined) {
    const [, code] = /^(?:EPSG:)?(\d{1,6})$/i.exec(crs) ?? []
    if (!code) throw new UsageError(`--crs should be a number of the EPSG registry, like EPSG:2056, not “${crs}”.`)
    return planeOfEpsg(Number(code))
  }
  const prj = worldFile.replace(/\.[^./]*$/, '.prj')
  if (existsSync(prj)) return planeOfPrj(readText(prj), basename(prj))
  if (plane) return plane
  throw new UsageError(
    `“${basename(worldFile)}” does not say in which coordinate system its metres are: put its .prj file beside it, or give --crs EPSG:….`,
  )
}

function georeferenceOf({ worldFile, points, crs }: FileOptions, image: ImageRecord): Georeference | null {
  if (worldFile !== undefined) {
    const { matrix, plane } = readingOfWorldFile(readText(worldFile), basename(worldFile), image)
    return georeferenceIn(systemOf(worldFile, crs, plane), matrix, basename(worldFile), image)
  }
  if (points !== undefined) return { kind: 'points', plane: null, fit: null, points: readControlPoints(readText(points), basename(points)) }
  return image.georeference
}

function described(georeference: Georeference, image: ImageRecord) {
  const geo = geoSheet(georeference, image)
  const { residuals } = geo
  return {
    kind: georeference.kind === 'points' ? geo.kind : georeference.source,
    plane: planeName(geo.toPlane.plane),
    doubt: geo.doubt && { plane: geo.doubt.plane, other: geo.doubt.other, px: geo.doubt.px },
    checked: residuals !== undefined,
    rmsPx: residuals?.rmsPx ?? null,
    rmsMetres: residuals?.rmsMetres ?? null,
    worst: residuals ? { name: residuals.worst.point.name, px: residuals.worst.px, metres: residuals.worst.metres } : null,
    corners: geoCorners(geo, image).map((corner) => corner && [corner.lon, corner.lat]),
  }
}

async function imported(db: Db, folder: string, options: SheetOptions) {
  if (options.from === 'tiles') {
    const { image, report } = await takeTiles(db, folder, options)
    return { image, georeference: image.georeference, report }
  }
  const { image, peakMiB } = await importSheetFile(db, folder, basename(options.file), createReadStream(options.file))
  return { image, georeference: georeferenceOf(options, image), report: { peakMiB } }
}

/** Prints what came of a map file, or of the tiles of a service, in one line of JSON. */
export async function readSheet(options: SheetOptions, output: Output): Promise<void> {
  if (options.from === 'file' && !statSync(options.file, { throwIfNoEntry: false })?.isFile())
    throw new UsageError(`The map file ${options.file} cannot be read: check the path.`)
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-sheet-'))
  const db = openDatabase(folder)
  try {
    const start = performance.now()
    const { image, georeference, report } = await imported(db, folder, options)
    const seconds = Math.round(performance.now() - start) / 1000
    const { width, height } = image
    output.result(
      `${JSON.stringify({
        width,
        height,
        levels: coarsestLevel(image) + 1,
        seconds,
        ...report,
        georeference: georeference && described(georeference, image),
        note: image.note,
      })}\n`,
    )
  } finally {
    db.close()
    rmSync(folder, { recursive: true, force: true })
  }
}
