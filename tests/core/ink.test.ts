/** Which part of a line is seen when, and where the pieces of its pattern lie. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { gradientAt } from '#core/colour/gradient'
import { editLeg } from '#core/edits/lines/legs'
import { setLayover } from '#core/edits/pace/pace'
import { compile } from '#core/frame/compile'
import type { InkItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { lineNoise } from '#core/geometry/noise'
import { fittedPattern, piecesBetween } from '#core/geometry/stroke'
import { inkSchema } from '#core/journey/schema'
import { imagesOf } from '#core/journey/images'
import { frameTime } from '#core/pace/rate'
import { spaceOf } from '#draw/canvas-space'
import { inkParts } from '#draw/ink/ink-parts'
import type { InkInput } from '../support/inks'
import { journeyOver, paperPhoto } from '../support/journeys'

/** A trip of two straight legs of 1000 gu without vehicles, at one ground unit to the reference pixel. */
const trip = (ink: InkInput) =>
  compile(
    journeyOver(
      [
        [100, 500],
        [1100, 500],
        [1100, 1500],
      ],
      { ink: inkSchema.parse(ink), easing: 'linear' },
      12,
    ),
  )
type Compiled = ReturnType<typeof trip>

const inkOn = (compiled: Compiled, leg: string, t: number): InkItem | undefined =>
  frameAt(compiled, t).items.find((item): item is InkItem => item.kind === 'ink' && item.leg === leg)
const legOf = (compiled: Compiled, i: number) => compiled.travellers[0]!.legs[i]!
const halfWay = (compiled: Compiled) => (legOf(compiled, 0).depart + legOf(compiled, 0).arrive) / 2

describe('pieces of a pattern', () => {
  const pattern = { piece: 30, space: 20, longer: 0 }

  it('stand still while the line grows: all but the last are the same', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 3000, noNaN: true }), fc.double({ min: 0, max: 500, noNaN: true }), (head, more) => {
        const [now, later] = [piecesBetween(0, head, pattern, 0, 0.01), piecesBetween(0, head + more, pattern, 0, 0.01)]
        expect(later.slice(0, now.length - 1)).toEqual(now.slice(0, -1))
        for (const { from, index } of now) expect(from).toBeCloseTo(50 * index, 9)
      }),
    )
  })

  it('move as one when they march, by the phase', () => {
    const moved = piecesBetween(0, 1000, pattern, 12.5, 0.01)
    expect(moved.filter(({ from }) => from > 0).every(({ from, index }) => Math.abs(from - 12.5 - 50 * index) < 1e-9)).toBe(true)
  })

  it('that are fitted begin and end with a whole one, and are nearly as long as asked', () => {
    fc.assert(
      fc.property(fc.double({ min: 90, max: 5000, noNaN: true }), (length) => {
        const fitted = piecesBetween(0, length, fittedPattern(pattern, length), 0, 0.01)
        const [first, last] = [fitted[0]!, fitted.at(-1)!]
        expect(first.from).toBeCloseTo(0, 9)
        expect(last.to).toBeCloseTo(length, 6)
        expect(last.to - last.from).toBeCloseTo(first.to - first.from, 6)
        expect(first.to / 30).toBeGreaterThan(0.69)
        expect(first.to / 30).toBeLessThan(1.4)
      }),
    )
  })

  it('come whole or not at all where that is asked', () => {
    for (const { from, to } of piecesBetween(0, 333, pattern, 0, 0.01, true)) {
      expect(to - from).toBeCloseTo(30, 9)
      expect(to).toBeLessThanOrEqual(333)
    }
    expect(piecesBetween(0, 333, pattern, 0, 0.01, true)).toHaveLength(7)
  })
})

describe('a gradient', () => {
  it('is mixed in sRGB between evenly spaced colours, as CSS has it: yellow to blue is grey half-way', () => {
    // W3C CSS Images Module Level 3, 3.4.2: colours are interpolated in sRGB; rgb(100%, 100%, 0%) and rgb(0%, 0%, 100%).
    expect(gradientAt(['#ffff00', '#0000ff'], 0.5)).toBe('#808080')
    expect(gradientAt(['#ff0000', '#00ff00', '#0000ff'], 0.25)).toBe('#808000')
    expect(gradientAt(['#ff0000', '#00ff00', '#0000ff'], 0.5)).toBe('#00ff00')
    expect([gradientAt(['#ff0000', '#0000ff'], -1), gradientAt(['#ff0000', '#0000ff'], 2)]).toEqual(['#ff0000', '#0000ff'])
    expect(gradientAt(['#123456'], 0.7)).toBe('#123456')
  })
})

describe('a line', () => {
  it('that is not shown is not there, and its leg is travelled all the same', () => {
    const compiled = trip({ line: { kind: 'hidden' } })
    expect(frameAt(compiled, halfWay(compiled)).items.filter(({ kind }) => kind === 'ink')).toEqual([])
    expect(frameAt(compiled, halfWay(compiled)).motions[0]!.position.x).toBeCloseTo(600, 0)
  })

  it('fades in as a whole where asked, within 0.8 s', () => {
    const compiled = trip({ comes: 'faded' })
    const { depart } = legOf(compiled, 0)
    expect(inkOn(compiled, 'l1', depart + 0.4)).toMatchObject({ tail: 0, head: 1000 })
    expect(inkOn(compiled, 'l1', depart + 0.4)!.opacity).toBeCloseTo(0.5, 6)
    expect(inkOn(compiled, 'l1', depart + 0.81)!.opacity).toBe(1)
  })

  it('grows from its middle to both ends, as far as its traveller has come', () => {
    const compiled = trip({ comes: 'from-middle' })
    const { depart, arrive } = legOf(compiled, 0)
    const ink = inkOn(compiled, 'l1', depart + (arrive - depart) / 4)!
    expect([ink.tail, ink.head]).toEqual([expect.closeTo(375, 6), expect.closeTo(625, 6)])
  })

  it('leaves a wake of the length asked for, which goes on over the next leg', () => {
    const compiled = compile(setLayover(trip({ wake: 300 }).journey, 1, 0, 'traveller'))
    const mid = inkOn(compiled, 'l1', halfWay(compiled))!
    expect([mid.tail, mid.head]).toEqual([expect.closeTo(200, 6), expect.closeTo(500, 6)])
    const next = legOf(compiled, 1)
    // A tenth of the next leg, 100 gu, further: the wake covers 200 of the first one, then nothing once 300 are travelled.
    const at = (share: number) => next.depart + (next.arrive - next.depart) * share
    expect(inkOn(compiled, 'l1', at(0.1))!.tail).toBeCloseTo(800, 6)
    expect(inkOn(compiled, 'l1', at(0.31))).toBeUndefined()
    expect(inkOn(compiled, 'l2', at(0.5))!.tail).toBeCloseTo(200, 6)
  })

  it('leaves a wake that catches up with a traveller who rests, as a comet’s tail does, and does not stand there', () => {
    const compiled = compile(setLayover(trip({ wake: 300 }).journey, 1, 2, 'traveller'))
    const { arrive } = compiled.travellers[0]!.visits[1]!
    const lengths = [0, 0.3, 0.6].map((wait) => {
      const { tail } = inkOn(compiled, 'l1', arrive + wait)!
      return 1000 - tail
    })
    expect(lengths[0]).toBeCloseTo(300, 6)
    expect(lengths[1]!).toBeLessThan(lengths[0]!)
    expect(lengths[2]!).toBeLessThan(lengths[1]!)
    expect(inkOn(compiled, 'l1', arrive + 1)).toBeUndefined()
    // At the end of the trip as well.
    expect(inkOn(compiled, 'l2', compiled.lastTime)).toBeUndefined()
  })

  it('dims, fades or runs out after its leg, and stays otherwise', () => {
    const after = (what: InkInput['after']) => {
      const compiled = trip({ after: what })
      // Rest of 0.3 s to settle, 0.4 s of pause, then a second.
      return [0.5, 1.2, 1.8].map((wait) => inkOn(compiled, 'l1', legOf(compiled, 0).arrive + wait))
    }
    expect(after({ kind: 'stays' }).map((ink) => ink!.opacity)).toEqual([1, 1, 1])
    const dimmed = after({ kind: 'dims', opacity: 0.4, seconds: 1 })
    expect([dimmed[0]!.opacity, dimmed[1]!.opacity, dimmed[2]!.opacity]).toEqual([1, expect.closeTo(0.7, 6), expect.closeTo(0.4, 6)])
    expect(after({ kind: 'fades', seconds: 1 })[2]).toBeUndefined()
    const out = after({ kind: 'runs-out', seconds: 1 })
    expect([out[0]!.tail, out[1]!.tail]).toEqual([0, expect.closeTo(500, 6)])
    expect(out[2]).toBeUndefined()
  })

  it('of the last leg fades only if the film leaves it the time', () => {
    const compiled = trip({ after: { kind: 'fades', seconds: 1 } })
    const last = legOf(compiled, 1)
    const tight = compile({
      ...compiled.journey,
      travellers: compiled.journey.travellers.map((traveller) => ({
        ...traveller,
        visits: traveller.visits.map((visit, i) => (i === 2 ? { ...visit, layover: 0.2 } : visit)),
      })),
    })
    expect(inkOn(tight, 'l2', tight.lastTime)!.opacity).toBe(1)
    expect(compiled.lastTime - last.arrive).toBeGreaterThan(0.7)
    expect(inkOn(compiled, 'l2', compiled.lastTime)?.opacity ?? 0).toBeLessThan(0.01)
  })

  it('marches by so many reference pixels a second, either way', () => {
    for (const march of [60, -60]) {
      const compiled = trip({ line: { kind: 'dashed' }, march })
      const t = halfWay(compiled)
      expect(inkOn(compiled, 'l1', t + 0.5)!.phase - inkOn(compiled, 'l1', t)!.phase).toBeCloseTo(march / 2, 9)
    }
  })

  it('shows what is still to be travelled where it is planned, and no more once it has been', () => {
    const compiled = trip({ planned: {} })
    const planned = (t: number) =>
      frameAt(compiled, t).items.flatMap((item) => (item.kind === 'planned' ? [[item.leg, Math.round(item.from)]] : []))
    expect(planned(0)).toEqual([['l1', 0], ['l2', 0]]) // prettier-ignore
    expect(planned(halfWay(compiled))).toEqual([['l1', 500], ['l2', 0]]) // prettier-ignore
    expect(planned(compiled.lastTime)).toEqual([])
  })

  it('breathes slowly and smoothly, by no more than a twentieth from frame to frame', () => {
    const compiled = trip({ glow: { breathes: true } })
    const lights = Array.from({ length: compiled.frames }, (_, k) => inkOn(compiled, 'l1', frameTime(k, '30/1'))?.light).filter(
      (light) => light !== undefined,
    )
    expect(Math.min(...lights)).toBeLessThan(0.6)
    expect(Math.max(...lights)).toBeCloseTo(1, 2)
    lights.slice(1).forEach((light, i) => expect(Math.abs(light - lights[i]!)).toBeLessThan(0.05))
  })
})

describe('trail and vehicle', () => {
  const car = { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 120 } as const

  it('never part: whatever comes, easing and wake, the head keeps its distance behind the vehicle at every frame', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('drawn', 'piece-by-piece', 'popping'),
        fc.constantFrom('gentle', 'linear', 'ease-in', 'ease-out'),
        fc.option(fc.integer({ min: 10, max: 1500 })),
        fc.integer({ min: 20, max: 400 }),
        (comes, easing, wake, size) => {
          const journey = editLeg(trip({ comes, wake }).journey, 'l1', { easing, vehicle: { ...car, size } })
          const compiled = compile(journey)
          const { depart, arrive } = legOf(compiled, 0)
          // The car's drawing covers the end of its line from 0.2 of its length behind its middle.
          for (let t = depart + 0.05; t < arrive; t += 1 / 30) {
            const [ink, motion] = [inkOn(compiled, 'l1', t), frameAt(compiled, t).motions[0]!]
            if (!ink || motion.s <= 0.2 * size) continue
            expect(Math.abs(motion.s - 0.2 * size - ink.head)).toBeLessThan(0.5)
          }
        },
      ),
      { numRuns: 30 },
    )
  })
})

describe('marks of one’s own', () => {
  const picture = { ...paperPhoto, width: 300, height: 100 }
  const line = { kind: 'stamped', stamp: 'own', picture, space: 40 } as const
  const space = spaceOf(
    {
      view: { centre: { x: 600, y: 500 }, zoom: 1, bearing: 0, pitch: 0 },
      reference: { width: 1920, height: 1080 },
      isMoving: false,
      sun: null,
    },
    1,
  )

  it('lie along the line, as long as other marks are and in the shape of their picture', () => {
    const compiled = trip({ width: 20, line })
    const item = inkOn(compiled, 'l1', 99)!
    const [part] = inkParts(space, { ...item, ...item.ink }, false)
    if (part?.kind !== 'shapes') throw new Error('There are no marks.')
    const { quads } = part.pictures!
    expect(quads.length).toBeGreaterThan(8)
    for (const { rings } of quads) {
      const [ax, ay, bx, by, , , dx, dy] = rings[0]!
      // 2.6 widths of the line, and a third of that across; the line runs to the right.
      expect(bx! - ax!).toBeCloseTo(52, 6)
      expect(by! - ay!).toBeCloseTo(0, 6)
      expect([dx! - ax!, dy! - ay!].map((n) => n.toFixed(3).replace('-0.000', '0.000'))).toEqual(['0.000', (52 / 3).toFixed(3)])
    }
  })

  it('need a picture, which the journey then needs, too', () => {
    expect(() => inkSchema.parse({ line: { ...line, picture: null } })).toThrow(/has no picture/)
    const images = imagesOf(trip({ line, planned: { line } }).journey)
    expect(new Set(images.map(({ missing }) => missing))).toEqual(new Set(['The picture of a line’s marks is not here: choose it again.']))
    expect(images).toHaveLength(4)
  })
})

describe('noise along a line', () => {
  it('stays within -1 and 1, is smooth, and is another one for another seed', () => {
    const at = (seed: number) => Array.from({ length: 2000 }, (_, i) => lineNoise(seed, i / 20))
    const [a, b] = [at(1), at(2)]
    expect(Math.max(...a.map(Math.abs))).toBeLessThanOrEqual(1)
    expect(Math.max(...a)).toBeGreaterThan(0.7)
    a.slice(1).forEach((value, i) => expect(Math.abs(value - a[i]!)).toBeLessThan(0.16))
    expect(a.filter((value, i) => Math.abs(value - b[i]!) < 0.01).length).toBeLessThan(200)
    expect(at(1)).toEqual(a)
  })
})
