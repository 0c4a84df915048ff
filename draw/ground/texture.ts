import type { ModuleCode } from '../module'
import type { SheetPicture, Studio } from '../studio'

/** A picture's pixels at halving sizes in the module's memory, premultiplied, to be sampled wherever the ground is bent. */
export interface Texture {
  /** The sheet pixel at its upper left corner, and sheet pixels to each of its pixels. */
  x: number
  y: number
  step: number
  levels: readonly Level[]
}

interface Level {
  at: number
  width: number
  height: number
}

/** The texture of a picture of a sheet; it is there until it is released. @param image the picture, or a washed one in its place */
export function textureOf(
  code: ModuleCode,
  studio: Pick<Studio, 'createSurface'>,
  picture: SheetPicture,
  image: CanvasImageSource,
): Texture {
  const { width, height } = picture.pixels
  const { context } = studio.createSurface(width, height, true)
  context.drawImage(image, 0, 0, width, height)
  const { data } = context.getImageData(0, 0, width, height)
  const at = code.allocate(data.length)
  new Uint8Array(code.memory.buffer, at, data.length).set(data)
  code.premultiply(at, width * height)
  const levels: Level[] = [{ at, width, height }]
  for (let last = levels[0]!; Math.min(last.width, last.height) > 1; levels.push(last)) last = halved(code, last)
  return { x: picture.x, y: picture.y, step: picture.step, levels }
}

/** Each pixel the mean of four; what is left over at an odd edge counts twice. */
function halved(code: ModuleCode, { at, width, height }: Level): Level {
  const half = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) }
  const made = code.allocate(4 * half.width * half.height)
  code.halve(at, width, height, made)
  return { at: made, ...half }
}

export function releaseTexture(code: ModuleCode, { levels }: Texture): void {
  for (const { at } of levels) code.release(at)
}

/** The mean colour along the upper and lower edge of a texture, opaque, as a pixel. */
export function edgeColour({ memory }: ModuleCode, { levels }: Texture): number {
  const { at, width, height } = levels.findLast((level) => level.height >= COARSE_ROWS) ?? levels.at(-1)!
  const data = new Uint32Array(memory.buffer, at, width * height)
  const sums = [0, 0, 0]
  for (let x = 0; x < width; x++)
    for (const row of [0, height - 1]) for (let k = 0; k < 3; k++) sums[k]! += (data[row * width + x]! >>> (8 * k)) & 255
  const [red, green, blue] = sums.map((sum) => Math.round(sum / (2 * width)))
  return (255 << 24) | (blue! << 16) | (green! << 8) | red!
}

/** The edge of a picture is as it looks where it is so many pixels high. */
const COARSE_ROWS = 16
