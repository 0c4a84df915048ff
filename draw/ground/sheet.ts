import { remembered } from '#core/remembered'
import { projectedRing } from '#core/camera/projection'
import type { SheetItem } from '#core/frame/frame'
import { radians } from '#core/geometry/angle'
import type { Wash } from '#core/journey/schema'
import { grainPixels } from '#core/sheet/grain'
import { linePixels } from '#core/sheet/lines'
import { levelsOfRow, rowDetail } from '#core/sheet/mosaic'
import { groundCorners } from '#core/sheet/place'
import { washPixels } from '#core/sheet/wash'
import type { CanvasSpace } from '../canvas-space'
import { layAt, placeInFrame } from '../canvas-space'
import { translucent } from '../colour'
import { paintBentSheet } from './globe'
import type { SeenPicture, SheetPicture, Studio, Surface } from '../studio'
import type { Texture } from './texture'
import { textureOf } from './texture'

/** Paints sheets, washed. A picture is washed once and kept as long as neither it nor the wash changes. */
export function createSheetPainter(studio: Studio) {
  const washed = remembered((picture: SheetPicture, wash: Wash): CanvasImageSource => washedImage(studio, picture, wash))
  const textures = new Map<string, { picture: SheetPicture; image: CanvasImageSource; texture: Texture }>()

  const imageOf = ({ sheet: { wash } }: SheetItem, picture: SheetPicture) => (wash ? washed(picture, wash) : picture.image)

  /** The texture of a picture as it is washed; kept, one for each sheet. */
  function texture(item: SheetItem, picture: SheetPicture): Texture {
    const image = imageOf(item, picture)
    const known = textures.get(item.sheet.id)
    if (known?.picture === picture && known.image === image) return known.texture
    const made = { picture, image, texture: textureOf(studio, picture, image) }
    textures.set(item.sheet.id, made)
    return made.texture
  }

  return (
    context: CanvasRenderingContext2D,
    space: CanvasSpace,
    item: SheetItem,
    layer: (width: number, height: number) => Surface,
  ): void => {
    const pictures = studio.sheetPictures(item, space)
    const { bent } = space.projection
    if (bent) {
      const [finest] = pictures
      if (finest) paintBentSheet(context, space, bent, item, texture(item, finest.picture), layer)
      return
    }
    if (item.panel) paintPanel(context, space, item, item.panel, layer)
    context.imageSmoothingEnabled = true
    context.globalAlpha = item.opacity
    if (space.projection.isFlat) {
      // In motion the eye does not see how well a pixel is interpolated, and this takes twice as long.
      context.imageSmoothingQuality = space.isMoving ? 'low' : 'high'
      const { place } = item.sheet
      layAt(context, space, place, space.projection.view.zoom * place.scale, radians(place.rotation))
      for (const { picture } of pictures) context.drawImage(imageOf(item, picture), picture.x, picture.y, picture.width, picture.height)
    } else {
      paintRows(context, space, item, pictures.map((seen) => ({ ...seen, image: imageOf(item, seen.picture) }))) // prettier-ignore
    }
    context.globalAlpha = 1
  }
}

/** A picture of one level of a sheet, washed. */
interface LevelPicture extends SeenPicture {
  image: CanvasImageSource
}

/**
 * Paints a sheet that is looked at from aside, row by row: along a row of the frame the ground is at one scale, so that each is painted exactly by an affine
 * map. Rows, and parts of the frame that are painted from pictures of their own, meet at whole pixels, so no seams show. Each row has the level that its
 * distance asks for, and a share of the next coarser one.
 */
function paintRows(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  { sheet, opacity }: SheetItem,
  pictures: readonly LevelPicture[],
): void {
  const { projection, reference, scale } = space
  const height = Math.round(reference.height * scale)
  const rows = Array.from({ length: height }, (_, row) => {
    const y = (row + 0.5) / scale
    const { level, coarser } = levelsOfRow(sheet, rowDetail(sheet, projection, y, scale))
    const here = pictures.filter(({ within: { top, bottom } }) => y >= top && y < bottom)
    // Of which pictures the row is painted: by how many sheet pixels there are to each of theirs.
    const stepFor = (level: number) => (here.find(({ picture }) => picture.step >= 2 ** level) ?? here.at(-1))?.picture.step
    // Where a sheet lets through what is under it, laying both levels would let through less.
    return { y, base: stepFor(level), over: coarser > 0 && opacity === 1 ? stepFor(level + 1) : undefined, coarser }
  })
  // Bilinear: the level is chosen so that its pixels are about as large as the row's.
  context.imageSmoothingQuality = 'low'
  // One picture after the other: to change between them for each row takes a server's canvas a hundred times as long.
  for (const { picture, image, within } of pictures) {
    const [from, to] = [Math.round(within.left * scale), Math.round(within.right * scale)]
    rows.forEach(({ y, base, over, coarser }, row) => {
      const isBase = base === picture.step
      if (y < within.top || y >= within.bottom || (!isBase && over !== picture.step)) return
      context.save()
      context.setTransform(1, 0, 0, 1, 0, 0)
      context.beginPath()
      context.rect(from, row, to - from, 1)
      context.clip()
      layRow(context, space, sheet, row)
      context.globalAlpha = isBase ? opacity : coarser
      context.drawImage(image, picture.x, picture.y, picture.width, picture.height)
      context.restore()
    })
  }
}

/** Sets the context to draw in a sheet's pixels, exactly where they are seen along the middle of a row of output pixels. */
function layRow(
  context: CanvasRenderingContext2D,
  { projection, reference, scale }: CanvasSpace,
  { place }: SheetItem['sheet'],
  row: number,
): void {
  const middle = projection.toGround({ x: reference.width / 2, y: (row + 0.5) / scale })!
  const k = projection.view.zoom * scale
  const [a, b, c, d] = projection.groundAxes(middle)
  const [cos, sin] = [Math.cos(radians(place.rotation)) * place.scale, Math.sin(radians(place.rotation)) * place.scale]
  const [dx, dy] = [place.x - middle.x, place.y - middle.y]
  context.setTransform(
    k * (a * cos + c * sin),
    k * (b * cos + d * sin),
    k * (c * cos - a * sin),
    k * (d * cos - b * sin),
    (reference.width / 2) * scale + k * (a * dx + c * dy),
    row + 0.5 + k * (b * dx + d * dy),
  )
}

/** A picture of a sheet with its wash. */
export function washedImage(studio: Pick<Studio, 'createSurface'>, picture: SheetPicture, wash: Wash): CanvasImageSource {
  const { width, height } = picture.pixels
  const { context, image } = studio.createSurface(width, height, true)
  context.drawImage(picture.image, 0, 0, width, height)
  if (wash.blur > 0) {
    // Over the sharp picture, as a blur fades out at the edges.
    context.filter = `blur(${wash.blur / picture.step}px)`
    context.drawImage(picture.image, 0, 0, width, height)
    context.filter = 'none'
  }
  const pixels = context.getImageData(0, 0, width, height)
  const lines = wash.glowingLines && linePixels(pixels.data, width, wash.glowingLines.colour)
  washPixels(pixels.data, wash)
  context.putImageData(pixels, 0, 0)
  if (wash.glowingLines && lines) layGlow(studio, context, picture, lines, wash.glowingLines)
  if (wash.grain) {
    const grained = context.getImageData(0, 0, width, height)
    grainPixels(grained.data, width, { left: picture.x, top: picture.y, step: picture.step }, wash.grain)
    context.putImageData(grained, 0, 0)
  }
  return image
}

/** The lines themselves, and the light around them. */
function layGlow(
  studio: Pick<Studio, 'createSurface'>,
  context: CanvasRenderingContext2D,
  { pixels: { width, height }, step }: SheetPicture,
  lines: Uint8ClampedArray<ArrayBuffer>,
  { strength, radius }: NonNullable<Wash['glowingLines']>,
): void {
  const drawn = studio.createSurface(width, height)
  const data = drawn.context.createImageData(width, height)
  data.data.set(lines)
  drawn.context.putImageData(data, 0, 0)
  context.globalCompositeOperation = 'lighter'
  context.globalAlpha = strength
  context.filter = `blur(${radius / step}px)`
  // The light of a thin line is faint once it is spread out, so it is drawn twice.
  context.drawImage(drawn.image, 0, 0)
  context.drawImage(drawn.image, 0, 0)
  context.filter = 'none'
  context.drawImage(drawn.image, 0, 0)
  context.globalAlpha = 1
  context.globalCompositeOperation = 'source-over'
}

/** A panel's shadow is blurred at this share of the output's size: it looks the same, and costs a sixteenth. */
const SHADOW_SCALE = 0.25

/** The shadow that a panel casts, and its border. */
function paintPanel(
  context: CanvasRenderingContext2D,
  space: CanvasSpace,
  { sheet, opacity }: SheetItem,
  { shadow, reach, border, borderColour }: NonNullable<SheetItem['panel']>,
  layer: (width: number, height: number) => Surface,
): void {
  const corners = projectedRing(space.projection, groundCorners(sheet))
  const trace = (target: CanvasRenderingContext2D) => {
    target.beginPath()
    for (const { x, y } of corners) target.lineTo(x, y)
    target.closePath()
    target.lineJoin = 'miter'
    target.lineWidth = 2 * border
  }
  context.globalAlpha = opacity
  if (shadow > 0 && reach > 0) {
    const scale = space.scale * SHADOW_SCALE
    const {
      context: target,
      image,
      width,
      height,
    } = layer(Math.ceil(space.reference.width * scale), Math.ceil(space.reference.height * scale))
    placeInFrame(target, { scale })
    // Light falls from above, so the shadow reaches further down.
    target.translate(0, reach * 0.35)
    target.filter = `blur(${(reach / 2.5) * scale}px)`
    target.fillStyle = target.strokeStyle = translucent('#0a1018', shadow)
    trace(target)
    target.fill()
    if (border > 0) target.stroke()
    target.filter = 'none'
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.drawImage(image, 0, 0, width / SHADOW_SCALE, height / SHADOW_SCALE)
  }
  if (border > 0) {
    placeInFrame(context, space)
    context.strokeStyle = borderColour
    trace(context)
    context.stroke()
  }
  context.globalAlpha = 1
}
