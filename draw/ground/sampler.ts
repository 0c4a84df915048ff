import { startModule } from '../module'

/** A picture to sample into, premultiplied, in the sampler's memory. */
export interface Target {
  at: number
  width: number
  height: number
}

/** A tile's pixels in the sampler's memory; or that it is not there yet, or that nothing is on it. */
export type Tile = number
export const MISSING: Tile = 0
export const EMPTY: Tile = 1

/** A level of a sheet: its tiles, row by row, and the part of it that is used, which is repeated so many times to each side, mirrored. */
export interface SampledLevel {
  tiles: Uint32Array
  columns: number
  part: { left: number; top: number; width: number; height: number }
  copies: number
}

/** Numbers for each row of a target: where it is on the level, how much further each next pixel is, and the share of the level, 0..256. */
export const ROW = 5

/** The sampler writes and reads two pixels at once, also at the end of what is asked for. */
const SPARE = 16

export type Sampler = ReturnType<typeof createSampler>

/** Makes an ImageData of pixels without copying them; a server has its own. */
export type MakeImage = (pixels: Uint8ClampedArray<ArrayBuffer>, width: number, height: number) => ImageData

/** A sampler with a memory of its own. What is made in it is there until it is released. */
export function createSampler(imageOf: MakeImage) {
  const code = startModule()
  const scratch = { rows: { at: 0, bytes: 0 }, tiles: { at: 0, bytes: 0 } }

  /** Copies numbers to where they are needed for one call. */
  function handed(of: keyof typeof scratch, numbers: Float64Array | Uint32Array): number {
    const { byteLength, byteOffset, buffer } = numbers
    if (scratch[of].bytes < byteLength) {
      if (scratch[of].bytes > 0) code.release(scratch[of].at)
      scratch[of] = { at: code.allocate(byteLength), bytes: byteLength }
    }
    new Uint8Array(code.memory.buffer, scratch[of].at, byteLength).set(new Uint8Array(buffer, byteOffset, byteLength))
    return scratch[of].at
  }

  return {
    /** A tile of pixels that are not premultiplied, as an ImageData has them; those at the edges of a sheet are smaller than others. */
    tile({ data, width, height }: Pick<ImageData, 'data' | 'width' | 'height'>): Tile {
      const [bytes, stride] = [Number(code.TILE_BYTES.value), Number(code.TILE_STRIDE.value)]
      const at = code.allocate(bytes)
      code.clear(at, bytes / 4)
      const pixels = new Uint8Array(code.memory.buffer, at, bytes)
      for (let row = 0; row < height; row++) pixels.set(data.subarray(4 * width * row, 4 * width * (row + 1)), stride * row)
      code.premultiply(at, bytes / 4)
      return at
    },
    target(width: number, height: number): Target {
      return { at: code.allocate(4 * width * height + SPARE), width, height }
    },
    /** A picture of pixels that are not premultiplied, to be laid over targets of its size. */
    picture({ data, width, height }: Pick<ImageData, 'data' | 'width' | 'height'>): Target {
      const at = code.allocate(4 * width * height + SPARE)
      new Uint8Array(code.memory.buffer, at, 4 * width * height).set(data)
      code.premultiply(at, width * height)
      return { at, width, height }
    },
    /** Lays a picture over a target. */
    lay: (target: Target, picture: Target) => code.lay(target.at, picture.at, target.width * target.height),
    release: (at: number) => code.release(at),
    clear: ({ at, width, height }: Target) => code.clear(at, width * height),
    /** Samples a level into the first rows of a target. @param rows `ROW` numbers for each */
    sample({ at, width }: Target, rows: Float64Array, { tiles, columns, part, copies }: SampledLevel): void {
      const { left, top } = part
      const place = handed('rows', rows)
      const table = handed('tiles', tiles)
      code.sample(at, width, 0, 0, width, rows.length / ROW, place, table, columns, left, top, left + part.width, top + part.height, copies)
    },
    /** Writes the first rows of a picture twice as wide as a target into it from a row on, at half their size. */
    halveInto: (target: Target, row: number, picture: Target, rows: number) =>
      code.halve(picture.at, picture.width, rows, target.at + 4 * target.width * row),
    /** Undoes the premultiplication of a target, and gives its pixels: good until the sampler is used again. */
    finished({ at, width, height }: Target): { image: ImageData; isOpaque: boolean } {
      const clearer = code.straighten(at, width * height)
      const pixels = new Uint8ClampedArray(code.memory.buffer as ArrayBuffer, at, 4 * width * height)
      return { image: imageOf(pixels, width, height), isOpaque: clearer === 0 }
    },
  }
}
