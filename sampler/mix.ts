/** Mixing pixels: their channels have 16 bits meanwhile. */

/**
 * For each share of 256ths eight times that share in 32768ths: what Q15 multiplication takes. Read whole it weighs four channels of two pixels alike, read by
 * halves those of each pixel.
 */
const SHARES: usize = memory.data(256 * 16, 16)
for (let share: i32 = 0; share < 256; share++)
  for (let channel: usize = 0; channel < 8; channel++) store<i16>(SHARES + (<usize>share << 4) + 2 * channel, <i16>(share << 7))

/** Some 16-bit channels and others, mixed. @param shares of the others, in 32768ths */
// @ts-expect-error: decorators of functions are AssemblyScript's own
@inline
export function mixed(some: v128, others: v128, shares: v128): v128 {
  return i16x8.add(some, i16x8.q15mulr_sat_s(i16x8.sub(others, some), shares))
}

/** The shares that belong to the fraction of a place, which is in 65536ths. */
// @ts-expect-error: as above
@inline
export function sharesAt(place: i32): usize {
  return SHARES + <usize>((place >> 4) & 0xff0)
}
