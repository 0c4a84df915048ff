import type { Size, View } from '../camera/view'
import { outputScale, toGround } from '../camera/view'
import type { Point } from '../geometry/point'
import type { Frame, SheetItem } from '../frame/frame'
import type { Sheet } from '../journey/schema'
import { groundToSheet, sheetToGround, usedPart } from './place'

/** How a sheet and the frame overlap. The camera looks straight down with north up, so a turned sheet is turned in the frame. */
type Laid = Pick<Sheet, 'crop' | 'width' | 'height' | 'place'>

/** Half the frame's extent along the sheet's own axes, in sheet pixels, at a zoom of one reference pixel to the gu. */
function halfExtent({ place }: Laid, reference: Size): Point {
  const angle = (place.rotation * Math.PI) / 180
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
export const fillingView = (sheet: Laid, reference: Size): View => ({ centre: middle(sheet), zoom: fillingZoom(sheet, reference) })

/** The view in which the whole sheet can be seen. */
export function fittingView(sheet: Laid, reference: Size): View {
  const { left, top, right, bottom } = usedPart(sheet)
  const angle = (sheet.place.rotation * Math.PI) / 180
  const [cos, sin] = [Math.abs(Math.cos(angle)), Math.abs(Math.sin(angle))]
  const [width, height] = [(right - left) * sheet.place.scale, (bottom - top) * sheet.place.scale]
  const zoom = Math.min(reference.width / (width * cos + height * sin), reference.height / (width * sin + height * cos))
  return { centre: middle(sheet), zoom }
}

/** The view in which ground points, x and y in turn, lie within a share of the frame; undefined without points. */
export function viewOf(points: Iterable<Point>, reference: Size, share: number): View | undefined {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity }
  for (const { x, y } of points) {
    box.left = Math.min(box.left, x)
    box.right = Math.max(box.right, x)
    box.top = Math.min(box.top, y)
    box.bottom = Math.max(box.bottom, y)
  }
  if (box.left > box.right) return undefined
  const zoom = share * Math.min(reference.width / (box.right - box.left), reference.height / (box.bottom - box.top))
  return { centre: { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 }, zoom }
}

/** Whether a sheet reaches all four edges of the frame, to a hundredth of a reference pixel. */
export function coversFrame(sheet: Laid, view: View, reference: Size): boolean {
  const { left, top, right, bottom } = usedPart(sheet)
  const slack = 0.01 / (view.zoom * sheet.place.scale)
  return frameCorners(view, reference).every((corner) => {
    const { x, y } = groundToSheet(sheet.place, corner)
    return x >= left - slack && x <= right + slack && y >= top - slack && y <= bottom + slack
  })
}

/** The frame's corners on the ground, clockwise from its upper left. */
export const frameCorners = (view: View, reference: Size): Point[] =>
  [
    [0, 0],
    [reference.width, 0],
    [reference.width, reference.height],
    [0, reference.height],
  ].map(([x, y]) => toGround(view, reference, { x: x!, y: y! }))

/** The view nearest to a given one in which the frame lies on the sheet: shifted if that is enough, else zoomed in too. */
export function heldIn(sheet: Laid, view: View, reference: Size): View {
  const zoom = Math.max(view.zoom, fillingZoom(sheet, reference))
  const { left, top, right, bottom } = usedPart(sheet)
  const half = halfExtent(sheet, reference)
  const held = (value: number, low: number, high: number) => (low > high ? (low + high) / 2 : Math.min(high, Math.max(low, value)))
  const at = groundToSheet(sheet.place, view.centre)
  const inside = {
    x: held(at.x, left + half.x / zoom, right - half.x / zoom),
    y: held(at.y, top + half.y / zoom, bottom - half.y / zoom),
  }
  if (zoom === view.zoom && inside.x === at.x && inside.y === at.y) return view
  return { centre: sheetToGround(sheet.place, inside), zoom }
}

/** Sheet pixels for each output pixel; below 1 the picture is blown up and its pixels begin to show. The same all over, as the camera looks straight down. */
export const sharpness = (sheet: Laid, view: View, frame: Size): number => 1 / (sheet.place.scale * view.zoom * outputScale(frame))

/** Sharpness at the frame's middle, of the topmost sheet there that is at least half opaque. Infinite for vector sheets, which have no pixels. */
export function centreSharpness(frame: Pick<Frame, 'items' | 'size' | 'view'>): number | undefined {
  const item = frame.items.findLast((entry): entry is SheetItem => {
    if (entry.kind !== 'sheet' || entry.opacity <= 0.5) return false
    const { left, top, right, bottom } = usedPart(entry.sheet)
    const { x, y } = groundToSheet(entry.sheet.place, frame.view.centre)
    return x >= left && x <= right && y >= top && y <= bottom
  })
  return item && (item.sheet.vector ? Infinity : sharpness(item.sheet, frame.view, frame.size))
}

/** The largest zoom at which a sheet has a pixel for each output pixel, in reference pixels per gu. */
export const sharpZoom = (sheet: Laid, frame: Size): number => 1 / (sheet.place.scale * outputScale(frame))
