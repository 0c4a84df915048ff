import type { VehicleItem } from '#core/frame/frame'
import { MOST_RISE } from '#core/trips/liveliness'
import { CLIMB } from '#core/trips/motion'
import type { Sun } from '#core/camera/sun'
import { awayFrom, shadowLength } from '#core/camera/sun'
import type { Vehicle } from '#core/dress/vehicle'
import { FLIGHT_SHADOW, reachOf } from '#core/dress/vehicle'
import { radians } from '#core/geometry/angle'
import type { Emblem } from '#core/journey/schema'
import { MOST_ALTITUDE } from '#core/journey/schema'
import { bodyPath, paintArtwork, paintSilhouette } from './artwork'
import type { CanvasSpace } from '../canvas-space'
import { layAt, placeAt } from '../canvas-space'
import { LINE } from '../colour'
import type { Figure, Layers } from '../shadow'
import { castReach, castShadow, darken } from '../shadow'
import type { Studio, Surface } from '../studio'
import { smoothly } from '../picture'

/** At the top of its flight a vehicle's shadow lies this many vehicle lengths off. */
const SHADOW_OFFSET = 0.32

/** How far a vehicle and its shadow reach from its place, in reference pixels. */
export function vehicleReach({ sun }: CanvasSpace, { vehicle, scale, rise, altitude }: VehicleItem): number {
  const own = (reachOf(vehicle) * Math.max(1, scale) + Math.abs(rise)) * (1 + CLIMB * altitude)
  const cast = castReach(sun, vehicle.size * (own + altitude * SHADOW_OFFSET + LOW), vehicle.size * own)
  return vehicle.size * (own + altitude * (SHADOW_OFFSET * 1.2 + 0.2)) + cast
}

/** The shadow is soft, so it is painted and blurred at this share of the output's size. */
const SHADOW_SCALE = 0.25

/** By so much more the shadow of one that lies is blurred in the softest light, in hundredths of its length. */
const SOFT = 4

/** A vehicle seen from above is so high, in its lengths, for the shadow that it casts in the sun. */
const LOW = 0.07

/** Paints a vehicle, with its shadow while it flies, or in the sun. */
export function paintVehicle(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  item: VehicleItem,
  layers: Layers,
): void {
  if (space.sun && !item.lies) paintCast(context, studio, space, item, space.sun, layers)
  else if (space.sun || item.altitude > 0) paintShadow(context, studio, space, item, layers)
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
function paintLook(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  { vehicle, wheels, mirrored }: VehicleItem,
): void {
  switch (vehicle.kind) {
    case 'catalogue':
      paintArtwork(context, studio, vehicle.artwork, vehicle.colours, wheels)
      if (vehicle.emblem) paintEmblem(context, studio, space, vehicle, vehicle.emblem, mirrored)
      return
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

/** How wide the emblem of a vehicle is in the output, in pixels. */
export const emblemWidth = ({ picture: { width, height }, size }: Emblem, { size: length }: Vehicle, scale: number): number =>
  (size / 100) * length * scale * Math.min(1, width / height)

/** Paints an emblem on a vehicle's body, which stays the right way round where that is mirrored. One that has not loaded yet is not there. */
function paintEmblem(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  vehicle: Extract<Vehicle, { kind: 'catalogue' }>,
  emblem: Emblem,
  mirrored: boolean,
): void {
  const { picture, x, y, size, rotation } = emblem
  const found = studio.wholePicture(picture, emblemWidth(emblem, vehicle, space.scale))
  if (!found) return
  const k = size / Math.max(picture.width, picture.height)
  const [width, height] = [picture.width * k, picture.height * k]
  context.save()
  context.clip(bodyPath(vehicle.artwork, studio))
  context.translate(x, y)
  context.scale(mirrored ? -1 : 1, 1)
  context.rotate(radians(rotation))
  smoothly(context, () => context.drawImage(found.image, -width / 2, -height / 2, width, height))
  context.restore()
}

const sizeOf = ({ vehicle, scale, altitude }: VehicleItem): number => vehicle.size * scale * (1 + CLIMB * altitude)

function paintShadow(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: VehicleItem, layers: Layers): void {
  const scale = space.scale * SHADOW_SCALE
  const sharp = posed(layers.first, item, scale)
  paintOutline(sharp.context, studio, space, item)
  if (item.vehicle.kind === 'image') darken(sharp)
  const soft = layers.second(sharp.width, sharp.height)
  soft.context.filter = `blur(${(1 + 5 * item.altitude + SOFT * (space.sun?.softness ?? 0)) * (item.vehicle.size / 100) * scale}px)`
  soft.context.drawImage(sharp.image, 0, 0)
  soft.context.filter = 'none'
  const { sun } = space
  const { size, shadow } = item.vehicle
  if (!sun) {
    const away = size * SHADOW_OFFSET * item.altitude
    layOn(context, space, item, soft, 1 / SHADOW_SCALE, (shadow ?? FLIGHT_SHADOW) * item.opacity, { x: away * 0.6, y: away })
    return
  }
  const { x, y } = awayFrom(sun)
  const away = size * (LOW + SHADOW_OFFSET * item.altitude) * shadowLength(sun)
  layOn(context, space, item, soft, 1 / SHADOW_SCALE, (shadow ?? sun.strength) * item.opacity, { x: away * x, y: away * y })
}

/** Paints what a vehicle covers, in hundredths of its length. */
function paintOutline(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: VehicleItem): void {
  const { vehicle } = item
  if (vehicle.kind === 'catalogue') paintSilhouette(context, studio, vehicle.artwork, LINE)
  else paintLook(context, studio, space, item)
}

/** Paints the shadow of a vehicle that stands upright, in the light of the sun. One that flies casts it from as high as it is. */
function paintCast(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  item: VehicleItem,
  sun: Sun,
  layers: Layers,
): void {
  const { vehicle, at, opacity, altitude } = item
  const reach = 100 * (reachOf(vehicle) + Math.abs(item.rise))
  const high = 100 * SHADOW_OFFSET * altitude
  const figure: Figure = {
    at,
    stretch: (space.projection.depthScale(at) * sizeOf(item)) / 100,
    isRound: false,
    box: { left: -reach, right: reach, top: -reach - high, bottom: reach - high },
    paint: (canvas) => {
      canvas.translate(0, -high)
      strike(canvas, item, 1)
      paintOutline(canvas, studio, space, item)
    },
  }
  castShadow(context, space, sun, figure, (vehicle.shadow ?? sun.strength) * opacity, layers)
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
