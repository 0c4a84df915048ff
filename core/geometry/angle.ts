export const degrees = (radians: number): number => (radians * 180) / Math.PI
export const radians = (degrees: number): number => (degrees * Math.PI) / 180

/** Brings an angle in degrees into -180 to 180. */
export const wrapDegrees = (angle: number): number => ((((angle + 180) % 360) + 360) % 360) - 180

/** The signed smallest turn from angle a to angle b, in radians within (-pi, pi]. */
export function turnBetween(a: number, b: number): number {
  const turn = (b - a) % (2 * Math.PI)
  if (turn > Math.PI) return turn - 2 * Math.PI
  if (turn <= -Math.PI) return turn + 2 * Math.PI
  return turn
}
