import { describe, expect, it } from 'vitest'
import { addFont } from '#core/edits/marks/fonts'
import { editStop } from '#core/edits/marks/stops'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { parseJourney } from '#core/journey/parse'
import { captionSchema } from '#core/journey/schema'
import type { Journey, OwnFont } from '#core/journey/schema'
import { ownFamily } from '#core/type/families'
import { capitalHeight, textWidth } from '#core/type/measure'
import { journeyOver } from '../support/journeys'

const TRIP = journeyOver([[200, 540], [900, 540]], {}, 10) // prettier-ignore
/** A font in which an H is half as wide as it is high, and an i a fifth. */
const font = (file: string, fields: Partial<OwnFont> = {}): OwnFont => ({
  file: file.repeat(64),
  name: 'Hand',
  capital: 650,
  widths: { H: 500, i: 200, '7': 450 },
  ...fields,
})
const read = (journey: Journey) => parseJourney(JSON.parse(JSON.stringify(journey)))
const setIn = (journey: Journey, file: string) =>
  editStop(journey, 's1', { name: 'Hi', label: { style: { family: ownFamily(file.repeat(64)), size: 100 } } })

describe('a font of one’s own', () => {
  it('is kept with the journey, and its letters are laid out by their own widths', () => {
    const journey = setIn(addFont(TRIP, font('a')), 'a')
    expect(read(journey)).toEqual(journey)
    const { block } = compile(journey, NO_PLACES).marks[1]!.label!
    expect(block.width).toBeCloseTo(70, 6)
    expect(block.height).toBeCloseTo(65, 6)
    const face = { family: ownFamily('a'.repeat(64)), weight: 400, spacing: 0 } as const
    // A letter that it has not is taken to be as wide as usual; with tabular figures all are as wide as the widest.
    expect(textWidth('H?', face)).toBeCloseTo(0.5 + 0.6, 6)
    expect(textWidth('777', face, true)).toBeCloseTo(1.35, 6)
    expect(capitalHeight(face)).toBe(0.65)
  })

  it('that no text is set in any more leaves when another comes', () => {
    const one = setIn(addFont(TRIP, font('b')), 'b')
    const two = addFont(addFont(one, font('c')), font('d'))
    expect(two.fonts.map(({ file }) => file[0])).toEqual(['b', 'd'])
    expect(addFont(two, font('d'))).toBe(two)
    const many = { ...one, fonts: Array.from({ length: 12 }, (_, i) => font(i.toString(16))) }
    const used = many.fonts.reduce((j, { file }, i) => ({ ...j, captions: [...j.captions, caption(`c${i}`, file)] }), many)
    expect(() => addFont(used, font('f'))).toThrow(/at most 12 fonts/)
  })

  it('that is not with the journey, or is no font, is refused by name', () => {
    expect(() => read(setIn(TRIP, 'e'))).toThrow(/stops\[1\]\.label\.style\.family: names a font that is not with the journey/)
    const wrong = (fields: object) => () => read({ ...TRIP, fonts: [{ ...font('a'), ...fields }] })
    expect(wrong({ file: '../../etc/passwd' })).toThrow(/SHA-256/)
    expect(wrong({ capital: 0 })).toThrow(/capital/)
    expect(wrong({ widths: { H: -4 } })).toThrow(/widths/)
    expect(() => read(editStop(TRIP, 's1', { label: { style: { family: 'own-x' } } }))).toThrow(/typeface/)
  })
})

const caption = (id: string, file: string) => ({
  ...captionOf(id),
  style: { ...TRIP.stops[0]!.label.style, family: ownFamily(file) },
})
const captionOf = (id: string) => captionSchema.parse({ id, content: { kind: 'title', text: 'Hi' }, corner: 'middle' })
