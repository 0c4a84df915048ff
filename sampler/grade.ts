/** What is done to the colours of a whole picture at the end. Pixels are RGBA, alpha not premultiplied. */

/** For each value of a channel how far it is along the lattice: the place before it, and the share of the way to the next. */
const PLACES: usize = memory.data(256 * 4, 16)
const PARTS: usize = memory.data(256 * 4, 16)

/**
 * Looks the colours of a part of a picture up in a table, interpolated in the tetrahedron of four places of the lattice round each: core/colour/cube.ts.
 *
 * @param from @param to two pictures, `width` pixels in a row; the part is from `left` and `top` to before `right` and `bottom`
 * @param table of `size` places a side, red running fastest; four 32-bit floats each, from 0 to 255, of which the last is not used
 */
export function grade(from: usize, to: usize, width: i32, left: i32, top: i32, right: i32, bottom: i32, table: usize, size: i32): void {
  const last = size - 1
  for (let value: i32 = 0; value < 256; value++) {
    const along = (<f32>value * <f32>last) / 255
    const place = min(last - 1, <i32>along)
    store<i32>(PLACES + (<usize>value << 2), place)
    store<f32>(PARTS + (<usize>value << 2), along - <f32>place)
  }
  const row = <usize>size << 4
  const layer = row * <usize>size
  const half = f32x4.splat(0.5)
  let known: u32 = 0
  let found: u32 = 0
  let isKnown = false
  for (let y = top; y < bottom; y++) {
    const start = <usize>(y * width + left) << 2
    const end = from + (<usize>(y * width + right) << 2)
    let out = to + start
    for (let at = from + start; at < end; at += 4, out += 4) {
      const pixel = load<u32>(at)
      // Colours next to one another are often the same.
      if (!isKnown || pixel != known) {
        const red = <usize>(pixel & 255) << 2
        const green = <usize>((pixel >> 8) & 255) << 2
        const blue = <usize>((pixel >> 16) & 255) << 2
        const x = load<f32>(PARTS + red)
        const y = load<f32>(PARTS + green)
        const z = load<f32>(PARTS + blue)
        const base =
          table + (<usize>load<i32>(PLACES + red) << 4) + <usize>load<i32>(PLACES + green) * row + <usize>load<i32>(PLACES + blue) * layer
        // The channels in the order of their shares.
        let first = x
        let second = y
        let third = z
        let firstStep: usize = 16
        let secondStep = row
        let thirdStep = layer
        if (first < second) {
          first = y
          second = x
          firstStep = row
          secondStep = 16
        }
        if (second < third) {
          third = second
          thirdStep = secondStep
          second = z
          secondStep = layer
          if (first < second) {
            second = first
            secondStep = firstStep
            first = z
            firstStep = layer
          }
        }
        const a = base + firstStep
        const b = a + secondStep
        let sum = f32x4.mul(v128.load(base), f32x4.splat(1 - first))
        sum = f32x4.add(sum, f32x4.mul(v128.load(a), f32x4.splat(first - second)))
        sum = f32x4.add(sum, f32x4.mul(v128.load(b), f32x4.splat(second - third)))
        sum = f32x4.add(sum, f32x4.mul(v128.load(b + thirdStep), f32x4.splat(third)))
        const whole = i32x4.trunc_sat_f32x4_s(f32x4.add(sum, half))
        const narrow = i16x8.narrow_i32x4_s(whole, whole)
        found = (<u32>i32x4.extract_lane(i8x16.narrow_i16x8_u(narrow, narrow), 0) & 0xffffff) | (pixel & 0xff000000)
        known = pixel
        isKnown = true
      }
      store<u32>(out, found)
    }
  }
}

/** Multiplies the colours of a part of a picture by a number from 0 to 1 for each pixel. @param lights 32-bit floats, `width` in a row */
export function dim(pixels: usize, width: i32, left: i32, top: i32, right: i32, bottom: i32, lights: usize): void {
  const half = f32x4.splat(0.5)
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const index = <usize>(y * width + x) << 2
      const light = load<f32>(lights + index)
      if (light == 1) continue
      const at = pixels + index
      const pixel = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at)))
      const dimmed = f32x4.replace_lane(f32x4.splat(light), 3, 1)
      const whole = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.convert_i32x4_s(pixel), dimmed), half))
      const narrow = i16x8.narrow_i32x4_s(whole, whole)
      v128.store32_lane(at, i8x16.narrow_i16x8_u(narrow, narrow), 0)
    }
}

/** A number in -1..1 for a place of a lattice, always the same: latticeNoise of core/geometry/noise.ts. */
// @ts-expect-error: decorators of functions are AssemblyScript's own
@inline
function noiseAt(column: i32, row: i32): f32 {
  let h: u32 = (<u32>column * 0x27d4eb2d) ^ (<u32>row * 0x165667b1)
  h = (h ^ (h >> 16)) * 0x85ebca6b
  h = (h ^ (h >> 13)) * 0xc2b2ae35
  return <f32>(h ^ (h >> 16)) / 2147483648 - 1
}

/**
 * Fills a lattice of noise.
 * @param lattice `columns` times `rows` 32-bit floats from -1 to 1 @param seed another one gives another lattice
 */
export function fillNoise(lattice: usize, columns: i32, rows: i32, seed: i32): void {
  for (let row: i32 = 0; row < rows; row++)
    for (let column: i32 = 0; column < columns; column++, lattice += 4)
      store<f32>(lattice, noiseAt(column + seed * 7919, row + seed * 104729))
}

/** For each luma how much of the grain is seen: most where it is neither light nor dark, as in film (common practice, no source). */
const SEEN: usize = memory.data(256 * 4, 16)
for (let luma: i32 = 0; luma < 256; luma++) {
  const middle = (<f32>luma - 127.5) / 127.5
  store<f32>(SEEN + (<usize>luma << 2), 1 - <f32>0.75 * middle * middle)
}

/**
 * Lightens and darkens a picture by a lattice of noise, interpolated between its places.
 * @param lattice `columns` floats in a row @param line room for as many floats and three @param step places of it from one pixel to the next
 * @param depth the most, in steps of 255
 */
export function grain(pixels: usize, width: i32, height: i32, lattice: usize, columns: i32, line: usize, step: f32, depth: f32): void {
  for (let y: i32 = 0; y < height; y++) {
    const v = <f32>y * step
    const row = <i32>v
    const below = f32x4.splat((v - <f32>row) * depth)
    const above = f32x4.splat((1 - (v - <f32>row)) * depth)
    const first = lattice + (<usize>(row * columns) << 2)
    const second = first + (<usize>columns << 2)
    for (let at: usize = 0; at < <usize>columns << 2; at += 16)
      v128.store(line + at, f32x4.add(f32x4.mul(v128.load(first + at), above), f32x4.mul(v128.load(second + at), below)))
    let u: f32 = 0
    for (let x: i32 = 0; x < width; x++, pixels += 4, u = <f32>x * step) {
      const cell = <i32>u
      const place = line + (<usize>cell << 2)
      const left = load<f32>(place)
      const noise = left + (load<f32>(place, 4) - left) * (u - <f32>cell)
      const pixel = load<u32>(pixels)
      const luma = (54 * (pixel & 255) + 183 * ((pixel >> 8) & 255) + 19 * ((pixel >> 16) & 255)) >> 8
      // Rounded: what is cast is positive.
      const light = <i16>(<i32>(noise * load<f32>(SEEN + (<usize>luma << 2)) + 256.5) - 256)
      const lit = i16x8.add(i16x8.extend_low_i8x16_u(i32x4.splat(pixel)), i16x8.replace_lane(i16x8.splat(light), 3, 0))
      v128.store32_lane(pixels, i8x16.narrow_i16x8_u(lit, lit), 0)
    }
  }
}
