import type { Wash } from '#core/journey/schema'
import { grainPixels } from '#core/sheet/grain'
import { linePixels } from '#core/sheet/lines'
import { washPixels } from '#core/sheet/wash'
import type { SheetPicture, Studio } from '../studio'

/** A picture of a sheet with its wash. */
export function washedImage(studio: Pick<Studio, 'createSurface'>, picture: SheetPicture, wash: Wash): CanvasImageSource {
  const { width, height } = picture.pixels
  const { context, image } = studio.createSurface(width, height, true)
  context.drawImage(picture.image, 0, 0, width, height)
  if (wash.blur > 0) {
    // Over the sharp picture, as a blur fades out at the edges.
    context.filter = `blur(${wash.blur / picture.step}px)`
    context.drawImage(picture.image, 0, 0, width, height)
    context.filter = 'none'
  }
  const pixels = context.getImageData(0, 0, width, height)
  const lines = wash.glowingLines && linePixels(pixels.data, width, wash.glowingLines.colour)
  washPixels(pixels.data, wash)
  context.putImageData(pixels, 0, 0)
  if (wash.glowingLines && lines) layGlow(studio, context, picture, lines, wash.glowingLines)
  if (wash.grain) {
    const grained = context.getImageData(0, 0, width, height)
    grainPixels(grained.data, width, { left: picture.x, top: picture.y, step: picture.step }, wash.grain)
    context.putImageData(grained, 0, 0)
  }
  return image
}

/** The lines themselves, and the light around them. */
function layGlow(
  studio: Pick<Studio, 'createSurface'>,
  context: CanvasRenderingContext2D,
  { pixels: { width, height }, step }: SheetPicture,
  lines: Uint8ClampedArray<ArrayBuffer>,
  { strength, radius }: NonNullable<Wash['glowingLines']>,
): void {
  const drawn = studio.createSurface(width, height)
  const data = drawn.context.createImageData(width, height)
  data.data.set(lines)
  drawn.context.putImageData(data, 0, 0)
  context.globalCompositeOperation = 'lighter'
  context.globalAlpha = strength
  context.filter = `blur(${radius / step}px)`
  // The light of a thin line is faint once it is spread out, so it is drawn twice.
  context.drawImage(drawn.image, 0, 0)
  context.drawImage(drawn.image, 0, 0)
  context.filter = 'none'
  context.drawImage(drawn.image, 0, 0)
  context.globalAlpha = 1
  context.globalCompositeOperation = 'source-over'
}
