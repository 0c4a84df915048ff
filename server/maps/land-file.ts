import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { MultiPolygon, Position } from 'geojson'
import type { LandIndex } from '#core/maps/land-index'
import { indexLand } from '#core/maps/land-index'
import { startProcess } from '../programs'

/** The land of the Earth with its lakes, from OpenStreetMap (ODbL), as the package @geo-maps/earth-lands-10m has it: the coasts have a point every few hundred metres. */
const PACKAGE = '@geo-maps/earth-lands-10m/map.geo.json'

/** The index is the same for all data folders. The number is the version of its form. */
export const landPath = () => join(process.cwd(), 'node_modules/.cache/zephyrine/land-2.bin')

/** The arrays of an index in the order of the file, each after its length in bytes. */
const PARTS = [
  ['lon', Int32Array],
  ['lat', Int32Array],
  ['chunks', Uint32Array],
  ['boxes', Int32Array],
  ['rings', Uint32Array],
  ['lakes', Uint8Array],
  ['weight', Uint8Array],
] as const satisfies readonly (readonly [keyof LandIndex, unknown])[]

/** Makes the index file from the package. It is written under a temporary name and renamed when complete. */
export function makeLandFile(path: string): void {
  const require = createRequire(join(process.cwd(), 'package.json'))
  const { geometries } = JSON.parse(readFileSync(require.resolve(PACKAGE), 'utf8')) as { geometries: MultiPolygon[] }
  const index = indexLand(geometries.flatMap(({ coordinates }) => coordinates.map(withoutRoughLakes)))
  mkdirSync(dirname(path), { recursive: true })
  const unfinished = `${path}.${process.pid}`
  const lengths = Uint32Array.from(PARTS, ([name]) => index[name].byteLength)
  writeFileSync(unfinished, Buffer.concat([Buffer.from(lengths.buffer), ...PARTS.map(([name]) => bytesOf(index[name]))]))
  // Two may be making it at the same time: the file is the same.
  renameSync(unfinished, path)
}

/**
 * Most lakes of the package have three to eight corners, a kilometre apart: near enough to be seen they look like splinters of glass. Those with fewer corners
 * than this, closing one included, are left out.
 */
const LEAST_CORNERS = 13

const withoutRoughLakes = ([outline, ...lakes]: Position[][]): Position[][] => [
  outline!,
  ...lakes.filter((lake) => lake.length >= LEAST_CORNERS),
]

const bytesOf = ({ buffer, byteOffset, byteLength }: LandIndex[keyof LandIndex]) => Buffer.from(buffer, byteOffset, byteLength)

/** Reads an index file, whose arrays stay where they were read. */
export function readLandFile(path: string): LandIndex {
  const { buffer, byteOffset } = readFileSync(path)
  let at = byteOffset + 4 * PARTS.length
  const lengths = new Uint32Array(buffer, byteOffset, PARTS.length)
  const arrays = PARTS.map(([name, Kind], i) => {
    const array = new Kind(buffer, at, lengths[i]! / Kind.BYTES_PER_ELEMENT)
    at += lengths[i]!
    return [name, array] as const
  })
  return Object.fromEntries(arrays) as unknown as LandIndex
}

let making: Promise<void> | undefined

/** Has the index file made in a process of its own, unless it is there: that takes some ten seconds. */
export function landFileMade(): Promise<void> {
  if (existsSync(landPath())) return Promise.resolve()
  making ??= new Promise<void>((resolve, reject) => {
    const child = startProcess('land-index', [landPath()])
    child.on('error', reject)
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error('The index of coasts could not be made.'))))
  }).finally(() => (making = undefined))
  return making
}
