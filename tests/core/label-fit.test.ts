/** Names in a moving picture: whole or gone, at every frame, as measured by where their boxes are in it. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { projectionOf } from '#core/camera/projection'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { compile } from '#core/frame/compile'
import type { LabelItem, VehicleItem } from '#core/frame/frame'
import { frameAt, onTable } from '#core/frame/frame-at'
import type { Box } from '#core/geometry/box'
import { lengthInside, movedBox, overlapArea, scaledBox } from '#core/geometry/box'
import { lineNoise } from '#core/geometry/noise'
import type { Point } from '#core/geometry/point'
import { doCross } from '#core/geometry/segment'
import type { Journey, LabelPlaceChoice } from '#core/journey/schema'
import { SIDES } from '#core/journey/schema'
import { checkCamera } from '#core/checks/camera-check'
import { labelScene, NO_PLACES } from '#core/labels/label-scene'
import { crowdedLabels, labelCosts, placeLabels } from '#core/labels/label-solver'
import { labelBox } from '#core/marks/label-layout'
import { frameTime } from '#core/pace/rate'
import { nightJourney } from '#demo/night'
import { walkJourney } from '#demo/walk'
import type { CompiledJourney } from '#core/trips/compiled'
import { journeyOver, movingDemo, paperSheet } from '../support/journeys'

const labelsOf = (compiled: CompiledJourney, time: number) => {
  const frame = frameAt(compiled, time)
  const { toScreen, depthScale } = projectionOf(frame.view, frame.reference)
  return frame.items
    .filter((item): item is LabelItem => item.kind === 'label')
    .map((item) => {
      const pin = toScreen(item.at)
      const k = Math.sqrt(depthScale(item.at))
      const { left, right, top, bottom } = labelBox(item.label, item.style)
      const inFrame = ({ x, y }: Point): Point => ({ x: pin.x + k * x, y: pin.y + k * y })
      const leader = item.label.leader && { from: inFrame(item.label.leader.from), to: inFrame(item.label.leader.to) }
      const box = { left: pin.x + k * left, right: pin.x + k * right, top: pin.y + k * top, bottom: pin.y + k * bottom }
      return { item, pin, leader, box }
    })
}

/** The upright boxes of the vehicles in a frame; of those seen from above, of what is always within. */
const vehicleBoxes = (compiled: CompiledJourney, time: number): Box[] => {
  const frame = frameAt(compiled, time)
  const { toScreen, depthScale } = projectionOf(frame.view, frame.reference)
  return frame.items
    .filter((item): item is VehicleItem => item.kind === 'vehicle')
    .map(({ at, vehicle, scale }) => {
      const { x, y } = toScreen(at)
      const k = (depthScale(at) * scale * vehicle.size) / 100
      const { view, bounds } = vehicle.posture
      const half = Math.min(-bounds.left, bounds.right, -bounds.top, bounds.bottom)
      return movedBox(scaledBox(view === 'above' ? { left: -half, right: half, top: -half, bottom: half } : bounds, k), x, y)
    })
}

/** A film of twelve stops at random, with a vehicle of some kind on each leg. */
function crowdedFilm(seed: number, temperament: Journey['plan']['temperament']): Journey {
  const names = ['Hollin', 'Wrackford', 'Stannery Point', 'Ardle', 'Low Quay', 'Harrowmere Old Town', 'Ness', 'Pellan Light', 'Quarrymouth', 'Tarn', 'Saint Osric’s Landing', 'Vey'] // prettier-ignore
  const artworks = ['camper', 'ferry', 'walker', 'seaplane', 'car', 'bicycle', 'train'] as const
  const any = (k: number) => 0.5 + 0.5 * lineNoise(seed, 7.3 * k)
  const trip = journeyOver(
    names.map((_, i) => [300 + 2400 * any(2 * i), 250 + 1400 * any(2 * i + 1)] as const),
    {},
    30,
  )
  const named = names.reduce((journey, name, i) => editStop(journey, journey.stops[i]!.id, { name }), trip)
  const driven = named.travellers[0]!.legs.reduce(
    (journey, { id }, i) =>
      editLeg(journey, id, { vehicle: { kind: 'catalogue', artwork: artworks[i % 7]!, colour: '#d8412f', size: 110 } }),
    named,
  )
  return { ...driven, sheets: [paperSheet], plan: { ...driven.plan, temperament } }
}

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const anyPlace: fc.Arbitrary<LabelPlaceChoice> = fc.oneof(
  fc.constant({ kind: 'automatic' as const }),
  fc.constantFrom(...SIDES).map((side) => ({ kind: 'side' as const, side })),
  fc.record({ kind: fc.constant('free' as const), x: number(-300, 300), y: number(-200, 200) }),
)

/** Trips with long and short names at all kinds of places, filmed by a plan. */
const anyFilm = fc
  .record({
    spots: fc.array(fc.tuple(number(150, 6250), number(100, 3500)), { minLength: 3, maxLength: 7 }),
    places: fc.array(anyPlace, { minLength: 7, maxLength: 7 }),
    temperament: fc.constantFrom('calm' as const, 'lively' as const),
    shape: fc.constantFrom({ width: 1920, height: 1080 }, { width: 1080, height: 1920 }, { width: 1080, height: 1080 }),
  })
  .map(({ spots, places, temperament, shape }): Journey => {
    const trip = journeyOver(spots, {}, 3 * spots.length)
    const named = trip.stops.reduce(
      (journey, { id }, i) =>
        editStop(journey, id, { name: 'A name that is longer than most '.slice(0, 4 + 5 * i), label: { place: places[i]! } }),
      trip,
    )
    const frame = { ...named.frame, ...shape }
    return { ...named, frame, sheets: [paperSheet], plan: { ...named.plan, temperament } }
  })

/** What is true of every frame of a film: no name that is seen is cut, nor left behind by its pin; and none comes or goes at once. */
function expectWhole(compiled: CompiledJourney) {
  const { width, height } = compiled.reference
  const cuts = compiled.shots.filter(({ start, end }) => start === end).map(({ start }) => start)
  let before = new Map<string, number>()
  let pops = 0
  for (let k = 0; k < compiled.frames; k++) {
    const time = frameTime(k, compiled.journey.frame.rate)
    const now = new Map<string, number>()
    for (const { item, pin, box } of labelsOf(compiled, time)) {
      now.set(item.stop, item.opacity)
      const step = Math.abs(item.opacity - (before.get(item.stop) ?? item.opacity))
      if (step > 0.2 && !cuts.some((cut) => Math.abs(cut - time) < 0.05)) pops++
      if (item.opacity === 0) continue
      expect(Math.min(box.left, box.top, width - box.right, height - box.bottom), `${item.stop} at ${time}`).toBeGreaterThanOrEqual(0)
      expect(pin.x >= 0 && pin.y >= 0 && pin.x <= width && pin.y <= height, `the pin of ${item.stop} at ${time}`).toBe(true)
    }
    before = now
  }
  return pops
}

describe('a name in a moving picture', () => {
  it('is whole or gone in every frame, wherever it lies', { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(anyFilm, (journey) => {
        expectWhole(compile(journey, NO_PLACES))
      }),
      { numRuns: 25 },
    )
  })

  it.each([
    ['demo', movingDemo],
    ['night crossing', () => nightJourney(paperSheet)],
    ['walk', () => walkJourney(paperSheet)],
  ])('fades in the %s before it would be cut', (_, journey) => {
    expect(expectWhole(compile(journey()))).toBe(0)
  })

  it.each([
    ['demo', movingDemo],
    ['night crossing', () => nightJourney(paperSheet)],
    ['walk', () => walkJourney(paperSheet)],
  ])('has nothing in its way in the %s, which is told nothing bad of its camera either', (_, journey) => {
    const scene = labelScene(compile(journey(), NO_PLACES))!
    const costs = labelCosts(scene)
    expect(crowdedLabels(scene, placeLabels(scene, costs), costs)).toEqual([])
    expect(checkCamera(compile(journey()))).toEqual([])
  })

  it('keeps off vehicles, and the line that leads to it off other names, in films of many stops', () => {
    const sum = { names: 0, overVehicle: 0, ledThrough: 0, crossed: 0 }
    for (const [i, temperament] of (['steady', 'calm', 'lively', 'calm'] as const).entries()) {
      const film = compile(crowdedFilm(i, temperament))
      for (let k = 0; k < film.frames; k += 3) {
        const time = frameTime(k, film.journey.frame.rate)
        const labels = labelsOf(film, time).filter(({ item }) => item.opacity > 0)
        const vehicles = vehicleBoxes(film, time)
        sum.names += labels.length
        for (const { box, leader } of labels) {
          if (vehicles.some((vehicle) => overlapArea(vehicle, box) > 4)) sum.overVehicle++
          if (!leader) continue
          const { from, to } = leader
          if (labels.some((other) => other.box !== box && lengthInside(other.box, from.x, from.y, to.x, to.y) > 2)) sum.ledThrough++
          if (labels.some((other) => other.leader && doCross(other.leader, leader))) sum.crossed++
        }
      }
    }
    expect(sum.names).toBeGreaterThan(3000)
    // The limit is ours: one frame of a name in a hundred.
    expect(sum.overVehicle / sum.names).toBeLessThan(0.01)
    expect(sum.ledThrough / sum.names).toBeLessThan(0.002)
    expect(sum.crossed).toBe(0)
  })

  it('moves aside to stay clear of the frame’s edge while its pin is in it, and is where it belongs on the table', () => {
    const trip = editStop(journeyOver([[960, 540], [1840, 500]], {}, 6), 's1', { name: 'Harrowmere', label: { place: { kind: 'side', side: 'top' } } }) // prettier-ignore
    const compiled = compile(trip)
    const { item, box } = labelsOf(compiled, 6).find(({ item: { stop } }) => stop === 's1')!
    // The graphics safe area of EBU R 95: 5 % of the width, here of 1920 pixels, stay free on either side.
    expect(box.right).toBeCloseTo(1824, 6)
    expect(item.opacity).toBe(1)
    const frame = frameAt(compiled, 6)
    const laid = onTable(frame, frame.view).items.find((other): other is LabelItem => other.kind === 'label' && other.stop === 's1')!
    expect(laid.label).toEqual(compiled.marks[1]!.label)
    expect(laid.label.x).toBeGreaterThan(item.label.x)
  })

  it('goes where there is no room for it, and comes back on the table', () => {
    const trip = editStop(journeyOver([[960, 540], [1890, 500]], {}, 6), 's1', { name: 'Harrowmere', label: { place: { kind: 'side', side: 'right' } } }) // prettier-ignore
    const frame = frameAt(compile(trip), 6)
    const opacity = (items: typeof frame.items) =>
      items.find((item): item is LabelItem => item.kind === 'label' && item.stop === 's1')!.opacity
    expect(opacity(frame.items)).toBe(0)
    expect(opacity(onTable(frame, frame.view).items)).toBe(1)
  })
})
