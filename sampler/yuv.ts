/**
 * From RGB to Y'CbCr in limited range with chroma at half the width and height (4:2:0), after ITU-R BT.709-6: items 3.2 to 3.4, with 8 bits. The chroma of four
 * pixels is that of their mean.
 */

/** Weights are in so many bits. */
const BITS: i32 = 15

/** 219 / 255 times 0.2126, 0.7152 and 0.0722, and 224 / 255 times the weights of Cb and Cr, in 32768ths. Those of a chroma add up to 0: grey has none. */
const LUMA = i16x8(5983, 20127, 2032, 0, 5983, 20127, 2032, 0)
const CB = i16x8(-3298, -11094, 14392, 0, -3298, -11094, 14392, 0)
const CR = i16x8(14392, -13072, -1320, 0, 14392, -13072, -1320, 0)

/** Sums of neighbouring numbers of both. */
// @ts-expect-error: decorators of functions are AssemblyScript's own
@inline
function pairs(a: v128, b: v128): v128 {
  return i32x4.add(v128.shuffle<u32>(a, b, 0, 2, 4, 6), v128.shuffle<u32>(a, b, 1, 3, 5, 7))
}

/** The luma of four pixels. */
// @ts-expect-error: as above
@inline
function putLuma(out: usize, low: v128, high: v128): void {
  const sum = pairs(i32x4.dot_i16x8_s(low, LUMA), i32x4.dot_i16x8_s(high, LUMA))
  const luma = i32x4.add(i32x4.shr_s(i32x4.add(sum, i32x4.splat(1 << (BITS - 1))), BITS), i32x4.splat(16))
  const narrow = i16x8.narrow_i32x4_s(luma, luma)
  v128.store32_lane(out, i8x16.narrow_i16x8_u(narrow, narrow), 0)
}

/** Four pixels of two rows. */
// @ts-expect-error: as above
@inline
function convertBlock(above: usize, below: usize, y: usize, nextY: usize, cb: usize, cr: usize): void {
  const a = v128.load(above)
  const b = v128.load(below)
  const aLow = i16x8.extend_low_i8x16_u(a)
  const aHigh = i16x8.extend_high_i8x16_u(a)
  const bLow = i16x8.extend_low_i8x16_u(b)
  const bHigh = i16x8.extend_high_i8x16_u(b)
  putLuma(y, aLow, aHigh)
  putLuma(nextY, bLow, bHigh)
  const left = i16x8.add(aLow, bLow)
  const right = i16x8.add(aHigh, bHigh)
  // The sums of four pixels, twice.
  const four = i16x8.add(v128.shuffle<u64>(left, right, 0, 2), v128.shuffle<u64>(left, right, 1, 3))
  const sum = pairs(i32x4.dot_i16x8_s(four, CB), i32x4.dot_i16x8_s(four, CR))
  const chroma = i32x4.add(i32x4.shr_s(i32x4.add(sum, i32x4.splat(1 << (BITS + 1))), BITS + 2), i32x4.splat(128))
  const narrow = i16x8.narrow_i32x4_s(chroma, chroma)
  const bytes = i8x16.narrow_i16x8_u(narrow, narrow)
  v128.store16_lane(cb, bytes, 0)
  v128.store16_lane(cr, bytes, 1)
}

/**
 * Converts a part of a picture.
 *
 * @param rgba its pixels, opaque, `width` in a row
 * @param y @param cb @param cr the planes of all of it; those of chroma have half its width
 * @param left @param top @param right @param bottom the part, even numbers; at least 4 pixels wide
 */
export function toYuv(rgba: usize, width: i32, y: usize, cb: usize, cr: usize, left: i32, top: i32, right: i32, bottom: i32): void {
  for (let row = top; row < bottom; row += 2) {
    const luma = y + <usize>(row * width)
    const chroma = <usize>((row >> 1) * (width >> 1))
    const pixels = rgba + (<usize>(row * width) << 2)
    for (let column = left; column < right; column += 4) {
      // What is left over at the end is done with what is before it once more.
      const at = min(column, right - 4)
      convertBlock(
        pixels + (<usize>at << 2),
        pixels + (<usize>(width + at) << 2),
        luma + at,
        luma + width + at,
        cb + chroma + (at >> 1),
        cr + chroma + (at >> 1),
      )
    }
  }
}
