import type { VehicleItem } from '#core/frame/frame'
import { MOST_RISE } from '#core/trips/liveliness'
import { CLIMB } from '#core/trips/motion'
import type { Vehicle } from '#core/dress/vehicle'
import { reachOf } from '#core/dress/vehicle'
import { MOST_ALTITUDE } from '#core/journey/schema'
import { paintArtwork, paintSilhouette } from './artwork'
import type { CanvasSpace } from '../canvas-space'
import { layAt, placeAt } from '../canvas-space'
import { LINE } from '../colour'
import type { Studio, Surface } from '../studio'
import { smoothly } from '../picture'

/** At the top of its flight a vehicle's shadow lies this many vehicle lengths off. */
const SHADOW_OFFSET = 0.32
const SHADOW_OPACITY = 0.34

/** How far a vehicle and its shadow reach from its place, in reference pixels. */
export const vehicleReach = ({ vehicle, scale, rise, altitude }: VehicleItem): number =>
  vehicle.size *
  ((reachOf(vehicle) * Math.max(1, scale) + Math.abs(rise)) * (1 + CLIMB * altitude) + altitude * (SHADOW_OFFSET * 1.2 + 0.2))

/** The shadow is soft, so it is painted and blurred at this share of the output's size. */
const SHADOW_SCALE = 0.25

export interface Layers {
  /** Cleared surfaces of the size asked for, for one item at a time. */
  first: (width: number, height: number) => Surface
  second: (width: number, height: number) => Surface
}

/** Paints a vehicle, with its shadow while it flies. */
export function paintVehicle(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  item: VehicleItem,
  layers: Layers,
): void {
  if (item.altitude > 0) paintShadow(context, studio, space, item, layers)
  if (item.opacity >= 1) {
    if (item.lies) layAt(context, space, item.at)
    else placeAt(context, space, item.at, space.projection.depthScale(item.at))
    strike(context, item, sizeOf(item) / 100)
    paintLook(context, studio, space, item)
    return
  }
  // On a layer of its own, so that overlapping shapes fade as one.
  const layer = posed(layers.first, item, space.scale)
  paintLook(layer.context, studio, space, item)
  layOn(context, space, item, layer, 1, item.opacity, { x: 0, y: 0 })
}

/** Puts a context that is set to a vehicle's place into its pose. @param stretch the context's units to a hundredth of its length */
function strike(context: CanvasRenderingContext2D, { rise, rotation, mirrored }: VehicleItem, stretch: number): void {
  context.translate(0, -rise * 100 * stretch)
  context.rotate(rotation)
  context.scale(mirrored ? -stretch : stretch, stretch)
}

/** How wide the picture of a vehicle is in the output, in pixels. */
export const pictureWidth = ({ size, posture: { bounds } }: Vehicle, scale: number): number =>
  ((bounds.right - bounds.left) / 100) * size * scale

/** Paints a vehicle at the origin, in hundredths of its length. A picture that has not loaded yet is not there. */
function paintLook(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, { vehicle, wheels }: VehicleItem): void {
  switch (vehicle.kind) {
    case 'catalogue':
      return paintArtwork(context, studio, vehicle.artwork, vehicle.colours, wheels)
    case 'image': {
      const picture = studio.wholePicture(vehicle.picture, pictureWidth(vehicle, space.scale))
      if (!picture) return
      const { left, top, right, bottom } = vehicle.posture.bounds
      smoothly(context, () => context.drawImage(picture.image, left, top, right - left, bottom - top))
      return
    }
    default:
      return vehicle satisfies never
  }
}

const sizeOf = ({ vehicle, scale, altitude }: VehicleItem): number => vehicle.size * scale * (1 + CLIMB * altitude)

function paintShadow(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: VehicleItem, layers: Layers): void {
  const scale = space.scale * SHADOW_SCALE
  const sharp = posed(layers.first, item, scale)
  // Only vehicles of the catalogue fly.
  if (item.vehicle.kind === 'catalogue') paintSilhouette(sharp.context, studio, item.vehicle.artwork, LINE)
  const soft = layers.second(sharp.width, sharp.height)
  soft.context.filter = `blur(${(1 + 5 * item.altitude) * (item.vehicle.size / 100) * scale}px)`
  soft.context.drawImage(sharp.image, 0, 0)
  soft.context.filter = 'none'
  const away = item.vehicle.size * SHADOW_OFFSET * item.altitude
  layOn(context, space, item, soft, 1 / SHADOW_SCALE, SHADOW_OPACITY * item.opacity, { x: away * 0.6, y: away })
}

/** A vehicle that pops up is so much larger for a moment. */
const MOST_SCALE = 1.11

/** A cleared square layer, set to draw the item's artwork in its pose around the middle. Its size is that of the vehicle at its highest. */
function posed(surfaceOf: Layers['first'], item: VehicleItem, scale: number): Surface {
  const size = sizeOf(item)
  const reach = MOST_SCALE * reachOf(item.vehicle) + MOST_RISE
  const side = Math.ceil(2 * reach * item.vehicle.size * (1 + CLIMB * MOST_ALTITUDE) * scale)
  const surface = surfaceOf(side, side)
  const stretch = (size / 100) * scale
  surface.context.setTransform(1, 0, 0, 1, side / 2, side / 2)
  strike(surface.context, item, stretch)
  return surface
}

/** Lays a layer on the frame, its middle off the item's place by an offset in reference pixels. */
function layOn(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  item: VehicleItem,
  { image, width: side }: Surface,
  enlarged: number,
  opacity: number,
  offset: { x: number; y: number },
): void {
  const wide = (side * enlarged) / space.scale
  if (item.lies) layAt(context, space, item.at)
  else placeAt(context, space, item.at, space.projection.depthScale(item.at))
  context.globalAlpha = opacity
  context.drawImage(image, 0, 0, side, side, offset.x - wide / 2, offset.y - wide / 2, wide, wide)
  context.globalAlpha = 1
}
