import { JourneyError } from '../error'

/**
 * A table of colours: what each colour of a lattice becomes; colours between are interpolated. Colours are gamma-coded, from 0 to 1, as they are in the picture.
 */
export interface ColourCube {
  /** Places along each side of the lattice. */
  size: number
  /** Red, green and blue of each place, red running fastest, then green. */
  values: Float32Array
  /** The colours of its first and of its last place. */
  from: readonly [number, number, number]
  to: readonly [number, number, number]
}

/** The largest lattice that is read, as large as common programs write. A file of it has fewer than so many bytes. */
const MOST_CUBE_SIDE = 65
export const MOST_CUBE_BYTES = 12 * 1024 ** 2

/** The most numbers of a table for each channel by itself, and how large the lattice is that is made of it. */
const MOST_CURVE = 65_536
const CURVE_SIDE = 65

type Triple = [number, number, number]

/**
 * Reads a .cube file, with a table of colours (3D) or of each channel by itself (1D). Source: Cube LUT Specification 1.0 (2013); LUT_3D_INPUT_RANGE and
 * LUT_1D_INPUT_RANGE, which other programs write in place of DOMAIN_MIN and DOMAIN_MAX, from memory.
 *
 * @param name of the file, for what is said
 * @throws JourneyError that says what is wrong, and in which line
 */
export function readCube(text: string, name: string): ColourCube {
  const wrong = (line: number, what: string) => new JourneyError(`“${name}” cannot be read as a LUT: line ${line + 1} ${what}.`)
  let kind: { size: number; is3D: boolean } | undefined
  let from: Triple = [0, 0, 0]
  let to: Triple = [1, 1, 1]
  let values = new Float32Array()
  let count = 0
  const lines = text.split(/\r\n|\r|\n/)
  for (const [number, whole] of lines.entries()) {
    const line = whole.trim()
    if (line === '' || line.startsWith('#')) continue
    const [word = '', ...rest] = line.split(/\s+/)
    if (/^[A-Z]/i.test(word) && !/^(nan|inf)/i.test(word)) {
      if (word === 'TITLE') continue
      const numbers = rest.map(Number)
      if (word === 'LUT_3D_SIZE' || word === 'LUT_1D_SIZE') {
        const is3D = word === 'LUT_3D_SIZE'
        const [size] = numbers
        const most = is3D ? MOST_CUBE_SIDE : MOST_CURVE
        if (kind) throw wrong(number, 'names a second size')
        if (numbers.length !== 1 || !Number.isInteger(size) || size! < 2 || size! > most)
          throw wrong(number, `must name a size from 2 to ${most}`)
        kind = { size: size!, is3D }
        values = new Float32Array(3 * (is3D ? size! ** 3 : size!))
      } else if (word === 'DOMAIN_MIN' || word === 'DOMAIN_MAX') {
        if (numbers.length !== 3 || !numbers.every(Number.isFinite)) throw wrong(number, 'must have three numbers')
        if (word === 'DOMAIN_MIN') from = numbers as Triple
        else to = numbers as Triple
      } else if (word === 'LUT_3D_INPUT_RANGE' || word === 'LUT_1D_INPUT_RANGE') {
        const [low, high] = numbers
        if (numbers.length !== 2 || !numbers.every(Number.isFinite)) throw wrong(number, 'must have two numbers')
        from = [low!, low!, low!]
        to = [high!, high!, high!]
      } else throw wrong(number, `begins with a word that is not known, “${word.slice(0, 40)}”`)
      continue
    }
    if (!kind) throw wrong(number, 'has numbers before the size of the table is named')
    const numbers = [word, ...rest].map(Number)
    if (numbers.length !== 3 || !numbers.every(Number.isFinite)) throw wrong(number, 'must have three numbers')
    if (count === values.length) throw wrong(number, 'is beyond the end of the table')
    values.set(numbers, count)
    count += 3
  }
  if (!kind) throw new JourneyError(`“${name}” is not a LUT: a .cube file names its size (LUT_3D_SIZE or LUT_1D_SIZE).`)
  if (count < values.length)
    throw new JourneyError(`“${name}” is cut off: it has ${count / 3} of ${values.length / 3} colours. Get it anew.`)
  if (from.some((low, channel) => low >= to[channel]!)) throw new JourneyError(`“${name}” has a domain that ends before it begins.`)
  const read = { size: kind.size, values, from, to }
  return kind.is3D ? read : fromCurves(read)
}

/** A lattice of what a table for each channel by itself says. */
function fromCurves({ size, values, from, to }: ColourCube): ColourCube {
  const side = CURVE_SIDE
  const made = new Float32Array(3 * side ** 3)
  const at = (channel: number, step: number) => {
    const x = (step / (side - 1)) * (size - 1)
    const k = Math.min(size - 2, Math.floor(x))
    const [a, b] = [values[3 * k + channel]!, values[3 * (k + 1) + channel]!]
    return a + (b - a) * (x - k)
  }
  const curves = [0, 1, 2].map((channel) => Float32Array.from({ length: side }, (_, step) => at(channel, step)))
  for (let b = 0, i = 0; b < side; b++)
    for (let g = 0; g < side; g++)
      for (let r = 0; r < side; r++) {
        made[i++] = curves[0]![r]!
        made[i++] = curves[1]![g]!
        made[i++] = curves[2]![b]!
      }
  return { size: side, values: made, from, to }
}

/**
 * What a colour becomes, interpolated in the tetrahedron of four places of the lattice round it, which keeps greys grey. Source of the six tetrahedra: Sakamoto and
 * Itooka, US patent 4 275 413 (1981, expired), from memory.
 *
 * @param out red, green and blue are written here
 */
export function cubeAt(
  { size, values, from, to }: ColourCube,
  red: number,
  green: number,
  blue: number,
  out: Float64Array | number[],
): void {
  const last = size - 1
  const x = along(red, from[0], to[0], last)
  const y = along(green, from[1], to[1], last)
  const z = along(blue, from[2], to[2], last)
  const [i, j, k] = [Math.min(last - 1, Math.floor(x)), Math.min(last - 1, Math.floor(y)), Math.min(last - 1, Math.floor(z))]
  // From the lowest corner of the cell to its highest one, along the channels in the order of their shares.
  let [first, second, third] = [x - i, y - j, z - k]
  let [firstStep, secondStep, thirdStep] = [3, 3 * size, 3 * size * size]
  if (first < second) {
    ;[first, second] = [second, first]
    ;[firstStep, secondStep] = [secondStep, firstStep]
  }
  if (second < third) {
    ;[second, third] = [third, second]
    ;[secondStep, thirdStep] = [thirdStep, secondStep]
  }
  if (first < second) {
    ;[first, second] = [second, first]
    ;[firstStep, secondStep] = [secondStep, firstStep]
  }
  const a = 3 * (i + size * (j + size * k))
  const b = a + firstStep
  const c = b + secondStep
  const d = c + thirdStep
  for (let channel = 0; channel < 3; channel++)
    out[channel] =
      (1 - first) * values[a + channel]! +
      (first - second) * values[b + channel]! +
      (second - third) * values[c + channel]! +
      third * values[d + channel]!
}

/** Where a value is along a side of the lattice, in places. */
const along = (value: number, from: number, to: number, last: number): number =>
  Math.min(last, Math.max(0, ((value - from) / (to - from)) * last))
