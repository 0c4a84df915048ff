import { append } from '../geometry/extremes'
import { textStylesOf } from '../journey/lookup'
import { mapNameFaces } from '../labels/map-names'
import type { Journey } from '../journey/schema'
import { smallWeight } from '../type/block'
import type { Face } from '../type/measure'
import type { FrameItem } from './frame'

/** The faces that a frame's texts are set in. */
export function facesIn(items: readonly FrameItem[]): Face[] {
  const faces: Face[] = []
  for (const item of items) {
    if (item.kind === 'label') append(faces, item.label.block.lines)
    if (item.kind === 'map-name') append(faces, item.block.lines)
    if (item.kind === 'caption' && item.figure.kind !== 'north-arrow') append(faces, item.figure.block.lines)
    if (item.kind === 'caption') faces.push(item.style)
  }
  return faces
}

/** The faces that a journey's labels, captions and names on the map may be set in, each weight as it is asked for; small lines are medium at most. */
export const facesOf = (journey: Pick<Journey, 'stops' | 'landmarks' | 'captions' | 'ground'>): Pick<Face, 'family' | 'weight'>[] => [
  ...textStylesOf(journey).flatMap(({ family, weight }) => [
    { family, weight },
    { family, weight: smallWeight(weight) },
  ]),
  ...mapNameFaces(journey.ground.names),
]
