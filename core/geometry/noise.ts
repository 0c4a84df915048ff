/** A number in -1..1 for a lattice point, always the same. Source of the mixing: MurmurHash3's finalizer (public domain). */
export function latticeNoise(column: number, row: number): number {
  let h = Math.imul(column, 0x27d4eb2d) ^ Math.imul(row, 0x165667b1)
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1
}

/** Smooth noise along a line, within -1..1, with a value of its own at each whole number; always the same for one seed. */
export function lineNoise(seed: number, x: number): number {
  const i = Math.floor(x)
  const u = x - i
  const [a, b] = [latticeNoise(i, seed), latticeNoise(i + 1, seed)]
  return a + (b - a) * u * u * (3 - 2 * u)
}

/** Smooth noise in space, within -1..1, with a value of its own at each whole place. Its slope is smooth too (Perlin, Improving noise, 2002). */
export function spaceNoise(x: number, y: number, z: number): number {
  const [x0, y0, z0] = [Math.floor(x), Math.floor(y), Math.floor(z)]
  const [fx, fy, fz] = [fade(x - x0), fade(y - y0), fade(z - z0)]
  const near = inLayer(x0, y0, z0, fx, fy)
  return near + (inLayer(x0, y0, z0 + 1, fx, fy) - near) * fz
}

/** Between the four places about one in a layer. */
function inLayer(x: number, y: number, z: number, fx: number, fy: number): number {
  const [above, below] = [Math.imul(y, 0x3c6ef372) + z, Math.imul(y + 1, 0x3c6ef372) + z]
  const [a, b] = [latticeNoise(x, above), latticeNoise(x + 1, above)]
  const [c, d] = [latticeNoise(x, below), latticeNoise(x + 1, below)]
  const [first, second] = [a + (b - a) * fx, c + (d - c) * fx]
  return first + (second - first) * fy
}

const fade = (u: number): number => u * u * u * (u * (6 * u - 15) + 10)

/** A seed for a name. Source: FNV-1a (public domain). */
export function seedOf(name: string): number {
  let h = 0x811c9dc5
  for (let i = 0; i < name.length; i++) h = Math.imul(h ^ name.charCodeAt(i), 0x01000193)
  return h | 0
}
