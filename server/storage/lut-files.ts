import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { ColourCube } from '#core/colour/cube'
import { readCube } from '#core/colour/cube'
import { JourneyError } from '#core/error'
import type { Journey } from '#core/journey/schema'

/** The path of a .cube file, by its content hash. */
export const lutPath = (folder: string, hash: string): string => join(folder, 'luts', hash)

export const hasLut = (folder: string, hash: string): boolean => existsSync(lutPath(folder, hash))

/** The table of colours that a journey's grade names, if it names one. @throws JourneyError if its file is not in the data folder */
export function lutOf(folder: string, { grade }: Pick<Journey, 'grade'>): ColourCube | undefined {
  if (!grade?.lut) return undefined
  const { file, name } = grade.lut
  if (!hasLut(folder, file)) throw new JourneyError(`The LUT “${name}” is missing in ${folder}: add its file again.`)
  return readCube(readFileSync(lutPath(folder, file), 'utf8'), name)
}
