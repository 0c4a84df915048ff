import type { Box } from '../geometry/box'
import { areaOf, lengthInside, movedBox, overlapArea, unionOf } from '../geometry/box'
import type { Size } from '../geometry/size'
import { clamp } from '../geometry/clamp'

/**
 * Where labels may lie, and what is in their way, over the whole film: plain numbers, so that the best places can be looked for in a worker. Lengths are
 * reference pixels in the frame, times are seconds.
 */
export interface LabelScene {
  frame: Size
  labels: SceneLabel[]
  samples: SceneSample[]
}

interface SceneLabel {
  stop: string
  appears: number
  /** What it covers at each of its possible places, from its stop; the preferred ones have a lower `cost`, up to 1. */
  candidates: { box: Box; cost: number }[]
}

/** A stretch of the film with one view, or one that changes little. */
export interface SceneSample {
  from: number
  to: number
  /** Where each label's stop is, and how large what stands there looks; null outside the frame. */
  places: ({ x: number; y: number; scale: number } | null)[]
  /** Pins, cards and captions, and until when they are there; a label does not mind its own pin. */
  obstacles: { box: Box; own: number | null; to: number }[]
  lines: SceneLine[]
}

/** A course in the frame: points, x and y in turn, and the share of the way up to each. */
export interface SceneLine {
  points: number[]
  shares: number[]
  depart: number
  arrive: number
  /** Half the width of its ink, 0 for none, and what its vehicle covers about a point of the line; null without one. */
  ink: number
  vehicle: Box | null
}

/** An overlap costs at least this much, so that one more is never made up for by preferred places. */
const OVERLAP = 1000

/** Labels keep so far from the frame's edges. */
const MARGIN = 14

/** What only touches does not overlap. */
const TOUCH = 1

/** No more steps of the exact search are taken for labels that are in each other's way; then the best that was found is kept. */
const MOST_STEPS = 30_000

/** Costs that differ by less are the same. */
const EQUAL = 1e-9

/** The costs of all places of a scene's labels. */
export interface LabelCosts {
  /** By label and candidate. */
  alone: number[][]
  /** By two labels, the first before the second, and a candidate of each; only of those that can be in each other's way. */
  pairs: Map<string, number[][]>
}

const pairKey = (i: number, j: number): string => `${i} ${j}`

/**
 * Chooses a place for each label, so that the overlaps with others, with pins, lines, vehicles and the frame's edges are as few, and then as small, as can be.
 * The best there is for groups of labels up to some size; for larger groups never worse than the first candidates.
 * @returns the number of each label's candidate
 */
export function placeLabels(scene: LabelScene, costs = labelCosts(scene)): number[] {
  const chosen = scene.labels.map(() => 0)
  for (const group of groupsOf(scene.labels.length, costs)) solve(group, costs, chosen)
  return chosen
}

/** The labels that overlap something, or leave the frame, at the places that are chosen for them, by the ids of their stops. */
export function crowdedLabels({ labels }: LabelScene, chosen: readonly number[], { alone, pairs }: LabelCosts): string[] {
  const everyone = labels.map((_, i) => i)
  return labels.flatMap(({ stop }, i) => {
    const beside = neighboursOf(i, everyone, pairs)
    const overlaps = alone[i]![chosen[i]!]! >= OVERLAP || beside.some(({ label, cost }) => cost(chosen[i]!, chosen[label]!) > 0)
    return overlaps ? [stop] : []
  })
}

/** The cost of a choice of places. */
export function costOf(chosen: readonly number[], { alone, pairs }: LabelCosts): number {
  let cost = chosen.reduce((sum, c, i) => sum + alone[i]![c]!, 0)
  for (const [key, table] of pairs) {
    const [i, j] = key.split(' ').map(Number) as [number, number]
    cost += table[chosen[i]!]![chosen[j]!]!
  }
  return cost
}

export function labelCosts({ frame, labels, samples }: LabelScene): LabelCosts {
  const boxes = labels.map((label, i) => samples.map((sample) => placed(label, sample, i)))
  const whole = Math.max(1e-9, ...samples.map(({ to }) => to))
  const weights = samples.map(({ from, to }) => (to - from) / whole)
  const alone = labels.map((label, i) => {
    const sums = label.candidates.map(() => 0)
    samples.forEach((sample, s) => {
      const own = boxes[i]![s]
      if (!own) return
      const all = unionOf(own)
      const near = sample.lines.map((line) => nearPart(line, all)).filter(({ shares }) => shares.length > 0)
      own.forEach((box, c) => (sums[c]! += weights[s]! * inTheWay(box, i, label, sample, near, frame)))
    })
    return label.candidates.map(({ cost }, c) => cost + sumCost(sums[c]!))
  })
  const pairs = new Map<string, number[][]>()
  for (let i = 0; i < labels.length; i++) {
    for (let j = i + 1; j < labels.length; j++) {
      const table = pairCosts(boxes[i]!, boxes[j]!, labels[i]!.candidates.length, labels[j]!.candidates.length, weights)
      if (table) pairs.set(pairKey(i, j), table)
    }
  }
  return { alone, pairs }
}

const sumCost = (overlap: number): number => (overlap > 0 ? OVERLAP * (1 + overlap) : 0)

/** A label's boxes in the frame in a sample, by candidate; undefined while it is not seen. */
function placed({ appears, candidates }: SceneLabel, { to, places }: SceneSample, i: number): Box[] | undefined {
  const place = places[i]
  if (!place || appears >= to) return undefined
  const { x, y, scale: k } = place
  return candidates.map(({ box }) => movedBox({ left: k * box.left, right: k * box.right, top: k * box.top, bottom: k * box.bottom }, x, y))
}

/** How much is in the way of a label's box in a sample: shares of it that are covered, added up. */
function inTheWay(box: Box, i: number, { appears }: SceneLabel, sample: SceneSample, lines: readonly NearLine[], frame: Size): number {
  const area = areaOf(box)
  const inner = { left: MARGIN, right: frame.width - MARGIN, top: MARGIN, bottom: frame.height - MARGIN }
  let sum = Math.max(0, 1 - (overlapArea(box, inner) + TOUCH) / area)
  for (const { box: other, own, to } of sample.obstacles) if (own !== i && to > appears) sum += covered(overlapArea(box, other), area)
  const width = box.right - box.left
  for (const line of lines) {
    const drawn = line.ink > 0 ? shareAt(line, sample.to) : 0
    if (drawn > 0) sum += lineInside(box, line, 0, drawn, around(line.ink)) / width
    const [from, to] = [shareAt(line, Math.max(sample.from, appears)), shareAt(line, sample.to)]
    const rests = to >= 1 && Math.max(sample.from, appears) <= line.arrive
    if (line.vehicle && (to > from || rests)) sum += lineInside(box, line, Math.min(from, to - 1e-3), to, line.vehicle) / width
  }
  return sum
}

const covered = (overlap: number, area: number): number => (overlap > TOUCH ? overlap / area : 0)

/** The share of a line's way that is behind its traveller, taken as even. */
const shareAt = ({ depart, arrive }: Pick<SceneLine, 'depart' | 'arrive'>, time: number): number =>
  arrive > depart ? clamp((time - depart) / (arrive - depart), 0, 1) : time >= arrive ? 1 : 0

const around = (reach: number): Box => ({ left: -reach, right: reach, top: -reach, bottom: reach })

/** The part of a line that can be in the way of what lies in a box: points of each of its pieces, four numbers each, and the shares of the way at both ends. */
interface NearLine extends Omit<SceneLine, 'points' | 'shares'> {
  pieces: number[]
  shares: number[]
}

function nearPart({ points, shares, ...line }: SceneLine, box: Box): NearLine {
  const cover = line.vehicle ? unionOf([around(line.ink), line.vehicle]) : around(line.ink)
  const { left, right, top, bottom } = widened(box, cover)
  const near: NearLine = { ...line, pieces: [], shares: [] }
  for (let k = 1; k < shares.length; k++) {
    const ax = points[2 * k - 2]!
    const ay = points[2 * k - 1]!
    const bx = points[2 * k]!
    const by = points[2 * k + 1]!
    if ((ax < left && bx < left) || (ax > right && bx > right) || (ay < top && by < top) || (ay > bottom && by > bottom)) continue
    near.pieces.push(ax, ay, bx, by)
    near.shares.push(shares[k - 1]!, shares[k]!)
  }
  return near
}

/** The places at which something that covers a box about itself overlaps another box. */
const widened = (box: Box, cover: Box): Box => ({
  left: box.left - cover.right,
  right: box.right - cover.left,
  top: box.top - cover.bottom,
  bottom: box.bottom - cover.top,
})

/** The length of a line between two shares of its way on which what covers something about each of its points overlaps a box. */
function lineInside(box: Box, { pieces, shares }: NearLine, from: number, to: number, cover: Box): number {
  const wide = widened(box, cover)
  let sum = 0
  for (let k = 0; k < shares.length; k += 2) {
    const start = shares[k]!
    const end = shares[k + 1]!
    if (end < from || start > to || end <= start) continue
    const u = Math.max(0, (from - start) / (end - start))
    const v = Math.min(1, (to - start) / (end - start))
    const ax = pieces[2 * k]!
    const ay = pieces[2 * k + 1]!
    const dx = pieces[2 * k + 2]! - ax
    const dy = pieces[2 * k + 3]! - ay
    sum += lengthInside(wide, ax + dx * u, ay + dy * u, ax + dx * v, ay + dy * v)
  }
  return sum
}

/** The costs of two labels' places together; undefined where they are never in each other's way. */
function pairCosts(
  first: (Box[] | undefined)[],
  second: (Box[] | undefined)[],
  candidates: number,
  others: number,
  weights: number[],
): number[][] | undefined {
  let isAny = false
  const table = Array.from({ length: candidates }, () => Array<number>(others).fill(0))
  first.forEach((boxes, s) => {
    const their = second[s]
    if (!boxes || !their || overlapArea(unionOf(boxes), unionOf(their)) <= TOUCH) return
    for (let c = 0; c < candidates; c++) {
      for (let d = 0; d < others; d++) {
        const overlap = overlapArea(boxes[c]!, their[d]!)
        if (overlap <= TOUCH) continue
        isAny = true
        table[c]![d]! += weights[s]! * (overlap / Math.min(areaOf(boxes[c]!), areaOf(their[d]!)))
      }
    }
  })
  return isAny ? table.map((row) => row.map(sumCost)) : undefined
}

/** Labels that can be in each other's way, directly or through others. */
function groupsOf(count: number, { pairs }: LabelCosts): number[][] {
  const group = Array.from({ length: count }, (_, i) => i)
  const find = (i: number): number => (group[i] === i ? i : (group[i] = find(group[i]!)))
  for (const key of pairs.keys()) {
    const [i, j] = key.split(' ').map(Number) as [number, number]
    group[find(i)] = find(j)
  }
  const found = new Map<number, number[]>()
  for (let i = 0; i < count; i++) found.set(find(i), [...(found.get(find(i)) ?? []), i])
  return [...found.values()]
}

/** Another label that can be in the way of one, and the cost of a place of each. */
interface Neighbour {
  label: number
  cost: (own: number, its: number) => number
}

function neighboursOf(i: number, group: readonly number[], pairs: LabelCosts['pairs']): Neighbour[] {
  return group.flatMap((j): Neighbour[] => {
    const table = pairs.get(i < j ? pairKey(i, j) : pairKey(j, i))
    if (!table) return []
    return [{ label: j, cost: i < j ? (own, its) => table[own]![its]! : (own, its) => table[its]![own]! }]
  })
}

/** Chooses the places of a group: by a local search, whose result is then bettered by branch and bound. Writes them into `chosen`. */
function solve(group: readonly number[], { alone, pairs }: LabelCosts, chosen: number[]): void {
  const neighbours = new Map(group.map((i) => [i, neighboursOf(i, group, pairs)]))
  const costAt = (i: number, c: number, others: readonly Neighbour[], choice: readonly number[]): number =>
    others.reduce((sum, { label, cost }) => sum + cost(c, choice[label]!), alone[i]![c]!)
  const total = (choice: readonly number[]): number =>
    group.reduce((sum, i) => sum + costAt(i, choice[i]!, neighbours.get(i)!.filter(({ label }) => label > i), choice), 0) // prettier-ignore

  // Each label in turn takes the place that is best by the others, until nothing changes.
  const best = [...chosen]
  for (const i of group) best[i] = leastOf(alone[i]!)
  for (let round = 0, hasChanged = true; hasChanged && round < 50; round++) {
    hasChanged = false
    for (const i of group) {
      const costs = alone[i]!.map((_, c) => costAt(i, c, neighbours.get(i)!, best))
      const to = leastOf(costs)
      if (costs[to]! < costs[best[i]!]! - EQUAL) {
        best[i] = to
        hasChanged = true
      }
    }
  }
  let bound = total(best)
  if (total(chosen) < bound) {
    for (const i of group) best[i] = chosen[i]!
    bound = total(best)
  }

  // Those with the most in their way come first; what the others cost at least is known beforehand.
  const order = [...group].sort((a, b) => neighbours.get(b)!.length - neighbours.get(a)!.length || a - b)
  const rank = new Map(order.map((i, k) => [i, k]))
  const before = order.map((i, k) => neighbours.get(i)!.filter(({ label }) => rank.get(label)! < k))
  const rest = [...order.map((i) => Math.min(...alone[i]!)), 0]
  for (let k = order.length - 1; k >= 0; k--) rest[k]! += rest[k + 1]!
  const trial = [...best]
  let steps = 0
  const descend = (k: number, cost: number): void => {
    if (k === order.length) {
      if (cost < bound - EQUAL) {
        bound = cost
        for (const i of group) best[i] = trial[i]!
      }
      return
    }
    const i = order[k]!
    const added = alone[i]!.map((_, c) => ({ c, more: costAt(i, c, before[k]!, trial) }))
    for (const { c, more } of added.sort((a, b) => a.more - b.more)) {
      if (cost + more + rest[k + 1]! >= bound - EQUAL || ++steps > MOST_STEPS) return
      trial[i] = c
      descend(k + 1, cost + more)
    }
  }
  descend(0, 0)
  for (const i of group) chosen[i] = best[i]!
}

const leastOf = (values: readonly number[]): number => values.reduce((best, value, i) => (value < values[best]! ? i : best), 0)
