import { remembered } from '../remembered'
import Flatbush from 'flatbush'
import type { Graph } from 'ngraph.graph'
import createGraph from 'ngraph.graph'
import type { Point } from '../geometry/point'
import { distance, mix, nearestShare } from '../geometry/point'
import type { Journey, Network, NetworkMode } from '../journey/schema'
import { readPoints } from '../journey/track-line'

/** A straight edge of a line of a network, between two nodes of the graph. */
interface Edge {
  from: number
  to: number
  a: Point
  b: Point
  /** km/h */
  speed: number
}

interface EdgeData {
  /** Ground units. */
  length: number
  /** km/h */
  speed: number
}

/** The lines of a mode's networks as a graph. Lines meet where they share a point, and where one ends on or just beside another. */
export interface NetworkGraph {
  graph: Graph<Point, EdgeData>
  edges: Edge[]
  index: Flatbush
  /** The greatest speed of all, in km/h. */
  fastest: number
}

/** A line that ends this close to another one, in gu, is connected to it. */
const REACH = 4

/** The number of candidate edges when searching the nearest: their boxes may be closer than they are. */
const LOOKED_AT = 32

const graphsOf = remembered((networks: Journey['networks']) => {
  const known = new Map<NetworkMode, NetworkGraph | undefined>()
  return (mode: NetworkMode) => {
    if (!known.has(mode)) known.set(mode, build(networks, mode))
    return known.get(mode)
  }
})

/** The graph of a mode's networks, made once; undefined where there are no lines. */
export const networkGraph = (networks: Journey['networks'], mode: NetworkMode): NetworkGraph | undefined => graphsOf(networks)(mode)

function build(networks: Journey['networks'], mode: NetworkMode): NetworkGraph | undefined {
  const lines = networks.filter((network) => network.mode === mode).flatMap((network) => network.lines)
  const drawn = lines.flatMap(({ points: text, speed }) => {
    const points = pointsOf(text)
    return points.slice(1).map((b, i): Edge => ({ a: points[i]!, b, speed, from: 0, to: 0 }))
  })
  if (drawn.length === 0) return undefined
  const graph = createGraph<Point, EdgeData>()
  const ids = new Map<string, number>()
  const nodeAt = (p: Point): number => {
    const key = `${p.x.toFixed(2)},${p.y.toFixed(2)}`
    const id = ids.get(key) ?? ids.size
    if (!ids.has(key)) {
      ids.set(key, id)
      graph.addNode(id, p)
    }
    return id
  }
  const { meetings, joints } = meetingsOf(lines, drawn)
  const edges = drawn.flatMap((edge, i) => {
    const along = [edge.a, ...(meetings.get(i) ?? []).sort((p, q) => distance(edge.a, p) - distance(edge.a, q)), edge.b]
    return along.slice(1).flatMap((b, k): Edge[] => {
      const [from, to] = [nodeAt(along[k]!), nodeAt(b)]
      return from === to ? [] : [{ from, to, a: along[k]!, b, speed: edge.speed }]
    })
  })
  if (edges.length === 0) return undefined
  for (const { from, to, a, b, speed } of edges) graph.addLink(from, to, { length: distance(a, b), speed })
  for (const { a, b, speed } of joints) if (nodeAt(a) !== nodeAt(b)) graph.addLink(nodeAt(a), nodeAt(b), { length: distance(a, b), speed })
  return { graph, edges, index: indexOf(edges), fastest: edges.reduce((most, { speed }) => Math.max(most, speed), 0) }
}

function pointsOf(text: string): Point[] {
  const xy = readPoints(text)
  return Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }))
}

function indexOf(edges: readonly Edge[]): Flatbush {
  const index = new Flatbush(edges.length)
  for (const { a, b } of edges) index.add(Math.min(a.x, b.x), Math.min(a.y, b.y), Math.max(a.x, b.x), Math.max(a.y, b.y))
  index.finish()
  return index
}

/** Where lines end on edges of others, by the index of the edge, and the joints that connect them. */
function meetingsOf(lines: Network['lines'], edges: readonly Edge[]) {
  const index = indexOf(edges)
  const meetings = new Map<number, Point[]>()
  const joints: { a: Point; b: Point; speed: number }[] = []
  for (const { points: text, speed } of lines) {
    const points = pointsOf(text)
    for (const end of [points[0]!, points.at(-1)!]) {
      for (const i of index.search(end.x - REACH, end.y - REACH, end.x + REACH, end.y + REACH)) {
        const { at, off } = spotOn(edges[i]!, end)
        if (off > REACH) continue
        meetings.set(i, [...(meetings.get(i) ?? []), at])
        joints.push({ a: end, b: at, speed })
      }
    }
  }
  return { meetings, joints }
}

/** A spot of a edge, and its distance from the query, in gu. */
export interface OnEdge {
  edge: Edge
  at: Point
  off: number
}

/** The nearest spot of each edge near a point, the closest first. */
export function edgesNear({ edges, index }: NetworkGraph, p: Point): OnEdge[] {
  return index
    .neighbors(p.x, p.y, LOOKED_AT)
    .map((i) => spotOn(edges[i]!, p))
    .sort((a, b) => a.off - b.off)
}

function spotOn(edge: Edge, p: Point): OnEdge {
  const { a, b } = edge
  const at = mix(a, b, nearestShare(p.x - a.x, p.y - a.y, b.x - a.x, b.y - a.y))
  return { edge, at, off: distance(at, p) }
}
