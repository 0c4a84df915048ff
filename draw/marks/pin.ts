import { mixColours } from '#core/colour/gradient'
import type { PinItem } from '#core/frame/frame'
import { polylineCourse } from '#core/geometry/course'
import { lineNoise, seedOf } from '#core/geometry/noise'
import type { Point } from '#core/geometry/point'
import type { Pin, PinIcon } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { layAt, placeAt, placeInFrame, standingScale } from '../canvas-space'
import { LINE, PAPER, translucent } from '../colour'
import { setFont } from '../type/fonts'
import { drawnByHand } from '../ink/hand'
import { pinDrawing } from '#core/pins/catalogue'
import { ICON_SIDE, PIN_ICON_PATHS } from './pin-icons'
import { strandsOf } from '../ink/strand'
import { paintStrands } from '../ink/stroke'
import type { Studio } from '../studio'
import { smoothly } from '../picture'

export const pinPalette = (colour: string) => ({ colour, shade: mixColours(colour, LINE, 0.38), paper: PAPER, lamp: '#ffe3a0', line: LINE })

/** How far a pin reaches from its place, in pin sizes, its edge included. */
const PIN_REACH = 1.1

/** A circle is so wide, in pin sizes; it comes up to a third too large, and strays a little where it is drawn by hand. */
const CIRCLE_WIDTH = 0.09
const CIRCLE_REACH = 1.35

/** How far a pin reaches with its circle, in reference pixels at its own scale. */
export function pinReach({ shape, picture, size, circle }: Pin): number {
  const own = shape === 'own' && picture ? Math.hypot(1, picture.width / picture.height) : 0
  return size * Math.max(PIN_REACH, own, circle ? circle.radius * CIRCLE_REACH + CIRCLE_WIDTH : 0)
}

/** Whether a pin lies on the ground. */
const isFlat = ({ shape, lies }: Pin): boolean => shape !== 'none' && shape !== 'own' && lies && pinDrawing(shape).isCentred === true

/** How wide the picture of a pin of one's own is in the output, in pixels. */
export const ownPinWidth = ({ picture, size }: Pin, scale: number): number => ((picture!.width * size) / picture!.height) * scale

/** Paints a pin at its place, with a light edge and a faint shadow at its foot, and the circle round it. */
export function paintPin(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PinItem): void {
  const { pin } = item
  if (pin.shape === 'none') return
  if (pin.circle && item.circle) paintCircle(context, space, item)
  if (pin.shape === 'own') return paintOwn(context, studio, space, item)
  const drawing = pinDrawing(pin.shape)
  const paints = pinPalette(pin.colour)
  const stretch = (item.scale * pin.size) / 100
  if (isFlat(pin)) layAt(context, space, item.at, stretch)
  else placeAt(context, space, item.at, standingScale(space, item.at) * stretch)
  // What drops is above its shadow.
  const above = -100 * item.raised
  context.fillStyle = translucent(LINE, 0.28 * (1 - Math.min(1, item.raised)))
  if (drawing.isCentred) {
    context.translate(2, 5)
    context.fill(studio.createPath(drawing.outline))
    context.translate(-2, -5)
  } else {
    context.beginPath()
    context.ellipse(4, 1, 17, 6, 0, 0, 2 * Math.PI)
    context.fill()
  }
  context.translate(0, above)
  context.lineJoin = 'round'
  context.lineWidth = 9
  context.strokeStyle = PAPER
  context.stroke(studio.createPath(drawing.outline))
  for (const { d, paint } of drawing.parts) {
    context.fillStyle = paints[paint]
    context.fill(studio.createPath(d))
  }
  if (drawing.face && pin.inside?.kind === 'icon') paintIcon(context, studio, pin.inside.icon, drawing.face)
  else if (drawing.face && item.inside !== '') paintInside(context, item.inside, drawing.face)
}

/** Paints a picture of one's own, its anchor at its place. One that has not loaded yet is not there. */
function paintOwn(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, { at, pin, scale, raised }: PinItem): void {
  const { anchor, ...picture } = pin.picture!
  const found = studio.wholePicture(picture, ownPinWidth(pin, space.scale))
  if (!found) return
  const [width, height] = [(picture.width * pin.size) / picture.height, pin.size]
  placeAt(context, space, at, standingScale(space, at) * scale)
  smoothly(context, () => context.drawImage(found.image, -anchor.x * width, -(anchor.y + raised) * height, width, height))
}

/** The side of an icon's square, in radii of the face. */
const ICON = 1.5

/** Paints an icon into the face of a pin. */
function paintIcon(context: CanvasRenderingContext2D, studio: Studio, icon: PinIcon, { y, r }: { y: number; r: number }): void {
  const k = (ICON * r) / ICON_SIDE
  context.translate(-(ICON_SIDE / 2) * k, y - (ICON_SIDE / 2) * k)
  context.scale(k, k)
  context.fillStyle = LINE
  context.fill(studio.createPath(PIN_ICON_PATHS[icon]))
}

/** Letters in a face are at most so large, in its radii. */
const LARGEST = 2

/** Writes into the face of a pin, as large as fits, in the middle by what is seen of the letters: figures have different heights. */
function paintInside(context: CanvasRenderingContext2D, text: string, { y, r }: { y: number; r: number }): void {
  context.textAlign = 'center'
  context.textBaseline = 'alphabetic'
  setFont(context, 100)
  const { width, actualBoundingBoxAscent: above, actualBoundingBoxDescent: below } = context.measureText(text)
  // The text's box lies within the circle.
  const size = Math.min((185 * r) / Math.hypot(width, above + below), LARGEST * r)
  setFont(context, size)
  context.fillStyle = LINE
  context.fillText(text, 0, y + ((above - below) / 2) * (size / 100))
}

/** The corners of a circle that is drawn as a course. */
const CORNERS = 96

/** Paints the circle round a pin on the ground. */
function paintCircle(context: CanvasRenderingContext2D, space: CanvasSpace, { stop, at, pin, circle: state }: PinItem): void {
  const { projection } = space
  const circle = pin.circle!
  const { scale, opacity, drawn } = state!
  const zoom = projection.view.zoom
  const radius = (circle.radius * pin.size * scale) / zoom
  const isByHand = circle.kind === 'by-hand'
  const seed = seedOf(stop)
  // By hand it does not quite close, and its ends pass each other.
  const turns = isByHand ? 1.06 : 1
  const point = (i: number): Point => {
    const angle = -1.9 + (2 * Math.PI * turns * i) / CORNERS
    const r = radius * (isByHand ? 1 + 0.05 * lineNoise(seed, i / 14) + 0.04 * (i / CORNERS - 0.5) : 1)
    return { x: at.x + r * Math.cos(angle), y: at.y + r * Math.sin(angle) }
  }
  const course = polylineCourse(Float64Array.from(Array.from({ length: CORNERS + 1 }, (_, i) => point(i)).flatMap(({ x, y }) => [x, y])))
  const width = CIRCLE_WIDTH * pin.size
  const strands = strandsOf(projection, course, [{ from: 0, to: course.length * drawn }], isByHand ? 4 / zoom : Infinity)
  placeInFrame(context, space)
  context.globalAlpha = opacity
  context.strokeStyle = circle.colour
  paintStrands(context, isByHand ? drawnByHand(strands, 'pencil', width * 1.4, seed, zoom) : strands, { width, cap: 'round' })
  context.globalAlpha = 1
}
