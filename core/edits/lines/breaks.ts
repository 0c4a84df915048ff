import type { Cubic } from '../../geometry/cubic'
import { reversedCubic, splitCubic } from '../../geometry/cubic'
import { distance, scaleBy, subtract } from '../../geometry/point'
import { drawnCourse, keepKinds, nodeBefore, nodeCubics, parameterAt, withBreak, withNodes } from './courses'
import { editLeg } from './legs'
import { findLeg } from '../../journey/lookup'
import type { CourseNode, DrawnCourse, Journey } from '../../journey/schema'

/** Gaps in drawn courses, where the line is broken and the traveller is at once on its other side: pure functions, journey in, journey out. */

/** The largest share of a segment that a break cuts away at either end. */
const MOST_CUT = 0.4

/**
 * Breaks a leg's line. Between two consecutive chosen nodes the segment is removed; at a chosen node without a chosen neighbour a piece of
 * the line is cut out, half of `width` on either side.
 * @param width in gu
 */
export function breakAt(journey: Journey, id: string, chosen: ReadonlySet<number>, width: number): Journey {
  const course = drawnOf(journey, id)
  if (!course) return journey
  const isChosen = (node: number) => node < course.nodes.length && chosen.has(node)
  const isAlone = (node: number) => isChosen(node) && !isChosen(node - 1) && !isChosen(node + 1)
  const chain = nodeCubics(journey, id).flatMap((cubic, segment): Cubic[] => {
    const node = nodeBefore(course, segment)
    if (isChosen(node) && isChosen(node + 1)) return []
    const start = isAlone(node) && !course.nodes[node - 1]?.break ? cutFromStart(cubic, width / 2) : cubic
    const isEndAlone = isAlone(node + 1) && !course.nodes[node + 1]!.break
    return [isEndAlone ? reversedCubic(cutFromStart(reversedCubic(start), width / 2)) : start]
  })
  return editLeg(journey, id, { course: keepKinds(drawnCourse(chain), course) })
}

/** Joins a leg's line over each break with a chosen end, by a smooth bend tangent to both ends. */
export const joinBreaks = (journey: Journey, id: string, chosen: ReadonlySet<number>): Journey =>
  withNodes(journey, id, (course) => {
    const breaks = new Set(breaksAt(course, chosen))
    return {
      ...course,
      nodes: course.nodes.map((node, i) => {
        if (breaks.has(i)) return bridged(node, 'after', course.nodes[i + 1]!)
        return breaks.has(i - 1) ? bridged(node, 'before', course.nodes[i - 1]!) : node
      }),
    }
  })

/** Indexes of the nodes before the breaks that have a chosen end. */
export const breaksAt = ({ nodes }: DrawnCourse, chosen: ReadonlySet<number>): number[] =>
  nodes.flatMap((node, i) => (node.break && (chosen.has(i) || chosen.has(i + 1)) ? [i] : []))

const drawnOf = (journey: Journey, id: string): DrawnCourse | undefined => {
  const course = findLeg(journey, id)?.leg.course
  return course?.kind === 'drawn' ? course : undefined
}

function cutFromStart(cubic: Cubic, length: number): Cubic {
  const cut = Math.min(length, MOST_CUT * distance(cubic[0], cubic[3]))
  return splitCubic(cubic, parameterAt(cubic, cut))[1]
}

/** The end of a break with a handle across it that continues the line. */
function bridged(node: CourseNode, side: 'before' | 'after', other: CourseNode): CourseNode {
  const own = side === 'before' ? node.after : node.before
  const reach = distance(node.at, other.at) / 3
  const length = Math.hypot(own.x, own.y)
  const handle = length > 0 ? scaleBy(own, -reach / length) : scaleBy(subtract(other.at, node.at), 1 / 3)
  return { ...withBreak(node, false), kind: length > 0 ? 'smooth' : 'corner', [side]: handle }
}
