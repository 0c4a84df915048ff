/**
 * Samples pictures of the ground into the pixels of a frame. AssemblyScript: compiled to WebAssembly with SIMD by scripts/sampler.mjs, called by
 * draw/ground/sampler.ts. Pixels are RGBA with a byte each, premultiplied, row by row.
 */

export { blurColumns, blurRows, paintAlpha, takeAlpha } from './blur'
export { develop, expose } from './exposure'
export { dim, fillNoise, grade, grain } from './grade'
export { fillSquares } from './texture'
export { toYuv } from './yuv'
import { mixed, sharesAt } from './mix'

/** Shares of levels are in 256ths. */
const ONE: i32 = 256

/** A sheet's levels are cut into square tiles of so many pixels: core/sheet/pyramid.ts. */
const TILE_BITS: i32 = 9
const TILE: i32 = 1 << TILE_BITS
const TILE_MASK: i32 = TILE - 1

/** Bytes from a row of a tile to the next. With a power of two, every second row would have the same lines of the processor's cache. */
const STRIDE: i32 = 4 * TILE + 64

/** How far places may be off at the end of a run, in pixels: they are rounded from one to the next. */
const ROOM: f64 = 0.01

/** Pixels are gone through in blocks of so many, so that what is read of a turned picture stays in the cache. */
const BLOCK_WIDTH: i32 = 64
const BLOCK_HEIGHT: i32 = 32

/** Bytes that a tile takes. Rows are read a little beyond their end. */
export const TILE_BYTES: i32 = STRIDE * TILE

/** Bytes from a row of a tile to the next. */
export const TILE_STRIDE: i32 = STRIDE

export function allocate(bytes: usize): usize {
  return heap.alloc(bytes)
}

export function release(block: usize): void {
  heap.free(block)
}

export function clear(pixels: usize, count: i32): void {
  memory.fill(pixels, 0, <usize>count << 2)
}

/** What lies between the two pixels above a place and the two below it: the left and the right one. Places are in 65536ths of a pixel of a tile. */
// @ts-expect-error: as above
@inline
function column(tile: usize, u: i32, v: i32): v128 {
  const at = tile + <usize>((v >> 16) * STRIDE + ((u >> 14) & ~3))
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
  if (x >= start && x < end) return 0
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

/** How many pixels of a run are within some limits along one axis, if the first one is. @param start of the run @param step from one to the next */
// @ts-expect-error: as above
@inline
function countWithin(start: f64, step: f64, low: f64, high: f64, count: i32): i32 {
  const last = start + step * <f64>(count - 1)
  if (last >= low && last <= high) return count
  return min(count, 1 + <i32>((step > 0 ? high - start : low - start) / step))
}

/** One pixel, wherever it is. What is missing leaves what is there. @param size of it, in pixels of the level */
function sampleAnywhere(out: usize, u: f64, v: f64, size: f64, share: i32): void {
  const cover = copies == 0 ? coverAt(u, v, size) : 1
  if (cover == 0) return
  const x = <i32>Math.floor(u)
  const y = <i32>Math.floor(v)
  hasMissed = false
  // A place just before a whole pixel is not that pixel.
  const across = min(0xffff, <i32>((u - <f64>x) * 65536))
  const both = columnAnywhere(x, y, across, min(0xffff, <i32>((v - <f64>y) * 65536)))
  if (hasMissed) return
  let pixel = pixels(both, both, across, across)
  if (cover < 1) pixel = i16x8.q15mulr_sat_s(pixel, i16x8.splat(<i16>(cover * 32767)))
  put(out, pixel, share, false)
}

/** Pixels of a row, by runs that lie within one tile; what is between tiles or at the edges, pixel by pixel. */
function sampleRow(out: usize, count: i32, startU: f64, startV: f64, du: f64, dv: f64, share: i32): void {
  const size = max(0.001, Math.sqrt(du * du + dv * dv))
  // Where the part is not repeated, pixels that reach over its edge are covered by it only partly.
  const margin = copies == 0 ? ROOM + size / 2 : ROOM
  for (let i: i32 = 0; i < count;) {
    const u = startU + du * <f64>i
    const v = startV + dv * <f64>i
    const x = <i32>Math.floor(u)
    const y = <i32>Math.floor(v)
    const copyX = copyAt(x, partLeft, partRight)
    const copyY = copyAt(y, partTop, partBottom)
    let run = 0
    if (abs(copyX) <= copies && abs(copyY) <= copies) {
      const inX = within(x, partLeft, partRight)
      const inY = within(y, partTop, partBottom)
      // In an odd copy the run goes the other way.
      const inU = <f64>inX + (copyX & 1 ? <f64>x - u : u - <f64>x)
      const inV = <f64>inY + (copyY & 1 ? <f64>y - v : v - <f64>y)
      const stepU = copyX & 1 ? -du : du
      const stepV = copyY & 1 ? -dv : dv
      const left = inX & ~TILE_MASK
      const top = inY & ~TILE_MASK
      const lowU = <f64>max(partLeft, left) + margin
      const lowV = <f64>max(partTop, top) + margin
      const highU = <f64>(min(partRight, left + TILE) - 1) - margin
      const highV = <f64>(min(partBottom, top + TILE) - 1) - margin
      if (inU >= lowU && inU <= highU && inV >= lowV && inV <= highV) {
        const tile = load<usize>(table + (<usize>((inY >> TILE_BITS) * columns + (inX >> TILE_BITS)) << 2))
        if (tile > EMPTY) {
          run = countWithin(inV, stepV, lowV, highV, countWithin(inU, stepU, lowU, highU, count - i))
          const tileU = <i32>Math.floor((inU - <f64>left) * 65536)
          const tileV = <i32>Math.floor((inV - <f64>top) * 65536)
          sampleTile(out, run, tile, tileU, tileV, <i32>Math.round(stepU * 65536), <i32>Math.round(stepV * 65536), share)
        }
      }
    }
    if (run == 0) {
      sampleAnywhere(out, u, v, size, share)
      run = 1
    }
    i += run
    out += <usize>run << 2
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
  for (let blockY = top; blockY < bottom; blockY += BLOCK_HEIGHT) {
    const endY = min(blockY + BLOCK_HEIGHT, bottom)
    for (let blockX = left; blockX < right; blockX += BLOCK_WIDTH) {
      const endX = min(blockX + BLOCK_WIDTH, right)
      for (let y = blockY; y < endY; y++) {
        const row = rows + <usize>y * 40
        const share = <i32>load<f64>(row, 32)
        if (share == 0) continue
        const du = load<f64>(row, 16)
        const dv = load<f64>(row, 24)
        const u = load<f64>(row) + du * <f64>blockX
        const v = load<f64>(row, 8) + dv * <f64>blockX
        const count = endX - blockX
        const endU = u + du * <f64>count
        const endV = v + dv * <f64>count
        if (
          max(u, endU) < <f64>partLeft - beyondX ||
          max(v, endV) < <f64>partTop - beyondY ||
          min(u, endU) > <f64>partRight + beyondX ||
          min(v, endV) > <f64>partBottom + beyondY
        )
          continue
        sampleRow(target + (<usize>(y * width + blockX) << 2), count, u, v, du, dv, share)
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

/** Lays a premultiplied picture over another, rounded as canvases do that paint without a graphics card. */
export function lay(pixels: usize, picture: usize, count: i32): void {
  const most = i16x8.splat(256)
  const end = pixels + (<usize>count << 2)
  for (; pixels < end; pixels += 8, picture += 8) {
    const over = v128.load_ext<u8>(picture)
    const opacity = v128.shuffle<u16>(over, over, 3, 3, 3, 3, 7, 7, 7, 7)
    const under = i16x8.shr_u(i16x8.mul(v128.load_ext<u8>(pixels), i16x8.sub(most, opacity)), 8)
    const sum = i16x8.add(over, under)
    v128.store64_lane(pixels, i8x16.narrow_i16x8_u(sum, sum), 0)
  }
}

/** Divides colours by their opacity again, as an ImageData has them. @returns how many pixels are not opaque */
export function straighten(pixels: usize, count: i32): i32 {
  let clearer: i32 = 0
  const opaque = i32x4.splat(0xff000000)
  for (let i: i32 = 0; i < count; i++) {
    const at = pixels + (<usize>i << 2)
    if (i + 4 <= count && i32x4.all_true(i32x4.ge_u(v128.load(at), opaque))) {
      i += 3
      continue
    }
    const alpha = <u32>load<u8>(at, 3)
    if (alpha == 255) continue
    clearer++
    if (alpha == 0) continue
    for (let channel: usize = 0; channel < 3; channel++)
      store<u8>(at + channel, <u8>min<u32>(255, (<u32>load<u8>(at + channel) * 255 + (alpha >> 1)) / alpha))
  }
  return clearer
}
