import type { Size } from '#core/geometry/size'
import type { PostcardItem } from '#core/frame/frame'
import { besidePin, POSTCARD_GAP } from '#core/frame/marks'
import { radians } from '#core/geometry/angle'
import type { Point } from '#core/geometry/point'
import type { Photo, Postcard } from '#core/journey/schema'
import type { CanvasSpace } from './canvas-space'
import { placeAt, standingScale } from './canvas-space'
import { translucent } from './colour'
import { brokenInto } from '#core/type/block'
import { HOUSE_FACE, setFont } from './fonts'
import type { Studio } from './studio'

/** Measures of a postcard, as shares of its size: its border, its letters under a photo and alone, and the space between lines. */
const BORDER = 0.045
const CAPTION = 0.072
const LETTERS = 0.105
const LEADING = 1.22

/** The distance of the baseline below the line's middle, as a share of the letter size; measured on the label font, Alegreya 700. */
const BASELINE = 0.28

/** The least gap to the frame's edges, in reference pixels. */
const MARGIN = 24

/** The shadow's blur and its offset downwards, as shares of the card's size. */
const SHADOW_BLUR = 0.05
const SHADOW_DROP = 0.018

interface Layout extends Size {
  /** The card's middle, in reference pixels from the stop. */
  middle: Point
  /** Size of the photo, which lies within the border at the top. */
  photo: Size | undefined
  lines: string[]
  letters: number
  border: number
}

/** The photo's size on a card whose longer side, with the border, is `size`. */
function photoSize({ width, height }: Photo, size: number): Size {
  const k = (size * (1 - 2 * BORDER)) / Math.max(width, height)
  return { width: width * k, height: height * k }
}

/** How wide the photo of a postcard is in the output, in pixels. */
export const seenWidth = (photo: Photo, { size }: Pick<Postcard, 'size'>, scale: number): number => photoSize(photo, size).width * scale

function layout(context: CanvasRenderingContext2D, space: CanvasSpace, { at, postcard, pin }: PostcardItem): Layout {
  const { size } = postcard
  const border = size * BORDER
  const photo = postcard.photo ? photoSize(postcard.photo, size) : undefined
  const inside = photo?.width ?? size - 4 * border
  const letters = size * (photo ? CAPTION : LETTERS)
  const lines = brokenInto(postcard.text, HOUSE_FACE, inside / letters)
  const text = lines.length * letters * LEADING
  const width = photo ? photo.width + 2 * border : size
  const height = photo ? photo.height + 2 * border + text : Math.max(text + 4 * border, size * 0.3)
  const upright = turnedSize({ width, height }, postcard)
  const middle = keptIn(
    besidePin(pin, postcard.side, upright, POSTCARD_GAP),
    upright,
    space.projection.toScreen(at),
    standingScale(space, at),
    space.reference,
  )
  return { width, height, middle, photo, lines, letters, border }
}

/** The upright bounding box of a tilted card. */
function turnedSize({ width, height }: Size, { tilt }: Postcard): Size {
  const [cos, sin] = [Math.cos(radians(tilt)), Math.abs(Math.sin(radians(tilt)))]
  return { width: width * cos + height * sin, height: width * sin + height * cos }
}

/** Moves a card just far enough to lie within the frame, if its stop does. @param home the stop in the frame @param k how large the card is seen */
function keptIn(middle: Point, { width, height }: Size, home: Point, k: number, reference: Size): Point {
  if (home.x < 0 || home.y < 0 || home.x > reference.width || home.y > reference.height) return middle
  const along = (at: number, half: number, side: number) => {
    const most = side - MARGIN - half
    return MARGIN + half > most ? side / 2 : Math.min(most, Math.max(MARGIN + half, at))
  }
  return {
    x: (along(home.x + k * middle.x, (k * width) / 2, reference.width) - home.x) / k,
    y: (along(home.y + k * middle.y, (k * height) / 2, reference.height) - home.y) / k,
  }
}

/** How far a postcard reaches from its stop, in reference pixels, its shadow included. */
export function postcardReach(context: CanvasRenderingContext2D, space: CanvasSpace, item: PostcardItem): number {
  const { middle, width, height } = layout(context, space, item)
  const { size } = item.postcard
  return Math.hypot(middle.x, middle.y) + Math.hypot(width, height) / 2 + size * (3 * SHADOW_BLUR + SHADOW_DROP)
}

/** Paints a postcard beside its stop, growing out of it while it appears. A photo that has not loaded yet is blank. */
export function paintPostcard(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PostcardItem): void {
  const { postcard, scale, opacity } = item
  const { middle, width, height, photo, lines, letters, border } = layout(context, space, item)
  const standing = standingScale(space, item.at)
  placeAt(context, space, item.at, scale * standing)
  context.translate(middle.x, middle.y)
  context.rotate(radians(postcard.tilt))
  context.globalAlpha = opacity
  context.fillStyle = postcard.paper
  // Shadows are not scaled with the rest.
  context.shadowColor = translucent('#0a1018', 0.5)
  context.shadowBlur = 2 * SHADOW_BLUR * postcard.size * standing * space.scale
  context.shadowOffsetY = SHADOW_DROP * postcard.size * standing * space.scale
  context.beginPath()
  context.roundRect(-width / 2, -height / 2, width, height, border * 0.2)
  context.fill()
  context.shadowColor = 'transparent'
  context.shadowBlur = 0
  context.shadowOffsetY = 0
  let top = -height / 2 + border
  if (photo) {
    const picture = studio.wholePicture(postcard.photo!, seenWidth(postcard.photo!, postcard, space.scale))
    const [left, up] = [-photo.width / 2, top]
    if (picture) {
      // Reset, so that nothing else painted on this canvas depends on it.
      const { imageSmoothingQuality } = context
      context.imageSmoothingQuality = 'high'
      context.drawImage(picture.image, left, up, photo.width, photo.height)
      context.imageSmoothingQuality = imageSmoothingQuality
    } else {
      context.fillStyle = translucent(postcard.colour, 0.15)
      context.fillRect(left, up, photo.width, photo.height)
    }
    top += photo.height
  }
  setFont(context, letters)
  context.textAlign = 'center'
  context.textBaseline = 'alphabetic'
  context.fillStyle = postcard.colour
  // Centre the text in the room below the photo.
  const centre = (top + height / 2 - (photo ? 0 : border)) / 2
  const first = centre - ((lines.length - 1) / 2) * letters * LEADING + BASELINE * letters
  lines.forEach((line, i) => context.fillText(line, 0, first + i * letters * LEADING))
  context.globalAlpha = 1
}
