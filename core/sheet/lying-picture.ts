import { remembered } from '../remembered'
import { rotate } from '../geometry/point'
import { radians } from '../geometry/angle'
import type { LyingPicture, Sheet } from '../journey/schema'
import { sheetSchema } from '../journey/schema'

/** A picture that lies on the map, as a sheet over the others; the same object for the same picture. */
export const asSheet = remembered((picture: LyingPicture): Sheet => {
  const { id, at, width, rotation, opacity } = picture
  const { image, vector, ...size } = picture.picture
  const scale = width / size.width
  const corner = rotate({ x: -width / 2, y: (-size.height * scale) / 2 }, radians(rotation))
  const place = { x: at.x + corner.x, y: at.y + corner.y, scale, rotation }
  // No sheet has an id with a space in it.
  return { ...sheetSchema.parse({ id: 'picture', name: 'picture', image, ...size, vector, place, opacity }), id: `landmark ${id}` }
})
