import FlatQueue from 'flatqueue'

/** A grid of the costs of entering each cell, row by row; cells of cost 0 cannot be entered. */
export interface CostGrid {
  width: number
  height: number
  cost: Uint8Array
}

/**
 * The cheapest path between two cells over their eight neighbours, as indexes of cells from start to end; undefined if there is none. A step costs the
 * mean of the two cells times its length. Source: E. W. Dijkstra, A note on two problems in connexion with graphs (1959).
 */
export function leastCostPath({ width, height, cost }: CostGrid, start: number, end: number): number[] | undefined {
  const reached = new Float64Array(width * height).fill(Infinity)
  const from = new Int32Array(width * height).fill(-1)
  const settled = new Uint8Array(width * height)
  const queue = new FlatQueue<number>()
  reached[start] = 0
  queue.push(start, 0)
  while (queue.length > 0) {
    const at = queue.pop()!
    if (at === end) return backFrom(end, from)
    if (settled[at]) continue
    settled[at] = 1
    const x = at % width
    const y = (at - x) / width
    for (let dy = -1; dy <= 1; dy++) {
      if (y + dy < 0 || y + dy >= height) continue
      for (let dx = -1; dx <= 1; dx++) {
        if ((dx === 0 && dy === 0) || x + dx < 0 || x + dx >= width) continue
        const next = at + dy * width + dx
        if (settled[next] || cost[next] === 0) continue
        const step = (cost[at]! + cost[next]!) * (dx !== 0 && dy !== 0 ? Math.SQRT1_2 : 0.5)
        const total = reached[at]! + step
        if (total >= reached[next]!) continue
        reached[next] = total
        from[next] = at
        queue.push(next, total)
      }
    }
  }
  return undefined
}

function backFrom(end: number, from: Int32Array): number[] {
  const path: number[] = []
  for (let at = end; at !== -1; at = from[at]!) path.push(at)
  return path.reverse()
}
