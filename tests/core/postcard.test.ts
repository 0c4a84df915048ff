import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import type { FrameItem, PostcardItem } from '#core/frame/frame'
import { frameAt, withoutGround } from '#core/frame/frame-at'
import { cardPoseAt, cardTimes, readingSeconds } from '#core/marks/card-times'
import { cardBox, layoutOf, shownPart } from '#core/marks/card-layout'
import { besidePin, NOTHING } from '#core/marks/pins'
import { addPostcard, editPostcard, movePostcard, newPostcard, removePostcard } from '#core/edits/marks/postcards'
import { editLeg } from '#core/edits/lines/legs'
import { dressStopsLike, editStop } from '#core/edits/marks/stops'
import { setLayover } from '#core/edits/pace/pace'
import { parseJourney } from '#core/journey/parse'
import { CARD_COMINGS, CARD_FRAMES, CARD_GOINGS, pinSchema, postcardSchema, SIDES } from '#core/journey/schema'
import { overlapArea } from '#core/geometry/box'
import type { Journey, Label, Postcard, Side } from '#core/journey/schema'
import { insertStop, removeStop } from '#core/edits/trips/trips'
import type { VehicleId } from '#core/vehicles/catalogue'
import { journeyOver, paperPhoto } from '../support/journeys'

const TRIP = journeyOver(
  [
    [200, 540],
    [900, 540],
    [1700, 540],
  ],
  {},
  20,
)
const withCard = (card: Partial<Postcard>, layover = 4, journey: Journey = TRIP): Journey =>
  editStop(setLayover(journey, 1, layover, 'traveller'), 's1', {
    postcards: [postcardSchema.parse({ id: 'card', photo: paperPhoto, ...card })],
  })
const isCard = (item: FrameItem): item is PostcardItem => item.kind === 'postcard'
const cardAt = (journey: Journey, t: number) => frameAt(compile(journey), t).items.find(isCard)
const visit = (journey: Journey) => compile(journey).travellers[0]!.visits[1]!

/** The seconds between which a card is seen, to a hundredth. */
function seen(journey: Journey): [number, number] {
  const compiled = compile(journey)
  const times = Array.from({ length: 2000 }, (_, i) => i / 100).filter((t) => frameAt(compiled, t).items.some(isCard))
  return [times[0]!, times.at(-1)!]
}

describe('a postcard', () => {
  it('comes after arrival, and goes when the traveller leaves', () => {
    const journey = withCard({})
    const { arrive, leave } = visit(journey)
    const [from, to] = seen(journey)
    expect(from).toBeGreaterThan(arrive)
    expect(from).toBeLessThan(arrive + 0.25)
    expect(to).toBeCloseTo(leave, 1)
    const growing = cardAt(journey, from + 0.1)!
    expect(growing.scale).toBeLessThan(1)
    expect(growing.opacity).toBeLessThan(1)
    expect(cardAt(journey, (from + to) / 2)).toMatchObject({ scale: 1, opacity: 1 })
    expect(cardAt(journey, leave - 0.1)!.opacity).toBeLessThan(0.5)
  })

  it('stays long enough to be taken in where the rest is too short for it', () => {
    const journey = withCard({ text: 'Five words to be read' }, 0)
    const [from, to] = seen(journey)
    expect(readingSeconds(journey.stops[1]!.postcards[0]!)).toBeCloseTo(2.5, 9)
    expect(to - from).toBeGreaterThanOrEqual(2.5)
    expect(readingSeconds({ photo: paperPhoto, text: '' })).toBe(1.5)
    expect(readingSeconds({ photo: null, text: '  ' })).toBe(0)
  })

  it('stays so many seconds, or to the film’s last frame, if that is asked for', () => {
    const [from, to] = seen(withCard({ stays: 6 }))
    expect(to - from).toBeCloseTo(6, 1)
    expect(cardAt(withCard({ stays: 'end' }), 99)).toMatchObject({ scale: 1, opacity: 1 })
  })

  it('at the last stop is whole in the last frame, however late one arrives there', () => {
    const journey = editStop(setLayover(TRIP, 2, 0, 'traveller'), 's2', {
      postcards: [postcardSchema.parse({ id: 'card', text: 'There' })],
    })
    const card = cardAt(journey, 99)!
    expect(card.scale).toBeCloseTo(1, 2)
    expect(card.opacity).toBeCloseTo(1, 2)
  })

  it('is not shown with nothing on it', () => {
    expect(cardAt(withCard({ photo: null, text: ' ' }), 10)).toBeUndefined()
    expect(compile(withCard({ photo: null, text: ' ' })).marks[1]!.postcards).toEqual([])
  })

  it('is the same object to the painter from frame to frame while nothing changes', () => {
    const compiled = compile(withCard({ stays: 'end' }))
    const [a, b] = [15, 15.5].map((t) => frameAt(compiled, t).items.find(isCard)!)
    for (const key of Object.keys(a!) as (keyof PostcardItem)[]) expect(a![key]).toBe(b![key])
  })

  it('lies beside its pin on the side that was chosen', () => {
    const pin = pinSchema.parse({ size: 100 })
    for (const side of SIDES) {
      const { x, y } = besidePin(pin, NOTHING, side, { width: 300, height: 200 }, 10)
      if (side.endsWith('right')) expect(x - 150).toBeGreaterThanOrEqual(10)
      else if (side.endsWith('left')) expect(x + 150).toBeLessThanOrEqual(-10)
      else expect(x).toBe(0)
      if (side.startsWith('top')) expect(y + 100).toBe(-110)
      if (side.startsWith('bottom')) expect(y - 100).toBe(10)
    }
  })

  it('keeps off the vehicle that rests at its stop, on any side, and off no other', () => {
    const riding = (artwork: VehicleId | null, leg = 'l1') =>
      editLeg(TRIP, leg, { vehicle: artwork && { kind: 'catalogue', artwork, colour: '#d8412f', size: 160 } })
    const cardOn = (side: Side, journey: Journey) => {
      const mark = compile(withCard({ place: { kind: 'side', side }, tilt: 0, size: 300 }, 4, journey)).marks[1]!
      return cardBox(mark.postcards[0]!.postcard, { pin: mark.stop.pin, ...mark.postcards[0]! }, { ...mark.stop.at, scale: 1 }, { width: 4000, height: 4000 }) // prettier-ignore
    }
    // What the walker's drawing covers, with 160 for its length of 100: 119 above the line, 41 to each side when it is mirrored.
    const walker = { left: -65.6, right: 65.6, top: -190.4, bottom: 4.8 }
    for (const side of SIDES) expect(overlapArea(cardOn(side, riding('walker')), walker), side).toBe(0)
    expect(overlapArea(cardOn('top', riding(null)), walker)).toBeGreaterThan(0)
    const above = cardOn('left', riding('car'))
    expect(above.right).toBeLessThan(-0.5 * 160)
    // The vehicle of the leg that begins there counts too; one that has other stops does not.
    expect(overlapArea(cardOn('top', riding('walker', 'l2')), walker)).toBe(0)
    const elsewhere = { ...riding('walker'), travellers: TRIP.travellers.map((traveller) => ({ ...traveller, shown: false })) }
    expect(compile(withCard({}, 4, elsewhere)).marks).toEqual([])
  })

  it('is kept, changed and dressed with its stop, and not copied to a stop that is put into the leg after it', () => {
    const journey = withCard({ text: 'Hello', size: 500 })
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
    const more = insertStop(journey, 'l2', { x: 1300, y: 540 }, { stop: 'new', leg: 'second' })
    expect(more.stops.map(({ postcards }) => postcards[0]?.text)).toEqual([undefined, 'Hello', undefined, undefined])
    expect(removeStop(more, 's1', 'traveller').stops.some(({ postcards }) => postcards.length > 0)).toBe(false)
    expect(editPostcard(journey, 's1', 'card', { tilt: 9 }).stops[1]!.postcards[0]).toMatchObject({ tilt: 9, text: 'Hello' })
    expect(editPostcard(journey, 's0', 'card', { tilt: 9 })).toBe(journey)
    const two = editStop(journey, 's2', {
      postcards: [postcardSchema.parse({ id: 'other', text: 'Other', place: { kind: 'side', side: 'left' } })],
    })
    expect(dressStopsLike(two, 's1').stops[2]!.postcards[0]).toMatchObject({
      id: 'other',
      text: 'Other',
      place: { side: 'left' },
      size: 500,
      photo: null,
    })
    expect(dressStopsLike(two, 's1').stops[0]!.postcards).toEqual([])
  })

  it('is put on the other side of its pin than the name', () => {
    const [stop] = TRIP.stops
    const placeOf = (label: Label) => newPostcard({ label, postcards: [] }, 'new', { text: 'x' }).place
    for (const [side, other] of [
      ['top', 'bottom'],
      ['right', 'left'],
      ['bottom-left', 'top-right'],
    ] as const)
      expect(placeOf({ ...stop!.label, place: { kind: 'side', side } })).toEqual({ kind: 'side', side: other })
    expect(placeOf({ ...stop!.label, shown: false })).toEqual({ kind: 'side', side: 'top' })
    expect(placeOf({ ...stop!.label, place: { kind: 'automatic' } })).toEqual({ kind: 'side', side: 'top' })
  })

  it.each([
    ['a photo that is no hash', { photo: { ...paperPhoto, image: '../../etc/passwd' } }, /SHA-256/],
    ['a tilt beyond what is allowed', { tilt: 90 }, /tilt/],
    ['a stay of no seconds', { stays: 0 }, /stays/],
    ['a crop that leaves nothing', { crop: { left: 0.5, right: 0.5, top: 0, bottom: 1 } }, /too little/],
    ['a crop beyond the photo', { crop: { left: -0.1, right: 0.5, top: 0, bottom: 1 } }, /crop/],
  ])('with %s is refused', (_what, card, message) => {
    const journey = withCard({})
    const wrong = {
      ...journey,
      stops: journey.stops.map((stop, i) => (i === 1 ? { ...stop, postcards: [{ ...stop.postcards[0], ...card }] } : stop)),
    }
    expect(() => parseJourney(JSON.parse(JSON.stringify(wrong)))).toThrow(message)
  })
})

const cardsOf = (...cards: Partial<Postcard>[]) => cards.map((card, i) => postcardSchema.parse({ id: `c${i}`, photo: paperPhoto, ...card }))

describe('several postcards at a stop', () => {
  it('share the rest, one after the other', () => {
    const times = cardTimes(cardsOf({}, {}, {}), 10, 19.2, 60)
    expect(times.map(({ from }) => from)).toEqual([10.2, 13.2, 16.2])
    expect(times.map(({ to }) => to)).toEqual([13.2, 16.2, 19.2])
  })

  it('are each seen long enough where the rest is short, as long as was set, and to the end where that is asked for', () => {
    const [first, second, third] = cardTimes(cardsOf({ stays: 5 }, { text: 'Five words to be read' }, { stays: 'end' }), 10, 11, 60)
    expect(first).toEqual({ from: 10.2, to: 15.2 })
    // 0.4 s to come, 1 s and 0.3 s for each of five words.
    expect(second!.to - second!.from).toBeCloseTo(0.4 + 1 + 5 * 0.3, 9)
    expect(third).toEqual({ from: second!.to, to: Infinity })
  })

  it('are all seen before the film ends, the last of them whole', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12 }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        fc.double({ min: 1, max: 30, noNaN: true }),
        (count, arrive, lastTime) => {
          const times = cardTimes(cardsOf(...Array.from({ length: count }, () => ({}))), Math.min(arrive, lastTime), lastTime, lastTime)
          times.forEach(({ from, to }, i) => {
            expect(to).toBeGreaterThan(from)
            if (i > 0) expect(from).toBeCloseTo(times[i - 1]!.to, 9)
          })
          expect(times.at(-1)!.from).toBeLessThanOrEqual(lastTime - 0.4 + 1e-9)
          expect(times.at(-1)!.to).toBe(Infinity)
        },
      ),
    )
  })

  it('are added with the looks of the last, moved and taken away', () => {
    const one = withCard({ frame: 'torn', text: 'One', crop: { left: 0, top: 0, right: 0.5, bottom: 1 } })
    const second = newPostcard(one.stops[1]!, 'second', { text: 'Two' })
    expect(second).toMatchObject({ id: 'second', frame: 'torn', text: 'Two', photo: null, crop: null })
    const two = addPostcard(one, 's1', second)
    const ids = (journey: Journey) => journey.stops[1]!.postcards.map(({ id }) => id)
    expect(ids(two)).toEqual(['card', 'second'])
    expect(ids(movePostcard(two, 's1', 0, 1))).toEqual(['second', 'card'])
    expect(movePostcard(two, 's1', 0, 2)).toBe(two)
    expect(ids(removePostcard(two, 's1', 'card'))).toEqual(['second'])
    const full = Array.from({ length: 20 }, (_, i) => `n${i}`).reduce((j, id) => addPostcard(j, 's1', { ...second, id }), one)
    expect(full.stops[1]!.postcards).toHaveLength(12)
    expect(() => parseJourney(JSON.parse(JSON.stringify(addPostcard(one, 's1', { ...second, id: 'card' }))))).toThrow(/id twice/)
  })

  it('dim the map as much as the one that asks for most of it, under all cards, and not where the ground is left out', () => {
    const journey = editStop(withCard({ dims: 0.6, stays: 'end' }), 's2', { postcards: cardsOf({ dims: 0.4, stays: 'end' }) })
    const frame = frameAt(compile(journey), 99)
    const kinds = frame.items.map(({ kind }) => kind)
    expect(frame.items.find(({ kind }) => kind === 'dim')).toEqual({ kind: 'dim', opacity: 0.6 })
    expect(kinds.indexOf('dim')).toBe(kinds.indexOf('postcard') - 1)
    expect(kinds.lastIndexOf('label')).toBeLessThan(kinds.indexOf('dim'))
    expect(withoutGround(frame).items.some(({ kind }) => kind === 'dim')).toBe(false)
    expect(frameAt(compile(journey), 0).items.some(({ kind }) => kind === 'dim')).toBe(false)
  })
})

describe('the way of a card in and out', () => {
  const times = { from: 1, to: 9 }
  it.each(CARD_COMINGS.flatMap((comes) => CARD_GOINGS.map((goes) => [comes, goes] as const)))('is smooth: %s, %s', (comes, goes) => {
    let before = cardPoseAt(5, times, { comes, goes })!
    expect(before).toEqual({ scale: 1, opacity: 1, shift: 0, turn: 0, unrolled: 1 })
    // It comes to rest without a jump, and leaves it without one.
    for (const [from, step] of [
      [5, -0.01],
      [5, 0.01],
    ] as const) {
      before = cardPoseAt(from, times, { comes, goes })!
      for (let t = from + step; t > 1.01 && t < 8.99; t += step) {
        const now = cardPoseAt(t, times, { comes, goes })!
        for (const key of ['scale', 'opacity', 'shift', 'unrolled'] as const) expect(Math.abs(now[key] - before[key])).toBeLessThan(0.16)
        before = now
      }
    }
    expect(cardPoseAt(1, times, { comes, goes })).toBeUndefined()
    expect(cardPoseAt(9, times, { comes, goes })).toBeUndefined()
  })
})

describe('the part of a photo that is shown', () => {
  const photo = { ...paperPhoto, width: 900, height: 600 }
  it('is what it was cropped to; of that, a round frame takes a square from the middle, and a cinema’s one 2.35 to 1', () => {
    const crop = { left: 0.2, right: 1, top: 0, bottom: 0.5 }
    expect(shownPart({ photo, crop: null, frame: 'print' })).toEqual({ left: 0, top: 0, right: 1, bottom: 1 })
    expect(shownPart({ photo, crop, frame: 'torn' })).toEqual(crop)
    const round = shownPart({ photo, crop, frame: 'round' })
    expect((round.right - round.left) * 900).toBeCloseTo((round.bottom - round.top) * 600, 9)
    expect((round.left + round.right) / 2).toBeCloseTo(0.6, 9)
    expect(round.bottom - round.top).toBeCloseTo(0.5, 9)
    const cinema = shownPart({ photo, crop: null, frame: 'cinema' })
    expect(((cinema.right - cinema.left) * 900) / ((cinema.bottom - cinema.top) * 600)).toBeCloseTo(2.35, 9)
    expect(cinema.right - cinema.left).toBe(1)
  })

  it.each(CARD_FRAMES)('lies on a card framed as %s, with its text beside it or over its edge, and all within the card', (frame) => {
    for (const text of ['', 'A caption of several words, so long that it takes up two lines']) {
      const [card] = cardsOf({ photo, text, frame, size: 400 })
      const layout = layoutOf(card!)
      const box = layout.photo!
      const whole = { left: -layout.width / 2, right: layout.width / 2, top: -layout.height / 2, bottom: layout.height / 2 }
      for (const inner of [box, layout.text]) {
        expect(inner.left).toBeGreaterThanOrEqual(whole.left - 1e-9)
        expect(inner.right).toBeLessThanOrEqual(whole.right + 1e-9)
        expect(inner.top).toBeGreaterThanOrEqual(whole.top - 1e-9)
        expect(inner.bottom).toBeLessThanOrEqual(whole.bottom + 1e-9)
      }
      expect(layout.lines.length * layout.letters).toBeLessThanOrEqual(layout.text.bottom - layout.text.top + 1e-9)
      if (frame !== 'round') expect(layout.text.top).toBeGreaterThanOrEqual(box.bottom - 1e-9)
    }
  })
})

describe('a card laid by hand', () => {
  it('has its middle where it was put, also beyond the frame', () => {
    const [card] = cardsOf({ place: { kind: 'free', x: 900, y: -20 }, tilt: 0, size: 200, frame: 'plain' })
    const home = { x: 1800, y: 500, scale: 1 }
    const { left, right } = cardBox(card!, { pin: pinSchema.parse({}), clearOf: NOTHING }, home, { width: 1920, height: 1080 })
    expect([left, right]).toEqual([800, 1000])
  })
})
