import { frameCorners, projectionOf } from '../camera/projection'
import type { Size } from '../geometry/size'
import type { View } from '../camera/view'
import { flatView } from '../camera/view'
import { clamp } from '../geometry/clamp'
import { radians } from '../geometry/angle'
import type { Point } from '../geometry/point'
import type { Sheet } from '../journey/schema'
import { groundToSheet, sheetToGround, usedPart } from './place'

/** How a sheet and the frame overlap. */
type Laid = Pick<Sheet, 'crop' | 'width' | 'height' | 'place'>

/** Half the frame's extent along the sheet's own axes, in sheet pixels, at a zoom of one reference pixel to the gu. */
function halfExtent({ place }: Laid, reference: Size): Point {
  const angle = radians(place.rotation)
  const [cos, sin] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))]
  const k = 1 / (2 * place.scale)
  return { x: k * (reference.width * cos + reference.height * sin), y: k * (reference.width * sin + reference.height * cos) }
}

function middle(sheet: Laid): Point {
  const { left, top, right, bottom } = usedPart(sheet)
  return sheetToGround(sheet.place, { x: (left + right) / 2, y: (top + bottom) / 2 })
}

/** The least zoom at which the frame lies wholly on the sheet. */
function fillingZoom(sheet: Laid, reference: Size): number {
  const { left, top, right, bottom } = usedPart(sheet)
  const half = halfExtent(sheet, reference)
  return Math.max((2 * half.x) / (right - left), (2 * half.y) / (bottom - top))
}

/** The view in which a sheet just fills the frame, centred. */
export const fillingView = (sheet: Laid, reference: Size): View => flatView(middle(sheet), fillingZoom(sheet, reference))

/** The view in which the whole sheet can be seen. */
export function fittingView(sheet: Laid, reference: Size): View {
  const { left, top, right, bottom } = usedPart(sheet)
  const angle = radians(sheet.place.rotation)
  const [cos, sin] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))]
  const [width, height] = [(right - left) * sheet.place.scale, (bottom - top) * sheet.place.scale]
  const zoom = Math.min(reference.width / (width * cos + height * sin), reference.height / (width * sin + height * cos))
  return flatView(middle(sheet), zoom)
}

/** Whether a sheet reaches all four edges of the frame, to a hundredth of a reference pixel. */
export function coversFrame(sheet: Laid, view: View, reference: Size): boolean {
  const { left, top, right, bottom } = usedPart(sheet)
  const slack = 0.01 / (view.zoom * sheet.place.scale)
  return frameCorners(projectionOf(view, reference)).every((corner) => {
    const { x, y } = groundToSheet(sheet.place, corner)
    return x >= left - slack && x <= right + slack && y >= top - slack && y <= bottom + slack
  })
}

/** The view nearest to a given one in which the frame lies on the sheet: shifted if that is enough, else zoomed in too. */
export function heldIn(sheet: Laid, view: View, reference: Size): View {
  const { left, top, right, bottom } = usedPart(sheet)
  const at = groundToSheet(sheet.place, view.centre)
  // How far the frame reaches from its middle, in sheet pixels at a zoom of one: the corners' offsets shrink as the zoom grows.
  const [across, down] = [
    { low: Infinity, high: -Infinity },
    { low: Infinity, high: -Infinity },
  ]
  const reaches = (span: { low: number; high: number }, offset: number) => {
    span.low = Math.min(span.low, offset)
    span.high = Math.max(span.high, offset)
  }
  for (const corner of frameCorners(projectionOf({ ...view, zoom: 1 }, reference))) {
    const { x, y } = groundToSheet(sheet.place, corner)
    reaches(across, x - at.x)
    reaches(down, y - at.y)
  }
  const zoom = Math.max(view.zoom, (across.high - across.low) / (right - left), (down.high - down.low) / (bottom - top))
  // Where there is no room to move, the sheet is centred.
  const clampOrCentre = (value: number, low: number, high: number) => (low > high ? (low + high) / 2 : clamp(value, low, high))
  const inside = {
    x: clampOrCentre(at.x, left - across.low / zoom, right - across.high / zoom),
    y: clampOrCentre(at.y, top - down.low / zoom, bottom - down.high / zoom),
  }
  if (zoom === view.zoom && inside.x === at.x && inside.y === at.y) return view
  return { ...view, centre: sheetToGround(sheet.place, inside), zoom }
}
