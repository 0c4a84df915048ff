/** Mean absolute difference of two RGBA pictures of one size, over red, green and blue, in steps of 255. */
export function meanDifference(a: Uint8Array, b: Uint8Array): number {
  if (a.length !== b.length) throw new Error(`The pictures differ in size: ${a.length} and ${b.length} bytes.`)
  let sum = 0
  for (let i = 0; i < a.length; i++) if (i % 4 !== 3) sum += Math.abs(a[i]! - b[i]!)
  return sum / ((a.length / 4) * 3)
}

export interface Picture {
  width: number
  pixels: Uint8Array
}

/** The colour at a pixel, as #rrggbb. */
export function colourAt({ width, pixels }: Picture, x: number, y: number): string {
  const i = (Math.round(y) * width + Math.round(x)) * 4
  return `#${[0, 1, 2].map((c) => pixels[i + c]!.toString(16).padStart(2, '0')).join('')}`
}
