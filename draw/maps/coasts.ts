import { landWithin } from '#core/maps/land-index'
import { featuresNear } from '#core/maps/near-shapes'
import type { MapPart, WorldShapes } from './map-part'
import { pathOf } from './map-part'

/** Land with its lakes left out, to be filled by the even-odd rule, and the outline of both. */
export interface Coasts {
  fill: Path2D
  outline: Path2D
  /** The same outline for bands along it, which hide what is small in it: simpler, as it is quicker. */
  about: Path2D
}

/** From this scale on, in metres to the reference pixel, the whole Earth's generalised coasts are used, which keep their shape when they are small. */
const GENERAL = 2500

/** Coasts are followed to this share of a pixel, and the bands along them to so many. */
const TOLERANCE = 0.35
const SHORE_TOLERANCE = 2

/** Islands and lakes are shown from so many reference pixels on. */
const LEAST_ISLAND = 2.5
const LEAST_LAKE = 10

/** The coasts of a block. */
export function coastsOf(part: MapPart, shapes: WorldShapes): Coasts {
  const { plan, scale, style } = part
  if (scale > GENERAL || !plan.bounds) {
    const features = [shapes.land, shapes.lakes].flatMap((of) => featuresNear(of, plan.bounds).features)
    const path = pathOf(part, { type: 'FeatureCollection', features })
    return { fill: path, outline: path, about: path }
  }
  const { fill, outline } = nearCoasts(part, TOLERANCE)
  return { fill, outline, about: style.shores.length > 0 ? nearCoasts(part, SHORE_TOLERANCE).outline : outline }
}

/** The land near a block from the index. @param tolerance how far the paths may be from the coast, in pixels */
function nearCoasts({ tools, source, plan, scale }: MapPart, tolerance: number): Pick<Coasts, 'fill' | 'outline'> {
  const [fill, outline] = [tools.createPath(''), tools.createPath('')]
  const smallest = { island: LEAST_ISLAND * scale, lake: LEAST_LAKE * scale }
  for (const ring of landWithin(source.land(), plan.bounds!, tolerance * plan.metres, smallest)) {
    let wasCut = isCut(ring.at(-2)!)
    for (let i = 0; i < ring.length; i += 2) {
      const { x, y } = plan.toPixels(ring[i]!, ring[i + 1]!)
      const isHere = isCut(ring[i]!)
      if (i === 0) fill.moveTo(x, y)
      else fill.lineTo(x, y)
      if (i === 0 || (wasCut && isHere)) outline.moveTo(x, y)
      else outline.lineTo(x, y)
      wasCut = isHere
    }
    fill.closePath()
    if (wasCut && isCut(ring[0]!)) continue
    const { x, y } = plan.toPixels(ring[0]!, ring[1]!)
    outline.lineTo(x, y)
  }
  return { fill, outline }
}

/** Islands on the antimeridian are cut there, which is no coast. */
const isCut = (lon: number): boolean => Math.abs(lon) === 180
