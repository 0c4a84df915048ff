import { fallInFrame } from '#core/camera/sun'
import { radians } from '#core/geometry/angle'
import type { Box } from '#core/geometry/box'
import { lineNoise, seedOf } from '#core/geometry/noise'
import type { CardLayout } from '#core/marks/card-layout'
import { CARD_LEADING, cardMiddle, layoutOf, shownPart, wholeWidth } from '#core/marks/card-layout'
import { CARD_SHIFT } from '#core/marks/card-times'
import type { DimItem, MapDimItem, PostcardItem } from '#core/frame/frame'
import type { Point } from '#core/geometry/point'
import type { Postcard } from '#core/journey/schema'
import type { CanvasSpace } from '../canvas-space'
import { placeAt, placeInFrame, standingScale } from '../canvas-space'
import { LINE, translucent } from '../colour'
import { setFont } from '../type/fonts'
import type { Studio } from '../studio'
import { smoothly } from '../picture'

/** The distance of the baseline below the line's middle, as a share of the letter size; measured on the house's face. */
const BASELINE = 0.28

/** The shadow's blur and its offset, as shares of the card's size. */
const SHADOW_BLUR = 0.05
const SHADOW_DROP = 0.018

/** A stalk is so wide at its card, as a share of the card's size; it ends in a point at the stop. */
const STALK = 0.05

/** Torn edges go so far in and out, and change so often, as shares of the card's size. */
const TEAR = 0.011
const TEAR_STEP = 0.016

/** The radius of round corners, as a share of the card's size. */
const CORNER = { print: 0.009, plate: 0.035, plain: 0.02, cinema: 0.006 } as const

const SHADE = '#0a1018'

/** Darkens everything that has been painted so far. */
export function paintDim(context: CanvasRenderingContext2D, space: CanvasSpace, { opacity }: DimItem | MapDimItem): void {
  placeInFrame(context, space)
  context.globalAlpha = opacity
  context.fillStyle = SHADE
  context.fillRect(0, 0, space.reference.width, space.reference.height)
  context.globalAlpha = 1
}

const middleOf = (space: CanvasSpace, { at, postcard, ...neighbours }: PostcardItem): Point =>
  cardMiddle(postcard, neighbours, { ...space.projection.toScreen(at), scale: standingScale(space, at) }, space.reference)

/** How far a postcard reaches from its stop, in reference pixels, its shadow included. */
export function postcardReach(space: CanvasSpace, item: PostcardItem): number {
  const { postcard } = item
  const { width, height } = layoutOf(postcard)
  const { x, y } = middleOf(space, item)
  return Math.hypot(x, y) + Math.hypot(width, height) / 2 + CARD_SHIFT * height + postcard.size * (3 * SHADOW_BLUR + SHADOW_DROP + 2 * TEAR)
}

/** Paints a postcard at its stop, growing out of it where it pops up. A photo that has not loaded yet is blank. */
export function paintPostcard(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, item: PostcardItem): void {
  const { postcard, scale, shift, turn, unrolled } = item
  const layout = layoutOf(postcard)
  const middle = middleOf(space, item)
  const standing = standingScale(space, item.at)
  placeAt(context, space, item.at, scale * standing)
  if (postcard.stalk) paintStalk(context, postcard, middle)
  context.translate(middle.x, middle.y + shift * layout.height)
  context.rotate(radians(postcard.tilt + turn))
  context.save()
  if (unrolled < 1) {
    // Room for the shadow, which is cut with the card.
    const room = postcard.size * (2 * SHADOW_BLUR + TEAR)
    context.beginPath()
    context.rect(-layout.width / 2 - room, -layout.height / 2 - room, layout.width + 2 * room, room + layout.height * unrolled)
    context.clip()
  }
  paintCard(context, studio, space, postcard, layout, standing)
  context.restore()
}

function paintStalk(context: CanvasRenderingContext2D, { size, paper }: Postcard, middle: Point): void {
  const away = Math.hypot(middle.x, middle.y)
  if (away === 0) return
  const half = (STALK * size) / 2 / away
  context.beginPath()
  context.moveTo(0, 0)
  context.lineTo(middle.x - middle.y * half, middle.y + middle.x * half)
  context.lineTo(middle.x + middle.y * half, middle.y - middle.x * half)
  context.closePath()
  context.lineJoin = 'round'
  context.lineWidth = 2
  context.strokeStyle = translucent(LINE, 0.35)
  context.stroke()
  context.fillStyle = paper
  context.fill()
}

/** Paints a card about the origin. */
function paintCard(
  context: CanvasRenderingContext2D,
  studio: Studio,
  space: CanvasSpace,
  postcard: Postcard,
  layout: CardLayout,
  standing: number,
): void {
  const { size, frame, paper, colour, shadow } = postcard
  const { photo, lines, text } = layout
  // The light letters of dark bands, and the other way round elsewhere.
  const [ground, letters] = frame === 'cinema' ? [colour, paper] : [paper, colour]
  context.fillStyle = ground
  // Shadows are not scaled with the rest.
  context.shadowColor = translucent(SHADE, shadow)
  context.shadowBlur = 2 * SHADOW_BLUR * size * standing * space.scale
  const fall = fallInFrame(space.sun, space.projection)
  context.shadowOffsetX = fall.x * SHADOW_DROP * size * standing * space.scale
  context.shadowOffsetY = fall.y * SHADOW_DROP * size * standing * space.scale
  outline(context, postcard, layout)
  context.fill()
  context.shadowColor = 'transparent'
  context.shadowBlur = 0
  context.shadowOffsetX = 0
  context.shadowOffsetY = 0
  if (photo) {
    context.save()
    if (frame !== 'print' && frame !== 'torn') {
      photoOutline(context, postcard, layout, photo)
      context.clip()
    }
    paintPhoto(context, studio, space, postcard, photo)
    context.restore()
  }
  if (lines.length === 0) return
  const isPlate = frame === 'plate'
  if (isPlate) {
    context.fillStyle = colour
    context.beginPath()
    const corner = CORNER.plate * size * 0.6
    if (photo) context.roundRect(text.left, text.top, text.right - text.left, text.bottom - text.top, [0, 0, corner, corner])
    else
      context.roundRect(
        text.left + layout.border,
        text.top + layout.border,
        text.right - text.left - 2 * layout.border,
        text.bottom - text.top - 2 * layout.border,
        corner,
      )
    context.fill()
  }
  if (frame === 'round' && photo) {
    context.fillStyle = paper
    context.beginPath()
    context.roundRect(text.left, text.top, text.right - text.left, text.bottom - text.top, (text.bottom - text.top) / 2)
    context.fill()
  }
  context.fillStyle = isPlate ? paper : letters
  writeLines(context, layout)
}

/** The outline of a card, as the current path. */
function outline(context: CanvasRenderingContext2D, { id, frame, size }: Postcard, { width, height, photo, border }: CardLayout): void {
  context.beginPath()
  switch (frame) {
    case 'print':
    case 'plate':
    case 'plain':
    case 'cinema':
      return context.roundRect(-width / 2, -height / 2, width, height, CORNER[frame] * size)
    case 'torn':
      return tear(context, id, width, height, size)
    case 'round':
      if (!photo) return context.roundRect(-width / 2, -height / 2, width, height, height / 2)
      return context.arc(0, (photo.top + photo.bottom) / 2, (photo.right - photo.left) / 2 + border, 0, 2 * Math.PI)
    default:
      return frame satisfies never
  }
}

/** What of a photo is seen, as the current path. */
function photoOutline(
  context: CanvasRenderingContext2D,
  { frame, size }: Postcard,
  { lines }: CardLayout,
  { left, right, top, bottom }: Box,
): void {
  context.beginPath()
  if (frame === 'round') return context.arc((left + right) / 2, (top + bottom) / 2, (right - left) / 2, 0, 2 * Math.PI)
  if (frame === 'cinema') return context.rect(left, top, right - left, bottom - top)
  const corner = frame === 'plate' ? CORNER.plate * size * 0.6 : CORNER.plain * size
  const foot = lines.length > 0 ? 0 : corner
  context.roundRect(left, top, right - left, bottom - top, [corner, corner, foot, foot])
}

/** A rectangle whose edges are torn, always in the same way for one card. */
function tear(context: CanvasRenderingContext2D, id: string, width: number, height: number, size: number): void {
  const seed = seedOf(id)
  const step = TEAR_STEP * size
  const corners = [
    [-width / 2, -height / 2, 1, 0, width],
    [width / 2, -height / 2, 0, 1, height],
    [width / 2, height / 2, -1, 0, width],
    [-width / 2, height / 2, 0, -1, height],
  ] as const
  let n = 0
  for (const [x, y, dx, dy, length] of corners) {
    const count = Math.max(2, Math.round(length / step))
    for (let i = 0; i < count; i++, n++) {
      // Small teeth on slow waves.
      const out = TEAR * size * (0.55 * lineNoise(seed, n * 0.9) + 0.6 * lineNoise(seed + 1, n / 7))
      const along = (length * i) / count
      context.lineTo(x + dx * along + dy * out, y + dy * along - dx * out)
    }
  }
  context.closePath()
}

function paintPhoto(context: CanvasRenderingContext2D, studio: Studio, space: CanvasSpace, postcard: Postcard, box: Box): void {
  const [width, height] = [box.right - box.left, box.bottom - box.top]
  const picture = studio.wholePicture(postcard.photo!, wholeWidth(postcard, space.scale))
  if (!picture) {
    context.fillStyle = translucent(postcard.colour, 0.15)
    context.fillRect(box.left, box.top, width, height)
    return
  }
  const { left, top, right, bottom } = shownPart(postcard)
  const { width: across, height: down } = picture.pixels
  smoothly(context, () =>
    context.drawImage(
      picture.image,
      left * across,
      top * down,
      (right - left) * across,
      (bottom - top) * down,
      box.left,
      box.top,
      width,
      height,
    ),
  )
}

function writeLines(context: CanvasRenderingContext2D, { lines, letters, text }: CardLayout): void {
  setFont(context, letters)
  context.textAlign = 'center'
  context.textBaseline = 'alphabetic'
  const leading = letters * CARD_LEADING
  const first = (text.top + text.bottom) / 2 - ((lines.length - 1) / 2) * leading + BASELINE * letters
  lines.forEach((line, i) => context.fillText(line, (text.left + text.right) / 2, first + i * leading))
}
