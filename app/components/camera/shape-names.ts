import { isSameShape } from '#core/edits/camera/reframe'
import type { Aspect } from '#core/journey/create'
import { FRAME_SIZES } from '#core/journey/create'
import type { Size } from '#core/geometry/size'

/** What a frame's shape is called: as it is on offer, or by its sides. */
export function nameOfShape(size: Size): string {
  const known = (Object.keys(FRAME_SIZES) as Aspect[]).find((name) => {
    const [[, width, height]] = FRAME_SIZES[name]
    return isSameShape({ width, height }, size)
  })
  return known ?? `${size.width} × ${size.height}`
}
