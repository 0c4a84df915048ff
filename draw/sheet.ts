import type { EdgeShadeItem, SheetItem } from '#core/frame/frame'
import type { Wash } from '#core/journey/schema'
import { washPixels } from '#core/sheet/wash'
import type { CanvasSpace } from './canvas-space'
import { placeAt } from './canvas-space'
import { translucent } from './colour'
import type { SheetPicture, Studio } from './studio'

/** Paints sheets, washed. A picture is washed once and kept as long as neither it nor the wash changes. */
export function createSheetPainter(studio: Studio) {
  const washed = new Map<string, { picture: SheetPicture; wash: Wash; image: CanvasImageSource }>()

  function imageOf({ image: hash, wash }: SheetItem, picture: SheetPicture): CanvasImageSource {
    if (!wash) return picture.image
    const known = washed.get(hash)
    if (known?.picture === picture && known.wash === wash) return known.image
    const image = washedImage(studio, picture, wash)
    washed.set(hash, { picture, wash, image })
    return image
  }

  return (context: CanvasRenderingContext2D, space: CanvasSpace, item: SheetItem): void => {
    const picture = studio.sheetPicture(item.image)
    if (!picture) return
    placeAt(context, space, picture, space.view.zoom)
    context.imageSmoothingEnabled = true
    context.imageSmoothingQuality = 'high'
    context.drawImage(imageOf(item, picture), 0, 0, picture.width, picture.height)
  }
}

function washedImage(studio: Studio, picture: SheetPicture, wash: Wash): CanvasImageSource {
  const { width, height } = picture.pixels
  const { context, image } = studio.createSurface(width, height)
  context.drawImage(picture.image, 0, 0, width, height)
  if (wash.blur > 0) {
    // Over the sharp picture, as a blur fades out at the edges.
    context.filter = `blur(${(wash.blur * width) / picture.width}px)`
    context.drawImage(picture.image, 0, 0, width, height)
    context.filter = 'none'
  }
  const pixels = context.getImageData(0, 0, width, height)
  washPixels(pixels.data, wash)
  context.putImageData(pixels, 0, 0)
  return image
}

/** Darkens the frame from its corners inwards, along ellipses of the frame's shape. */
export function paintEdgeShade(context: CanvasRenderingContext2D, { scale, reference }: CanvasSpace, { shade }: EdgeShadeItem): void {
  const halfWidth = (reference.width * scale) / 2
  const halfHeight = (reference.height * scale) / 2
  // In units of the ellipse through the middles of the edges, on which the corners lie at the root of two.
  const begins = Math.SQRT2 * (1 - shade.size)
  const full = Math.min(Math.SQRT2 + 0.001, begins + Math.SQRT2 * Math.max(0.02, shade.feather))
  context.setTransform(halfWidth, 0, 0, halfHeight, halfWidth, halfHeight)
  const gradient = context.createRadialGradient(0, 0, begins, 0, 0, full)
  gradient.addColorStop(0, translucent(shade.colour, 0))
  gradient.addColorStop(1, translucent(shade.colour, shade.strength))
  context.fillStyle = gradient
  context.fillRect(-1, -1, 2, 2)
}
