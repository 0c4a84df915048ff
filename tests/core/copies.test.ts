/** Looks and timings that are copied from one thing and pasted onto others of its kind. */
import { describe, expect, it } from 'vitest'
import { copiedSchema, copyLeg, copyShot, copyStop, paste } from '#core/edits/copies'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { setLayover } from '#core/edits/pace/pace'
import type { Journey, Shot } from '#core/journey/schema'
import { glowSchema, journeySchema, postcardSchema, shotSchema } from '#core/journey/schema'
import { EVERY_SHOT } from '../support/every-kind'
import { demo, journeyOver } from '../support/journeys'

const TRIP = journeyOver([
  [100, 100],
  [500, 300],
  [900, 200],
  [1300, 600],
])
const legsOf = ({ travellers }: Journey) => travellers[0]!.legs
/** As it is kept between journeys. */
const kept = (value: ReturnType<typeof copyLeg>) => copiedSchema.parse(JSON.parse(JSON.stringify(value)))

describe('what is copied of a leg', () => {
  const model = editLeg(TRIP, 'l1', {
    travel: 1.5,
    easing: 'linear',
    aside: 12,
    course: { kind: 'bowed', bow: 0.3 },
    vehicle: { kind: 'catalogue', artwork: 'bus', colour: '#224466', size: 120 },
    ink: { width: 17, glow: glowSchema.parse({ colour: '#ffffff', radius: 9, strength: 1 }) },
  })
  const copied = kept(copyLeg(model, 'l1'))
  const [from, other] = [legsOf(model)[0]!, legsOf(model)[1]!]

  it('is pasted as look, as timing, or as both, and never as its course', () => {
    const onto = { ids: ['l2', 'l3'] }
    for (const leg of legsOf(paste(model, copied, onto, 'look')).slice(1)) {
      expect(leg).toMatchObject({ ink: from.ink, vehicle: from.vehicle, course: other.course, travel: null, aside: 0 })
      expect(leg.easing).toBe(other.easing)
    }
    for (const leg of legsOf(paste(model, copied, onto, 'timing')).slice(1))
      expect(leg).toMatchObject({ travel: 1.5, easing: 'linear', ink: other.ink, vehicle: other.vehicle, course: other.course })
    expect(legsOf(paste(model, copied, onto, 'both'))[2]).toMatchObject({ travel: 1.5, ink: from.ink, course: other.course })
    expect(legsOf(paste(model, copied, onto, 'both'))[0]).toBe(from)
  })

  it('goes into another journey', () => {
    const there = paste(demo(), copied, { ids: [legsOf(demo())[2]!.id] }, 'look')
    expect(legsOf(there)[2]!.ink).toEqual(from.ink)
    expect(() => journeySchema.parse(there)).not.toThrow()
  })

  it('of a leg that is not there is nothing', () => expect(copyLeg(TRIP, 'nowhere')).toBeUndefined())
})

describe('what is copied of a stop', () => {
  const card = (id: string, text: string) => postcardSchema.parse({ id, text, size: 300 })
  let model = editStop(TRIP, 's1', {
    name: 'Quillhaven',
    pin: { shape: 'disc', size: 90, inside: { kind: 'letters', text: 'Q' } },
    label: { style: { size: 70 }, second: { kind: 'note', text: 'Two nights' }, place: { kind: 'side', side: 'left' } },
    postcards: [{ ...card('c', 'Hello'), size: 444 }],
  })
  model = editStop(model, 's2', { pin: { shape: 'disc', inside: { kind: 'letters', text: 'X' } }, postcards: [card('d', 'There')] })
  model = setLayover(model, 1, 2.5, 'traveller')
  const copied = kept(copyStop(model, 's1', { traveller: 'traveller', index: 1 }))

  it('is its look without what is written on it, and where it lies', () => {
    const [, , stop] = paste(model, copied, { ids: ['s2'] }, 'look').stops
    expect(stop!.pin).toMatchObject({ shape: 'disc', size: 90, inside: { kind: 'letters', text: 'X' } })
    expect(stop!.label).toMatchObject({ style: { size: 70 }, second: null, place: { kind: 'automatic' } })
    expect(stop!.postcards).toMatchObject([{ id: 'd', text: 'There', size: 444 }])
    expect([stop!.name, stop!.at]).toEqual([model.stops[2]!.name, model.stops[2]!.at])
    // A stop without cards gets none.
    expect(paste(model, copied, { ids: ['s3'] }, 'both').stops[3]!.postcards).toEqual([])
  })

  it('is how long one stays, of the visit that is selected, or of all at several stops', () => {
    const layovers = (journey: Journey) => journey.travellers[0]!.visits.map(({ layover }) => layover)
    const visit = { traveller: 'traveller', index: 2 }
    expect(layovers(paste(model, copied, { ids: ['s2'], visit }, 'timing'))).toEqual([null, 2.5, 2.5, null])
    expect(layovers(paste(model, copied, { ids: ['s2', 's3'], visit }, 'timing'))).toEqual([null, 2.5, 2.5, 2.5])
    expect(layovers(paste(model, copied, { ids: ['s2', 's3'] }, 'look'))).toEqual([null, 2.5, null, null])
    expect(paste(model, copied, { ids: ['s2'] }, 'timing').stops).toEqual(model.stops)
  })

  it('without a visit has no timing', () => {
    const stop = kept(copyStop(model, 's1'))
    expect(stop.timing).toBeNull()
    expect(paste(model, stop, { ids: ['s2'] }, 'timing')).toEqual(model)
  })

  it('takes the font of one’s own along', () => {
    const font = { file: 'f'.repeat(64), name: 'Hand', capital: 700, widths: { a: 500 } }
    const set = editStop({ ...model, fonts: [font] }, 's1', { label: { style: { family: `own-${font.file}` } } })
    const there = paste(demo(), kept(copyStop(set, 's1')), { ids: ['lampwick'] }, 'look')
    expect(there.fonts).toEqual([font])
    expect(() => journeySchema.parse(there)).not.toThrow()
  })
})

describe('what is copied of a shot', () => {
  const every = Object.values(EVERY_SHOT)
  const pairs = every.flatMap((from) => every.map((onto) => [from.kind, onto.kind, from, onto] as const))

  it.each(pairs)('of kind %s goes onto one of kind %s, as far as that has it', (_from, _onto, from, onto) => {
    const journey: Journey = { ...TRIP, shots: [onto] }
    const copied = kept(copyShot(from))
    const both = paste(journey, copied, { ids: [], shot: onto }, 'both').shots[0]!
    expect(shotSchema.parse(both)).toEqual(both)
    expect(both).toMatchObject({ kind: onto.kind, id: onto.id, at: onto.at, transition: from.transition, easing: from.easing, orbit: from.orbit, dolly: from.dolly }) // prettier-ignore
    const aim = (shot: Shot) => (shot.kind === 'free' ? shot.view : shot)
    expect(aim(both)).toMatchObject({ bearing: aim(from).bearing, pitch: aim(from).pitch })
    if ('zoom' in aim(from) && 'zoom' in aim(onto)) expect(aim(both)).toMatchObject({ zoom: (aim(from) as { zoom: number }).zoom })
    if (from.kind === onto.kind && from.kind === 'chase') expect(both).toMatchObject({ turns: from.turns, lead: from.lead })
    // What it is of, and where it looks, stay.
    for (const field of ['stop', 'leg', 'travellers'] as const) expect((both as never)[field]).toEqual((onto as never)[field])
    if (onto.kind === 'free' && both.kind === 'free') expect(both.view.centre).toEqual(onto.view.centre)
    const looks = paste(journey, copied, { ids: [], shot: onto }, 'look').shots[0]!
    expect([looks.transition, looks.easing]).toEqual([onto.transition, onto.easing])
    const timing = paste(journey, copied, { ids: [], shot: onto }, 'timing').shots[0]!
    expect({ ...timing, transition: onto.transition, easing: onto.easing }).toEqual(onto)
  })

  it('makes a shot of the plan one’s own', () => {
    const planned = { ...EVERY_SHOT['close-up'], id: 'plan-2' }
    expect(paste(TRIP, kept(copyShot(EVERY_SHOT.chase)), { ids: [], shot: planned }, 'look').shots).toMatchObject([{ id: 'plan-2' }])
  })
})
