import type { InkPart } from './ink-parts'
import type { Strand } from './strand'
import { STRIDE } from './strand'

/** A part of a strand, and whether it begins and ends where the strand does. */
export interface CutStrand {
  strand: Strand
  isFirst: boolean
  isLast: boolean
}

type Stroked = Extract<InkPart, { kind: 'strands' }>

/** A part of a line for a strand that has been cut: where it was it ends bluntly, so that no cap lies over its neighbour; its own ends keep their caps, which are those of its outermost pieces. */
export function cutPart({ stroke, kind }: Stroked, { strand, isFirst, isLast }: CutStrand): Stroked[] {
  if ((isFirst && isLast) || stroke.cap === 'butt') return [{ kind, stroke, strands: [strand] }]
  const { points, isEven } = strand
  const ends = [...(isFirst ? [points.slice(0, 2 * STRIDE)] : []), ...(isLast ? [points.slice(-2 * STRIDE)] : [])]
  return [
    { kind, stroke: { ...stroke, cap: 'butt' }, strands: [strand] },
    ...(ends.length > 0 ? [{ kind, stroke, strands: ends.map((end) => ({ points: end, isEven })) }] : []),
  ]
}
