import type { SheetItem } from '#core/frame/frame'
import type { CanvasSpace } from '../canvas-space'
import { sizeOf } from '../canvas-space'
import type { ModuleCode } from '../module'
import { startModule } from '../module'
import type { SheetPicture, Studio, Surface } from '../studio'
import { meshOf, seenSquares, SQUARE } from './globe-mesh'
import type { Texture } from './texture'
import { edgeColour, releaseTexture, textureOf } from './texture'

/** A picture of a sheet, and its image, which may have a wash. */
interface Shown {
  picture: SheetPicture
  image: CanvasImageSource
}

interface Block {
  at: number
  bytes: number
}

/** Paints sheets on bent ground, by their meshes. */
export function createBentSheetPainter(studio: Studio) {
  let code: ModuleCode | undefined
  /** The texture of each sheet, of a picture as it is washed, and without its wash while that changes. */
  const textures = new Map<string, Shown & { texture: Texture }>()
  const blocks = { pixels: { at: 0, bytes: 0 }, squares: { at: 0, bytes: 0 }, levels: { at: 0, bytes: 0 } } satisfies Record<string, Block>

  function block(name: keyof typeof blocks, bytes: number): number {
    if (blocks[name].bytes < bytes) {
      if (blocks[name].bytes > 0) code!.release(blocks[name].at)
      blocks[name] = { at: code!.allocate(bytes), bytes }
    }
    return blocks[name].at
  }

  function textureFor({ sheet }: SheetItem, { picture, image }: Shown): Texture {
    const name = `${sheet.id} ${sheet.wash ? 'washed' : ''}`
    const known = textures.get(name)
    if (known?.picture === picture && known.image === image) return known.texture
    if (known) releaseTexture(code!, known.texture)
    const made = { picture, image, texture: textureOf(code!, studio, picture, image) }
    textures.set(name, made)
    return made.texture
  }

  return {
    /** @param shown the finest picture of the sheet that is needed, and the same or a washed one in its place @param scratch gives a cleared surface */
    paint(
      context: CanvasRenderingContext2D,
      space: CanvasSpace,
      item: SheetItem,
      shown: Shown,
      scratch: (width: number, height: number) => Surface,
    ): void {
      code ??= startModule()
      const { projection, scale } = space
      const { width, height } = sizeOf(space)
      const texture = textureFor(item, shown)
      const mesh = meshOf(texture, item.sheet, projection.view.bend!.globe)
      const squares = seenSquares(mesh, projection, scale)
      const { levels } = texture
      const [pixelsAt, squaresAt, levelsAt] = [block('pixels', 4 * width * height), block('squares', squares.byteLength), block('levels', 12 * levels.length)] // prettier-ignore
      const { buffer } = code.memory
      new Float64Array(buffer, squaresAt, squares.length).set(squares)
      new Int32Array(buffer, levelsAt, 3 * levels.length).set(levels.flatMap((level) => [level.at, level.width, level.height]))
      // Where a map of the world is folded while it is flattened, near the poles, nothing of it is seen.
      new Int32Array(buffer, pixelsAt, width * height).fill(mesh.clamps ? edgeColour(code, texture) : 0)
      code.fillSquares(
        pixelsAt,
        width,
        height,
        squaresAt,
        squares.length / SQUARE,
        levelsAt,
        levels.length,
        mesh.clamps ? 1 : 0,
        mesh.facing,
      )
      const isOpaque = code.straighten(pixelsAt, width * height) === 0
      const pixels = new Uint8ClampedArray(buffer as ArrayBuffer, pixelsAt, 4 * width * height)
      const made = studio.imageOf(pixels, width, height)
      context.setTransform(1, 0, 0, 1, 0, 0)
      if (isOpaque && item.opacity === 1) return context.putImageData(made, 0, 0)
      const surface = scratch(width, height)
      surface.context.putImageData(made, 0, 0)
      context.globalAlpha = item.opacity
      context.drawImage(surface.image, 0, 0)
      context.globalAlpha = 1
    },
  }
}
