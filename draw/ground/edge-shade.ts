import { rgbOf } from '#core/colour/srgb'
import type { EdgeShadeItem } from '#core/frame/frame'
import { clamp } from '#core/geometry/clamp'
import type { CanvasSpace } from '../canvas-space'
import { sizeOf } from '../canvas-space'
import type { Studio, Surface } from '../studio'

/**
 * How much a place of the frame is shaded, 0 to 1, from its corners inwards, along ellipses of the frame's shape.
 * @param size how far inwards it reaches @param feather how softly, both as shares
 * @returns a function of a place from -1 to 1 both ways
 */
export function cornerShare({ size, feather }: { size: number; feather: number }): (across: number, down: number) => number {
  // In units of the ellipse through the middles of the edges; the corners are at the square root of two.
  const begins = Math.SQRT2 * (1 - size)
  const full = Math.min(Math.SQRT2 + 0.001, begins + Math.SQRT2 * Math.max(0.02, feather))
  return (across, down) => clamp((Math.sqrt(across * across + down * down) - begins) / (full - begins), 0, 1)
}

/** Darkens the frame from its corners inwards, along ellipses of the frame's shape. The picture of it is kept, as it is the same for all of a film. */
export function createEdgeShade(studio: Studio) {
  let made: { shade: EdgeShadeItem['shade']; picture: ImageData; surface: Surface | undefined } | undefined

  function pictureOf(space: CanvasSpace, { shade }: EdgeShadeItem): ImageData {
    const { width, height } = sizeOf(space)
    if (made?.shade === shade && made.picture.width === width && made.picture.height === height) return made.picture
    const pixels = new Uint8ClampedArray(4 * width * height)
    const shareAt = cornerShare(shade)
    const colour = rgbOf(shade.colour)
    for (let y = 0, at = 0; y < height; y++) {
      const down = (2 * (y + 0.5)) / height - 1
      for (let x = 0; x < width; x++, at += 4) {
        const across = (2 * (x + 0.5)) / width - 1
        pixels.set(colour, at)
        pixels[at + 3] = Math.round(255 * shade.strength * shareAt(across, down))
      }
    }
    made = { shade, picture: studio.imageOf(pixels, width, height), surface: undefined }
    return made.picture
  }

  return {
    paint(context: CanvasRenderingContext2D, space: CanvasSpace, item: EdgeShadeItem): void {
      const picture = pictureOf(space, item)
      if (!made!.surface) {
        made!.surface = studio.createSurface(picture.width, picture.height)
        made!.surface.context.putImageData(picture, 0, 0)
      }
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.globalAlpha = item.opacity
      context.drawImage(made!.surface.image, 0, 0)
      context.globalAlpha = 1
    },
    /** The whole shade as a picture of the frame's size; the same object while it is the same. */
    pictureOf,
  }
}
