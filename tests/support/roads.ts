import type { Rgb } from '#core/colour/srgb'
import type { PictureSource } from '#core/follow/picture'

/** Made pictures of roads, whose middle is known. */

type Shade = (x: number, y: number) => Rgb

/** A picture given by a function of place; coarser levels are its means, as a pyramid has them. */
export function picture(width: number, height: number, shade: Shade): PictureSource {
  const levels = [new Uint8ClampedArray(width * height * 4)]
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i += 4) levels[0]!.set([...shade(x + 0.5, y + 0.5), 255], i)
  const sizes = [{ width, height }]
  while (levels.length < 6) {
    const [fine, { width: w, height: h }] = [levels.at(-1)!, sizes.at(-1)!]
    const [columns, rows] = [Math.ceil(w / 2), Math.ceil(h / 2)]
    const half = new Uint8ClampedArray(columns * rows * 4)
    for (let y = 0; y < rows; y++)
      for (let x = 0; x < columns; x++)
        for (let c = 0; c < 4; c++) {
          let sum = 0
          for (const [dx, dy] of [
            [0, 0],
            [1, 0],
            [0, 1],
            [1, 1],
          ] as const)
            sum += fine[(Math.min(h - 1, 2 * y + dy) * w + Math.min(w - 1, 2 * x + dx)) * 4 + c]!
          half[(y * columns + x) * 4 + c] = sum / 4
        }
    levels.push(half)
    sizes.push({ width: columns, height: rows })
  }
  return {
    width,
    height,
    async read(level, rect) {
      const rgba = new Uint8ClampedArray(rect.width * rect.height * 4)
      for (let y = 0; y < rect.height; y++) {
        const from = ((rect.y + y) * sizes[level]!.width + rect.x) * 4
        rgba.set(levels[level]!.subarray(from, from + rect.width * 4), y * rect.width * 4)
      }
      return { ...rect, rgba }
    },
  }
}

/** A road in land with some unrest, by its distance from a line; edges soft over a pixel. */
export function land(toRoad: (x: number, y: number) => number, halfWidth: number, road: Rgb = [250, 240, 214]): Shade {
  return (x, y) => {
    const wave = 12 * Math.sin(x / 17) * Math.cos(y / 23) + 6 * Math.sin((x * 12.9898 + y * 78.233) % 6.28)
    const ground: Rgb = [128 + wave, 158 + wave, 104 + wave]
    const share = Math.min(1, Math.max(0, halfWidth - toRoad(x, y) + 0.5))
    return ground.map((channel, c) => channel + (road[c]! - channel) * share) as unknown as Rgb
  }
}

/** For a search of which nobody wants to know how far it is. */
export const quiet = () => undefined
