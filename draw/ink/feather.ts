import type { InkItem } from '#core/frame/frame'
import type { Projection } from '#core/camera/projection-type'
import { cutPart } from './cut'
import type { InkPart } from './ink-parts'
import type { Strand } from './strand'
import { cutByCell, strandsOf } from './strand'
import { paintStrands } from './stroke'

/** Lines that fade out towards the ends that are on their way. */

/** An end of a line, and the stretch over which it fades: from where it is whole to where it is gone, in ground units along its course. */
interface FeatheredEnd {
  whole: number
  gone: number
}

/** In how many steps an end fades: no step is more than a twenty-fourth of a shade. */
const STEPS = 24

/** Over less than this an end is not feathered, in reference pixels: nobody would see it. */
const LEAST = 0.5

/** The ends of a line that are feathered at the moment. Towards its stop an end becomes sharp, so that nothing changes when it is there. */
export function featheredEnds({ ink: { feather, comes }, course, tail, head, patternZoom }: InkItem): FeatheredEnd[] {
  if (feather === 0) return []
  const isFromMiddle = comes === 'from-middle'
  const length = (left: number) => Math.min(feather / patternZoom, left, (head - tail) / (isFromMiddle ? 2 : 1))
  const [ahead, behind] = [length(course.length - head), isFromMiddle ? length(tail) : 0]
  const ends = [
    { whole: head - ahead, gone: head },
    { whole: tail + behind, gone: tail },
  ]
  return ends.filter(({ whole, gone }) => Math.abs(gone - whole) * patternZoom > LEAST)
}

/**
 * Parts of a line, apart: what is whole, and what lies about its feathered ends, which reaches over the former by so much that no seam is seen.
 * @param overlap in ground units
 */
export function splitAtEnds(
  parts: readonly InkPart[],
  ends: readonly FeatheredEnd[],
  overlap: number,
): { whole: InkPart[]; feathered: InkPart[] } {
  const within = (s: number, room: number) => ends.some(({ whole, gone }) => (gone > whole ? s > whole - room : s < whole + room))
  const taken = (room: number, isWanted: (isWithin: boolean) => boolean): InkPart[] =>
    parts.flatMap((part): InkPart[] => {
      const isIn = ({ s }: { s: number }) => isWanted(within(s, room))
      if (part.kind === 'strands') {
        const pieces = part.strands.flatMap((strand) => cutByCell(strand, (s) => (isWanted(within(s, room)) ? 1 : 0)))
        return pieces.flatMap(({ cell, ...piece }) => (cell === 1 ? cutPart(part, piece) : []))
      }
      const { pictures } = part
      return [
        { ...part, shapes: part.shapes.filter(isIn), ...(pictures && { pictures: { ...pictures, quads: pictures.quads.filter(isIn) } }) },
      ]
    })
  return { whole: taken(0, (isWithin) => !isWithin), feathered: taken(overlap, (isWithin) => isWithin) }
}

/**
 * Takes from a canvas that is set to draw in the frame's reference pixels what lies about the feathered ends of a line, more and more towards them.
 * @param reach how far from its course there is something of it, in reference pixels at the middle of the view
 */
export function eraseEnds(
  context: CanvasRenderingContext2D,
  projection: Projection,
  { course }: InkItem,
  ends: readonly FeatheredEnd[],
  reach: number,
): void {
  context.globalCompositeOperation = 'destination-out'
  context.strokeStyle = context.fillStyle = '#000000'
  for (const { whole, gone } of ends)
    for (let k = 1; k <= STEPS; k++) {
      // What the last step has left is reduced to what this one leaves.
      context.globalAlpha = 1 / (STEPS - k + 1)
      const from = whole + ((gone - whole) * (k - 0.5)) / STEPS
      const stretch = gone > whole ? { from, to: gone } : { from: gone, to: from }
      paintStrands(context, capped(strandsOf(projection, course, [stretch]), gone > whole, reach), { width: 2 * reach, cap: 'butt' })
    }
  context.globalAlpha = 1
  context.globalCompositeOperation = 'source-over'
}

/** Strands that go on beyond the end of the line, straight on: the cap of the line lies there. */
function capped(strands: Strand[], isHead: boolean, reach: number): Strand[] {
  const strand = isHead ? strands.at(-1) : strands[0]
  if (!strand) return strands
  const { points } = strand
  const last = points.length - 4
  const [at, before] = isHead ? [last, last - 4] : [0, 4]
  const [dx, dy] = [points[at]! - points[before]!, points[at + 1]! - points[before + 1]!]
  const length = Math.hypot(dx, dy)
  if (!(length > 0)) return strands
  const beyond = [points[at]! + (dx / length) * 2 * reach, points[at + 1]! + (dy / length) * 2 * reach, points[at + 2]!, points[at + 3]!]
  const longer: Strand = { ...strand, points: isHead ? [...points, ...beyond] : [...beyond, ...points] }
  return isHead ? [...strands.slice(0, -1), longer] : [longer, ...strands.slice(1)]
}
