import { describe, expect, it } from 'vitest'
import { compile } from '#core/frame/compile'
import { parseJourney } from '#core/journey/parse'
import { addPhotoStops, inOrder } from '#core/edits/marks/photo-stops'
import { demo, paperPhoto } from '../support/journeys'

const photo = (name: string, x: number, y: number, time: number | null, isShown = true) => ({
  name,
  at: { x, y },
  time,
  photo: isShown ? { ...paperPhoto, width: name.length } : null,
})

describe('photos', () => {
  it('are put in the order of time, those without one last, by their numbers', () => {
    const photos = [photo('p10', 0, 0, null), photo('late', 0, 0, 9), photo('p9', 0, 0, null), photo('early', 0, 0, 1)]
    expect(inOrder(photos).map(({ name }) => name)).toEqual(['early', 'late', 'p9', 'p10'])
  })

  it('become stops by which the trip goes on; several of one place make one', () => {
    const photos = [photo('Cape', 4800, 2500, 30), photo('Beach', 5300, 1400, 10), photo('Beach again', 5310, 1405, 20)]
    const ids = photos.map((_, i) => ({ stop: `s${i}`, leg: `l${i}` }))
    const journey = addPhotoStops(demo(), photos, 'traveller', ids)
    expect(journey.stops.slice(5).map(({ name }) => name)).toEqual(['Beach', 'Cape'])
    expect(journey.travellers[0]!.legs).toHaveLength(6)
    expect(journey.stops.slice(5).map(({ postcards }) => postcards[0]?.photo?.width)).toEqual(['Beach'.length, 'Cape'.length])
    expect(() => compile(parseJourney(JSON.parse(JSON.stringify(journey))))).not.toThrow()
  })

  it('of one place are its postcards, in the order in which they were taken, those that can be shown', () => {
    const photos = [photo('Raw', 5300, 1400, 10, false), photo('Shown', 5310, 1405, 20), photo('Late', 5305, 1400, 30)]
    const journey = addPhotoStops(
      demo(),
      photos,
      'traveller',
      photos.map((_, i) => ({ stop: `s${i}`, leg: `l${i}` })),
    )
    const cards = journey.stops[5]!.postcards
    expect(journey.stops.slice(5).map(({ name }) => name)).toEqual(['Raw'])
    expect(cards.map(({ photo }) => photo?.width)).toEqual(['Shown'.length, 'Late'.length])
    expect(new Set(cards.map(({ id }) => id)).size).toBe(2)
  })
})
