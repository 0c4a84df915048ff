import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { centred, resampled, smoothedLine } from '#core/follow/centre-line'
import type { PictureSource } from '#core/follow/picture'
import { followRoad } from '#core/follow/follow-road'
import { leastCostPath } from '#core/follow/least-cost'
import { hexOf, rgbOf } from '#core/colour/srgb'
import type { Rgb } from '#core/colour/srgb'
import { colourDistance, okLab } from '#core/colour/oklab'
import { pooledCost } from '#core/follow/raster'
import { tiledSource } from '#core/follow/tiled-source'
import { courseOf, pointAt } from '#core/geometry/course'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import { TILE } from '#core/sheet/pyramid'
import { land, picture, quiet } from '../support/roads'

/** Distance from a polyline. */
const distanceTo = (line: readonly Point[]) => (x: number, y: number) => {
  let best = Infinity
  for (let i = 1; i < line.length; i++) {
    const [a, b] = [line[i - 1]!, line[i]!]
    const u = Math.min(1, Math.max(0, ((x - a.x) * (b.x - a.x) + (y - a.y) * (b.y - a.y)) / distance(a, b) ** 2))
    best = Math.min(best, Math.hypot(x - a.x - (b.x - a.x) * u, y - a.y - (b.y - a.y) * u))
  }
  return best
}

/** The same for every pixel near the line, up to 9 px; further off it is 99. */
function fieldOf(width: number, height: number, line: readonly Point[]) {
  const field = new Float32Array(width * height).fill(99)
  for (const { x, y } of resampled(line, 0.5))
    for (let j = Math.max(0, Math.floor(y - 9)); j < Math.min(height, y + 9); j++)
      for (let i = Math.max(0, Math.floor(x - 9)); i < Math.min(width, x + 9); i++)
        field[j * width + i] = Math.min(field[j * width + i]!, Math.sqrt((i + 0.5 - x) ** 2 + (j + 0.5 - y) ** 2))
  return (x: number, y: number) => field[Math.floor(y) * width + Math.floor(x)]!
}

const winding = (width: number) =>
  Array.from({ length: 60 }, (_, i) => ({ x: 40 + ((width - 80) * i) / 59, y: 300 + 160 * Math.sin(i / 6) + 30 * Math.sin(i / 2.3) }))

const colourOff = (a: Rgb, b: Rgb) => colourDistance(okLab(a), okLab(b))

describe('a road seen in a picture', () => {
  const line = winding(900)
  const toRoad = distanceTo(line)
  const near = fieldOf(900, 600, line)
  const [start, end] = [line[0]!, line.at(-1)!]

  it.each([
    ['by its colour', rgbOf('#faf0d6'), 4],
    ['found by itself', null, 4],
    ['three pixels wide', rgbOf('#faf0d6'), 1.5],
  ])('is followed within half its width: %s', async (_name, colour, halfWidth) => {
    const found = await followRoad(picture(900, 600, land(near, halfWidth)), { through: [start, end], colour }, quiet)
    if (!found.found) throw new Error(found.reason)
    const course = courseOf(found.course)
    let worst = 0
    for (let s = 0; s <= course.length; s += 1) {
      const p = pointAt(course, s)
      worst = Math.max(worst, toRoad(p.x, p.y))
    }
    expect(worst).toBeLessThan(halfWidth)
    expect(found.onRoad).toBeGreaterThan(0.97)
    expect(found.course[0]![0]).toEqual(start)
    expect(found.course.at(-1)![3]).toEqual(end)
    expect(Math.abs(found.width - 2 * halfWidth)).toBeLessThanOrEqual(2)
  })

  it('is found on a coarser level of a large picture, and its middle on the finer ones', { timeout: 30_000 }, async () => {
    const far = line.map(({ x, y }) => ({ x: 3 * x, y: 3 * y }))
    const toFar = distanceTo(far)
    const shade = land(fieldOf(2700, 1800, far), 5)
    const levels: number[] = []
    const source = picture(2700, 1800, shade)
    const watched: PictureSource = { ...source, read: (level, rect) => (levels.push(level), source.read(level, rect)) }
    const found = await followRoad(watched, { through: [far[0]!, far.at(-1)!], colour: rgbOf('#faf0d6') }, quiet)
    if (!found.found) throw new Error(found.reason)
    expect(levels[0]).toBe(1)
    expect(levels).toContain(0)
    const course = courseOf(found.course)
    for (let s = 0; s <= course.length; s += 3) expect(toFar(pointAt(course, s).x, pointAt(course, s).y)).toBeLessThan(5)
  })

  it('keeps to the road that is clicked where two lead there', async () => {
    const upper = [
      { x: 50, y: 300 },
      { x: 300, y: 120 },
      { x: 550, y: 300 },
    ]
    const lower = [
      { x: 50, y: 300 },
      { x: 300, y: 510 },
      { x: 550, y: 300 },
    ]
    const [toUpper, toLower] = [fieldOf(600, 600, upper), fieldOf(600, 600, lower)]
    const source = picture(
      600,
      600,
      land((x, y) => Math.min(toUpper(x, y), toLower(x, y)), 3),
    )
    const way = async (through: Point[]) => {
      const found = await followRoad(source, { through, colour: null }, quiet)
      if (!found.found) throw new Error(found.reason)
      return pointAt(courseOf(found.course), courseOf(found.course).length / 2)
    }
    expect((await way([upper[0]!, upper[2]!])).y).toBeLessThan(200)
    expect((await way([upper[0]!, lower[1]!, upper[2]!])).y).toBeGreaterThan(400)
  })

  it('goes on under a name written over it, but not over a wide gap', async () => {
    const broken = (gap: number) =>
      picture(
        900,
        600,
        land((x, y) => (Math.abs(x - 450) < gap / 2 ? 99 : near(x, y)), 4),
      )
    const request = { through: [start, end], colour: rgbOf('#faf0d6') }
    expect((await followRoad(broken(40), request, quiet)).found).toBe(true)
    const lost = await followRoad(broken(260), request, quiet)
    if (lost.found) throw new Error('a way was found where there is none')
    expect(lost.reason).toMatch(/lost for \d+ px/)
    expect(Math.abs(lost.at!.x - 450)).toBeLessThan(130)
  })

  /** A street along y = 300 from one side to the other, with streets that meet it at every 150 px. */
  const STREETS = [150, 300, 450, 600, 750]
  const JOINTS: Record<string, (x: number, y: number) => number> = {
    crossings: (x) => Math.min(...STREETS.map((at) => Math.abs(x - at))),
    'T-joints': (x, y) => Math.min(...STREETS.map((at, i) => ((i % 2 === 0) === y < 300 ? Math.abs(x - at) : Math.hypot(x - at, y - 300)))),
    'slanted crossings': (x, y) => Math.min(...STREETS.map((at) => Math.abs(x - at - 0.8 * (y - 300)) / Math.hypot(1, 0.8))),
  }
  it.each(Object.keys(JOINTS).flatMap((joint) => [4, 12, 18].map((width) => [joint, width] as const)))(
    'goes straight on over %s of streets %i px wide',
    async (joint, width) => {
      const toStreet = (x: number, y: number) => Math.min(Math.abs(y - 300), JOINTS[joint]!(x, y))
      const through = [{ x: 40, y: 300 }, { x: 860, y: 300 }] // prettier-ignore
      const found = await followRoad(picture(900, 600, land(toStreet, width / 2)), { through, colour: rgbOf('#faf0d6') }, quiet)
      if (!found.found) throw new Error(found.reason)
      const course = courseOf(found.course)
      let worst = 0
      for (let s = 0; s <= course.length; s++) worst = Math.max(worst, Math.abs(pointAt(course, s).y - 300))
      expect(worst).toBeLessThan(1.5)
      expect([found.gap, found.direct]).toEqual([0, null])
    },
  )

  it('goes round a roundabout, and straight before and after it', async () => {
    const toStreet = (x: number, y: number) => {
      const from = Math.hypot(x - 450, y - 300)
      return Math.min(from > 30 ? Math.min(Math.abs(y - 300), Math.abs(x - 450)) : 99, Math.abs(from - 30))
    }
    const found = await followRoad(picture(900, 600, land(toStreet, 4)), { through: [{ x: 40, y: 300 }, { x: 860, y: 300 }], colour: rgbOf('#faf0d6') }, quiet) // prettier-ignore
    if (!found.found) throw new Error(found.reason)
    const course = courseOf(found.course)
    for (let s = 0; s <= course.length; s++) {
      const p = pointAt(course, s)
      if (Math.abs(p.x - 450) > 45) expect(Math.abs(p.y - 300)).toBeLessThan(1.5)
      // Half of the road's width is 4.
      expect(toStreet(p.x, p.y)).toBeLessThan(4.1)
    }
  })

  it('says where no road is seen, and offers a more direct way beside a long way round', async () => {
    const near40 = (x: number, y: number) => (Math.abs(x - 450) < 20 ? 99 : near(x, y))
    const bridged = await followRoad(picture(900, 600, land(near40, 4)), { through: [start, end], colour: rgbOf('#faf0d6') }, quiet)
    if (!bridged.found) throw new Error(bridged.reason)
    // The road climbs where it is hidden: 40 px across are some more along it.
    expect(bridged.gap).toBeGreaterThan(36)
    expect(bridged.gap).toBeLessThan(80)
    // A straight road with a piece missing, round which another leads.
    const straight = distanceTo([{ x: 50, y: 300 }, { x: 850, y: 300 }]) // prettier-ignore
    const round = distanceTo([{ x: 60, y: 300 }, { x: 60, y: 40 }, { x: 840, y: 40 }, { x: 840, y: 300 }]) // prettier-ignore
    const shade = land((x, y) => Math.min(Math.abs(x - 450) < 120 ? 99 : straight(x, y), round(x, y)), 4)
    const found = await followRoad(picture(900, 600, shade), { through: [{ x: 50, y: 300 }, { x: 850, y: 300 }], colour: rgbOf('#faf0d6') }, quiet) // prettier-ignore
    if (!found.found) throw new Error(found.reason)
    expect(found.detour).toBeGreaterThan(1.5)
    expect(courseOf(found.direct!.course).length).toBeLessThan(850)
    // Of 800 px there is no road over 240.
    expect(found.direct!.onRoad).toBeGreaterThan(0.6)
    expect(found.direct!.onRoad).toBeLessThan(0.8)
  })

  it('is bridged straight where it is dashed', async () => {
    // Dashes of 22 px with gaps of 14, along x; the road winds little enough for that to be about its length.
    const straight = Array.from({ length: 200 }, (_, i) => ({ x: 40 + 4 * i, y: 300 + 40 * Math.sin(i / 30) }))
    const [field, exact] = [fieldOf(900, 600, straight), distanceTo(straight)]
    const dashed = picture(
      900,
      600,
      land((x, y) => (x % 36 < 22 ? field(x, y) : 99), 5),
    )
    const found = await followRoad(dashed, { through: [straight[0]!, straight.at(-1)!], colour: rgbOf('#faf0d6') }, quiet)
    if (!found.found) throw new Error(found.reason)
    const course = courseOf(found.course)
    let worst = 0
    for (let s = 30; s <= course.length - 30; s += 1) {
      const p = pointAt(course, s)
      worst = Math.max(worst, exact(p.x, p.y))
    }
    // Half of the road's width is 5.
    expect(worst).toBeLessThan(2)
    // No detours: as long as the road itself.
    expect(course.length / courseOf(straight.slice(1).map((b, i) => [straight[i]!, straight[i]!, b, b] as const)).length).toBeLessThan(1.01)
  })

  it('comes out from under the dots of the towns at its ends', async () => {
    const base = land(near, 4)
    const dotted = picture(900, 600, (x, y) => {
      const off = Math.min(Math.hypot(x - start.x, y - start.y), Math.hypot(x - end.x, y - end.y))
      return off < 15 ? [190, 40, 40] : off < 19 ? [20, 20, 24] : base(x, y)
    })
    const found = await followRoad(dotted, { through: [start, end], colour: null }, quiet)
    if (!found.found) throw new Error(found.reason)
    expect(colourOff(found.colour, rgbOf('#faf0d6'))).toBeLessThan(0.06)
    const course = courseOf(found.course)
    for (let s = 40; s <= course.length - 40; s += 2) expect(toRoad(pointAt(course, s).x, pointAt(course, s).y)).toBeLessThan(4)
  })

  it('is joined slantwise from a spot beside it', async () => {
    const level = [
      { x: 20, y: 300 },
      { x: 880, y: 300 },
    ]
    const source = picture(900, 600, land(fieldOf(900, 600, level), 5))
    const found = await followRoad(source, { through: [{ x: 200, y: 318 }, { x: 700, y: 300 }], colour: rgbOf('#faf0d6') }, quiet) // prettier-ignore
    if (!found.found) throw new Error(found.reason)
    const course = courseOf(found.course)
    const direction = (s: number) => {
      const [a, b] = [pointAt(course, s), pointAt(course, s + 6)]
      return (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI
    }
    // Neither straight at the road nor back and round: always forwards, at no more than 60 degrees to it.
    for (let s = 0; s < 120; s += 3) expect(Math.abs(direction(s))).toBeLessThan(60)
  })

  it('is not made up where there is none', async () => {
    const source = picture(
      600,
      400,
      land(() => 99, 4),
    )
    const spots = [
      { x: 60, y: 200 },
      { x: 540, y: 210 },
    ]
    for (const colour of [null, rgbOf('#faf0d6')]) {
      const outcome = await followRoad(source, { through: spots, colour }, quiet)
      // Of the ground’s own colour, which is everywhere, there is a way; of a road’s there is none.
      if (colour) expect(outcome.found).toBe(false)
    }
  })

  it('tells how far it has come', async () => {
    const shares: number[] = []
    await followRoad(picture(900, 600, land(near, 4)), { through: [start, end], colour: null }, (share) => shares.push(share))
    expect(shares).toEqual([...shares].sort((a, b) => a - b))
    expect(shares.at(-1)).toBe(1)
  })
})

describe('the least-cost path', () => {
  it('is as cheap as the cheapest of all, and takes neighbouring cells only', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 30, maxLength: 30 }), (costs) => {
        const cost = Uint8Array.from(costs)
        cost[0] = cost[29] = 1
        const path = leastCostPath({ width: 6, height: 5, cost }, 0, 29)
        const least = bellmanFord(6, 5, cost)
        if (!path) {
          expect(least).toBe(Infinity)
          return
        }
        let total = 0
        path.slice(1).forEach((cell, i) => {
          const [dx, dy] = [Math.abs((cell % 6) - (path[i]! % 6)), Math.abs(Math.floor(cell / 6) - Math.floor(path[i]! / 6))]
          expect(Math.max(dx, dy)).toBe(1)
          total += ((cost[cell]! + cost[path[i]!]!) / 2) * Math.hypot(dx, dy)
        })
        expect(total).toBeCloseTo(least, 6)
      }),
    )
  })

  /** The same by relaxing every step as often as there are cells. */
  function bellmanFord(width: number, height: number, cost: Uint8Array): number {
    const reached = Array.from({ length: width * height }, () => Infinity)
    reached[0] = 0
    for (let round = 0; round < width * height; round++)
      for (let a = 0; a < width * height; a++)
        for (let b = 0; b < width * height; b++) {
          const [dx, dy] = [(a % width) - (b % width), Math.floor(a / width) - Math.floor(b / width)]
          if (a === b || Math.abs(dx) > 1 || Math.abs(dy) > 1 || cost[a] === 0 || cost[b] === 0) continue
          reached[b] = Math.min(reached[b]!, reached[a]! + ((cost[a]! + cost[b]!) / 2) * Math.hypot(dx, dy))
        }
    return reached.at(-1)!
  }

  it('is undefined where nothing leads there', () => {
    expect(leastCostPath({ width: 3, height: 1, cost: Uint8Array.of(1, 0, 1) }, 0, 2)).toBeUndefined()
  })
})

describe('the parts of road following', () => {
  it('sees colours as OKLab does: white, and the primaries of CSS Color 4 (values from memory)', () => {
    const [l, a, b] = okLab([255, 255, 255])
    expect(l).toBeCloseTo(1, 3)
    expect(Math.hypot(a, b)).toBeLessThan(1e-3)
    const red = okLab([255, 0, 0])
    expect(red[0]).toBeCloseTo(0.628, 3)
    expect(red[1]).toBeCloseTo(0.2249, 3)
    expect(red[2]).toBeCloseTo(0.1258, 3)
    expect(hexOf(rgbOf('#0a90ff'))).toBe('#0a90ff')
  })

  it('pools costs by the cheapest, and leaves out what is not to be entered', () => {
    const cost = Uint8Array.of(9, 8, 0, 0, 7, 0, 0, 0, 3, 3, 0, 4)
    expect([...pooledCost({ x: 0, y: 0, width: 4, height: 3, cost, likeness: cost }, 2).cost]).toEqual([7, 0, 3, 4])
  })

  it('keeps the ends of a line, whatever is done to it', () => {
    const line = [
      { x: 0, y: 0 },
      { x: 10, y: 3 },
      { x: 30, y: -8 },
    ]
    for (const points of [resampled(line, 1), smoothedLine(resampled(line, 1), 4), centred(resampled(line, 1), () => 255, 3)]) {
      expect(points[0]).toEqual(line[0])
      expect(points.at(-1)!.x).toBeCloseTo(30, 9)
      expect(points.at(-1)!.y).toBeCloseTo(-8, 9)
    }
  })

  it('puts a line into the middle of what is like the road', () => {
    const line = Array.from({ length: 41 }, (_, i) => ({ x: i, y: 2 }))
    const moved = centred(line, (_x, y) => (Math.abs(y - 3.5) <= 2 ? 255 : 0), 5)
    for (const { y } of moved.slice(1, -1)) expect(Math.abs(y - 3.5)).toBeLessThan(0.35)
  })

  it('reads a picture out of its tiles, across their borders', async () => {
    const size = { width: 700, height: 600 }
    const source = tiledSource(size, async ({ column, row }) => {
      const [width, height] = [Math.min(TILE, 700 - column * TILE), Math.min(TILE, 600 - row * TILE)]
      if (column === 1 && row === 1) return undefined
      const pixels = new Uint8ClampedArray(width * height * 4)
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) pixels.set([(x + column * TILE) % 256, (y + row * TILE) % 256, column, 255], (y * width + x) * 4)
      return pixels
    })
    const { rgba } = await source.read(0, { x: 500, y: 505, width: 30, height: 20 })
    const at = (x: number, y: number) => [...rgba.subarray(((y - 505) * 30 + x - 500) * 4, ((y - 505) * 30 + x - 500) * 4 + 4)]
    expect(at(503, 507)).toEqual([503 % 256, 507 % 256, 0, 255])
    expect(at(520, 507)).toEqual([520 % 256, 507 % 256, 1, 255])
    expect(at(503, 520)).toEqual([503 % 256, 520 % 256, 0, 255])
    expect(at(520, 520)).toEqual([0, 0, 0, 0])
  })
})
