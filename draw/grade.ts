import { changesColours, gradeCube } from '#core/dress/grade'
import type { ColourCube } from '#core/colour/cube'
import type { Size } from '#core/geometry/size'
import type { Grade } from '#core/journey/schema'
import { cornerShare } from './ground/edge-shade'
import { startModule } from './module'
import type { Region } from './region'
import { copyPart } from './region'

/** What the grade of a picture works with. */
export interface GradeOptions {
  grade: Grade
  /** The table that it names, if it is there. */
  cube: ColourCube | undefined
  /** Output pixels per reference pixel. */
  scale: number
  /** Whether the picture has its ground: one that is to be laid over another has neither vignette nor grain. */
  ground: boolean
}

export interface Grader {
  /** The picture as it is painted: RGBA, row by row, alpha not premultiplied. */
  pixels: Uint8Array
  /**
   * Grades what has changed.
   * @param parts where the pixels are not as they were @param frame the number of the frame, which has grain of its own
   * @param out the graded picture of before, brought up to date
   * @returns the parts of it that are not as they were
   */
  finish(parts: readonly Region[], frame: number, out: Uint8Array | Uint8ClampedArray): readonly Region[]
}

/** How much the strongest grain lightens or darkens, in steps of 255, and how softly a vignette begins, as a share. */
const DEPTH = 64
const FEATHER = 0.75

/** Grades pictures of one size. */
export function createGrader(size: Size, { grade, cube, scale, ground }: GradeOptions): Grader {
  const { width, height } = size
  const code = startModule()
  const bytes = 4 * width * height
  const [painted, graded] = [code.allocate(bytes), code.allocate(bytes)]
  const table = changesColours(grade) ? gradeCube(grade, cube) : undefined
  const vignette = ground ? grade.vignette : null
  const grain = ground && grade.grain && grade.grain.strength > 0 ? grade.grain : null
  const step = grain ? 1 / (grain.size * scale) : 0
  // One place more than what lies within the picture, and one to look at beyond it.
  const lattice = { columns: Math.ceil(width * step) + 2, rows: Math.ceil(height * step) + 2 }
  const tableAt = table ? code.allocate(16 * table.size ** 3) : 0
  const lightsAt = vignette ? code.allocate(bytes) : 0
  // Four numbers are read and written at once.
  const latticeAt = grain ? code.allocate(4 * (lattice.columns * lattice.rows + 3)) : 0
  const lineAt = grain ? code.allocate(4 * (lattice.columns + 3)) : 0
  // The memory does not grow from here on, so that views of it stay what they are.
  const { buffer } = code.memory
  if (table) {
    const floats = new Float32Array(buffer, tableAt, 4 * table.size ** 3)
    for (let i = 0; i < table.size ** 3; i++) for (let channel = 0; channel < 3; channel++) floats[4 * i + channel] = 255 * table.values[3 * i + channel]! // prettier-ignore
  }
  if (vignette) {
    const lights = new Float32Array(buffer, lightsAt, width * height)
    const shareAt = cornerShare({ size: vignette.size, feather: FEATHER })
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        lights[y * width + x] = 1 - vignette.strength * shareAt((2 * (x + 0.5)) / width - 1, (2 * (y + 0.5)) / height - 1)
  }
  const pixels = new Uint8Array(buffer, painted, bytes)
  const made = new Uint8Array(buffer, graded, bytes)
  const whole: Region = { x: 0, y: 0, ...size }

  return {
    pixels,
    finish(parts, frame, out) {
      // Grain is another one everywhere.
      const changed = grain ? [whole] : parts
      for (const part of changed) {
        const [left, top, right, bottom] = [part.x, part.y, part.x + part.width, part.y + part.height] as const
        if (table) code.grade(painted, graded, width, left, top, right, bottom, tableAt, table.size)
        else copyPart(pixels, made, part, width, 4)
        if (vignette) code.dim(graded, width, left, top, right, bottom, lightsAt)
      }
      if (grain) {
        code.fillNoise(latticeAt, lattice.columns, lattice.rows, frame)
        code.grain(graded, width, height, latticeAt, lattice.columns, lineAt, step, DEPTH * grain.strength)
      }
      for (const part of changed) copyPart(made, out, part, width, 4)
      return changed
    },
  }
}
