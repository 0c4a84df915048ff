import type { ColourCube } from '#core/colour/cube'
import { readCube } from '#core/colour/cube'
import type { Journey } from '#core/journey/schema'
import type { Grader } from '#draw/grade'
import { createGrader } from '#draw/grade'
import type { Region } from '#draw/region'
import { ApiError, readLut } from './api'
import { createSurface } from './browser-studio'

/**
 * The canvas that a graded picture is painted on before it is shown. Of the tables of colours that grades name the last one is kept.
 * @param onArrival called when a table has come @param onMissing called with a sentence where one is not to be had
 */
export function createGradedCanvas(onArrival: () => void, onMissing: (sentence: string) => void) {
  let made: { grade: NonNullable<Journey['grade']>; cube: ColourCube | undefined; scale: number; surface: ReturnType<typeof createSurface>; grader: Grader; shown: ImageData } | undefined // prettier-ignore
  let table: { file: string; cube: ColourCube | undefined } | undefined

  /** The table that a grade names; undefined while it is on its way, and where it is missing. */
  function cubeOf({ lut }: NonNullable<Journey['grade']>): ColourCube | undefined {
    if (!lut) return undefined
    if (table?.file === lut.file) return table.cube
    const asked = (table = { file: lut.file, cube: undefined as ColourCube | undefined })
    readLut(lut.file).then(
      (text) => {
        asked.cube = readCube(text, lut.name)
        onArrival()
      },
      (error: unknown) => {
        // Without its table the picture is shown as it is.
        if (!(error instanceof ApiError)) throw error
        onMissing(error.message)
      },
    )
    return undefined
  }

  return {
    /**
     * The context to paint on, of a canvas of some size.
     * @returns another one whenever the grade or the size is another
     */
    contextFor(
      grade: NonNullable<Journey['grade']>,
      { width, height }: { width: number; height: number },
      scale: number,
    ): CanvasRenderingContext2D {
      const cube = cubeOf(grade)
      const { surface } = made ?? {}
      const isSameSize = surface?.width === width && surface.height === height
      if (!made || !isSameSize || made.grade !== grade || made.cube !== cube || made.scale !== scale)
        made = {
          grade,
          cube,
          scale,
          surface: createSurface(width, height, true),
          grader: createGrader({ width, height }, { grade, cube, scale, ground: true }),
          shown: new ImageData(width, height),
        }
      return made.surface.context
    },
    /** Grades what has been painted, and shows it. @param frame the number of the frame @param image of exactly the canvas's size, painted elsewhere, in place of the canvas */
    show(target: HTMLCanvasElement, parts: readonly Region[], frame: number, image?: ImageData): void {
      const { surface, grader, shown } = made!
      const { width, context } = surface
      for (const part of image ? [] : parts) {
        const { data } = context.getImageData(part.x, part.y, part.width, part.height)
        for (let row = 0; row < part.height; row++)
          grader.pixels.set(data.subarray(4 * part.width * row, 4 * part.width * (row + 1)), 4 * ((part.y + row) * width + part.x))
      }
      if (image) grader.pixels.set(image.data)
      const changed = grader.finish(parts, frame, shown.data)
      const onto = target.getContext('2d')!
      for (const { x, y, width: across, height: down } of changed) onto.putImageData(shown, 0, 0, x, y, across, down)
    },
  }
}
