/**
 * Fills squares whose corners lie anywhere from a picture at halving sizes: what lies between the corners is interpolated. For ground that is bent, where a row of
 * the frame does not cross the picture in even steps.
 */
import { mixed, sharesAt } from './mix'

/** Squares overlap by so much of a pixel, so that no seam is left between them. */
const SEAM: f64 = 0.02

/** It is never sampled more finely than this many halvings from where it would shimmer. */
const SHARPER: f64 = 1.2

/** From this far between two levels on, the coarser one is laid over the finer one: core/sheet/mosaic.ts. */
const LEVEL_BLEND: f64 = 0.7

/** The 64-bit floats of a square: x and y in the frame of its corners, left above, right above, left below, right below; u and v in the picture; its blur. */
const FLOATS: usize = 17

let target: usize = 0
let targetWidth: i32 = 0
let targetHeight: i32 = 0
let levels: usize = 0
let levelCount: i32 = 0
/** Whether the picture's edge goes on beyond it; else nothing is there. */
let clamps: bool = false
let facing: f64 = 1

/** The parts of a level: where its pixels are, premultiplied, and its size. */
// @ts-expect-error: decorators of functions are AssemblyScript's own
@inline
function partOf(level: i32, part: usize): i32 {
  return load<i32>(levels + <usize>(level * 12) + 4 * part)
}

function pixelAt(level: i32, x: i32, y: i32): u32 {
  const width = partOf(level, 1)
  const height = partOf(level, 2)
  if (!clamps && (x < 0 || y < 0 || x >= width || y >= height)) return 0
  const column = max(0, min(x, width - 1))
  const row = max(0, min(y, height - 1))
  return load<u32>(<usize>partOf(level, 0) + (<usize>(row * width + column) << 2))
}

/** One level, bilinearly, at a place in its pixels, whose middles lie at halves: a pixel of 16 bits a channel. */
// @ts-expect-error: as above
@inline
function bilinear(level: i32, u: f64, v: f64): v128 {
  const x = <i32>Math.floor(u - 0.5)
  const y = <i32>Math.floor(v - 0.5)
  const right = min(0xffff, <i32>((u - 0.5 - <f64>x) * 65536))
  const down = min(0xffff, <i32>((v - 0.5 - <f64>y) * 65536))
  const width = partOf(level, 1)
  let above: v128
  let below: v128
  if (x >= 0 && y >= 0 && x + 1 < width && y + 1 < partOf(level, 2)) {
    const at = <usize>partOf(level, 0) + (<usize>(y * width + x) << 2)
    above = v128.load_ext<u8>(at)
    below = v128.load_ext<u8>(at + (<usize>width << 2))
  } else {
    above = i16x8.extend_low_i8x16_u(i64x2.splat((<u64>pixelAt(level, x + 1, y) << 32) | pixelAt(level, x, y)))
    below = i16x8.extend_low_i8x16_u(i64x2.splat((<u64>pixelAt(level, x + 1, y + 1) << 32) | pixelAt(level, x, y + 1)))
  }
  const both = mixed(above, below, v128.load(sharesAt(down)))
  return mixed(both, v128.shuffle<u64>(both, both, 1, 1), v128.load(sharesAt(right)))
}

/** Whether bilinear sampling at a place of a level reads nothing beyond its edge. The middles of pixels lie at halves. */
// @ts-expect-error: as above
@inline
function isInner(level: i32, u: f64, v: f64): bool {
  return u >= 0.51 && v >= 0.51 && u < <f64>partOf(level, 1) - 0.51 && v < <f64>partOf(level, 2) - 0.51
}

/** As `bilinear`, at a place whose pixels are all there. Places are in 65536ths, from the middle of the first pixel. @param row bytes from one to the next */
// @ts-expect-error: as above
@inline
function bilinearInner(pixels: usize, row: usize, u: i32, v: i32): v128 {
  const at = pixels + <usize>(v >> 16) * row + ((u >> 14) & ~3)
  const both = mixed(v128.load_ext<u8>(at), v128.load_ext<u8>(at + row), v128.load(sharesAt(v)))
  return mixed(both, v128.shuffle<u64>(both, both, 1, 1), v128.load(sharesAt(u)))
}

// @ts-expect-error: as above
@inline
function fixed(x: f64): i32 {
  return <i32>Math.floor(x * 65536)
}

// @ts-expect-error: as above
@inline
function put(out: usize, pixel: v128): void {
  const packed = i8x16.narrow_i16x8_u(pixel, pixel)
  if (i8x16.extract_lane_u(packed, 3) > 0) v128.store32_lane(out, packed, 0)
}

/** Samples the picture along a row of the target. @param detail how finely it is seen: the base-2 logarithm of its pixels to one of the frame */
function sampleRow(out: usize, count: i32, startU: f64, startV: f64, du: f64, dv: f64, detail: f64): void {
  const level = min(<f64>(levelCount - 1), max(0, detail))
  const fine = <i32>level
  const k = 1 / <f64>(1 << fine)
  const share = <i32>Math.round((32768 * max(0, level - <f64>fine - LEVEL_BLEND)) / (1 - LEVEL_BLEND))
  const over = i16x8.splat(<i16>min(share, 32767))
  const u = startU * k
  const v = startV * k
  const stepU = du * k
  const stepV = dv * k
  const lastU = u + stepU * <f64>(count - 1)
  const lastV = v + stepV * <f64>(count - 1)
  const coarse = fine + 1
  const end = out + (<usize>count << 2)
  if (
    isInner(fine, u, v) &&
    isInner(fine, lastU, lastV) &&
    (share == 0 || (isInner(coarse, u / 2, v / 2) && isInner(coarse, lastU / 2, lastV / 2)))
  ) {
    const pixels = <usize>partOf(fine, 0)
    const row = <usize>partOf(fine, 1) << 2
    let x = fixed(u - 0.5)
    let y = fixed(v - 0.5)
    const dx = <i32>Math.round(stepU * 65536)
    const dy = <i32>Math.round(stepV * 65536)
    if (share == 0) {
      for (; out < end; out += 4, x += dx, y += dy) put(out, bilinearInner(pixels, row, x, y))
      return
    }
    const coarsePixels = <usize>partOf(coarse, 0)
    const coarseRow = <usize>partOf(coarse, 1) << 2
    let coarseX = fixed(u / 2 - 0.5)
    let coarseY = fixed(v / 2 - 0.5)
    const coarseDx = <i32>Math.round(stepU * 32768)
    const coarseDy = <i32>Math.round(stepV * 32768)
    for (; out < end; out += 4, x += dx, y += dy, coarseX += coarseDx, coarseY += coarseDy)
      put(out, mixed(bilinearInner(pixels, row, x, y), bilinearInner(coarsePixels, coarseRow, coarseX, coarseY), over))
    return
  }
  for (let i: i32 = 0; i < count; i++, out += 4) {
    const atU = u + stepU * <f64>i
    const atV = v + stepV * <f64>i
    let pixel = bilinear(fine, atU, atV)
    if (share > 0) pixel = mixed(pixel, bilinear(coarse, atU / 2, atV / 2), over)
    put(out, pixel)
  }
}

/** Where an edge crosses a height; infinite where it does not. */
function crossing(x0: f64, y0: f64, x1: f64, y1: f64, at: f64): f64 {
  if ((at < y0 - SEAM && at < y1 - SEAM) || (at > y0 + SEAM && at > y1 + SEAM)) return Infinity
  if (y0 == y1) return x0
  return x0 + (x1 - x0) * max(0, min(1, (at - y0) / (y1 - y0)))
}

// @ts-expect-error: as above
@inline
function finite(x: f64): f64 {
  return x == Infinity ? -Infinity : x
}

/** How finely the picture is seen, between the closer and the wider direction. */
function detailOf(across: f64, down: f64): f64 {
  const most = Math.log2(max(max(across, down), 1e-9))
  const least = Math.log2(max(1e-9, min(across, down)))
  return max((most + least) / 2, most - SHARPER)
}

/** Fills the triangle of three corners of a square, row by row. */
function fillTriangle(square: usize, a: usize, b: usize, c: usize): void {
  const xa = load<f64>(square + 8 * a)
  const ya = load<f64>(square + 32 + 8 * a)
  const xb = load<f64>(square + 8 * b)
  const yb = load<f64>(square + 32 + 8 * b)
  const xc = load<f64>(square + 8 * c)
  const yc = load<f64>(square + 32 + 8 * c)
  const area = (xb - xa) * (yc - ya) - (yb - ya) * (xc - xa)
  // What has no place on the Earth has none in the frame; what is turned over lies at the back, or folds while the globe is flattened.
  if (!(area * facing > 1e-9)) return
  const ua = load<f64>(square + 64 + 8 * a)
  const va = load<f64>(square + 96 + 8 * a)
  const ub = load<f64>(square + 64 + 8 * b) - ua
  const vb = load<f64>(square + 96 + 8 * b) - va
  const uc = load<f64>(square + 64 + 8 * c) - ua
  const vc = load<f64>(square + 96 + 8 * c) - va
  // How the picture runs across the frame.
  const ux = (ub * (yc - ya) - uc * (yb - ya)) / area
  const uy = (uc * (xb - xa) - ub * (xc - xa)) / area
  const vx = (vb * (yc - ya) - vc * (yb - ya)) / area
  const vy = (vc * (xb - xa) - vb * (xc - xa)) / area
  const detail = max(load<f64>(square + 128), detailOf(Math.hypot(ux, vx), Math.hypot(uy, vy)))
  const top = max(0, <i32>Math.ceil(min(ya, min(yb, yc)) - 0.5 - SEAM))
  const bottom = min(targetHeight - 1, <i32>Math.floor(max(ya, max(yb, yc)) - 0.5 + SEAM))
  for (let row = top; row <= bottom; row++) {
    const at = <f64>row + 0.5
    const ab = crossing(xa, ya, xb, yb, at)
    const bc = crossing(xb, yb, xc, yc, at)
    const ca = crossing(xc, yc, xa, ya, at)
    const first = min(ab, min(bc, ca))
    const last = max(finite(ab), max(finite(bc), finite(ca)))
    if (!(first <= last)) continue
    const left = <i32>Math.ceil(max(0, first - 0.5 - SEAM))
    const right = <i32>Math.floor(min(<f64>(targetWidth - 1), last - 0.5 + SEAM))
    if (left > right) continue
    const dx = <f64>left + 0.5 - xa
    const dy = at - ya
    const out = target + (<usize>(row * targetWidth + left) << 2)
    sampleRow(out, right - left + 1, ua + ux * dx + uy * dy, va + vx * dx + vy * dy, ux, vx, detail)
  }
}

/**
 * Fills squares of a target, premultiplied; where nothing is of the picture the target stays as it is.
 *
 * @param pixels of the target, `width` x `height`
 * @param squares `FLOATS` 64-bit floats for each
 * @param levelTable for each level, the finest first, three 32-bit integers: where its pixels are, premultiplied, its width, and its height
 * @param goesOn whether the picture's edge goes on beyond it
 * @param side 1, or -1 where the picture is that of a mirrored map
 */
export function fillSquares(
  pixels: usize,
  width: i32,
  height: i32,
  squares: usize,
  count: i32,
  levelTable: usize,
  levelTotal: i32,
  goesOn: bool,
  side: f64,
): void {
  target = pixels
  targetWidth = width
  targetHeight = height
  levels = levelTable
  levelCount = levelTotal
  clamps = goesOn
  facing = side
  for (let i: i32 = 0; i < count; i++) {
    const square = squares + 8 * FLOATS * <usize>i
    fillTriangle(square, 0, 1, 2)
    fillTriangle(square, 3, 2, 1)
  }
}
