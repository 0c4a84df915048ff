import { JourneyError } from '../error'

/**
 * The six-line raster georeferencing convention (.pgw, .jgw, .tfw, .wld): lines A, D, B, E, C, F of
 * X = A column + B row + C, Y = D column + E row + F, where column 0, row 0 is the middle of the upper left pixel.
 */
export interface WorldFile {
  a: number
  d: number
  b: number
  e: number
  c: number
  f: number
}

/** Reads a world file. @throws JourneyError that names the line at fault. */
export function readWorldFile(text: string, name = 'The world file'): WorldFile {
  const lines = text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .map((line) => line.trim())
  while (lines.at(-1) === '') lines.pop()
  if (lines.length !== 6) {
    throw new JourneyError(
      `${quoted(name)} has ${lines.length} lines; a world file has six, with one number each: choose the file that came with the picture.`,
    )
  }
  const numbers = lines.map((line, i) => {
    // Some programs write a decimal comma.
    const value = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?$/.test(line) ? Number(line.replace(',', '.')) : NaN
    if (!Number.isFinite(value))
      throw new JourneyError(`${quoted(name)} has “${line.slice(0, 40)}” in line ${i + 1}, where a number should be.`)
    return value
  })
  const [a, d, b, e, c, f] = numbers as [number, number, number, number, number, number]
  if (a * e - b * d === 0) throw new JourneyError(`${quoted(name)} gives pixels no size: its lines 1 to 4 make no map.`)
  return { a, d, b, e, c, f }
}

const quoted = (name: string): string => (name === 'The world file' ? name : `“${name}”`)

/** Writes a world file, each number so that reading it gives the same again. */
export const writeWorldFile = ({ a, d, b, e, c, f }: WorldFile): string => [a, d, b, e, c, f].map((v) => `${v}\n`).join('')

/** The affine map from sheet pixels, 0, 0 at the outer corner of the upper left pixel, to the world file's plane: a, b, c, d, e, f of X = a x + b y + c, Y = d x + e y + f. */
export function matrixOfWorldFile({ a, d, b, e, c, f }: WorldFile): [number, number, number, number, number, number] {
  return [a, b, c - (a + b) / 2, d, e, f - (d + e) / 2]
}

/** The world file of an affine map from sheet pixels to a plane. */
export function worldFileOfMatrix([a, b, c, d, e, f]: readonly [number, number, number, number, number, number]): WorldFile {
  return { a, d, b, e, c: c + (a + b) / 2, f: f + (d + e) / 2 }
}
