import type { Sun } from '#core/camera/sun'
import { awayFrom, fallInFrame, shadowLength } from '#core/camera/sun'
import { mixColours } from '#core/colour/gradient'
import type { PinItem } from '#core/frame/frame'
import type { Box } from '#core/geometry/box'
import { movedBox, scaledBox, unionOf } from '#core/geometry/box'
import { polylineCourse } from '#core/geometry/course'
import { lineNoise, seedOf } from '#core/geometry/noise'
import type { Point } from '#core/geometry/point'
import type { Pin, PinIcon } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { layAt, placeAt, placeInFrame, standingScale } from '../canvas-space'
import { LINE, PAPER, translucent } from '../colour'
import { setFont } from '../type/fonts'
import { drawnByHand } from '../ink/hand'
import { liesFlat, liftOf, PIN_SHADOW, pinOutline } from '#core/marks/pins'
import type { PinId } from '#core/pins/catalogue'
import { pinDrawing } from '#core/pins/catalogue'
import { ICON_SIDE, PIN_ICON_PATHS } from './pin-icons'
import { strandsOf } from '../ink/strand'
import { paintStrands } from '../ink/stroke'
import type { Figure, Layers } from '../shadow'
import { castShadow } from '../shadow'
import type { Studio } from '../studio'
import { smoothly } from '../picture'

export const pinPalette = (colour: string) => ({ colour, shade: mixColours(colour, LINE, 0.38), paper: PAPER, lamp: '#ffe3a0', line: LINE })

/** How far a pin reaches from its place, in pin sizes, its edge included. */
const PIN_REACH = 1.1

/** A circle is so wide, in pin sizes; it comes up to a third too large, and strays a little where it is drawn by hand. */
const CIRCLE_WIDTH = 0.09
const CIRCLE_REACH = 1.35

/** How far a pin reaches with its circle, in reference pixels at its own scale. */
export function pinReach(pin: Pin): number {
  const { shape, picture, size, circle } = pin
  const own = shape === 'own' && picture ? Math.hypot(1, picture.width / picture.height) : 0
  return size * Math.max(PIN_REACH, own, circle ? circle.radius * CIRCLE_REACH + CIRCLE_WIDTH : 0, liftOf(pin) + Math.max(PIN_REACH, own))
}

/** How wide the picture of a pin of one's own is in the output, in pixels. */
export const ownPinWidth = ({ picture, size }: Pin, scale: number): number => ((picture!.width * size) / picture!.height) * scale

/** How far to the lower right a disc casts its shadow where no sun shines, in hundredths of its size. */
const DISC_FALL: Point = { x: 2, y: 5 }

/** Paints a pin at its place, with a light edge and a shadow, and the circle round it. */
export function paintPin(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PinItem, layers: Layers): void {
  const { pin } = item
  if (pin.shape === 'none') return
  if (pin.circle && item.circle) paintCircle(context, space, item)
  if (space.sun) paintCast(context, studio, space, item, space.sun, layers)
  if (pin.shape === 'own') return paintOwn(context, studio, space, item)
  const drawing = pinDrawing(pin.shape)
  const paints = pinPalette(pin.colour)
  const stretch = (item.scale * pin.size) / 100
  if (liesFlat(pin)) layAt(context, space, item.at, stretch)
  else placeAt(context, space, item.at, standingScale(space, item.at) * stretch)
  // What floats or drops is above its shadow.
  const lift = liftOf(pin)
  const above = -100 * (item.raised + lift)
  context.fillStyle = translucent(LINE, (pin.shadow ?? PIN_SHADOW) * (1 - Math.min(1, item.raised)))
  if (!drawing.isCentred || lift > 0) {
    // Where it touches the ground, in any light.
    context.beginPath()
    context.ellipse(4, 1, 17, 6, 0, 0, 2 * Math.PI)
    context.fill()
  } else if (!space.sun) fillShifted(context, studio.createPath(drawing.outline), DISC_FALL)
  if (lift > 0 && pin.stem) paintStem(context, above)
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

/** Fills a path moved aside. */
function fillShifted(context: CanvasRenderingContext2D, path: Path2D, { x, y }: Point): void {
  context.translate(x, y)
  context.fill(path)
  context.translate(-x, -y)
}

/** Paints the shadow of a pin in the light of the sun. */
function paintCast(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PinItem, sun: Sun, layers: Layers): void {
  const { at, pin, scale, raised } = item
  const opacity = pin.shadow ?? sun.strength
  const lift = liftOf(pin) + raised
  const outline = pin.shape === 'none' || pin.shape === 'own' ? undefined : studio.createPath(pinDrawing(pin.shape).outline)
  if (lift === 0 && (liesFlat(pin) || (outline && pin.shape !== 'own' && pinDrawing(pin.shape as PinId).isCentred))) {
    // A disc is thin, and close to the ground.
    const stretch = (scale * pin.size) / 100
    const far = Math.hypot(DISC_FALL.x, DISC_FALL.y) * shadowLength(sun)
    const isLying = liesFlat(pin)
    const fall = isLying ? awayFrom(sun) : fallInFrame(sun, space.projection)
    if (isLying) layAt(context, space, at, stretch)
    else placeAt(context, space, at, standingScale(space, at) * stretch)
    context.fillStyle = translucent(LINE, opacity)
    return fillShifted(context, outline!, { x: far * fall.x, y: far * fall.y })
  }
  const box = movedBox(scaledBox(pinOutline(pin), 100), 0, -100 * lift)
  const figure: Figure = {
    at,
    stretch: (standingScale(space, at) * scale * pin.size) / 100,
    isRound: true,
    box: lift > 0 ? unionOf([box, STEM_BOX]) : box,
    paint: (canvas) => {
      if (lift > 0 && pin.stem) paintStem(canvas, -100 * lift)
      canvas.translate(0, -100 * lift)
      if (outline) canvas.fill(outline)
      else paintPicture(canvas, studio, space, pin)
    },
  }
  castShadow(context, space, sun, figure, opacity, layers)
}

/** The stem of a pin that floats over its place, in hundredths of its size: its width, and the dot at its foot. */
const STEM = { width: 5, edge: 5, dot: 5 } as const
const STEM_BOX: Box = { left: -10, right: 10, top: 0, bottom: 10 }

function paintStem(context: CanvasRenderingContext2D, above: number): void {
  context.lineCap = 'butt'
  for (const [colour, wider] of [
    [PAPER, STEM.edge],
    [LINE, 0],
  ] as const) {
    context.strokeStyle = context.fillStyle = colour
    context.lineWidth = STEM.width + wider
    context.beginPath()
    context.moveTo(0, 0)
    context.lineTo(0, above)
    context.stroke()
    context.beginPath()
    context.arc(0, 0, STEM.dot + wider / 2, 0, 2 * Math.PI)
    context.fill()
  }
}

/** Paints a picture of one's own, its anchor at its place. */
function paintOwn(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, { at, pin, scale, raised }: PinItem): void {
  placeAt(context, space, at, (standingScale(space, at) * scale * pin.size) / 100)
  const above = -100 * (raised + liftOf(pin))
  if (liftOf(pin) > 0 && pin.stem) paintStem(context, above)
  context.translate(0, above)
  paintPicture(context, studio, space, pin)
}

/** Paints the picture of a pin about the origin, in hundredths of its size. One that has not loaded yet is not there. */
function paintPicture(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, pin: Pin): void {
  const { anchor, ...picture } = pin.picture!
  const found = studio.wholePicture(picture, ownPinWidth(pin, space.scale))
  if (!found) return
  const width = (100 * picture.width) / picture.height
  smoothly(context, () => context.drawImage(found.image, -anchor.x * width, -100 * anchor.y, width, 100))
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
