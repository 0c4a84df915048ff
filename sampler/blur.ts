/**
 * Blurs masks: planes of 32-bit floats, 0 where nothing is and 1 where all is covered. A Gaussian of any width is a convolution with weights, first along the rows
 * and then along the columns.
 */

/** The opacities of a picture, RGBA, as the rows of a plane. @param stride floats from a row of the plane to the next */
export function takeAlpha(rgba: usize, width: i32, height: i32, plane: usize, stride: i32): void {
  for (let y: i32 = 0; y < height; y++) {
    let out = plane + (<usize>(y * stride) << 2)
    for (let x: i32 = 0; x < width; x++, rgba += 4, out += 4) store<f32>(out, <f32>load<u8>(rgba, 3) / 255)
  }
}

/** Four sums of floats in a row, or in a column, times weights. @param step bytes from one to the next */
// @ts-expect-error: decorators of functions are AssemblyScript's own
@inline
function weighed(from: usize, step: usize, weights: usize, count: i32): v128 {
  let sum = f32x4.splat(0)
  const end = weights + (<usize>count << 2)
  for (; weights < end; weights += 4, from += step) sum = f32x4.add(sum, f32x4.mul(v128.load(from), v128.load32_splat(weights)))
  return sum
}

/**
 * Convolves the rows of a plane. @param plane with `count` - 1 more floats in a row than are wanted, of which there are `width` @param count of the weights
 * @param stride @param outStride floats from a row to the next of the plane, and of what is made; that of the latter is a multiple of 4
 */
export function blurRows(plane: usize, stride: i32, out: usize, outStride: i32, width: i32, height: i32, weights: usize, count: i32): void {
  for (let y: i32 = 0; y < height; y++)
    for (let x: i32 = 0; x < width; x += 4)
      v128.store(out + (<usize>(y * outStride + x) << 2), weighed(plane + (<usize>(y * stride + x) << 2), 4, weights, count))
}

/** Convolves the columns of a plane with `count` - 1 more rows than are wanted, of which there are `height`, and adds them to another. Strides are multiples of 4. */
export function blurColumns(plane: usize, stride: i32, sum: usize, sumStride: i32, width: i32, height: i32, weights: usize, count: i32): void {
  for (let y: i32 = 0; y < height; y++)
    for (let x: i32 = 0; x < width; x += 4) {
      const at = sum + (<usize>(y * sumStride + x) << 2)
      v128.store(at, f32x4.add(v128.load(at), weighed(plane + (<usize>(y * stride + x) << 2), <usize>stride << 2, weights, count)))
    }
}

/** Turns a plane into a picture of one colour, RGBA, not premultiplied. @param colour with no opacity, in the order of memory */
export function paintAlpha(plane: usize, stride: i32, width: i32, height: i32, colour: u32, rgba: usize): void {
  for (let y: i32 = 0; y < height; y++) {
    let at = plane + (<usize>(y * stride) << 2)
    for (let x: i32 = 0; x < width; x++, at += 4, rgba += 4)
      store<u32>(rgba, colour | (<u32>(min<f32>(1, load<f32>(at)) * 255 + 0.5) << 24))
  }
}
