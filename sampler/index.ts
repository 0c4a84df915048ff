/**
 * Samples pictures of the ground into the pixels of a frame. AssemblyScript: compiled to WebAssembly with SIMD by scripts/sampler.mjs, called by
 * draw/ground/sampler.ts. Pixels are RGBA with a byte each, premultiplied, row by row.
 */

/** Shares of levels are in 256ths. */
const ONE: i32 = 256

/**
 * For each share of 256ths eight times that share in 32768ths: what Q15 multiplication takes. Read whole it weighs four channels of two pixels alike, read by
 * halves those of each pixel.
 */
const SHARES: usize = memory.data(256 * 16, 16)
for (let share: i32 = 0; share < 256; share++)
  for (let channel: usize = 0; channel < 8; channel++) store<i16>(SHARES + (<usize>share << 4) + 2 * channel, <i16>(share << 7))

/** A sheet's levels are cut into square tiles of so many pixels, in a row of so many bytes: core/sheet/pyramid.ts. */
const TILE_BITS: i32 = 9
const TILE_MASK: i32 = (1 << TILE_BITS) - 1
const STRIDE: i32 = 4 << TILE_BITS

/** How exactly places are known at the end of a row of a square, in pixels. */
const ROOM: f64 = 0.01

/** Pixels are gone through in squares of so many, so that what is read of a turned picture stays in the cache. */
const SQUARE: i32 = 32

export function allocate(bytes: usize): usize {
  return heap.alloc(bytes)
}

export function release(block: usize): void {
  heap.free(block)
}

export function clear(pixels: usize, count: i32): void {
  memory.fill(pixels, 0, <usize>count << 2)
}

/** Some 16-bit channels and others, mixed. @param shares of the others, in 32768ths */
// @ts-expect-error: decorators of functions are AssemblyScript's own
@inline
function mixed(some: v128, others: v128, shares: v128): v128 {
  return i16x8.add(some, i16x8.q15mulr_sat_s(i16x8.sub(others, some), shares))
}

/** The shares that belong to the fraction of a place, which is in 65536ths. */
// @ts-expect-error: as above
@inline
function sharesAt(place: i32): usize {
  return SHARES + <usize>((place >> 4) & 0xff0)
}

/** What lies between the two pixels above a place and the two below it: the left and the right one. Places are in 65536ths of a pixel of a tile. */
// @ts-expect-error: as above
@inline
function column(tile: usize, u: i32, v: i32): v128 {
  const at = tile + <usize>(((v >> 16) << (TILE_BITS + 2)) + ((u >> 14) & ~3))
  return mixed(v128.load_ext<u8>(at), v128.load_ext<u8>(at + STRIDE), v128.load(sharesAt(v)))
}

/** Two pixels of 16 bits a channel, from the columns that `column` has made at two places. @param u @param nextU how far to the right these are */
// @ts-expect-error: as above
@inline
function pixels(first: v128, second: v128, u: i32, nextU: i32): v128 {
  const left = v128.shuffle<u8>(first, second, 0, 1, 2, 3, 4, 5, 6, 7, 16, 17, 18, 19, 20, 21, 22, 23)
  const right = v128.shuffle<u8>(first, second, 8, 9, 10, 11, 12, 13, 14, 15, 24, 25, 26, 27, 28, 29, 30, 31)
  return mixed(left, right, v128.load64_lane(sharesAt(nextU), v128.load64_zero(sharesAt(u)), 1))
}

/** Writes two pixels, or only the first, laid over what is there by a share of 256. */
// @ts-expect-error: as above
@inline
function put(out: usize, two: v128, share: i32, hasSecond: bool): void {
  let mix = two
  if (share != ONE) {
    mix = mixed(v128.load_ext<u8>(out), two, i16x8.splat(<i16>(share << 7)))
  }
  const packed = i8x16.narrow_i16x8_u(mix, mix)
  if (hasSecond) v128.store64_lane(out, packed, 0)
  else v128.store32_lane(out, packed, 0)
}

/** Some pixels of a row, whose places are all within one tile. */
function sampleTile(out: usize, count: i32, tile: usize, u: i32, v: i32, stepU: i32, stepV: i32, share: i32): void {
  const end = out + (<usize>(count & ~1) << 2)
  const over = i16x8.splat(<i16>(share << 7))
  if (share == ONE)
    for (; out < end; out += 8) {
      const nextU = u + stepU
      const two = pixels(column(tile, u, v), column(tile, nextU, v + stepV), u, nextU)
      v128.store64_lane(out, i8x16.narrow_i16x8_u(two, two), 0)
      u = nextU + stepU
      v += 2 * stepV
    }
  else
    for (; out < end; out += 8) {
      const nextU = u + stepU
      const two = mixed(v128.load_ext<u8>(out), pixels(column(tile, u, v), column(tile, nextU, v + stepV), u, nextU), over)
      v128.store64_lane(out, i8x16.narrow_i16x8_u(two, two), 0)
      u = nextU + stepU
      v += 2 * stepV
    }
  if (count & 1) {
    const last = column(tile, u, v)
    put(out, pixels(last, last, u, u), share, false)
  }
}

/** A level of a sheet: its tiles, and the part of it that is used, in its pixels. Beyond that it is repeated, mirrored, so many times to each side. */
let table: usize = 0
let columns: i32 = 0
let partLeft: i32 = 0
let partTop: i32 = 0
let partRight: i32 = 0
let partBottom: i32 = 0
let copies: i32 = 0

/** What there is of a tile: nothing yet, nothing at all, or else where its pixels are. */
const MISSING: usize = 0
const EMPTY: usize = 1

/** Where a place along one axis is within the used part, or -1 if nothing is there. Where that is not repeated its outermost pixels go on. */
// @ts-expect-error: as above
@inline
function within(x: i32, start: i32, end: i32): i32 {
  if (x >= start && x < end) return x
  if (copies == 0) return x < start ? start : end - 1
  const copy = copyAt(x, start, end)
  if (abs(copy) > copies) return -1
  const length = end - start
  return copy & 1 ? 2 * start + (copy + 1) * length - 1 - x : x - copy * length
}

/** Which copy of the used part a pixel lies in along one axis: 0 is that itself, odd ones are mirrored. */
// @ts-expect-error: as above
@inline
function copyAt(x: i32, start: i32, end: i32): i32 {
  const length = end - start
  return x < start ? -((start - 1 - x) / length) - 1 : (x - start) / length
}

/** Whether a tile was missing among those that `pixelAt` was asked for. */
let hasMissed: bool = false

function pixelAt(x: i32, y: i32): u32 {
  const inX = within(x, partLeft, partRight)
  const inY = within(y, partTop, partBottom)
  if (inX < 0 || inY < 0) return 0
  const tile = load<usize>(table + (<usize>((inY >> TILE_BITS) * columns + (inX >> TILE_BITS)) << 2))
  if (tile == MISSING) hasMissed = true
  if (tile <= EMPTY) return 0
  return load<u32>(tile + <usize>((inY & TILE_MASK) * STRIDE + ((inX & TILE_MASK) << 2)))
}

/** What lies above and below a place on the level, wherever that is: x and y are its whole pixels, u and v the fraction in 65536ths. */
function columnAnywhere(x: i32, y: i32, u: i32, v: i32): v128 {
  const right = x + 1
  const below = y + 1
  if (
    x >= partLeft &&
    right < partRight &&
    y >= partTop &&
    below < partBottom &&
    x >> TILE_BITS == right >> TILE_BITS &&
    y >> TILE_BITS == below >> TILE_BITS
  ) {
    const tile = load<usize>(table + (<usize>((y >> TILE_BITS) * columns + (x >> TILE_BITS)) << 2))
    if (tile > EMPTY) return column(tile, ((x & TILE_MASK) << 16) | u, ((y & TILE_MASK) << 16) | v)
  }
  const upper = (<u64>pixelAt(right, y) << 32) | pixelAt(x, y)
  const lower = (<u64>pixelAt(right, below) << 32) | pixelAt(x, below)
  return mixed(i16x8.extend_low_i8x16_u(i64x2.splat(upper)), i16x8.extend_low_i8x16_u(i64x2.splat(lower)), v128.load(sharesAt(v)))
}

/** How much of a pixel of the frame a part that is not repeated covers, 0..1: half of one whose middle is on its edge. @param size of it, in pixels of the level */
// @ts-expect-error: as above
@inline
function coverAt(u: f64, v: f64, size: f64): f64 {
  const across = min(u + 0.5 - <f64>partLeft, <f64>partRight - 0.5 - u)
  const down = min(v + 0.5 - <f64>partTop, <f64>partBottom - 0.5 - v)
  return max(0, min(1, min(across, down) / size + 0.5))
}

/** Some pixels of a row, wherever they are. What is missing leaves what is there. */
function sampleAnywhere(out: usize, count: i32, startU: f64, startV: f64, du: f64, dv: f64, share: i32): void {
  const size = max(0.001, Math.sqrt(du * du + dv * dv))
  for (let i: i32 = 0; i < count; i++, out += 4) {
    const u = startU + du * <f64>i
    const v = startV + dv * <f64>i
    const cover = copies == 0 ? coverAt(u, v, size) : 1
    if (cover == 0) continue
    const x = <i32>Math.floor(u)
    const y = <i32>Math.floor(v)
    hasMissed = false
    // A place just before a whole pixel is not that pixel.
    const across = min(0xffff, <i32>((u - <f64>x) * 65536))
    const both = columnAnywhere(x, y, across, min(0xffff, <i32>((v - <f64>y) * 65536)))
    if (hasMissed) continue
    let pixel = pixels(both, both, across, across)
    if (cover < 1) pixel = i16x8.q15mulr_sat_s(pixel, i16x8.splat(<i16>(cover * 32767)))
    put(out, pixel, share, false)
  }
}

/**
 * Samples a level of a sheet, bilinearly, into a part of a target.
 *
 * @param target its pixels, `width` in a row; the part is from `left` and `top` to before `right` and `bottom`
 * @param rows for each row of the target five 64-bit floats: where on the level its first pixel is (u and v, in pixels of the level from the middle of the first
 *   one), how much further the next one is (du, dv), and which share of the level is laid over what is there, 0..256; at 0 nothing is done
 * @param tiles for each tile of the level, row by row, `MISSING`, `EMPTY`, or where its pixels are
 */
export function sample(
  target: usize,
  width: i32,
  left: i32,
  top: i32,
  right: i32,
  bottom: i32,
  rows: usize,
  tiles: usize,
  tileColumns: i32,
  levelLeft: i32,
  levelTop: i32,
  levelRight: i32,
  levelBottom: i32,
  mirrored: i32,
): void {
  table = tiles
  columns = tileColumns
  partLeft = levelLeft
  partTop = levelTop
  partRight = levelRight
  partBottom = levelBottom
  copies = mirrored
  const beyondX = <f64>(copies * (partRight - partLeft) + 1)
  const beyondY = <f64>(copies * (partBottom - partTop) + 1)
  for (let squareY = top; squareY < bottom; squareY += SQUARE) {
    const endY = min(squareY + SQUARE, bottom)
    for (let squareX = left; squareX < right; squareX += SQUARE) {
      const endX = min(squareX + SQUARE, right)
      for (let y = squareY; y < endY; y++) {
        const row = rows + <usize>y * 40
        const share = <i32>load<f64>(row, 32)
        if (share == 0) continue
        let du = load<f64>(row, 16)
        let dv = load<f64>(row, 24)
        let startU = load<f64>(row) + du * <f64>squareX
        let startV = load<f64>(row, 8) + dv * <f64>squareX
        const count = endX - squareX
        const lowU = min(startU, startU + du * <f64>count)
        const highU = max(startU, startU + du * <f64>count)
        const lowV = min(startV, startV + dv * <f64>count)
        const highV = max(startV, startV + dv * <f64>count)
        if (
          highU < <f64>partLeft - beyondX ||
          highV < <f64>partTop - beyondY ||
          lowU > <f64>partRight + beyondX ||
          lowV > <f64>partBottom + beyondY
        )
          continue
        const out = target + (<usize>(y * width + squareX) << 2)
        // With a little room, as places are rounded from pixel to pixel.
        let x0 = <i32>Math.floor(lowU - ROOM)
        let x1 = <i32>Math.floor(highU + ROOM) + 1
        let y0 = <i32>Math.floor(lowV - ROOM)
        let y1 = <i32>Math.floor(highV + ROOM) + 1
        if (copies > 0) {
          // What lies in one copy is what lies in the part itself, perhaps the other way round.
          const copyX = copyAt(x0, partLeft, partRight)
          if (copyX != 0 && copyX == copyAt(x1, partLeft, partRight) && abs(copyX) <= copies) {
            const shift = copyX * (partRight - partLeft)
            const mirror = 2 * partLeft + shift + partRight - partLeft - 1
            const other = copyX & 1 ? mirror - x1 : x0 - shift
            x1 = copyX & 1 ? mirror - x0 : x1 - shift
            x0 = other
            startU = copyX & 1 ? <f64>mirror - startU : startU - <f64>shift
            if (copyX & 1) du = -du
          }
          const copyY = copyAt(y0, partTop, partBottom)
          if (copyY != 0 && copyY == copyAt(y1, partTop, partBottom) && abs(copyY) <= copies) {
            const shift = copyY * (partBottom - partTop)
            const mirror = 2 * partTop + shift + partBottom - partTop - 1
            const other = copyY & 1 ? mirror - y1 : y0 - shift
            y1 = copyY & 1 ? mirror - y0 : y1 - shift
            y0 = other
            startV = copyY & 1 ? <f64>mirror - startV : startV - <f64>shift
            if (copyY & 1) dv = -dv
          }
        }
        if (
          x0 >= partLeft &&
          x1 < partRight &&
          y0 >= partTop &&
          y1 < partBottom &&
          x0 >> TILE_BITS == x1 >> TILE_BITS &&
          y0 >> TILE_BITS == y1 >> TILE_BITS
        ) {
          const tileX = x0 >> TILE_BITS
          const tileY = y0 >> TILE_BITS
          const tile = load<usize>(table + (<usize>(tileY * columns + tileX) << 2))
          if (tile == MISSING) continue
          if (tile > EMPTY) {
            const u = <i32>Math.floor((startU - <f64>(tileX << TILE_BITS)) * 65536)
            const v = <i32>Math.floor((startV - <f64>(tileY << TILE_BITS)) * 65536)
            sampleTile(out, count, tile, u, v, <i32>Math.round(du * 65536), <i32>Math.round(dv * 65536), share)
            continue
          }
        }
        sampleAnywhere(out, count, startU, startV, du, dv, share)
      }
    }
  }
}

/** Each pixel the mean of four; what is left over at an odd edge counts twice. @param half has room for half the width and height, rounded up */
export function halve(pixels: usize, width: i32, height: i32, half: usize): void {
  const halfWidth = (width + 1) >> 1
  const halfHeight = (height + 1) >> 1
  for (let y: i32 = 0; y < halfHeight; y++) {
    const above = pixels + (<usize>(2 * y * width) << 2)
    const below = pixels + (<usize>(min(2 * y + 1, height - 1) * width) << 2)
    let out = half + (<usize>(y * halfWidth) << 2)
    for (let x: i32 = 0; x < halfWidth; x++) {
      const a = <usize>(2 * x) << 2
      const b = <usize>min(2 * x + 1, width - 1) << 2
      let sum = i16x8.add(
        i16x8.extend_low_i8x16_u(v128.load32_zero(above + a)),
        i16x8.extend_low_i8x16_u(v128.load32_zero(below + a)),
      )
      sum = i16x8.add(sum, i16x8.extend_low_i8x16_u(v128.load32_zero(above + b)))
      sum = i16x8.add(sum, i16x8.extend_low_i8x16_u(v128.load32_zero(below + b)))
      sum = i16x8.shr_u(i16x8.add(sum, i16x8.splat(2)), 2)
      v128.store32_lane(out, i8x16.narrow_i16x8_u(sum, sum), 0)
      out += 4
    }
  }
}

/** Multiplies colours by their opacity, rounded. */
export function premultiply(pixels: usize, count: i32): void {
  for (let i: i32 = 0; i < count; i++) {
    const at = pixels + (<usize>i << 2)
    const alpha = <u32>load<u8>(at, 3)
    if (alpha == 255) continue
    for (let channel: usize = 0; channel < 3; channel++)
      store<u8>(at + channel, <u8>((<u32>load<u8>(at + channel) * alpha + 127) / 255))
  }
}

/** Divides colours by their opacity again, as an ImageData has them. @returns how many pixels are not opaque */
export function straighten(pixels: usize, count: i32): i32 {
  let clearer: i32 = 0
  for (let i: i32 = 0; i < count; i++) {
    const at = pixels + (<usize>i << 2)
    const alpha = <u32>load<u8>(at, 3)
    if (alpha == 255) continue
    clearer++
    if (alpha == 0) continue
    for (let channel: usize = 0; channel < 3; channel++)
      store<u8>(at + channel, <u8>min<u32>(255, (<u32>load<u8>(at + channel) * 255 + (alpha >> 1)) / alpha))
  }
  return clearer
}
