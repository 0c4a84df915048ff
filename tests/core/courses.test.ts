import { Bezier } from 'bezier-js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { courseOf, pointAt } from '#core/geometry/course'
import type { Cubic } from '#core/geometry/cubic'
import { cubicPoint, splitCubic } from '#core/geometry/cubic'
import { fitStroke } from '#core/geometry/fit-stroke'
import { nearestOnChain } from '#core/geometry/nearest'
import type { Point } from '#core/geometry/point'
import { distance } from '#core/geometry/point'
import * as edits from '#core/edits/lines/courses'
import { editLeg } from '#core/edits/lines/legs'
import { legEnds } from '#core/journey/lookup'
import { breakAt, joinBreaks } from '#core/edits/lines/breaks'
import { parseJourney } from '#core/journey/parse'
import type { CourseShape, DrawnCourse, Journey } from '#core/journey/schema'
import { insertStop, removeStop, reverseTrip } from '#core/edits/trips/trips'
import { demo, journeyOver } from '../support/journeys'

const coordinate = fc.double({ min: -500, max: 500, noNaN: true })
const point = fc.record({ x: coordinate, y: coordinate })
const cubic = fc.tuple(point, point, point, point) as fc.Arbitrary<Cubic>
const inside = fc.double({ min: 0.02, max: 0.98, noNaN: true })

/** A journey of one leg from 0, 0 to 900, 0 with the given course. */
const withCourse = (course: CourseShape) =>
  journeyOver(
    [
      [0, 0],
      [900, 0],
    ],
    { course },
  )
const node = (x: number, y: number, handles = 0, kind: 'corner' | 'smooth' | 'symmetric' = handles ? 'smooth' : 'corner') => ({
  at: { x, y },
  kind,
  before: { x: 0 - handles, y: 0 },
  after: { x: handles, y: 0 },
})
const DRAWN: DrawnCourse = {
  kind: 'drawn',
  leave: { x: 90, y: -40 },
  nodes: [node(300, 200, 80), node(600, -150), node(750, 90, 40, 'symmetric')],
  arrive: { x: -30, y: 60 },
}
const courseOfLeg = (journey: Journey, id: string) => {
  for (const leg of compile(journey, NO_PLACES).travellers[0]!.legs) if (leg.leg.id === id) return leg.course
  throw new Error('no such leg')
}
const drawn = (journey: Journey, id = 'l1') => journey.travellers[0]!.legs.find((leg) => leg.id === id)!.course as DrawnCourse

/** The largest distance of some points from a chain. */
const deviation = (points: readonly Point[], cubics: readonly Cubic[]) => Math.max(...points.map((p) => nearestOnChain(cubics, p).distance))

describe('cubics', () => {
  it('are split into two that are the same curve: against bezier-js', () => {
    fc.assert(
      fc.property(cubic, inside, (curve, u) => {
        const [before, after] = splitCubic(curve, u)
        const reference = new Bezier(curve.map(({ x, y }) => ({ x, y }))).split(u)
        const expected = [...reference.left.points, ...reference.right.points]
        ;[...before, ...after].forEach((p, i) => expect(distance(p, expected[i]!)).toBeLessThan(1e-9))
        for (const v of [0.25, 0.5, 0.75]) {
          expect(distance(cubicPoint(before, v), cubicPoint(curve, u * v))).toBeLessThan(1e-9)
          expect(distance(cubicPoint(after, v), cubicPoint(curve, u + (1 - u) * v))).toBeLessThan(1e-9)
        }
      }),
    )
  })

  it('have their nearest spot found as bezier-js finds it, or nearer', () => {
    fc.assert(
      fc.property(cubic, point, (curve, p) => {
        const found = nearestOnChain([curve], p)
        const reference = new Bezier(curve.map(({ x, y }) => ({ x, y }))).project(p)
        expect(found.distance).toBeLessThanOrEqual(distance(reference, p) + 0.5)
        expect(distance(cubicPoint(curve, found.u), found.at)).toBeLessThan(1e-9)
      }),
    )
  })
})

describe('a stroke drawn by hand', () => {
  /** A hand that trembles by up to `noise`, the same each time. */
  const trembling = (f: (u: number) => Point, count: number, noise: number) =>
    Array.from({ length: count }, (_, i) => {
      const { x, y } = f(i / (count - 1))
      return { x: x + noise * Math.sin(i * 12.9898), y: y + noise * Math.cos(i * 78.233) }
    })
  const circle = (u: number) => ({ x: 300 * Math.cos(6 * u), y: 300 * Math.sin(6 * u) })
  const spiral = (u: number) => ({ x: (40 + 260 * u) * Math.cos(14 * u), y: (40 + 260 * u) * Math.sin(14 * u) })
  const zigzag = (u: number) => ({ x: 800 * u, y: 120 * Math.abs(((6 * u) % 2) - 1) })

  it.each([
    ['a circle', circle, 14],
    ['a spiral', spiral, 26],
    ['a zigzag', zigzag, 20],
  ] as const)('is fitted within its tolerance with few nodes, though it trembles: %s', (_what, f, most) => {
    const tolerance = 3
    const points = trembling(f, 400, 1.2)
    const cubics = fitStroke(points, tolerance)
    // The fit keeps to the points it was given, of which some are left out as too near to each other.
    expect(deviation(points, cubics)).toBeLessThan(tolerance * 1.5)
    expect(cubics.length).toBeLessThanOrEqual(most)
    expect(cubics[0]![0]).toEqual(points[0])
    expect(cubics.at(-1)![3]).toEqual(points.at(-1))
    for (let i = 1; i < cubics.length; i++) expect(cubics[i]![0]).toEqual(cubics[i - 1]![3])
  })

  it('keeps its sharp corners', () => {
    const cubics = fitStroke(trembling(zigzag, 400, 0.5), 3)
    for (const x of [133, 267, 400, 533, 667]) expect(Math.min(...cubics.map(([a]) => Math.abs(a.x - x)))).toBeLessThan(12)
  })

  it('becomes the course of a leg from stop to stop, whatever it began and ended at', () => {
    const stroke = trembling((u) => ({ x: 40 + 820 * u, y: 200 * Math.sin(3 * u) }), 200, 1)
    const journey = edits.drawStroke(withCourse({ kind: 'straight' }), 'l1', stroke, 3)
    const cubics = edits.legCubics(journey, 'l1')
    expect(cubics[0]![0]).toEqual({ x: 0, y: 0 })
    expect(cubics.at(-1)![3]).toEqual({ x: 900, y: 0 })
    expect(deviation(stroke, cubics)).toBeLessThan(6)
    expect(() => parseJourney(JSON.parse(JSON.stringify(journey)))).not.toThrow()
  })

  it('redraws a part, whichever way it was drawn, and leaves the rest exactly', () => {
    const journey = withCourse(DRAWN)
    const cubics = edits.legCubics(journey, 'l1')
    const [from, to] = [
      { segment: 1, u: 0.5 },
      { segment: 2, u: 0.5 },
    ].map(({ segment, u }) => ({ segment, u, at: cubicPoint(cubics[segment]!, u), distance: 0 }))
    const stroke = Array.from({ length: 50 }, (_, i) => ({
      x: from!.at.x + ((to!.at.x - from!.at.x) * i) / 49,
      y: from!.at.y + ((to!.at.y - from!.at.y) * i) / 49 + 80 * Math.sin((Math.PI * i) / 49),
    }))
    for (const [points, a, b] of [
      [stroke, from!, to!],
      [[...stroke].reverse(), to!, from!],
    ] as const) {
      const redrawn = edits.legCubics(edits.redrawPart(journey, 'l1', points, a, b, 2), 'l1')
      expect(deviation(stroke, redrawn)).toBeLessThan(4)
      for (const u of [0.1, 0.3, 0.49]) expect(nearestOnChain(redrawn, cubicPoint(cubics[1]!, u)).distance).toBeLessThan(0.01)
      for (const u of [0.2, 0.8]) expect(nearestOnChain(redrawn, cubicPoint(cubics[3]!, u)).distance).toBeLessThan(0.01)
    }
  })
})

describe('nodes', () => {
  it('are put on a course that keeps its shape and its length', () => {
    const shapes: CourseShape[] = [{ kind: 'straight' }, { kind: 'bowed', bow: 0.4 }, DRAWN]
    fc.assert(
      fc.property(fc.constantFrom(...shapes), fc.nat(3), inside, (shape, segment, u) => {
        const journey = withCourse(shape)
        const before = edits.legCubics(journey, 'l1')
        const after = edits.insertNode(journey, 'l1', { segment: segment % before.length, u })
        expect(drawn(after).nodes).toHaveLength(before.length)
        const course = courseOf(before)
        const points = Array.from({ length: 60 }, (_, i) => pointAt(course, (course.length * i) / 59))
        expect(deviation(points, edits.legCubics(after, 'l1'))).toBeLessThan(0.05)
        expect(courseOfLeg(after, 'l1').length).toBeCloseTo(course.length, 1)
      }),
    )
  })

  it('are moved together with their handles, and taken away', () => {
    const moved = drawn(edits.moveNodes(withCourse(DRAWN), 'l1', new Set([0, 2]), { x: 5, y: -7 }))
    expect(moved.nodes.map(({ at }) => at)).toEqual([
      { x: 305, y: 193 },
      { x: 600, y: -150 },
      { x: 755, y: 83 },
    ])
    expect(moved.nodes[0]!.after).toEqual(DRAWN.nodes[0]!.after)
    expect(drawn(edits.removeNodes(withCourse(DRAWN), 'l1', new Set([0, 1]))).nodes).toEqual([DRAWN.nodes[2]])
  })

  it('hold their handles as their kind says', () => {
    const pull = (i: number, side: 'before' | 'after', to: Point) =>
      drawn(edits.pullHandle(withCourse(DRAWN), 'l1', { of: side, node: i }, to)).nodes[i]!
    const smooth = pull(0, 'after', { x: 0, y: 100 })
    expect(smooth.before.x).toBeCloseTo(0, 9)
    expect(smooth.before.y).toBeCloseTo(-80, 9)
    expect(pull(1, 'after', { x: 30, y: 40 })).toMatchObject({ before: { x: 0, y: 0 }, after: { x: 30, y: 40 } })
    const symmetric = pull(2, 'before', { x: 0, y: 25 })
    expect(symmetric.after.y).toBeCloseTo(-25, 9)
  })

  it('become corners, smooth or symmetric, with handles made where there were none', () => {
    const as = (kind: 'corner' | 'smooth' | 'symmetric') => drawn(edits.setNodeKind(withCourse(DRAWN), 'l1', new Set([1]), kind)).nodes[1]!
    expect(as('corner')).toEqual({ ...DRAWN.nodes[1]!, kind: 'corner' })
    const smooth = as('smooth')
    const cross = smooth.before.x * smooth.after.y - smooth.before.y * smooth.after.x
    expect(Math.abs(cross)).toBeLessThan(1e-6)
    expect(smooth.before.x * smooth.after.x + smooth.before.y * smooth.after.y).toBeLessThan(0)
    const { before, after } = as('symmetric')
    expect(Math.hypot(before.x, before.y)).toBeCloseTo(Math.hypot(after.x, after.y), 9)
  })

  it('follow when the line between them is pulled: it passes through where it was pulled to', () => {
    fc.assert(
      fc.property(fc.nat(3), fc.double({ min: 0.1, max: 0.9, noNaN: true }), point, (segment, u, by) => {
        const corners: DrawnCourse = { ...DRAWN, nodes: DRAWN.nodes.map((n) => ({ ...n, kind: 'corner' as const })) }
        const journey = withCourse(corners)
        const from = cubicPoint(edits.legCubics(journey, 'l1')[segment]!, u)
        const pulled = cubicPoint(edits.legCubics(edits.pullSegment(journey, 'l1', { segment, u }, by), 'l1')[segment]!, u)
        expect(distance(pulled, { x: from.x + by.x, y: from.y + by.y })).toBeLessThan(1e-6)
      }),
    )
  })
})

describe('corners', () => {
  const angular: DrawnCourse = {
    kind: 'drawn',
    leave: { x: 0, y: 0 },
    nodes: [node(300, 0), node(300, 300), node(900, 300)],
    arrive: { x: 0, y: 0 },
  }

  it('so sharp that a vehicle would spin are found, and rounded by an arc of the radius', () => {
    const journey = withCourse(angular)
    expect(edits.sharpCorners(edits.legCubics(journey, 'l1'))).toEqual([0, 1, 2])
    const rounded = edits.roundCorners(journey, 'l1', 60)
    const cubics = edits.legCubics(rounded, 'l1')
    expect(edits.sharpCorners(cubics)).toEqual([])
    // The fillet's middle lies (√2 - 1) radii from the corner, on its bisector: plane geometry.
    const middle = { x: 300 - 60 * (1 - Math.SQRT1_2), y: 60 * (1 - Math.SQRT1_2) }
    expect(nearestOnChain(cubics, middle).distance).toBeLessThan(0.1)
    expect(nearestOnChain(cubics, { x: 150, y: 0 }).distance).toBeLessThan(1e-6)
  })

  it('too near to each other for the radius take what there is', () => {
    const rounded = edits.roundCorners(withCourse(angular), 'l1', 5000)
    expect(edits.legCubics(rounded, 'l1').every((curve) => curve.every(({ x, y }) => Number.isFinite(x) && Number.isFinite(y)))).toBe(true)
    expect(edits.sharpCorners(edits.legCubics(rounded, 'l1'))).toEqual([])
  })

  it('are not found on smooth courses', () =>
    expect(edits.sharpCorners(edits.legCubics(withCourse({ kind: 'bowed', bow: 0.5 }), 'l1'))).toEqual([]))
})

describe('a break', () => {
  const whole = withCourse(DRAWN)
  const broken = breakAt(whole, 'l1', new Set([0]), 40)
  const course = courseOfLeg(broken, 'l1')
  const spots = (journey: Journey, id = 'l1') =>
    edits.legCubics(journey, id).flatMap((curve) => Array.from({ length: 20 }, (_, i) => cubicPoint(curve, i / 19)))

  it('is cut out round a node; the rest of the line stays as it was, and the traveller is at once on its other side', () => {
    expect(drawn(broken).nodes.map((node) => node.break ?? false)).toEqual([true, false, false, false])
    expect(deviation(spots(broken), edits.legCubics(whole, 'l1'))).toBeLessThan(1e-3)
    const [end, start] = drawn(broken).nodes
    for (const { at } of [end!, start!]) expect(distance(at, { x: 300, y: 200 })).toBeCloseTo(20, 3)
    expect(courseOfLeg(whole, 'l1').length - course.length).toBeCloseTo(40, 0)
    const [first] = course.breaks
    const s = course.lengths[first!]!
    expect(distance(pointAt(course, s - 0.01), end!.at)).toBeLessThan(0.02)
    expect(distance(pointAt(course, s + 0.01), start!.at)).toBeLessThan(0.02)
  })

  it('takes the place of the line between two nodes', () => {
    const apart = breakAt(whole, 'l1', new Set([0, 1]), 40)
    expect(drawn(apart).nodes.map((node) => [node.at.x, node.break ?? false])).toEqual([
      [300, true],
      [600, false],
      [750, false],
    ])
    const cubics = edits.legCubics(apart, 'l1')
    expect(cubics).toHaveLength(3)
    expect(cubics.map((_, segment) => edits.nodeBefore(drawn(apart), segment))).toEqual([-1, 1, 2])
  })

  it('is joined by a bend that goes on as both ends do, or by taking one of them away', () => {
    const joined = joinBreaks(broken, 'l1', new Set([1]))
    expect(courseOfLeg(joined, 'l1').breaks).toEqual([])
    expect(edits.sharpCorners(edits.legCubics(joined, 'l1')).length).toBe(edits.sharpCorners(edits.legCubics(whole, 'l1')).length)
    expect(deviation(spots(joined), edits.legCubics(whole, 'l1'))).toBeLessThan(3)
    for (const end of [0, 1]) expect(courseOfLeg(edits.removeNodes(broken, 'l1', new Set([end])), 'l1').breaks).toEqual([])
  })

  it('stays when the course is split, reversed, smoothed, or given a node', () => {
    const gapOf = (journey: Journey, id = 'l1') => {
      const [cut] = courseOfLeg(journey, id).breaks
      const { points } = courseOfLeg(journey, id)
      return [0, 1].map((k) => ({ x: points[2 * (cut! + k)]!, y: points[2 * (cut! + k) + 1]! }))
    }
    const gap = gapOf(broken)
    const expectSame = (found: readonly Point[], expected = gap) =>
      found.forEach((p, i) => expect(distance(p, expected[i]!)).toBeLessThan(1e-6))
    const late = { x: 700, y: -100 }
    expectSame(gapOf(insertStop(broken, 'l1', late, { stop: 'new', leg: 'second' })))
    const early = insertStop(broken, 'l1', { x: 60, y: 0 }, { stop: 'new', leg: 'second' })
    expectSame(gapOf(early, 'second'))
    expectSame(gapOf(removeStop(early, 'new', 'traveller')))
    expectSame(gapOf(reverseTrip(broken, 'traveller')), [...gap].reverse())
    expect(reverseTrip(reverseTrip(broken, 'traveller'), 'traveller')).toEqual(broken)
    expectSame(gapOf(edits.insertNode(broken, 'l1', { segment: 2, u: 0.5 })))
    expectSame(gapOf(edits.roundCorners(broken, 'l1', 20)))
    expectSame(gapOf(edits.setSmoothing(broken, 'l1', 10)))
  })

  it('does not move the nodes when it is smoothed, and is as it was when smoothing goes', () => {
    const journey = withCourse(DRAWN)
    const smooth = edits.setSmoothing(journey, 'l1', 40)
    expect(drawn(smooth).nodes).toEqual(drawn(journey).nodes)
    expect(edits.nodeCubics(smooth, 'l1')).toEqual(edits.nodeCubics(journey, 'l1'))
    expect(courseOfLeg(smooth, 'l1').length).not.toBeCloseTo(courseOfLeg(journey, 'l1').length, 0)
    expect(edits.setSmoothing(smooth, 'l1', 0)).toEqual(journey)
    // What is cut in two looks as it did.
    const cut = insertStop(smooth, 'l1', cubicPoint(edits.legCubics(smooth, 'l1')[0]!, 0.5), { stop: 'new', leg: 'second' })
    expect(courseOfLeg(cut, 'l1').length + courseOfLeg(cut, 'second').length).toBeCloseTo(courseOfLeg(smooth, 'l1').length, 0)
    // Nodes are edited under it.
    expect(drawn(edits.moveNodes(smooth, 'l1', new Set([0]), { x: 5, y: 5 })).smoothing).toBe(40)
    expect(drawn(edits.insertNode(smooth, 'l1', { segment: 0, u: 0.5 })).smoothing).toBe(40)
  })

  it('moves when the line beside it is pulled, and only there', () => {
    const pulled = edits.pullSegment(broken, 'l1', { segment: 1, u: 0.5 }, { x: 0, y: 50 })
    const [before, after] = [edits.legCubics(broken, 'l1'), edits.legCubics(pulled, 'l1')]
    expect(cubicPoint(after[1]!, 0.5).y - cubicPoint(before[1]!, 0.5).y).toBeCloseTo(50, 6)
    expect(after.filter((_, i) => i !== 1).map(([a, , , d]) => [a, d])).toEqual(
      before.filter((_, i) => i !== 1).map(([a, , , d]) => [a, d]),
    )
    expect(after[0]).toEqual(before[0])
  })

  it('after the last node, in a file, is refused: the line must end at its stop', () => {
    const wrong = { ...DRAWN, nodes: DRAWN.nodes.map((n, i) => (i === 2 ? { ...n, break: true } : n)) }
    expect(() => parseJourney(JSON.parse(JSON.stringify(withCourse(wrong))))).toThrow(/break after the last node/)
  })
})

describe('the trip', () => {
  it('takes a stop into a leg, whose course is split there exactly, and gives it back when the stop goes', () => {
    fc.assert(
      fc.property(fc.constantFrom<CourseShape>({ kind: 'bowed', bow: -0.3 }, DRAWN), fc.nat(3), inside, (shape, segment, u) => {
        const journey = editLeg(withCourse(shape), 'l1', { travel: 6 })
        const cubics = edits.legCubics(journey, 'l1')
        const course = courseOf(cubics)
        const near = cubicPoint(cubics[segment % cubics.length]!, u)
        const split = insertStop(journey, 'l1', near, { stop: 'new', leg: 'second' })
        const both = [...edits.legCubics(split, 'l1'), ...edits.legCubics(split, 'second')]
        const points = cubics.flatMap((curve) => Array.from({ length: 20 }, (_, i) => cubicPoint(curve, i / 19)))
        expect(deviation(points, both)).toBeLessThan(0.01)
        expect(courseOfLeg(split, 'l1').length + courseOfLeg(split, 'second').length).toBeCloseTo(course.length, 1)
        const [a, b] = split.travellers[0]!.legs
        expect(a!.travel! + b!.travel!).toBeCloseTo(6, 0)
        const again = removeStop(split, 'new', 'traveller')
        expect(deviation(points, edits.legCubics(again, 'l1'))).toBeLessThan(0.05)
        expect(again.travellers[0]!.legs).toHaveLength(1)
        expect(again.travellers[0]!.legs[0]!.travel).toBeCloseTo(6, 0)
        expect(() => parseJourney(JSON.parse(JSON.stringify(split)))).not.toThrow()
      }),
    )
  })

  it('keeps straight legs straight', () => {
    const split = insertStop(withCourse({ kind: 'straight' }), 'l1', { x: 450, y: 0 }, { stop: 'new', leg: 'second' })
    expect(split.travellers[0]!.legs.map((leg) => leg.course.kind)).toEqual(['straight', 'straight'])
    expect(removeStop(split, 'new', 'traveller').travellers[0]!.legs[0]!.course).toEqual({ kind: 'straight' })
  })

  it('is turned round along the same courses, and back to the very journey', () => {
    const journey = demo()
    const reversed = reverseTrip(journey, 'traveller')
    expect(reversed.travellers[0]!.visits.map((visit) => visit.stop)).toEqual(
      journey.travellers[0]!.visits.map((visit) => visit.stop).reverse(),
    )
    for (const { id } of journey.travellers[0]!.legs) {
      const [there, back] = [courseOfLeg(journey, id), courseOfLeg(reversed, id)]
      expect(back.length).toBeCloseTo(there.length, 2)
      for (const u of [0, 0.3, 0.7, 1])
        expect(distance(pointAt(back, back.length * (1 - u)), pointAt(there, there.length * u))).toBeLessThan(0.5)
    }
    const twice = reverseTrip(reversed, 'traveller')
    for (const { id } of journey.travellers[0]!.legs) expect(courseOfLeg(twice, id).length).toBeCloseTo(courseOfLeg(journey, id).length, 6)
  })

  it('does not break where a curve is pulled at its very end, or by next to nothing', () => {
    for (const [u, by] of [
      [5e-324, { x: 40, y: 0 }],
      [0.5, { x: 5e-324, y: 0 }],
      [1, { x: 0, y: 7 }],
    ] as const) {
      const pulled = edits.pullSegment(edits.makeDrawn(withCourse(DRAWN), 'l1'), 'l1', { segment: 1, u }, by)
      const smooth = edits.setNodeKind(pulled, 'l1', new Set([0, 1, 2]), 'symmetric')
      const places = edits.legCubics(smooth, 'l1').flat()
      expect(places.every(({ x, y }) => Math.hypot(x, y) < 1e5)).toBe(true)
    }
  })

  it('keeps a valid journey without a broken number, whatever is done to its courses and in whatever order', () => {
    const edit = fc.oneof(
      fc.tuple(fc.nat(4), inside).map(
        ([segment, u]) =>
          (j: Journey, id: string) =>
            edits.insertNode(j, id, { segment, u }),
      ),
      fc.nat(6).map((i) => (j: Journey, id: string) => edits.removeNodes(j, id, new Set([i]))),
      fc.tuple(fc.nat(6), point).map(
        ([i, by]) =>
          (j: Journey, id: string) =>
            edits.moveNodes(j, id, new Set([i]), by),
      ),
      fc.tuple(fc.nat(6), fc.constantFrom('corner' as const, 'smooth' as const, 'symmetric' as const)).map(
        ([i, kind]) =>
          (j: Journey, id: string) =>
            edits.setNodeKind(j, id, new Set([i]), kind),
      ),
      fc.tuple(fc.nat(4), inside, point).map(
        ([segment, u, by]) =>
          (j: Journey, id: string) =>
            edits.pullSegment(edits.makeDrawn(j, id), id, { segment: Math.min(segment, edits.nodeCubics(j, id).length - 1), u }, by),
      ),
      fc.double({ min: 1, max: 400, noNaN: true }).map((radius) => (j: Journey, id: string) => edits.roundCorners(j, id, radius)),
      fc.array(point, { minLength: 2, maxLength: 30 }).map((stroke) => (j: Journey, id: string) => edits.drawStroke(j, id, stroke, 4)),
      fc.constant((j: Journey) => reverseTrip(j, 'traveller')),
      fc
        .uniqueArray(fc.nat(6), { minLength: 1, maxLength: 3 })
        .map((nodes) => (j: Journey, id: string) => breakAt(j, id, new Set(nodes), 30)),
      fc.nat(6).map((i) => (j: Journey, id: string) => joinBreaks(j, id, new Set([i]))),
      fc.double({ min: 1, max: 60, noNaN: true }).map((tolerance) => (j: Journey, id: string) => edits.setSmoothing(j, id, tolerance)),
    )
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 10 }), (steps) => {
        let journey = withCourse(DRAWN)
        const frozen = JSON.stringify(journey)
        const start = journey
        for (const step of steps) journey = step(journey, 'l1')
        expect(() => compile(parseJourney(JSON.parse(JSON.stringify(journey))), NO_PLACES)).not.toThrow()
        const cubics = edits.legCubics(journey, 'l1')
        expect(cubics.every((curve) => curve.every(({ x, y }) => Number.isFinite(x) && Number.isFinite(y)))).toBe(true)
        const [a, b] = legEnds(journey, 'l1')!
        expect([cubics[0]![0], cubics.at(-1)![3]]).toEqual([a, b])
        expect(JSON.stringify(start)).toBe(frozen)
      }),
    )
  })
})
