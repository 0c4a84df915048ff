import { clamp } from '#core/geometry/clamp'
import type { BlockPlan } from '#core/maps/map-block'
import type { MapPart, MapTools, Town } from './map-part'

/** Towns are shown from so many inhabitants on to each metre to the reference pixel; their light already from far fewer. */
const SHOWN_FROM = 140
const LIT_FROM = 6

/** Paints towns as dots that grow with their inhabitants, or by their light where the style has it. */
export function paintTowns({ context, tools, source, plan, style: { town }, pen, scale }: MapPart): void {
  const seen = (from: number) => source.towns(plan.bounds, from * scale).flatMap((place) => onBlock(plan, place))
  if (town.glow) {
    const spot = glowSpot(tools, town.glow)
    context.save()
    context.globalCompositeOperation = 'lighter'
    for (const { x, y, population } of seen(LIT_FROM)) {
      // A town's light is about as wide as the town, which grows with the square root of its inhabitants (common practice, no source).
      const radius = pen * clamp((16 * Math.sqrt(population)) / scale, 1.8, 60)
      context.globalAlpha = clamp(0.14 * Math.log10(population / (LIT_FROM * scale)) + 0.18, 0, 0.7)
      context.drawImage(spot, x - radius, y - radius, 2 * radius, 2 * radius)
    }
    context.restore()
    return
  }
  for (const { x, y, population } of seen(SHOWN_FROM)) {
    const radius = pen * clamp(2.2 + 1.2 * Math.log10(population / (SHOWN_FROM * scale)), 2.2, 5)
    context.beginPath()
    context.arc(x, y, radius, 0, 2 * Math.PI)
    context.fillStyle = town.colour
    context.strokeStyle = town.rim
    context.lineWidth = 1.4 * pen
    context.stroke()
    context.fill()
  }
}

function onBlock(plan: BlockPlan, { lon, lat, population }: Town): { x: number; y: number; population: number }[] {
  const [x, y] = plan.projection([lon, lat]) ?? [-Infinity, -Infinity]
  const isNear = x > -REACH && y > -REACH && x < plan.width + REACH && y < plan.height + REACH
  if (!isNear) return []
  // The far side of the globe has pixels too.
  const there = plan.toLonLat({ x, y })
  return there && Math.abs(((there.lon - lon + 540) % 360) - 180) < 0.5 ? [{ x, y, population }] : []
}

/** What lies further outside the block, in its pixels, is not seen in it. */
const REACH = 130

/** Pixels along a side of the picture of a light. */
const SPOT = 64

function glowSpot(tools: MapTools, colour: string): CanvasImageSource {
  const { context, image } = tools.createSurface(SPOT, SPOT)
  const gradient = context.createRadialGradient(SPOT / 2, SPOT / 2, 0, SPOT / 2, SPOT / 2, SPOT / 2)
  gradient.addColorStop(0, '#fff6dd')
  gradient.addColorStop(0.25, colour)
  gradient.addColorStop(1, `${colour}00`)
  context.fillStyle = gradient
  context.fillRect(0, 0, SPOT, SPOT)
  return image
}
