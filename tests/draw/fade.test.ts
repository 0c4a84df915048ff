/** What is put together of shapes that lie on one another fades as one: each pixel is a mixture of what is under it and of the whole picture. */
import { describe, expect, it } from 'vitest'
import { flatView, referenceSize } from '#core/camera/view'
import type { FrameItem } from '#core/frame/frame'
import { captionSchema, carriedSchema, groundSchema, labelSchema, pinSchema, postcardSchema } from '#core/journey/schema'
import { layLabel, setLabel } from '#core/marks/label-layout'
import { NOTHING } from '#core/marks/pins'
import { USUAL_PLACE } from '#core/labels/label-scene'
import { setBlock } from '#core/type/block'
import { spaceOf } from '#draw/canvas-space'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'

const size = { width: 640, height: 360 }
const reference = referenceSize(size)
const middle = { x: reference.width / 2, y: reference.height / 2 }
const view = flatView(middle, 1)
const { scale } = spaceOf({ view, reference, isMoving: false, sun: null }, size.height / reference.height)
const GROUND: FrameItem = { kind: 'ground', ground: groundSchema.parse({ colour: '#2060a0' }) }

function pixelsOf(...items: FrameItem[]): Uint8Array {
  const surface = createServerSurface(size.width, size.height)
  const frame = { time: 0, size, scale, reference, view, isMoving: false, sun: null, items: [GROUND, ...items], motions: [] }
  createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, scale)
  return surface.pixels()
}

const pin = pinSchema.parse({ size: 180, circle: { kind: 'settling', radius: 1.2 }, inside: { kind: 'number' } })
const label = labelSchema.parse({
  place: { kind: 'free', x: 260, y: -200 },
  style: { size: 90, colour: '#ffffff', halo: { colour: '#000000', width: 0.2 }, plate: { shape: 'box', colour: '#ffcc00', opacity: 1 }, shadow: 1 }, // prettier-ignore
})
const laid = { ...layLabel(label, pin, setLabel('Quillhaven', '', label.style, reference), USUAL_PLACE), from: 0, parts: 1 }
const appears = { style: 'none', by: 'whole' } as const
const title = captionSchema.parse({
  id: 't',
  content: { kind: 'title', text: 'The Isles' },
  style: { size: 120, plate: { shape: 'pill' } },
})
const card = postcardSchema.parse({ id: 'c', text: 'A few words', stalk: true, place: { kind: 'free', x: 200, y: -150 }, size: 300 })

/** An item of each kind that is put together so, by its opacity. */
const ITEMS: Readonly<Record<string, (opacity: number) => FrameItem>> = {
  pin: (opacity) => ({
    kind: 'pin',
    stop: 's',
    at: middle,
    pin,
    inside: '7',
    circle: { scale: 1, opacity: 1, drawn: 1 },
    scale: 1,
    raised: 0,
    opacity,
  }),
  label: (opacity) => ({ kind: 'label', stop: 's', at: middle, label: laid, style: label.style, appears, scale: 1, elapsed: null, opacity, free: { label: laid, opacity: 1 } }), // prettier-ignore
  postcard: (opacity) => ({
    kind: 'postcard',
    stop: 's',
    at: middle,
    postcard: card,
    pin,
    clearOf: NOTHING,
    scale: 1,
    opacity,
    shift: 0,
    turn: 0,
    unrolled: 1,
  }),
  carried: (opacity) => ({
    kind: 'carried',
    leg: 'l',
    isGoing: false,
    at: middle,
    carried: carriedSchema.parse({ kind: 'flag', size: 120 }),
    foot: 60,
    scale: 1,
    opacity,
  }),
  title: (opacity) => ({
    kind: 'caption',
    id: 't',
    figure: { kind: 'text', block: setBlock([{ text: 'The Isles' }], title.style, Infinity) },
    style: title.style,
    appears,
    at: { x: 300, y: 300 },
    align: 'left',
    elapsed: null,
    opacity,
  }),
}

describe('what fades', () => {
  const bare = pixelsOf()

  it.each(Object.entries(ITEMS))('as a %s does so as one', (_, itemOf) => {
    const [whole, faded, gone] = [1, 0.4, 0].map((opacity) => pixelsOf(itemOf(opacity))) as [Uint8Array, Uint8Array, Uint8Array] // prettier-ignore
    let painted = 0
    let worst = 0
    whole.forEach((value, i) => {
      if (Math.abs(value - bare[i]!) > 20) painted++
      worst = Math.max(worst, Math.abs(faded[i]! - (bare[i]! + 0.4 * (value - bare[i]!))))
    })
    expect(painted).toBeGreaterThan(1000)
    // Eight bits are rounded three times.
    expect(worst).toBeLessThan(3)
    expect(Buffer.compare(gone, bare)).toBe(0)
  })

  it('on its way in does so too', () => {
    const item = ITEMS.label!(1)
    const whole = pixelsOf(item)
    const coming = pixelsOf({ ...item, appears: { style: 'fade', by: 'whole' }, elapsed: 0.2 } as FrameItem)
    const shares: number[] = []
    whole.forEach((value, i) => {
      if (Math.abs(value - bare[i]!) > 60) shares.push((coming[i]! - bare[i]!) / (value - bare[i]!))
    })
    expect(shares.length).toBeGreaterThan(1000)
    const [least, most] = shares.reduce(([low, high], share) => [Math.min(low, share), Math.max(high, share)], [1, 0] as [number, number])
    expect(most - least).toBeLessThan(0.05)
    // Half-way through its four tenths of a second.
    expect(least).toBeGreaterThan(0.4)
    expect(most).toBeLessThan(0.6)
  })
})
