import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import type { FrameItem, PostcardItem } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { besidePin, readingSeconds } from '#core/frame/marks'
import { dressStopsLike, editPostcard, editStop, newPostcard } from '#core/edits/stops'
import { setLayover } from '#core/edits/pace'
import { parseJourney } from '#core/journey/parse'
import { pinSchema, postcardSchema, SIDES } from '#core/journey/schema'
import type { Journey, Postcard } from '#core/journey/schema'
import { insertStop, removeStop } from '#core/edits/trips'
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
  editStop(setLayover(journey, 1, layover, 'traveller'), 's1', { postcard: postcardSchema.parse({ photo: paperPhoto, ...card }) })
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
    expect(readingSeconds(journey.stops[1]!.postcard!)).toBeCloseTo(2.5, 9)
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
    const journey = editStop(setLayover(TRIP, 2, 0, 'traveller'), 's2', { postcard: postcardSchema.parse({ text: 'There' }) })
    const card = cardAt(journey, 99)!
    expect(card.scale).toBeCloseTo(1, 2)
    expect(card.opacity).toBeCloseTo(1, 2)
  })

  it('is not shown with nothing on it', () => {
    expect(cardAt(withCard({ photo: null, text: ' ' }), 10)).toBeUndefined()
    expect(compile(withCard({ photo: null, text: ' ' })).marks[1]!.postcard).toBeUndefined()
  })

  it('is the same object to the painter from frame to frame while nothing changes', () => {
    const compiled = compile(withCard({ stays: 'end' }))
    const [a, b] = [15, 15.5].map((t) => frameAt(compiled, t).items.find(isCard)!)
    for (const key of Object.keys(a!) as (keyof PostcardItem)[]) expect(a![key]).toBe(b![key])
  })

  it('lies beside its pin on the side that was chosen', () => {
    const pin = pinSchema.parse({ size: 100 })
    for (const side of SIDES) {
      const { x, y } = besidePin(pin, side, { width: 300, height: 200 }, 10)
      if (side.endsWith('right')) expect(x - 150).toBeGreaterThanOrEqual(10)
      else if (side.endsWith('left')) expect(x + 150).toBeLessThanOrEqual(-10)
      else expect(x).toBe(0)
      if (side.startsWith('top')) expect(y + 100).toBe(-110)
      if (side.startsWith('bottom')) expect(y - 100).toBe(10)
    }
  })

  it('is kept, changed and dressed with its stop, and not copied to a stop that is put into the leg after it', () => {
    const journey = withCard({ text: 'Hello', size: 500 })
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
    const more = insertStop(journey, 'l2', { x: 1300, y: 540 }, { stop: 'new', leg: 'second' })
    expect(more.stops.map(({ postcard }) => postcard?.text)).toEqual([undefined, 'Hello', undefined, undefined])
    expect(removeStop(more, 's1', 'traveller').stops.some(({ postcard }) => postcard)).toBe(false)
    expect(editPostcard(journey, 's1', { tilt: 9 }).stops[1]!.postcard).toMatchObject({ tilt: 9, text: 'Hello' })
    expect(editPostcard(journey, 's0', { tilt: 9 })).toBe(journey)
    const two = editStop(journey, 's2', { postcard: postcardSchema.parse({ text: 'Other', side: 'left' }) })
    expect(dressStopsLike(two, 's1').stops[2]!.postcard).toMatchObject({ text: 'Other', side: 'left', size: 500, photo: null })
    expect(dressStopsLike(two, 's1').stops[0]!.postcard).toBeNull()
  })

  it('is put on the other side of its pin than the name', () => {
    const [stop] = TRIP.stops
    for (const [side, other] of [
      ['top', 'bottom'],
      ['right', 'left'],
      ['bottom-left', 'top-right'],
    ] as const)
      expect(newPostcard({ label: { ...stop!.label, place: { kind: 'side', side } } }, { text: 'x' }).side).toBe(other)
    expect(newPostcard({ label: { ...stop!.label, shown: false } }, { text: 'x' }).side).toBe('top')
    expect(newPostcard({ label: { ...stop!.label, place: { kind: 'automatic' } } }, { text: 'x' }).side).toBe('top')
  })

  it.each([
    ['a photo that is no hash', { photo: { ...paperPhoto, image: '../../etc/passwd' } }, /SHA-256/],
    ['a tilt beyond what is allowed', { tilt: 90 }, /tilt/],
    ['a stay of no seconds', { stays: 0 }, /stays/],
  ])('with %s is refused', (_what, card, message) => {
    const journey = withCard({})
    const wrong = {
      ...journey,
      stops: journey.stops.map((stop, i) => (i === 1 ? { ...stop, postcard: { ...stop.postcard, ...card } } : stop)),
    }
    expect(() => parseJourney(JSON.parse(JSON.stringify(wrong)))).toThrow(message)
  })
})
