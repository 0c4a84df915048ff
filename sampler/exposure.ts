/**
 * The mean of several pictures in linear light: what film sees while the shutter is open. Pictures are RGBA, alpha not premultiplied; their sums have four
 * 32-bit floats a pixel, light times opacity and opacity, all from 0 to 1.
 */

/** The light of each value of a channel, as a float. */
const LIGHTS: usize = memory.data(256 * 4, 16)
/** For light in 65535ths the value of a channel, rounded: fine enough that each of 256 values comes back as it was. */
const VALUES: usize = memory.data(65536)
/** Both are worked out when they are needed. */
let isReady: bool = false
const FINEST: f32 = 65535

/** sRGB to linear light and back. Source: IEC 61966-2-1, as given in W3C CSS Color 4, section 10.2. */
function workOut(): void {
  isReady = true
  for (let value: i32 = 0; value < 256; value++) {
    const v = <f64>value / 255
    store<f32>(LIGHTS + (<usize>value << 2), <f32>(v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4)))
  }
  for (let light: i32 = 0; light < 65536; light++) {
    const v = <f64>light / 65535
    store<u8>(VALUES + <usize>light, <u8>Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * Math.pow(v, 1 / 2.4) - 0.055)))
  }
}

/**
 * Adds a part of a picture to the sums.
 *
 * @param pixels of the picture, `width` in a row; the part is from `left` and `top` to before `right` and `bottom`
 * @param times how many pictures it stands for
 * @param isFirst whether nothing is in the sums of that part yet
 */
export function expose(pixels: usize, width: i32, left: i32, top: i32, right: i32, bottom: i32, sums: usize, times: f32, isFirst: i32): void {
  if (!isReady) workOut()
  const weight = f32x4.splat(times)
  for (let y = top; y < bottom; y++) {
    const row = <usize>(y * width + left)
    let sum = sums + (row << 4)
    const end = pixels + (<usize>(y * width + right) << 2)
    for (let at = pixels + (row << 2); at < end; at += 4, sum += 16) {
      const pixel = load<u32>(at)
      const alpha = pixel >> 24
      let light = f32x4.splat(1)
      light = f32x4.replace_lane(light, 0, load<f32>(LIGHTS + ((pixel & 255) << 2)))
      light = f32x4.replace_lane(light, 1, load<f32>(LIGHTS + (((pixel >> 8) & 255) << 2)))
      light = f32x4.replace_lane(light, 2, load<f32>(LIGHTS + (((pixel >> 16) & 255) << 2)))
      light = f32x4.mul(light, alpha == 255 ? weight : f32x4.splat((times * <f32>alpha) / 255))
      v128.store(sum, isFirst ? light : f32x4.add(v128.load(sum), light))
    }
  }
}

/** Writes the mean of what is in the sums of a part. @param count how many pictures that are @param out a picture of which only that part is written */
export function develop(sums: usize, width: i32, left: i32, top: i32, right: i32, bottom: i32, count: f32, out: usize): void {
  for (let y = top; y < bottom; y++) {
    const row = <usize>(y * width + left)
    let at = out + (row << 2)
    const end = sums + (<usize>(y * width + right) << 4)
    for (let sum = sums + (row << 4); sum < end; sum += 16, at += 4) {
      const light = v128.load(sum)
      const opacity = f32x4.extract_lane(light, 3)
      if (opacity == 0) {
        store<u32>(at, 0)
        continue
      }
      const places = i32x4.trunc_sat_f32x4_u(f32x4.add(f32x4.mul(light, f32x4.splat(FINEST / opacity)), f32x4.splat(0.5)))
      const red = <u32>load<u8>(VALUES + <usize>min(65535, i32x4.extract_lane(places, 0)))
      const green = <u32>load<u8>(VALUES + <usize>min(65535, i32x4.extract_lane(places, 1)))
      const blue = <u32>load<u8>(VALUES + <usize>min(65535, i32x4.extract_lane(places, 2)))
      const alpha: f32 = (opacity / count) * 255 + 0.5
      store<u32>(at, red | (green << 8) | (blue << 16) | (<u32>alpha << 24))
    }
  }
}
