/** Which moments a frame is exposed for. */
import { describe, expect, it } from 'vitest'
import { setShutter } from '#core/edits/journey'
import { compile } from '#core/frame/compile'
import { exposureAt } from '#core/frame/exposure'
import type { FrameItem } from '#core/frame/frame'
import type { Journey, Shutter } from '#core/journey/schema'
import { captionSchema, shotSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { journeyOver } from '../support/journeys'

const RATE = 30

/** Ten seconds over plain ground, filmed by a camera that goes across it from 3 s on, cuts back at 6 s, and rests. */
function panned(shutter: Shutter, transition = 2): Journey {
  const journey = journeyOver([
    [200, 540],
    [1700, 540],
  ])
  const free = (id: string, offset: number, transition: number, x: number) =>
    shotSchema.parse({
      kind: 'free',
      id,
      at: { at: 'start', offset },
      transition,
      easing: 'linear',
      view: { centre: { x, y: 540 }, zoom: 1 },
    })
  const captions = [captionSchema.parse({ id: 'c', content: { kind: 'distance' } })]
  return setShutter(
    {
      ...journey,
      measures: { unit: 'km', metresPerUnit: 100 },
      captions,
      shots: [free('there', 3, transition, 1560), free('back', 6, 0, 960)],
    },
    shutter,
  )
}
const timesAt = (journey: Journey, seconds: number) => exposureAt(compile(journey, NO_PLACES), seconds).map(({ time }) => time)

describe('a frame', () => {
  it('is a moment without a shutter, and where nothing moves', () => {
    expect(timesAt(panned(0), 4)).toEqual([4])
    expect(timesAt(panned(360), 10)).toEqual([compile(panned(360), NO_PLACES).lastTime])
  })

  it.each([90, 180, 360] as const)('is exposed for %i degrees of its time, evenly, with its own time in the middle', (shutter) => {
    const times = timesAt(panned(shutter), 4)
    const open = shutter / 360 / RATE
    const step = open / times.length
    times.forEach((time, i) => expect(time).toBeCloseTo(4 - open / 2 + (i + 0.5) * step, 9))
    // 600 px in 2 s are 10 px a frame of 1/30 s. A vehicle or a line may go as fast on its own, and takes more.
    expect(step * 300).toBeLessThanOrEqual(3.01)
  })

  it('is made of sixteen at most, however fast the camera is', () => {
    expect(timesAt(panned(360, 0.1), 3.05)).toHaveLength(16)
  })

  it('never mixes what is before a cut with what is after it', () => {
    const compiled = compile(panned(360), NO_PLACES)
    for (const k of [-2, -1, 0, 1]) {
      const seen = exposureAt(compiled, 6 + k / RATE + 0.004).map(({ view }) => view.centre.x)
      expect(new Set(seen.map((x) => x > 1500)).size, `frame ${k}`).toBe(1)
    }
  })

  it('has the running figures of its own time alone', () => {
    const frames = exposureAt(compile(panned(360), NO_PLACES), 4)
    const figures = frames.map(({ items }) => items.find((item): item is FrameItem & { kind: 'caption' } => item.kind === 'caption'))
    expect(frames.length).toBeGreaterThan(3)
    expect(figures[0]).toBeDefined()
    expect(new Set(figures).size).toBe(1)
  })
})
