/** Nothing is painted outside what its bounds say: painting only what has changed rests on it. */
import { flatView } from '#core/camera/view'
import { describe, expect, it } from 'vitest'
import { referenceSize } from '#core/camera/view'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { createJourney } from '#core/journey/create'
import type { FrameItem } from '#core/frame/frame'
import { layLabel, setLabel } from '#core/marks/label-layout'
import { USUAL_PLACE } from '#core/labels/label-scene'
import { NOTHING } from '#core/marks/pins'
import { countParts } from '#core/marks/reveal'
import { polylineCourse } from '#core/geometry/course'
import { CARD_SHIFT } from '#core/marks/card-times'
import {
  CARD_FRAMES,
  captionSchema,
  carriedSchema,
  vehicleSchema,
  groundSchema,
  labelSchema,
  PIN_SHAPES,
  pinSchema,
  plannedSchema,
  postcardSchema,
  SIDES,
} from '#core/journey/schema'
import { artworkOf, VEHICLE_IDS } from '#core/vehicles/catalogue'
import { resolveVehicle } from '#core/dress/vehicle'
import type { Sun } from '#core/camera/sun'
import { itemBounds, itemRegions } from '#draw/bounds'
import { onCanvas, overlap } from '#draw/region'
import type { CanvasSpace } from '#draw/canvas-space'
import { spaceOf } from '#draw/canvas-space'
import { dashPattern } from '#draw/ink/ink-parts'
import { mixColours } from '#core/colour/gradient'
import { relativeLuminance } from '#draw/colour'
import { createPainter } from '#draw/painter'
import { createServerStudio, createServerSurface } from '#render/studio'
import { BENT, EVERY_INK, inkItem } from '../support/inks'

const frameSize = { width: 640, height: 360 }
const reference = referenceSize(frameSize)
const view = flatView({ x: reference.width / 2, y: reference.height / 2 }, 1)
const space: CanvasSpace = spaceOf({ view, reference, isMoving: false, sun: null }, 360 / 1080)
const GROUND = [10, 20, 30]
const DARK: FrameItem = { kind: 'ground', ground: groundSchema.parse({ colour: '#0a141e' }) }

/** The pixels that an item alone changes, as a box; the box that its bounds give; and how red the frame's outermost pixels are. */
const AT_REST = { scale: 1, opacity: 1, shift: 0, turn: 0, unrolled: 1 }

function paintedAndBounds(item: FrameItem, sun: Sun | null = null) {
  const surface = createServerSurface(frameSize.width, frameSize.height)
  const frame = {
    time: 0,
    size: frameSize,
    scale: space.scale,
    reference,
    view,
    isMoving: false,
    sun,
    items: [DARK, item],
    motions: [],
  }
  createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, space.scale)
  const pixels = surface.pixels()
  const box = { left: Infinity, right: -Infinity, top: Infinity, bottom: -Infinity }
  const regions = itemRegions({ ...space, sun }, item).map((region) => onCanvas(region, 2, frameSize))
  let beside = 0
  for (let i = 0; i < pixels.length; i += 4) {
    if (pixels[i] === GROUND[0] && pixels[i + 1] === GROUND[1] && pixels[i + 2] === GROUND[2]) continue
    const [x, y] = [(i / 4) % frameSize.width, Math.floor(i / 4 / frameSize.width)]
    if (!regions.some((region) => overlap(region, { x, y, width: 1, height: 1 }))) beside++
    box.left = Math.min(box.left, x)
    box.right = Math.max(box.right, x + 1)
    box.top = Math.min(box.top, y)
    box.bottom = Math.max(box.bottom, y + 1)
  }
  const [right, bottom] = [frameSize.width - 1, frameSize.height - 1]
  const redAt = (x: number, y: number) => pixels[4 * (y * frameSize.width + x)]!
  const atEdge: number[] = []
  for (let x = 0; x <= right; x++) atEdge.push(redAt(x, 0), redAt(x, bottom))
  for (let y = 0; y <= bottom; y++) atEdge.push(redAt(0, y), redAt(right, y))
  return { box, bounds: itemBounds({ ...space, sun }, item), beside, atEdge }
}

function expectWithin(item: FrameItem, sun: Sun | null = null) {
  const { box, bounds, beside, atEdge } = paintedAndBounds(item, sun)
  expect(box.right - box.left, 'something is painted').toBeGreaterThan(4)
  // The painter adds two pixels of margin to every bounds.
  expect(box.left).toBeGreaterThanOrEqual(bounds.x - 2)
  expect(box.top).toBeGreaterThanOrEqual(bounds.y - 2)
  expect(box.right).toBeLessThanOrEqual(bounds.x + bounds.width + 2)
  expect(box.bottom).toBeLessThanOrEqual(bounds.y + bounds.height + 2)
  expect(beside, 'pixels beside the regions that follow the line').toBe(0)
  return { atEdge }
}

const middle = { x: reference.width / 2, y: reference.height / 2 }

describe('bounds', () => {
  it.each(VEHICLE_IDS)('hold the %s in every pose, on the ground and in the air', (artwork) => {
    for (const [rotation, mirrored, altitude, opacity] of [
      [0, false, 0, 1],
      [0.6, true, 0, 1],
      [2.5, false, 1, 1],
      [-1.2, false, 0.5, 0.5],
    ] as const) {
      expectWithin({
        kind: 'vehicle',
        leg: 'l',
        at: middle,
        vehicle: resolveVehicle({ kind: 'catalogue', artwork, colour: '#d8412f', size: 260 }),
        lies: artworkOf(artwork).view === 'above',
        rotation,
        mirrored,
        opacity,
        altitude,
        isGoing: false,
        scale: 1,
        rise: 0,
        wheels: null,
      })
    }
  })

  it('hold a lively vehicle that pops up, and what it carries', () => {
    const vehicle = resolveVehicle(vehicleSchema.parse({ kind: 'catalogue', artwork: 'bus', size: 200, lively: 1 }))
    for (const opacity of [1, 0.5])
      expectWithin({
        kind: 'vehicle',
        leg: 'l',
        isGoing: false,
        at: middle,
        vehicle,
        lies: false,
        rotation: -0.5,
        mirrored: true,
        opacity,
        altitude: 0,
        scale: 1.1,
        rise: 0.035,
        wheels: 3.3,
      })
    for (const carries of [
      { kind: 'plate', text: 'Ada and Ben, by bus', size: 60 },
      { kind: 'flag', size: 90 },
    ]) {
      const carried = carriedSchema.parse(carries)
      expectWithin({ kind: 'carried', leg: 'l', isGoing: false, at: middle, carried, foot: 80, scale: 1.1, opacity: 1 })
    }
  })

  it.each(PIN_SHAPES.filter((shape) => shape !== 'none' && shape !== 'own'))(
    'hold the %s pin, also while it overshoots, with letters and a circle, and lying',
    (shape) => {
      for (const scale of [0.4, 1, 1.1])
        for (const lies of [false, true]) {
          const pin = pinSchema.parse({ shape, size: 200, lies, circle: scale === 1 ? { kind: 'by-hand', radius: 1.2 } : null })
          expectWithin({
            kind: 'pin',
            stop: 's',
            at: middle,
            pin,
            inside: 'Åj9',
            circle: { scale: 1.1, opacity: 1, drawn: 1 },
            scale,
            raised: scale === 0.4 ? 1.6 : 0,
            opacity: 1,
          })
        }
    },
  )

  const LABELS = [
    ...SIDES.map((side) => ({ place: { kind: 'side', side }, style: { size: 60 } })),
    { place: { kind: 'free', x: 300, y: -260 }, style: { size: 60, shadow: 1, halo: { width: 0.3 } } },
    ...(['box', 'rounded', 'pill', 'banner', 'underline'] as const).map((shape) => ({ style: { size: 50, plate: { shape }, shadow: 1 } })),
    { second: { kind: 'note', text: 'gjy Åé' }, style: { family: 'oi', case: 'capitals' } },
    { style: { family: 'playpen-sans', weight: 800, spacing: 0.4 } },
  ] as const

  it.each(LABELS)('hold a label like %j, while it appears and afterwards', (fields) => {
    const label = labelSchema.parse(fields)
    const pin = pinSchema.parse({})
    const block = setLabel('Quillhaven Ågjy', label.second ? 'a note gjy' : '', label.style, reference)
    for (const [style, by, elapsed] of [
      ['pop', 'whole', 0.3],
      ['pop', 'letter', 0.4],
      ['rise', 'word', 0.2],
      ['rise', 'whole', null],
    ] as const) {
      const appears = { style, by }
      const parts = countParts(block, by)
      const laid = { ...layLabel(label, pin, block, USUAL_PLACE), from: 0, parts }
      const free = { label: laid, opacity: 1 }
      expectWithin({
        kind: 'label',
        stop: 's',
        at: middle,
        label: laid,
        style: label.style,
        appears,
        scale: 1.4,
        elapsed,
        opacity: 1,
        free,
      })
    }
  })

  it.each(['top-left', 'middle', 'bottom-right'] as const)('hold captions at the %s', (corner) => {
    const journey = compile({
      ...createJourney('Test', undefined, 10),
      measures: { unit: 'km', metresPerUnit: 10 },
      captions: [
        captionSchema.parse({ id: 'a', corner, content: { kind: 'title', text: 'Ågjy Qj', second: 'of two' }, style: { size: 110, plate: { shape: 'banner' }, shadow: 1 } }), // prettier-ignore
        captionSchema.parse({ id: 'b', corner, content: { kind: 'scale-bar' }, style: { size: 60 } }),
        captionSchema.parse({ id: 'c', corner, content: { kind: 'north-arrow' }, style: { size: 60, halo: { width: 0.4 } } }),
      ],
    })
    const captions = frameAt(journey, 5).items.filter((item) => item.kind === 'caption')
    expect(captions).toHaveLength(3)
    for (const item of captions) for (const elapsed of [0.15, null]) expectWithin({ ...item, elapsed })
  })

  it.each([-150, -60, 0, 35, 120])('hold the shadows that the sun casts from %s degrees, however low it stands', (bearing) => {
    for (const height of [8, 45, 85]) {
      const sun = { bearing, height, softness: 1, strength: 1 }
      for (const [shape, lift] of [
        ['flag', 0],
        ['disc', 0],
        ['tower', 2.5],
      ] as const) {
        const pin = pinSchema.parse({ shape, size: 90, lift })
        expectWithin({ kind: 'pin', stop: 's', at: middle, pin, inside: '', circle: null, scale: 1.1, raised: 0, opacity: 1 }, sun)
      }
      for (const [artwork, altitude, lies] of [
        ['bus', 0, false],
        ['balloon', 1, false],
        ['seaplane', 2, true],
      ] as const) {
        const vehicle = resolveVehicle(vehicleSchema.parse({ kind: 'catalogue', artwork, size: 60 }))
        expectWithin({ kind: 'vehicle', leg: 'l', isGoing: false, at: middle, vehicle, lies, rotation: 0.4, mirrored: false, opacity: 1, altitude, scale: 1.1, rise: 0.03, wheels: null }, sun) // prettier-ignore
      }
    }
  })

  it.each(SIDES)('hold a postcard on the %s, tilted, in the middle and kept in at the frame’s edge', (side) => {
    for (const [at, scale] of [
      [middle, 1.1],
      [{ x: 60, y: 40 }, 1],
      [{ x: reference.width - 30, y: reference.height - 50 }, 0.6],
    ] as const) {
      const { atEdge } = expectWithin({
        kind: 'postcard',
        stop: 's',
        at,
        postcard: postcardSchema.parse({
          photo: { image: '0'.repeat(64), width: 900, height: 600 },
          text: 'A long caption of two lines',
          id: 'c',
          place: { kind: 'side', side },
          tilt: 12,
        }),
        pin: pinSchema.parse({}),
        clearOf: NOTHING,
        ...AT_REST,
        scale,
      })
      // The shadow may fall beyond the edge, the paper may not.
      if (scale === 1) expect(atEdge.every((value) => value < 60)).toBe(true)
    }
  })

  it('hold a text card', () => {
    expectWithin({
      kind: 'postcard',
      stop: 's',
      at: middle,
      postcard: postcardSchema.parse({ id: 'c', text: `One line\n${'verylongwordwithoutanyspaceinit'.repeat(4)}`, size: 300 }),
      pin: pinSchema.parse({}),
      clearOf: NOTHING,
      ...AT_REST,
    })
  })

  it.each(CARD_FRAMES)('hold a card framed as %s, with a stalk, on its way in and out', (frame) => {
    const photo = { image: '0'.repeat(64), width: 900, height: 600 }
    for (const fields of [{ photo, text: 'A few words' }, { text: 'A few words alone' }, { photo }]) {
      const card = postcardSchema.parse({ id: 'c', frame, ...fields, stalk: true, tilt: -8, place: { kind: 'free', x: 150, y: -120 } })
      for (const pose of [
        AT_REST,
        { ...AT_REST, turn: -28, opacity: 0.6 },
        { ...AT_REST, shift: CARD_SHIFT },
        { ...AT_REST, unrolled: 0.4 },
      ])
        expectWithin({
          kind: 'postcard',
          stop: 's',
          at: middle,
          postcard: { ...card, size: 240 },
          pin: pinSchema.parse({}),
          clearOf: NOTHING,
          ...pose,
        })
    }
  })

  it.each(EVERY_INK.filter(([name]) => name !== 'hidden'))('hold ink: %s', (_what, ink) => {
    for (const share of [0.25, 0.8, 1]) {
      const head = BENT.length * share
      expectWithin(
        inkItem({ colour: '#ffffff', ...ink }, BENT, {
          head,
          front: share < 1 ? head : Infinity,
          spark: ink.glow?.spark ? head / 2 : null,
        }),
      )
    }
  })

  it('hold particles, off the spots where they were left', () => {
    expectWithin({
      kind: 'particles',
      leg: 'l',
      layer: 0,
      colour: '#ffffff',
      seen: [
        { at: middle, x: -120, y: 40, radius: 12, opacity: 1 },
        { at: { x: middle.x + 90, y: middle.y }, x: 30, y: -160, radius: 20, opacity: 0.6 },
      ],
    })
  })

  it.each(['solid', 'dashed', 'stamped'] as const)('hold a planned line: %s', (kind) => {
    expectWithin({
      kind: 'planned',
      leg: 'l',
      layer: 0,
      course: BENT,
      from: 100,
      patternZoom: 1,
      planned: plannedSchema.parse({ colour: '#ffffff', width: 14, opacity: 1, line: { kind } }),
    })
  })
})

describe('dashes', () => {
  it('are as long as asked with any caps: the period is dash and space', () => {
    for (const cap of ['round', 'butt', 'square'] as const) {
      const { piece: on, space: off } = dashPattern({ dash: 30, space: 12 }, 10, cap)
      expect(on + off).toBeCloseTo(42, 9)
      expect(on + (cap === 'butt' ? 0 : 10)).toBeCloseTo(30, 9)
    }
  })

  it('too short to be seen grow, and their spaces with them, so that the line does not turn solid', () => {
    for (const [dash, space] of [
      [10, 20],
      [31, 12],
      [1, 1],
    ] as const) {
      const { piece: on, space: off } = dashPattern({ dash, space }, 30, 'round')
      // Round caps reach half a width past each end.
      const [seen, left] = [on + 30, off - 30]
      expect(seen).toBeGreaterThanOrEqual(1.4 * 30)
      expect(seen / left).toBeCloseTo(dash / space, 9)
    }
  })

  it('go on over a break in the line as if there were none', () => {
    // Two pieces of 335 px, the second one further down; 335 is not a whole number of periods of 50.
    const course = polylineCourse(Float64Array.of(200, 300, 535, 300, 200, 700, 535, 700), [1])
    const size = { width: 1920, height: 1080 }
    const surface = createServerSurface(size.width, size.height)
    const item = inkItem({ line: { kind: 'dashed', dash: 30, space: 20 }, cap: 'butt', width: 10, colour: '#ffffff' }, course)
    const frame = { time: 0, size, scale: 1, reference, view, isMoving: false, sun: null, items: [DARK, item], motions: [] }
    createPainter(createServerStudio('/nowhere')).paint(frame, surface.context, 1)
    const pixels = surface.pixels()
    const isInked = (x: number, y: number) => pixels[4 * (y * size.width + x)]! > 128
    for (let s = 3; s < 670; s += 7) {
      const into = s % 50
      if (Math.min(Math.abs(into - 30), into, 50 - into) < 3 || Math.abs(s - 335) < 3) continue
      expect(s < 335 ? isInked(200 + s, 300) : isInked(200 + s - 335, 700), `at ${s}`).toBe(into < 30)
    }
  })
})

describe('colours', () => {
  it('mix', () => {
    expect(mixColours('#000000', '#ffffff', 0.5)).toBe('#808080')
    expect(mixColours('#d8412f', '#123456', 0)).toBe('#d8412f')
  })

  it('have the luminance of W3C WCAG 2.2: white on black has a contrast of 21, #767676 on white just over 4.5', () => {
    const contrast = (a: string, b: string) => (relativeLuminance(a) + 0.05) / (relativeLuminance(b) + 0.05)
    expect(contrast('#ffffff', '#000000')).toBeCloseTo(21, 9)
    expect(contrast('#ffffff', '#767676')).toBeCloseTo(4.54, 2)
  })
})
