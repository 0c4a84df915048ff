/** Imports a map file into a scratch folder and reports the result: see USAGE. */
import { createReadStream, existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { parseArgs } from 'node:util'
import { readControlPoints } from '#core/formats/control-points'
import { georeferenceIn, planeOfPrj, readingOfWorldFile } from '#core/formats/world-file-georeference'
import { geoCorners, geoSheet } from '#core/geo/georeference'
import { planeName } from '#core/geo/plane'
import type { Georeference, Plane } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import { planeOfEpsg } from '../server/sheets/coordinate-systems'
import { importSheetFile } from '../server/sheets/import-sheet'
import { openDatabase } from '../server/storage/database'
import type { ImageRecord } from '../server/storage/images'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = 'npm run sheet -- FILE [--world-file FILE [--crs EPSG:2056]] [--points points.json]'

interface Arguments {
  file: string
  worldFile: string | undefined
  points: string | undefined
  crs: string | undefined
}

function readArguments(): Arguments {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: { 'world-file': { type: 'string' }, points: { type: 'string' }, crs: { type: 'string' } },
    })
    const [file, ...more] = positionals
    if (file === undefined) throw new UsageError('The path of the map file is missing.')
    if (more.length > 0) throw new UsageError(`One map file at a time: “${more[0]}” is one too many.`)
    if (values['world-file'] !== undefined && values.points !== undefined)
      throw new UsageError('Give either --world-file or --points, not both.')
    if (values.crs !== undefined && values['world-file'] === undefined)
      throw new UsageError('--crs says what the numbers of a world file are: give --world-file too.')
    return { file, worldFile: values['world-file'], points: values.points, crs: values.crs }
  } catch (error) {
    throw error instanceof UsageError ? error : parseFault(error)
  }
}

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

function georeferenceOf({ worldFile, points, crs }: Arguments, image: ImageRecord): Georeference | null {
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

async function main(): Promise<void> {
  const options = readArguments()
  if (!statSync(options.file, { throwIfNoEntry: false })?.isFile())
    throw new UsageError(`The map file ${options.file} cannot be read: check the path.`)
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-sheet-'))
  const db = openDatabase(folder)
  try {
    const start = performance.now()
    const { image, peakMiB } = await importSheetFile(db, folder, basename(options.file), createReadStream(options.file))
    const seconds = Math.round(performance.now() - start) / 1000
    const georeference = georeferenceOf(options, image)
    const { width, height } = image
    console.log(
      JSON.stringify({
        width,
        height,
        levels: coarsestLevel(image) + 1,
        seconds,
        peakMiB,
        georeference: georeference && described(georeference, image),
        note: image.note,
      }),
    )
  } finally {
    db.close()
    rmSync(folder, { recursive: true, force: true })
  }
}

await runCommand(USAGE, main)
