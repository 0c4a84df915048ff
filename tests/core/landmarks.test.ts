import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { addLandmark, editLandmark, moveLandmark, newMark, newPicture, removeLandmark, turnPicture } from '#core/edits/marks/landmarks'
import { editMark } from '#core/edits/marks/marks'
import { removeStop } from '#core/edits/trips/trips'
import type { Frame } from '#core/frame/frame'
import { frameAt, withoutGround } from '#core/frame/frame-at'
import { imagesOf } from '#core/journey/images'
import { parseJourney } from '#core/journey/parse'
import type { Journey, Landmark } from '#core/journey/schema'
import { labelScene, NO_PLACES } from '#core/labels/label-scene'
import { EVERY_LANDMARK } from '../support/every-kind'
import { journeyOver, paperPhoto } from '../support/journeys'

const TRIP = journeyOver([[200, 540], [900, 540], [1700, 540]], {}, 20) // prettier-ignore
const at = { x: 700, y: 300 }
const withThe = (...landmarks: Landmark[]): Journey => landmarks.reduce(addLandmark, TRIP)
const mark = (fields: Partial<Landmark> = {}) => ({ ...newMark(TRIP, 'm', at, 'Old mill', true), ...fields }) as Landmark
const picture = (fields: Partial<Landmark> = {}) => ({ ...newPicture('p', at, 'Hut', paperPhoto, 1), ...fields }) as Landmark
const from5to9 = { shown: { from: { at: 'start', offset: 5 }, to: { at: 'start', offset: 9 }, fade: 1 } } as const
const named = ({ items }: Frame, kind: string) =>
  items.filter((item) => item.kind === kind && (('stop' in item && item.stop === 'm') || ('id' in item && item.id === 'p')))
const frames = (journey: Journey) => {
  const compiled = compile(journey, NO_PLACES)
  return (t: number) => frameAt(compiled, t)
}

describe('a mark beside the way', () => {
  it('is seen whole from the first frame to the last where no moments are set', () => {
    const look = frames(withThe(mark()))
    for (const t of [0, 10, 99]) {
      expect(named(look(t), 'pin')).toMatchObject([{ scale: 1, opacity: 1 }])
      expect(named(look(t), 'label')).toMatchObject([{ elapsed: null, opacity: 1 }])
    }
  })

  it('comes as pins do at its moment, and fades when its time is over', () => {
    const look = frames(withThe(mark(from5to9)))
    expect(named(look(4.7), 'pin')).toEqual([])
    expect(named(look(4.9), 'pin')[0]).toMatchObject({ opacity: expect.toSatisfy((n: number) => n > 0 && n < 1) as number })
    expect(named(look(7), 'pin')).toMatchObject([{ scale: 1, opacity: 1 }])
    expect(named(look(8.5), 'pin')).toMatchObject([{ opacity: 0.5 }])
    expect(named(look(8.5), 'label')).toMatchObject([{ opacity: 0.5, elapsed: null }])
    expect(named(look(9.1), 'pin')).toEqual([])
    expect(named(look(9.1), 'label')).toEqual([])
  })

  it('has no number of its own, takes none from the stops, and its name keeps clear of theirs', () => {
    const journey = editMark(withThe(mark()), 'm', { pin: { inside: { kind: 'number' } } })
    const numbered = journey.stops.reduce((j, { id }) => editMark(j, id, { pin: { inside: { kind: 'number' } } }), journey)
    const pins = frames(numbered)(99).items.flatMap((item) => (item.kind === 'pin' ? [[item.stop, item.inside]] : []))
    expect(pins).toEqual([['s0', '1'], ['s1', '2'], ['s2', '3'], ['m', '']]) // prettier-ignore
    expect(labelScene(compile(journey))!.labels.map(({ stop }) => stop)).toContain('m')
  })

  it('is dressed by the same edits as a stop', () => {
    const journey = editMark(withThe(mark()), 'm', { name: 'New mill', pin: { size: 90 }, label: { style: { size: 33 } } })
    expect(journey.landmarks[0]).toMatchObject({ name: 'New mill', pin: { size: 90 }, label: { style: { size: 33 } } })
    expect(journey.stops).toEqual(TRIP.stops)
    expect(editMark(journey, 's1', { name: 'Here' }).stops[1]!.name).toBe('Here')
  })

  it('that is a name alone lies where it was put', () => {
    const words = newMark(TRIP, 'm', at, 'Here be seals', false)
    const [item] = named(frames(withThe(words))(0), 'label')
    const { label } = item as Extract<typeof item, { kind: 'label' }>
    expect(label).toMatchObject({ align: 'center', x: 0, leader: null })
    expect(label.top + label.block.height / 2).toBeCloseTo(0, 9)
  })
})

describe('a picture beside the way', () => {
  it('that stands is seen between its moments, with a fade at both', () => {
    const look = frames(withThe(picture(from5to9)))
    expect(named(look(4.9), 'standing')).toEqual([])
    expect(named(look(5.5), 'standing')).toMatchObject([{ opacity: 0.5 }])
    expect(named(look(7), 'standing')).toMatchObject([{ opacity: 1 }])
    expect(named(look(9.1), 'standing')).toEqual([])
  })

  it('that lies is a sheet over the others, about its place, and goes with the ground', () => {
    const journey = turnPicture(withThe(picture({ width: 300 })), 'p', 'lying')
    const turned = editLandmark(journey, 'p', { rotation: 90 })
    const frame = frames(turned)(3)
    const sheet = frame.items.flatMap((item) => (item.kind === 'sheet' ? [item.sheet] : [])).at(-1)!
    const scale = 300 / paperPhoto.width
    // A quarter turn clockwise: its upper left corner is to the upper right of its middle.
    expect(sheet.place.scale).toBeCloseTo(scale, 9)
    expect(sheet.place.x).toBeCloseTo(at.x + (paperPhoto.height * scale) / 2, 6)
    expect(sheet.place.y).toBeCloseTo(at.y - 150, 6)
    expect(withoutGround(frame).items.some(({ kind }) => kind === 'sheet')).toBe(false)
    expect(turnPicture(turned, 'p', 'standing').landmarks[0]).toMatchObject({ kind: 'standing', width: 300, name: 'Hut' })
  })

  it('stands before what is further away, in a tilted view', () => {
    const tilted = { ...TRIP, camera: { ...TRIP.camera, pitch: 50 } }
    const order = (y: number) => {
      const journey = addLandmark(tilted, picture({ at: { x: 900, y } }))
      return frameAt(compile(journey, NO_PLACES), 99).items.flatMap((item) =>
        item.kind === 'standing' ? ['picture'] : item.kind === 'pin' && item.stop === 's1' ? ['pin'] : [],
      )
    }
    expect(order(400)).toEqual(['picture', 'pin'])
    expect(order(700)).toEqual(['pin', 'picture'])
  })

  it('is among the images that a journey needs, as the picture of a pin is', () => {
    const own = editMark(withThe(picture()), 's0', { pin: { shape: 'own', picture: { ...paperPhoto, anchor: { x: 0.5, y: 1 } } } })
    expect(imagesOf(own).map(({ missing }) => missing)).toEqual([
      'The picture of a pin is not here: choose it again.',
      'The picture “Hut” beside the way is not here: choose it again.',
    ])
  })
})

describe('landmarks', () => {
  it.each(Object.values(EVERY_LANDMARK))('of every kind are written and read: $kind', (landmark) => {
    const journey = withThe(landmark)
    expect(parseJourney(JSON.parse(JSON.stringify(journey)))).toEqual(journey)
    expect(removeLandmark(journey, landmark.id).landmarks).toEqual([])
  })

  it('keep their moment when the stop it was tied to is taken away', () => {
    const journey = withThe(EVERY_LANDMARK.mark)
    const without = removeStop(journey, 's2', 'traveller')
    expect(() => parseJourney(JSON.parse(JSON.stringify(without)))).not.toThrow()
    expect(without.landmarks[0]!.shown!.from).not.toMatchObject({ stop: 's2' })
  })

  it('are put in another order, and no more than a hundred', () => {
    const journey = withThe(mark(), picture())
    expect(moveLandmark(journey, 0, 1).landmarks.map(({ id }) => id)).toEqual(['p', 'm'])
    expect(moveLandmark(journey, 0, 2)).toBe(journey)
    const many = { ...journey, landmarks: Array.from({ length: 100 }, (_, i) => mark({ id: `m${i}` })) }
    expect(() => addLandmark(many, mark())).toThrow(/at most 100/)
  })

  it('are refused with the id of another, or of a stop', () => {
    const twice = (id: string) => () => parseJourney(JSON.parse(JSON.stringify(withThe(mark({ id }), picture({ id: 'm' })))))
    expect(twice('m')).toThrow(/another landmark has already/)
    expect(twice('s1')).toThrow(/a stop has already/)
  })
})
