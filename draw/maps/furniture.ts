import { geodesicDistance } from '#core/geo/geodesic'
import type { Point } from '#core/geometry/point'
import type { BlockPlan } from '#core/maps/map-block'
import { planBlock } from '#core/maps/map-block'
import { hasOneScale, roundLength } from '#core/maps/scale-bar'
import { setFont } from '../type/fonts'
import type { MapPart } from './map-part'

/** Reference pixels along the longer side of a map that fills the frame. */
const ACROSS = 1920

/** The bar's greatest length, how far it is from the corner of the map, and the arrow above it, in reference pixels when the map fills the frame. */
const BAR = 220
const INSET = 60
const ARROW = { height: 64, width: 30, above: 40 }

/**
 * Paints a bar with the map's scale and an arrow to the north into its lower left corner. They belong to the sheet and grow with it. A map of more than a
 * continent has neither, as neither holds all over it.
 */
export function paintFurniture({ context, map, layout, style, plan: block }: MapPart): void {
  if (!hasOneScale(map)) return
  const { width, height } = layout.size
  const k = Math.max(width, height) / ACROSS
  const plan = planBlock(layout, { left: 0, top: 0, step: 1, width, height })
  const from = { x: INSET * k, y: height - INSET * k }
  const [a, b] = [plan.toLonLat(from), plan.toLonLat({ x: from.x + BAR * k, y: from.y })]
  const foot = { x: from.x + (ARROW.width / 2) * k, y: from.y - ARROW.above * k }
  const north = northAt(plan, foot)
  if (!a || !b || !north) return
  const { metres, name } = roundLength(geodesicDistance(a, b))
  const length = (BAR * k * metres) / geodesicDistance(a, b)
  context.save()
  context.setTransform(1 / block.step, 0, 0, 1 / block.step, -block.left / block.step, -block.top / block.step)
  context.fillStyle = context.strokeStyle = style.furniture
  context.lineWidth = 2.5 * k
  context.lineCap = 'butt'
  context.lineJoin = 'miter'
  context.beginPath()
  context.moveTo(from.x, from.y - 8 * k)
  context.lineTo(from.x, from.y)
  context.lineTo(from.x + length, from.y)
  context.lineTo(from.x + length, from.y - 8 * k)
  context.stroke()
  setFont(context, 24 * k)
  context.textBaseline = 'alphabetic'
  context.fillText(name, from.x + length + 12 * k, from.y + 2 * k)
  context.translate(foot.x, foot.y)
  context.rotate(north)
  paintArrow(context, k)
  context.restore()
}

/** The direction to the north in the picture, in radians clockwise from upwards. */
function northAt(plan: BlockPlan, at: Point): number | undefined {
  const here = plan.toLonLat(at)
  if (!here) return undefined
  const beyond = plan.toPixels(here.lon, here.lat + 0.01)
  const back = plan.toPixels(here.lon, here.lat)
  return Math.atan2(beyond.x - back.x, back.y - beyond.y)
}

/** Pointing upwards from its foot: one half filled, the other outlined. */
function paintArrow(context: CanvasRenderingContext2D, k: number): void {
  const [w, h] = [(ARROW.width / 2) * k, ARROW.height * k]
  context.lineWidth = 2 * k
  context.beginPath()
  context.moveTo(0, -h)
  context.lineTo(w, 0)
  context.lineTo(0, -0.28 * h)
  context.closePath()
  context.fill()
  context.stroke()
  context.beginPath()
  context.moveTo(0, -h)
  context.lineTo(-w, 0)
  context.lineTo(0, -0.28 * h)
  context.closePath()
  context.stroke()
  setFont(context, 26 * k)
  context.textAlign = 'center'
  context.fillText('N', 0, -h - 10 * k)
}
