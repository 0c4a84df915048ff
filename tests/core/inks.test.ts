/** Several lines of one leg: in which order they are seen, and how they are added, moved and taken away. */
import { describe, expect, it } from 'vitest'
import { copyLeg, paste } from '#core/edits/copies'
import { addInk, editLeg, inkLegsLike, moveInk, removeInk } from '#core/edits/lines/legs'
import { dressJourney } from '#core/edits/looks'
import { JOURNEY_LOOKS } from '#core/dress/looks'
import { compile } from '#core/frame/compile'
import type { InkItem } from '#core/frame/frame'
import { itemName } from '#core/frame/frame'
import { frameAt } from '#core/frame/frame-at'
import { imagesOf } from '#core/journey/images'
import { findLeg, inksOf } from '#core/journey/lookup'
import { parseJourney } from '#core/journey/parse'
import type { Journey } from '#core/journey/schema'
import { casingSchema } from '#core/journey/schema'
import { NO_PLACES } from '#core/labels/label-scene'
import { journeyOver } from '../support/journeys'

const bare = () => journeyOver([[200, 300], [900, 500], [1500, 300]], { ink: { width: 20, colour: '#112233', casing: casingSchema.parse({}) } }) // prettier-ignore
const legs = (journey: Journey) => journey.travellers[0]!.legs
const [first, second] = legs(bare()).map(({ id }) => id) as [string, string]
const widths = (journey: Journey, id: string) => inksOf(findLeg(journey, id)!.leg).map(({ width }) => width)
const seen = (journey: Journey, t: number) => {
  const { items } = frameAt(compile(journey, NO_PLACES), t)
  return items.filter((item): item is InkItem => item.kind === 'ink')
}

describe('lines over one another', () => {
  it('are narrower than what they lie on, in a colour of their own, and without its casing', () => {
    const { leg } = findLeg(addInk(bare(), first, '#ffffff'), first)!
    expect(leg.over).toHaveLength(1)
    expect(leg.over[0]).toMatchObject({ width: 8, colour: '#ffffff', casing: null })
    expect(leg.ink).toEqual(findLeg(bare(), first)!.leg.ink)
  })

  it('lie layer by layer over all legs, each an item of its own', () => {
    const two = [first, second, first].reduce((j, id) => addInk(j, id, '#ffffff'), bare())
    const items = seen(two, two.seconds)
    expect(items.map(({ leg, layer }) => [leg, layer])).toEqual([[first, 0], [second, 0], [first, 1], [second, 1], [first, 2]]) // prettier-ignore
    expect(new Set(items.map(itemName)).size).toBe(5)
    // They cover the same part of their course.
    const moving = seen(two, 2).filter(({ leg }) => leg === first)
    expect(moving).toHaveLength(3)
    expect(new Set(moving.map(({ head }) => head)).size).toBe(1)
  })

  it('come and go each in its own way', () => {
    let journey = addInk(bare(), first, '#ffffff')
    journey = editLeg(journey, first, { ink: { comes: 'faded', after: { kind: 'fades', seconds: 0.5 } }, layer: 1 })
    const { depart } = compile(journey, NO_PLACES).travellers[0]!.legs[0]!
    const [under, over] = seen(journey, depart + 0.3).filter(({ leg }) => leg === first)
    expect(under!.head).toBeLessThan(under!.course.length)
    expect(over!.head).toBe(over!.course.length)
    expect(over!.opacity).toBeLessThan(1)
    expect(seen(journey, journey.seconds).filter(({ leg }) => leg === first).map(({ layer }) => layer)).toEqual([0]) // prettier-ignore
  })

  it('are moved, edited and taken away by their place; the last one stays; there are five at most', () => {
    let journey = bare()
    for (let i = 0; i < 7; i++) journey = addInk(journey, first, '#ffffff')
    expect(widths(journey, first)).toHaveLength(5)
    journey = [5, 4, 3].reduce((j, width, i) => editLeg(j, first, { ink: { width }, layer: i }), journey)
    expect(widths(journey, first).slice(0, 3)).toEqual([5, 4, 3])
    expect(widths(moveInk(journey, first, 0, 2), first).slice(0, 3)).toEqual([4, 3, 5])
    expect(widths(moveInk(journey, first, 2, 0), first).slice(0, 3)).toEqual([3, 5, 4])
    expect(widths(removeInk(journey, first, 0), first)[0]).toBe(4)
    for (let i = 0; i < 7; i++) journey = removeInk(journey, first, 0)
    expect(widths(journey, first)).toHaveLength(1)
    expect(editLeg(bare(), first, { ink: { width: 3 }, layer: 1 })).toEqual(bare())
  })

  it('go with their leg: to all legs, when copied, and not into another look', () => {
    const road = addInk(bare(), first, '#ffffff')
    expect(widths(inkLegsLike(road, first), second)).toEqual([20, 8])
    expect(widths(paste(road, copyLeg(road, first)!, { ids: [second] }, 'look'), second)).toEqual([20, 8])
    expect(widths(dressJourney(road, JOURNEY_LOOKS[0]!), first)).toHaveLength(1)
    expect(parseJourney(JSON.parse(JSON.stringify(road)))).toEqual(road)
  })

  it('say which pictures they need', () => {
    const picture = { image: 'a'.repeat(64), width: 10, height: 10, vector: false }
    const stamped = editLeg(addInk(bare(), first, '#ffffff'), first, {
      ink: { line: { kind: 'stamped', stamp: 'own', picture, space: 10, fitted: false } },
      layer: 1,
    })
    expect(imagesOf(stamped).map(({ image }) => image.image)).toContain(picture.image)
  })
})
