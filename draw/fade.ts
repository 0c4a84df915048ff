import { fadeOf } from '#core/marks/reveal'
import type { FrameItem } from '#core/frame/frame'
import { itemBounds } from './bounds'
import type { CanvasSpace } from './canvas-space'
import { sizeOf } from './canvas-space'
import { onCanvas } from './region'
import type { Studio, Surface } from './studio'

/** What is put together of several shapes that lie on one another: letters on their halo, a card on its stalk, a pin on its edge. */
type Grouped = Extract<FrameItem, { kind: 'pin' | 'carried' | 'map-name' | 'label' | 'postcard' | 'caption' }>

/**
 * Paints items whose shapes lie on one another so that they fade as one: each by itself would let what is under it shine through. One that is not fading is
 * painted where it is.
 *
 * @returns what does it; `paint` paints the item as if it was not fading
 */
export function createFader(studio: Studio) {
  let surface: Surface | undefined
  return (
    context: CanvasRenderingContext2D,
    space: CanvasSpace,
    item: Grouped,
    paint: (context: CanvasRenderingContext2D) => void,
  ): void => {
    const opacity = 'appears' in item ? item.opacity * fadeOf(item.appears, item.elapsed) : item.opacity
    if (opacity <= 0) return
    if (opacity >= 1) return paint(context)
    const size = sizeOf(space)
    const { x, y, width, height } = onCanvas(itemBounds(space, item), 2, size)
    if (width === 0 || height === 0) return
    if (!surface || surface.width !== size.width || surface.height !== size.height) surface = studio.createSurface(size.width, size.height)
    const layer = surface.context
    layer.setTransform(1, 0, 0, 1, 0, 0)
    layer.clearRect(x, y, width, height)
    paint(layer)
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.globalAlpha = opacity
    context.drawImage(surface.image, x, y, width, height, x, y, width, height)
    context.globalAlpha = 1
  }
}
