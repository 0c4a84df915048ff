import { append } from '../geometry/extremes'
import path from 'ngraph.path'
import type { Point } from '../geometry/point'
import { distance } from '../geometry/point'
import type { Journey, NetworkCourse } from '../journey/schema'
import type { NetworkGraph, OnEdge } from './graph'
import { networkGraph, edgesNear } from './graph'

/**
 * The best way over a mode's networks between two ground points, by way of some spots: x and y in turn, from the nearest spot of a line to the
 * nearest. Undefined if there are no such lines, none near the ends, or none that lead there.
 *
 * This stands in for a routing service with the roads of the whole world: it knows only the lines in the journey, and nothing about traffic,
 * one-way streets or turns. Source of the search: P. Hart, N. Nilsson and B. Raphael, A formal basis for the heuristic determination of
 * minimum cost paths (1968); package ngraph.path.
 */
export function routeOver(
  networks: Journey['networks'],
  { mode, by, vias }: Pick<NetworkCourse, 'mode' | 'by' | 'vias'>,
  a: Point,
  b: Point,
): Float64Array | undefined {
  const network = networkGraph(networks, mode)
  if (!network) return undefined
  const spots = [a, ...vias, b].map((p) => spotsNear(network, p))
  const reach = REACH * distance(a, b)
  if (spots[0]![0]!.off > reach || spots.at(-1)![0]!.off > reach) return undefined
  const line: Point[] = [a]
  for (let i = 1; i < spots.length; i++) {
    const part = between(network, spots[i - 1]!, spots[i]!, by)
    if (!part) return undefined
    append(line, part)
  }
  line.push(b)
  const distinct = line.filter((p, i) => i === 0 || i === line.length - 1 || distance(p, line[i - 1]!) > 1e-6)
  return Float64Array.from(distinct.flatMap(({ x, y }) => [x, y]))
}

/** Ends further from the lines than this share of the distance between them are not on the network. */
const REACH = 0.3

/** Names of the two nodes that are added to the graph during a search. */
const START = 'start'
const END = 'end'

/** Spots of edges that lie no further apart than this, in gu, are one spot, as where lines meet. */
const ONE_SPOT = 0.01

/** The nearest spot of a network, on all the edges that have it. */
function spotsNear(network: NetworkGraph, p: Point): OnEdge[] {
  const near = edgesNear(network, p)
  return near.filter(({ at }) => distance(at, near[0]!.at) < ONE_SPOT)
}

function between(
  { graph, fastest }: NetworkGraph,
  from: readonly OnEdge[],
  to: readonly OnEdge[],
  by: NetworkCourse['by'],
): Point[] | undefined {
  const enter = (name: string, spots: readonly OnEdge[]) => {
    graph.addNode(name, spots[0]!.at)
    for (const { edge, at } of spots) {
      graph.addLink(name, edge.from, { length: distance(at, edge.a), speed: edge.speed })
      graph.addLink(name, edge.to, { length: distance(at, edge.b), speed: edge.speed })
    }
  }
  enter(START, from)
  enter(END, to)
  const both = from.find(({ edge }) => to.some((other) => other.edge === edge))
  if (both) graph.addLink(START, END, { length: distance(from[0]!.at, to[0]!.at), speed: both.edge.speed })
  try {
    const found = path
      .aStar(graph, {
        oriented: false,
        distance: (_a, _b, { data }) => (by === 'time' ? data.length / data.speed : data.length),
        heuristic: (p, q) => distance(p.data, q.data) / (by === 'time' ? fastest : 1),
      })
      .find(START, END)
    return found.length > 0 ? found.reverse().map((node) => node.data) : undefined
  } finally {
    graph.removeNode(START)
    graph.removeNode(END)
  }
}
