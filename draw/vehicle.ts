import { toScreen } from '#core/camera/view'
import type { VehicleItem } from '#core/frame/frame'
import { artworkOf } from '#core/vehicles/catalogue'
import { paintArtwork, paintSilhouette } from './artwork'
import type { CanvasSpace } from './canvas-space'
import { placeAt } from './canvas-space'
import { LINE } from './colour'
import type { Studio, Surface } from './studio'

/** At the top of its flight a vehicle looks this much larger, and its shadow lies this many vehicle lengths off. */
const CLIMB = 0.28
const SHADOW_OFFSET = 0.32
const SHADOW_OPACITY = 0.34

/** Artwork reaches at most this many lengths from its origin (a balloon's top, with its edge). */
const REACH = 1.6

/** How far a vehicle and its shadow reach from its place, in reference pixels. */
export const vehicleReach = ({ vehicle, altitude }: VehicleItem): number =>
  vehicle.size * (REACH * (1 + CLIMB * altitude) + altitude * (SHADOW_OFFSET * 1.2 + 0.2))

/** Paints a vehicle, with its shadow while it flies. */
export function paintVehicle(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  item: VehicleItem,
  layerSurface: (width: number, height: number) => Surface,
): void {
  const artwork = artworkOf(item.vehicle.artwork)
  const size = item.vehicle.size * (1 + CLIMB * item.altitude)
  const stretch = size / 100
  if (item.altitude > 0) {
    const offset = item.vehicle.size * SHADOW_OFFSET * item.altitude * space.scale
    const softness = (1 + 5 * item.altitude) * (item.vehicle.size / 100) * space.scale
    onLayer(
      context,
      space,
      item,
      size,
      layerSurface,
      SHADOW_OPACITY * item.opacity,
      { x: offset * 0.6, y: offset },
      `blur(${softness}px)`,
      (layer) => paintSilhouette(layer, studio, artwork, LINE),
    )
  }
  if (item.opacity >= 1) {
    placeAt(context, space, item.at, stretch, item.rotation, item.mirrored)
    paintArtwork(context, studio, artwork, item.vehicle.colour)
  } else {
    onLayer(context, space, item, size, layerSurface, item.opacity, { x: 0, y: 0 }, 'none', (layer) =>
      paintArtwork(layer, studio, artwork, item.vehicle.colour),
    )
  }
}

/** Paints on a layer of its own and lays that on the frame in one piece, so that overlapping shapes fade as one. */
function onLayer(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  item: VehicleItem,
  size: number,
  layerSurface: (width: number, height: number) => Surface,
  opacity: number,
  offset: { x: number; y: number },
  filter: string,
  paint: (layer: CanvasRenderingContext2D) => void,
): void {
  const side = Math.ceil(2 * REACH * size * space.scale)
  const surface = layerSurface(side, side)
  const layer = surface.context
  const stretch = (size / 100) * space.scale
  layer.setTransform(1, 0, 0, 1, side / 2, side / 2)
  layer.rotate(item.rotation)
  layer.scale(item.mirrored ? -stretch : stretch, stretch)
  paint(layer)
  const at = toScreen(space.view, space.reference, item.at)
  context.setTransform(1, 0, 0, 1, 0, 0)
  context.globalAlpha = opacity
  context.filter = filter
  context.drawImage(
    surface.image,
    0,
    0,
    side,
    side,
    at.x * space.scale - side / 2 + offset.x,
    at.y * space.scale - side / 2 + offset.y,
    side,
    side,
  )
  context.filter = 'none'
  context.globalAlpha = 1
}
