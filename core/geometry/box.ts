/** An upright rectangle. */
export interface Box {
  left: number
  right: number
  top: number
  bottom: number
}

export const movedBox = ({ left, right, top, bottom }: Box, x: number, y: number): Box => ({
  left: left + x,
  right: right + x,
  top: top + y,
  bottom: bottom + y,
})

export const scaledBox = ({ left, right, top, bottom }: Box, k: number): Box => ({
  left: k * left,
  right: k * right,
  top: k * top,
  bottom: k * bottom,
})

/** The area in which two boxes overlap. */
export const overlapArea = (a: Box, b: Box): number =>
  Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left)) * Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top))

export function unionOf(boxes: readonly Box[]): Box {
  const union = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  for (const { left, right, top, bottom } of boxes) {
    union.left = Math.min(union.left, left)
    union.right = Math.max(union.right, right)
    union.top = Math.min(union.top, top)
    union.bottom = Math.max(union.bottom, bottom)
  }
  return union
}

export const areaOf = ({ left, right, top, bottom }: Box): number => (right - left) * (bottom - top)

/** The length of the part of a segment that lies in a box. Source: Liang and Barsky, A new concept and method for line clipping (1984). */
export function lengthInside({ left, right, top, bottom }: Box, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax
  const dy = by - ay
  if ((dx === 0 && (ax < left || ax > right)) || (dy === 0 && (ay < top || ay > bottom))) return 0
  let from = 0
  let to = 1
  if (dx !== 0) {
    const enter = ((dx > 0 ? left : right) - ax) / dx
    const leave = ((dx > 0 ? right : left) - ax) / dx
    if (enter > from) from = enter
    if (leave < to) to = leave
  }
  if (dy !== 0) {
    const enter = ((dy > 0 ? top : bottom) - ay) / dy
    const leave = ((dy > 0 ? bottom : top) - ay) / dy
    if (enter > from) from = enter
    if (leave < to) to = leave
  }
  return from < to ? (to - from) * Math.sqrt(dx * dx + dy * dy) : 0
}
