/**
 * What would look wrong in a film: above all, whether what is written in it can be read. The limits of the sources are written out here: 180 words a minute (BBC Subtitle Guidelines), 5 % at each edge
 * (EBU R 95), 16 minutes of arc (ISO 9241-303), all from memory; one second at the least, and 66 mm by 30 cm for a telephone, are common practice.
 */
import { describe, expect, it } from 'vitest'
import { allFindings } from '#core/checks/check-film'
import type { Finding } from '#core/checks/finding'
import { keyOf } from '#core/checks/finding'
import { setPlan } from '#core/edits/camera/shots'
import { acceptFinding, tellFindingAgain } from '#core/edits/journey'
import { addCaption, editCaption } from '#core/edits/marks/captions'
import { addPostcard, editPostcard } from '#core/edits/marks/postcards'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { mendOf } from '#core/edits/mend-finding'
import { setLayover } from '#core/edits/pace/pace'
import { setVisitDate } from '#core/edits/trips/visits'
import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import { inkSchema } from '#core/journey/schema'
import { postcardSchema } from '#core/journey/postcard-schema'
import { nightJourney } from '#demo/night'
import { walkJourney } from '#demo/walk'
import { demo, journeyOver, movingDemo, paperSheet } from '../support/journeys'

const findingsOf = (journey: Journey): readonly Finding[] => allFindings(compile(journey))
const told = (journey: Journey) => findingsOf(journey).map(({ check, subject }) => `${check} ${subject.kind} ${subject.id}`)
/** The journey with everything mended that one change mends. */
const mended = (journey: Journey): Journey => {
  const compiled = compile(journey)
  return findingsOf(journey).reduce((so, finding) => mendOf(finding, compiled)?.run(so) ?? so, journey)
}

const named = (journey: Journey): Journey =>
  journey.stops.reduce((so, { id }, i) => editStop(so, id, { name: ['Harrowmere', 'Quillhaven', 'Lampwick'][i]! }), journey)
/** Two stops in the middle of a frame of 1920 x 1080, ten seconds, with time at both ends. */
const plain = named(journeyOver([[600, 500], [1300, 600]], {}, 10)) // prettier-ignore

describe('the words of a film', () => {
  it('have nothing told of them in the demos, moved or still', () => {
    for (const journey of [demo(), movingDemo(), nightJourney(paperSheet), walkJourney(paperSheet)]) expect(told(journey)).toEqual([])
    expect(told(plain)).toEqual([])
  })

  it('are told where a title is seen for less time than 180 words a minute take', () => {
    const words = 'one two three four five six seven eight nine'
    // Nine words take three seconds; nothing else comes or goes.
    const shown = (seconds: number) =>
      editCaption(addCaption(plain, 'title', { kind: 'title', text: words, second: '' }), 'title', {
        appears: { style: 'none', by: 'whole' },
        shown: { from: { at: 'start', offset: 1 }, to: { at: 'start', offset: 1 + seconds }, fade: 0 },
      })
    expect(told(shown(3.3))).toEqual([])
    expect(told(shown(2.6))).toEqual(['brief caption title'])
    expect(findingsOf(shown(2))[0]!.text).toMatch(/is seen for [12]\.\d s, and takes 3\.0 s to read/)
    expect(told(mended(shown(2)))).toEqual([])
  })

  it('are told where a card is gone before its photo or its text is taken in', () => {
    const card = (text: string, stays: number) =>
      editPostcard(addPostcard(setLayover(plain, 0, 6, 'traveller'), 's0', postcardSchema.parse({ id: 'card', text })), 's0', 'card', { text, stays, comes: 'none', goes: 'none' }) // prettier-ignore
    expect(told(card('one two three four five six', 2.4))).toEqual([])
    expect(told(card('one two three four five six', 1.5))).toEqual(['brief card card'])
    expect(told(mended(card('one two three four five six', 1.5)))).toEqual([])
  })

  it('are told where a name is never seen whole, or only in the outer 5 % of the frame', () => {
    const at = (x: number, side: 'right' | 'left') =>
      editStop(named(journeyOver([[600, 500], [x, 600]], {}, 10)), 's1', { label: { place: { kind: 'side', side } } }) // prettier-ignore
    // To the right of its pin the name begins some 30 px on, and is 200 px wide: whole up to 1920, safe up to 1824.
    expect(told(at(1400, 'right'))).toEqual([])
    expect(told(at(1800, 'right'))).toEqual(['unseen stop s1'])
    expect(told(at(1660, 'right'))).toEqual(['near-edge stop s1'])
    expect(told(editStop(at(1800, 'right'), 's1', { label: { shown: false } }))).toEqual([])
    // Left to itself it finds a better side.
    expect(told(named(journeyOver([[600, 500], [1760, 600]], {}, 10)))).toEqual([]) // prettier-ignore
  })

  it('are told where their capitals are less than 16 minutes of arc on a telephone', () => {
    // 16' at 300 mm: 300 tan(16/60 degrees) = 1.396 mm, of 66 mm that are 1080 reference pixels: 22.9. Capitals of this typeface are 0.636 of the letters' size (its OS/2 table).
    const sized = (size: number) => editStop(plain, 's1', { label: { style: { family: 'alegreya', size } } })
    expect(told(sized(37))).toEqual([])
    expect(told(sized(34))).toEqual(['small stop s1'])
    expect(told(mended(sized(20)))).toEqual([])
    const title = (size: number) => editCaption(addCaption(plain, 't', { kind: 'title', text: 'Home', second: '' }), 't', { style: { size }, shown: null }) // prettier-ignore
    expect(told(title(20))).toEqual(['small caption t'])
    expect(told(mended(title(20)))).toEqual([])
  })

  it('are told where the film ends less than a second after the last stop is reached', () => {
    const held = (seconds: number) => setLayover(plain, 1, seconds, 'traveller')
    expect(told(held(1.6))).toEqual([])
    // The name comes a little after its stop is reached, and is not read yet.
    expect(told(held(1))).toEqual(['brief stop s1'])
    expect(told(held(0.5))).toEqual(['brief stop s1', 'end film end'])
    const better = mended(mended(held(0.5)))
    expect(told(better)).toEqual([])
    expect(better.travellers[0]!.visits[1]!.layover).toBeGreaterThanOrEqual(1)
  })

  it('are accepted by what they are about, and told again', () => {
    const small = editStop(plain, 's1', { label: { style: { size: 20 } } })
    const [finding] = findingsOf(small)
    const accepted = acceptFinding(small, keyOf(finding!))
    expect(accepted.accepted).toEqual(['small stop s1'])
    expect(acceptFinding(accepted, keyOf(finding!)).accepted).toHaveLength(1)
    expect(tellFindingAgain(accepted, keyOf(finding!)).accepted).toEqual([])
  })

  it('are told by the plans, too: where nothing is wrong with a still film, a moving one has nothing either', () => {
    const trip = named(journeyOver([[900, 700], [2300, 800], [3000, 1500]], {}, 24)) // prettier-ignore
    for (const plan of ['steady', 'calm', 'lively'] as const) expect(told(setPlan(trip, plan)), plan).toEqual([])
  })
})

describe('a journey', () => {
  it('is told of a line that is less than 1.5 pixels wide in the film', () => {
    const drawn = (width: number, size = { width: 1920, height: 1080 }) =>
      editLeg({ ...plain, frame: { ...plain.frame, ...size } }, 'l1', { ink: inkSchema.parse({ width }) })
    expect(told(drawn(1.5))).toEqual([])
    expect(told(drawn(1.4))).toEqual(['thin leg l1'])
    // Half the size has half the pixels.
    expect(told(drawn(2.9, { width: 960, height: 540 }))).toEqual(['thin leg l1'])
    expect(told(mended(drawn(1)))).toEqual([])
    expect(told(editLeg(plain, 'l1', { ink: inkSchema.parse({ width: 1, line: { kind: 'hidden' } }) }))).toEqual([])
  })

  it('is told of two stops of one name, and of days that go backwards', () => {
    const three = named(journeyOver([[600, 400], [1300, 600], [900, 800]], {}, 12)) // prettier-ignore
    expect(told(editStop(three, 's2', { name: 'harrowmere ' }))).toEqual(['one-name stop s2'])
    const dated = (...days: string[]) => days.reduce((so, day, i) => setVisitDate(so, i, day, 'traveller'), three)
    expect(told(dated('2026-05-01', '2026-05-01', '2026-05-03'))).toEqual([])
    expect(told(dated('2026-05-01', '2026-05-04', '2026-05-03'))).toEqual(['dates stop s2'])
    expect(findingsOf(dated('2026-05-01', '2026-05-04', '2026-05-03'))[0]!.text).toBe('“Lampwick” has the date 2026-05-03, and “Quillhaven”, which comes before it, has 2026-05-04.') // prettier-ignore
  })

  it('is told of a map without a licence, unless it is only traced', () => {
    const bare = { ...paperSheet, credit: { title: '', author: '', licence: '', source: '' } }
    const [finding] = findingsOf({ ...demo(), sheets: [bare] })
    expect(finding).toMatchObject({ check: 'licence', subject: { kind: 'sheet', id: bare.id }, at: null })
    expect(told({ ...demo(), sheets: [{ ...bare, tracing: true }] })).toEqual([])
  })
})
