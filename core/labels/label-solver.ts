import Flatbush from 'flatbush'
import type { Box } from '../geometry/box'
import { areaOf, lengthInside, movedBox, overlapArea, scaledBox, unionOf } from '../geometry/box'
import type { Size } from '../geometry/size'
import { clamp } from '../geometry/clamp'
import type { Segment } from '../geometry/segment'
import { doCross } from '../geometry/segment'
import { isSafe, isWhole, leaderTo, movedIn } from '../marks/label-layout'

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
  /** What a line that leads to it begins at, in letters of which size; null where none may. */
  leads: { pin: Box; size: number } | null
  /** What it covers at each of its possible places, from its stop, and how far it may be moved there to stay in the frame; the preferred ones have a lower `cost`, up to 1. */
  candidates: { box: Box; play: Box; cost: number }[]
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

/** A part of a course that is in the frame: points, x and y in turn, and the share of the way up to each. */
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

/** What a label costs that is not seen while its stop is, as it would be cut by the frame, if that is so all the time: more than any overlap. */
const GONE = 5000

/** What a label costs that is at the frame's edge all the time: more than any preference, and less than any overlap. */
const EDGE = 20

/** A line that leads to a label and crosses another one counts as much as so great a share of a label that is covered. */
const CROSSING = 0.3

/** What only touches does not overlap. */
const TOUCH = 1

/** A label is in nobody's way that is covered by no more than this, as a share of it on average while its stop is seen: something brushes by it. */
const BRUSHED = 0.01

/** No more costs are added up in the exact search for labels that are in each other's way; then the best that was found is kept. */
const MOST_SUMS = 4_000_000

/** Costs that differ by less are the same. */
const EQUAL = 1e-9

/** The costs of all places of a scene's labels. */
export interface LabelCosts {
  /** By label and candidate; and whether something that is not a label is in the way there, or it is hardly ever seen. */
  alone: number[][]
  isCrowded: boolean[][]
  /** By two labels, the first before the second; only of those that can be in each other's way. */
  pairs: Map<string, PairTable>
}

/** The costs of two labels' places together, by the candidate of the first times `width`, and that of the second. */
interface PairTable {
  width: number
  costs: Float64Array
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

/** The labels that overlap something, or are out of the frame most of the time, at the places that are chosen for them, by the ids of their stops. */
export function crowdedLabels({ labels }: LabelScene, chosen: readonly number[], { isCrowded, pairs }: LabelCosts): string[] {
  const everyone = labels.map((_, i) => i)
  return labels.flatMap(({ stop }, i) => {
    const beside = neighboursOf(i, everyone, pairs)
    const overlaps = isCrowded[i]![chosen[i]!]! || beside.some(({ label, cost }) => cost(chosen[i]!, chosen[label]!) > 0)
    return overlaps ? [stop] : []
  })
}

/** The cost of a choice of places. */
export function costOf(chosen: readonly number[], { alone, pairs }: LabelCosts): number {
  let cost = chosen.reduce((sum, c, i) => sum + alone[i]![c]!, 0)
  for (const [key, table] of pairs) {
    const [i, j] = key.split(' ').map(Number) as [number, number]
    cost += table.costs[chosen[i]! * table.width + chosen[j]!]!
  }
  return cost
}

/** Time is looked at sample by sample, so that only the costs are kept. */
export function labelCosts({ frame, labels, samples }: LabelScene): LabelCosts {
  const whole = Math.max(1e-9, samples.at(-1)?.to ?? 0)
  const table = () => labels.map(({ candidates }) => new Float64Array(candidates.length))
  const [overlaps, gone, atEdge] = [table(), table(), table()]
  /** For how long the stop of each label is seen. */
  const seen = new Float64Array(labels.length)
  const pairs = new Map<string, PairTable>()
  for (const sample of samples) {
    const weight = (sample.to - sample.from) / whole
    const placed = labels.flatMap((label, i) => placedIn(sample, label, i, frame) ?? [])
    const lines = piecesOf(sample.lines)
    for (const { i, boxes, leaders, isGone, isAtEdge, all } of placed) {
      seen[i]! += weight
      const { appears } = labels[i]!
      const near = sample.obstacles.filter(({ box, own, to }) => own !== i && to > appears && overlapArea(box, all) > TOUCH)
      boxes.forEach((box, c) => {
        if (isAtEdge[c]) atEdge[i]![c]! += weight
        if (isGone[c]) gone[i]![c]! += weight
        else overlaps[i]![c]! += weight * (inTheWay(box, near, lines, sample, appears) + ledThrough(leaders[c], near))
      })
    }
    addPairs(pairs, placed, weight)
  }
  for (const { costs } of pairs.values()) costs.forEach((overlap, k) => (costs[k] = sumCost(overlap)))
  const isHardlySeen = (i: number, c: number) => gone[i]![c]! > 0.5 * seen[i]!
  return {
    alone: labels.map(({ candidates }, i) =>
      candidates.map(({ cost }, c) => cost + sumCost(overlaps[i]![c]!) + GONE * gone[i]![c]! + EDGE * atEdge[i]![c]!),
    ),
    isCrowded: labels.map(({ candidates }, i) => candidates.map((_, c) => overlaps[i]![c]! > BRUSHED * seen[i]! || isHardlySeen(i, c))),
    pairs,
  }
}

const sumCost = (overlap: number): number => (overlap > 0 ? OVERLAP * (1 + overlap) : 0)

/**
 * A label whose stop is seen in a sample: what it covers at each of its places, the line that leads to it there, both together, all of that, and where it is
 * gone, as it would be cut.
 */
interface PlacedLabel {
  i: number
  boxes: Box[]
  leaders: (Segment | null)[]
  reaches: Box[]
  isGone: boolean[]
  /** Where it is too near the frame's edge. */
  isAtEdge: boolean[]
  all: Box
}

function placedIn(
  { to, places }: SceneSample,
  { appears, leads, candidates }: SceneLabel,
  i: number,
  frame: Size,
): PlacedLabel | undefined {
  const place = places[i]
  if (!place || appears >= to) return undefined
  const { x, y, scale: k } = place
  const boxes = candidates.map(({ box, play }) => {
    const now = movedBox(scaledBox(box, k), x, y)
    const by = movedIn(now, scaledBox(play, k), frame)
    return movedBox(now, by.x, by.y)
  })
  const pin = leads && movedBox(scaledBox(leads.pin, k), x, y)
  const leaders = boxes.map((box) => pin && leaderTo(box, pin, k * leads.size))
  const reaches = boxes.map((box, c) => (leaders[c] ? unionOf([box, boxAround(leaders[c])]) : box))
  const isGone = boxes.map((box) => !isWhole(box, frame))
  return { i, boxes, leaders, reaches, isGone, isAtEdge: boxes.map((box) => !isSafe(box, frame)), all: unionOf(reaches) }
}

const boxAround = ({ from, to }: Segment): Box => ({
  left: Math.min(from.x, to.x),
  right: Math.max(from.x, to.x),
  top: Math.min(from.y, to.y),
  bottom: Math.max(from.y, to.y),
})

/** How much of what is in the way of a label the line that leads to it runs through: shares of its length, added up. */
function ledThrough(leader: Segment | null | undefined, obstacles: SceneSample['obstacles']): number {
  if (!leader) return 0
  let sum = 0
  for (const { box } of obstacles) sum += shareInside(box, leader)
  return sum
}

/** The share of a segment that lies in a box. */
function shareInside(box: Box, { from, to }: Segment): number {
  const inside = lengthInside(box, from.x, from.y, to.x, to.y)
  return inside > TOUCH ? inside / Math.hypot(to.x - from.x, to.y - from.y) : 0
}

/** How much is in the way of a label's box in a sample: shares of it that are covered, added up. */
function inTheWay(box: Box, obstacles: SceneSample['obstacles'], lines: Pieces, sample: SceneSample, appears: number): number {
  const area = areaOf(box)
  let sum = 0
  for (const { box: other } of obstacles) sum += covered(overlapArea(box, other), area)
  return sum + lines.inside(box, sample, appears) / (box.right - box.left)
}

const covered = (overlap: number, area: number): number => (overlap > TOUCH ? overlap / area : 0)

/** The share of a line's way that is behind its traveller, taken as even. */
const shareAt = ({ depart, arrive }: Pick<SceneLine, 'depart' | 'arrive'>, time: number): number =>
  arrive > depart ? clamp((time - depart) / (arrive - depart), 0, 1) : time >= arrive ? 1 : 0

const around = (reach: number): Box => ({ left: -reach, right: reach, top: -reach, bottom: reach })

/** The pieces of all lines of a sample. */
interface Pieces {
  /** The length of what covers something of a box: of lines that are drawn, and of the ways of vehicles meanwhile, from when the label appears. */
  inside(box: Box, sample: SceneSample, appears: number): number
}

function piecesOf(lines: readonly SceneLine[]): Pieces {
  const count = lines.reduce((sum, { shares }) => sum + Math.max(0, shares.length - 1), 0)
  if (count === 0) return { inside: () => 0 }
  const index = new Flatbush(count, 16, Float32Array)
  const owner = new Uint32Array(count)
  const number = new Uint32Array(count)
  let n = 0
  lines.forEach(({ points, shares, ink, vehicle }, line) => {
    const { left, right, top, bottom } = vehicle ? unionOf([around(ink), vehicle]) : around(ink)
    for (let k = 1; k < shares.length; k++) {
      const [ax, ay, bx, by] = [points[2 * k - 2]!, points[2 * k - 1]!, points[2 * k]!, points[2 * k + 1]!]
      index.add(Math.min(ax, bx) + left, Math.min(ay, by) + top, Math.max(ax, bx) + right, Math.max(ay, by) + bottom)
      owner[n] = line
      number[n++] = k
    }
  })
  index.finish()
  return {
    inside(box, sample, appears) {
      let sum = 0
      for (const piece of index.search(box.left, box.top, box.right, box.bottom)) {
        const line = lines[owner[piece]!]!
        const { ink, vehicle, arrive } = line
        const drawn = ink > 0 ? shareAt(line, sample.to) : 0
        if (drawn > 0) sum += lengthOfPiece(box, line, number[piece]!, 0, drawn, around(ink))
        if (!vehicle) continue
        const since = Math.max(sample.from, appears)
        const [from, to] = [shareAt(line, since), shareAt(line, sample.to)]
        const rests = to >= 1 && since <= arrive
        if (to > from || rests) sum += lengthOfPiece(box, line, number[piece]!, Math.min(from, to - 1e-3), to, vehicle)
      }
      return sum
    },
  }
}

/** The length of a piece of a line between two shares of its way on which what covers something about each of its points overlaps a box. */
function lengthOfPiece(box: Box, { points, shares }: SceneLine, k: number, from: number, to: number, cover: Box): number {
  const [start, end] = [shares[k - 1]!, shares[k]!]
  if (end < from || start > to || end <= start) return 0
  const u = Math.max(0, (from - start) / (end - start))
  const v = Math.min(1, (to - start) / (end - start))
  const [ax, ay] = [points[2 * k - 2]!, points[2 * k - 1]!]
  const [dx, dy] = [points[2 * k]! - ax, points[2 * k + 1]! - ay]
  return lengthInside(widened(box, cover), ax + dx * u, ay + dy * u, ax + dx * v, ay + dy * v)
}

/** The places at which something that covers a box about itself overlaps another box. */
const widened = (box: Box, cover: Box): Box => ({
  left: box.left - cover.right,
  right: box.right - cover.left,
  top: box.top - cover.bottom,
  bottom: box.bottom - cover.top,
})

/** How far two labels are in each other's way: what of the smaller one is covered, and of the lines that lead to them. */
function mutual(box: Box, leader: Segment | null, their: Box, theirLeader: Segment | null): number {
  const overlap = overlapArea(box, their)
  let sum = overlap > TOUCH ? overlap / Math.min(areaOf(box), areaOf(their)) : 0
  if (leader) sum += shareInside(their, leader)
  if (theirLeader) sum += shareInside(box, theirLeader)
  if (leader && theirLeader && doCross(leader, theirLeader)) sum += CROSSING
  return sum
}

/** Adds how far labels overlap each other in a sample, place by place, to the tables of each two. */
function addPairs(pairs: Map<string, PairTable>, placed: readonly PlacedLabel[], weight: number): void {
  // From left to right, so that each is compared only with those that begin before it ends; a label of a lower number comes first in a pair.
  const sorted = [...placed].sort((a, b) => a.all.left - b.all.left)
  sorted.forEach((one, at) => {
    for (let next = at + 1; next < sorted.length && sorted[next]!.all.left < one.all.right; next++) {
      const other = sorted[next]!
      if (overlapArea(one.all, other.all) <= TOUCH) continue
      const [first, second] = one.i < other.i ? [one, other] : [other, one]
      const key = pairKey(first.i, second.i)
      let table = pairs.get(key)
      const theirs = second.reaches.flatMap((reach, d) => (second.isGone[d] || overlapArea(reach, first.all) <= TOUCH ? [] : [d]))
      first.reaches.forEach((reach, c) => {
        if (first.isGone[c] || overlapArea(reach, second.all) <= TOUCH) return
        for (const d of theirs) {
          if (overlapArea(reach, second.reaches[d]!) <= TOUCH) continue
          const overlap = mutual(first.boxes[c]!, first.leaders[c]!, second.boxes[d]!, second.leaders[d]!)
          if (overlap === 0) continue
          if (!table)
            pairs.set(key, (table = { width: second.boxes.length, costs: new Float64Array(first.boxes.length * second.boxes.length) }))
          table.costs[c * table.width + d]! += weight * overlap
        }
      })
    }
  })
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
    const { width, costs } = table
    return [{ label: j, cost: i < j ? (own, its) => costs[own * width + its]! : (own, its) => costs[its * width + own]! }]
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
  const rest = [...order.map((i) => alone[i]![leastOf(alone[i]!)]!), 0]
  for (let k = order.length - 1; k >= 0; k--) rest[k]! += rest[k + 1]!
  const trial = [...best]
  let sums = 0
  const descend = (k: number, cost: number): void => {
    if (k === order.length) {
      if (cost < bound - EQUAL) {
        bound = cost
        for (const i of group) best[i] = trial[i]!
      }
      return
    }
    const i = order[k]!
    sums += alone[i]!.length * (1 + before[k]!.length)
    if (sums > MOST_SUMS) return
    const added = alone[i]!.map((_, c) => ({ c, more: costAt(i, c, before[k]!, trial) }))
    for (const { c, more } of added.sort((a, b) => a.more - b.more)) {
      if (cost + more + rest[k + 1]! >= bound - EQUAL || sums > MOST_SUMS) return
      trial[i] = c
      descend(k + 1, cost + more)
    }
  }
  descend(0, 0)
  for (const i of group) chosen[i] = best[i]!
}

const leastOf = (values: readonly number[]): number => values.reduce((best, value, i) => (value < values[best]! ? i : best), 0)
