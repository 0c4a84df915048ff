import type { Artwork } from '#core/vehicles/artwork'
import type { Colours } from '#core/vehicles/vehicle'
import { EDGE } from '#core/vehicles/vehicle'
import { palette, PAPER } from './colour'
import type { Studio } from './studio'

const pathsOf = new WeakMap<Artwork, Path2D[]>()

function paths(studio: Studio, artwork: Artwork): Path2D[] {
  const known = pathsOf.get(artwork)
  if (known) return known
  const made = artwork.shapes.map((shape) => studio.createPath(shape.d))
  pathsOf.set(artwork, made)
  return made
}

/** Paints an artwork at the origin, in artwork units, with a light edge all round it. */
export function paintArtwork(context: CanvasRenderingContext2D, studio: Studio, artwork: Artwork, colours: Colours): void {
  const tones = palette(colours)
  const made = paths(studio, artwork)
  context.lineCap = 'round'
  context.lineJoin = 'round'
  context.setLineDash([])
  context.strokeStyle = PAPER
  artwork.shapes.forEach((shape, i) => {
    context.lineWidth = EDGE + (shape.width ?? 0)
    context.stroke(made[i]!)
  })
  artwork.shapes.forEach(({ fill, stroke, width }, i) => {
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

/** Paints the silhouette of an artwork in one colour. */
export function paintSilhouette(context: CanvasRenderingContext2D, studio: Studio, artwork: Artwork, colour: string): void {
  context.lineJoin = 'round'
  context.fillStyle = colour
  context.strokeStyle = colour
  context.setLineDash([])
  paths(studio, artwork).forEach((path, i) => {
    context.lineWidth = EDGE + (artwork.shapes[i]!.width ?? 0)
    context.stroke(path)
    if (artwork.shapes[i]!.fill) context.fill(path)
  })
}
