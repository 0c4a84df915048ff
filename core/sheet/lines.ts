import { rgbOf } from '../colour/srgb'

/** A slope of this many steps of 255 in the luma counts as a full line. */
const FULL = 160

/**
 * The lines of a picture, as pixels of one colour whose opacity is the gradient of the picture's luma. Source of the operator:
 * I. Sobel and G. Feldman, A 3x3 isotropic gradient operator for image processing (1968).
 */
export function linePixels(pixels: Uint8ClampedArray, width: number, colour: string): Uint8ClampedArray<ArrayBuffer> {
  const height = pixels.length / 4 / width
  const luma = new Float32Array(width * height)
  for (let i = 0; i < luma.length; i++) luma[i] = 0.2126 * pixels[4 * i]! + 0.7152 * pixels[4 * i + 1]! + 0.0722 * pixels[4 * i + 2]!
  const [red, green, blue] = rgbOf(colour)
  const lines = new Uint8ClampedArray(pixels.length)
  for (let row = 1; row < height - 1; row++) {
    for (let column = 1; column < width - 1; column++) {
      const i = row * width + column
      const [a, b, c] = [luma[i - width - 1]!, luma[i - width]!, luma[i - width + 1]!]
      const [d, f] = [luma[i - 1]!, luma[i + 1]!]
      const [g, h, k] = [luma[i + width - 1]!, luma[i + width]!, luma[i + width + 1]!]
      const x = c + 2 * f + k - a - 2 * d - g
      const y = g + 2 * h + k - a - 2 * b - c
      lines[4 * i] = red
      lines[4 * i + 1] = green
      lines[4 * i + 2] = blue
      // The operator scales the slope by four.
      lines[4 * i + 3] = (255 * Math.sqrt(x * x + y * y)) / 4 / FULL
    }
  }
  return lines
}
