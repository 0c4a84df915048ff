import equal from 'fast-deep-equal'
import type { Leg, PaceMark, VehicleChange } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'

/** What is on the way of a leg, at shares of its length: vehicles that take over, and marks of its pace. It keeps its spots when legs are split, joined and turned round. */
type OnTheWay = Pick<Leg, 'vehicle' | 'changes' | 'paceMarks'>

/** Marks closer than this to an end of their leg lie beyond it. */
const EDGE = 0.001

const within = <T extends { at: number }>(marks: T[], most: number): T[] =>
  marks.filter(({ at }) => at >= EDGE && at <= 1 - EDGE).slice(0, most)
const rising = <T extends { at: number }>(marks: readonly T[]): T[] => marks.toSorted((a, b) => a.at - b.at)

/** What is on the two parts of a leg that is split at a share of its length. */
export function splitOnTheWay({ vehicle, changes, paceMarks }: OnTheWay, share: number): [before: OnTheWay, after: OnTheWay] {
  const before = <T extends { at: number }>(marks: readonly T[]) =>
    marks.filter(({ at }) => at <= share).map((mark) => ({ ...mark, at: mark.at / share }))
  const after = <T extends { at: number }>(marks: readonly T[]) =>
    marks.filter(({ at }) => at > share).map((mark) => ({ ...mark, at: (mark.at - share) / (1 - share) }))
  const last = rising(changes).findLast(({ at }) => at <= share)
  const factor = speedAt(paceMarks, share)
  return [
    { vehicle, changes: within(before(changes), LIMITS.changes), paceMarks: within(before(paceMarks), LIMITS.paceMarks) },
    {
      vehicle: last ? last.vehicle : vehicle,
      changes: within(after(changes), LIMITS.changes),
      paceMarks: within([...speedFrom(EDGE, factor, 1), ...after(paceMarks)], LIMITS.paceMarks),
    },
  ]
}

/** What is on the way of two legs that become one: what the second had at its start takes over there. @param share the first one's share of the length */
export function joinedOnTheWay(into: OnTheWay, out: OnTheWay, share: number): OnTheWay {
  const first = <T extends { at: number }>(marks: readonly T[]) => marks.map((mark) => ({ ...mark, at: mark.at * share }))
  const second = <T extends { at: number }>(marks: readonly T[]) => marks.map((mark) => ({ ...mark, at: share + mark.at * (1 - share) }))
  const last = rising(into.changes).at(-1)?.vehicle ?? into.vehicle
  const takesOver: VehicleChange[] = equal(last, out.vehicle) ? [] : [{ at: share, vehicle: out.vehicle, how: 'fade' }]
  return {
    vehicle: into.vehicle,
    changes: within([...first(into.changes), ...takesOver, ...second(out.changes)], LIMITS.changes),
    paceMarks: within(
      [...first(into.paceMarks), ...speedFrom(share, 1, speedAt(into.paceMarks, 1)), ...second(out.paceMarks)],
      LIMITS.paceMarks,
    ),
  }
}

/** What is on the way of a leg that is travelled in the other direction. */
export function reversedOnTheWay({ vehicle, changes, paceMarks }: OnTheWay): OnTheWay {
  const inOrder = rising(changes)
  const vehicles = [vehicle, ...inOrder.map((change) => change.vehicle)]
  const turned = inOrder.map((change, i) => ({ ...change, at: 1 - change.at, vehicle: vehicles[i]! }))
  const speeds = rising(paceMarks.filter((mark) => mark.kind === 'speed'))
  const factors = [1, ...speeds.map(({ factor }) => factor)]
  const waits = paceMarks.filter((mark) => mark.kind === 'wait').map((mark) => ({ ...mark, at: 1 - mark.at }))
  const back: PaceMark[] = [
    ...speedFrom(EDGE, factors.at(-1)!, 1),
    ...speeds.map((mark, i): PaceMark => ({ ...mark, at: 1 - mark.at, factor: factors[i]! })).reverse(),
    ...waits,
  ]
  return { vehicle: vehicles.at(-1)!, changes: turned.reverse(), paceMarks: within(back, LIMITS.paceMarks) }
}

/** How many times as fast as usual a leg is travelled at a share of its length. */
function speedAt(marks: readonly PaceMark[], share: number): number {
  const last = rising(marks).findLast((mark) => mark.kind === 'speed' && mark.at <= share)
  return last?.kind === 'speed' ? last.factor : 1
}

/** A mark from which on the speed is that, where it was another before. */
const speedFrom = (at: number, factor: number, before: number): PaceMark[] => (factor === before ? [] : [{ kind: 'speed', at, factor }])
