import { remembered } from '#core/remembered'
import type { Artwork, Tone } from '#core/vehicles/artwork'
import type { Colours } from '#core/dress/vehicle'
import { EDGE } from '#core/dress/vehicle'
import { palette, PAPER } from '../colour'
import type { Studio } from '../studio'

const pathsOf = remembered((artwork: Artwork, studio: Studio) => artwork.shapes.map((shape) => studio.createPath(shape.d)))

/** The shapes that an emblem can lie on: not lamps, windows, masts and tyres. */
const BODY: ReadonlySet<Tone> = new Set<Tone>(['body', 'shade', 'tint', 'paper', 'wood'])

/** What of an artwork is its body, in artwork units. */
export const bodyPath = remembered((artwork: Artwork, studio: Studio) =>
  studio.createPath(artwork.shapes.flatMap(({ fill, d }) => (fill && BODY.has(fill) ? [d] : [])).join('')),
)

/** The spokes of a wheel that turns, and their reach, as a share of its radius. */
const SPOKES = 4
const SPOKE = 0.82

/** The width of spokes in a wheel with a hub, and in a tyre, as shares of its radius. */
const HUB_SPOKE = 0.16
const TYRE_SPOKE = 0.07

/**
 * Paints an artwork at the origin, in artwork units, with a light edge all round it.
 * @param wheels how far it has rolled, in its lengths, so that its wheels are seen turning; null where they are not
 */
export function paintArtwork(
  context: CanvasRenderingContext2D,
  studio: Studio,
  artwork: Artwork,
  colours: Colours,
  wheels: number | null = null,
): void {
  const tones = palette(colours)
  const made = pathsOf(artwork, studio)
  context.lineCap = 'round'
  context.lineJoin = 'round'
  context.setLineDash([])
  context.strokeStyle = PAPER
  artwork.shapes.forEach((shape, i) => {
    context.lineWidth = EDGE + (shape.width ?? 0)
    context.stroke(made[i]!)
  })
  artwork.shapes.forEach(({ fill, stroke, width, wheel }, i) => {
    // Under the hub.
    if (wheel && wheels !== null) paintSpokes(context, wheel, (100 * wheels) / wheel.r, fill ? HUB_SPOKE : TYRE_SPOKE, tones.steel)
    if (fill) {
      context.fillStyle = tones[fill]
      context.fill(made[i]!)
    }
    if (stroke) {
      context.strokeStyle = tones[stroke]
      context.lineWidth = width ?? 1
      context.stroke(made[i]!)
    }
  })
}

function paintSpokes(
  context: CanvasRenderingContext2D,
  { x, y, r }: { x: number; y: number; r: number },
  angle: number,
  width: number,
  colour: string,
): void {
  context.strokeStyle = colour
  context.lineWidth = width * r
  context.beginPath()
  for (let i = 0; i < SPOKES; i++) {
    const a = angle + (Math.PI * i) / SPOKES
    const [dx, dy] = [SPOKE * r * Math.cos(a), SPOKE * r * Math.sin(a)]
    context.moveTo(x - dx, y - dy)
    context.lineTo(x + dx, y + dy)
  }
  context.stroke()
}

/** Paints the silhouette of an artwork in one colour. */
export function paintSilhouette(context: CanvasRenderingContext2D, studio: Studio, artwork: Artwork, colour: string): void {
  context.lineJoin = 'round'
  context.fillStyle = colour
  context.strokeStyle = colour
  context.setLineDash([])
  pathsOf(artwork, studio).forEach((path, i) => {
    context.lineWidth = EDGE + (artwork.shapes[i]!.width ?? 0)
    context.stroke(path)
    if (artwork.shapes[i]!.fill) context.fill(path)
  })
}
