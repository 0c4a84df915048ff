/** Stop times for an editor, against the standards of their formats. */
import { describe, expect, it } from 'vitest'
import { stopTimes, WORDS } from '#core/formats/words'
import { rename } from '#core/edits/journey'
import { compile } from '#core/frame/compile'
import { demo, journeyOver } from '../support/journeys'

const compiled = compile(demo())
const odd = () => {
  const journey = journeyOver([[0, 0], [500, 0], [900, 300]], {}, 20) // prettier-ignore
  const names = ['Fish & Chips <3', 'A "quoted", one', '-->\n\nend']
  return compile({ ...rename(journey, 'Odd'), stops: journey.stops.map((stop, i) => ({ ...stop, name: names[i]! })) })
}

/**
 * The grammar of W3C WebVTT: The Web Video Text Tracks Format (Candidate Recommendation, 4 April 2019), section 4.1, for files of cues with identifiers:
 * timestamps of at least two digits of hours, two of minutes and seconds up to 59, three of thousandths; text without "-->" and without a bare & or <.
 */
const TIME = String.raw`(\d{2,}):([0-5]\d):([0-5]\d)\.(\d{3})`
const CUE = new RegExp(String.raw`^[^\n]*\n${TIME} --> ${TIME}\n([^\n]+)\n?$`)
const seconds = (parts: string[]) => Number(parts[0]) * 3600 + Number(parts[1]) * 60 + Number(parts[2]) + Number(parts[3]) / 1000

describe.each([
  ['the demo', () => compiled],
  ['odd names', odd],
])('WebVTT of %s', (_what, of) => {
  it('keeps the grammar of the standard', () => {
    const text = WORDS.vtt.write(of())
    const [head, ...cues] = text.split(/\n\n/)
    expect(head).toBe('WEBVTT')
    expect(cues).toHaveLength(stopTimes(of()).length)
    let last = 0
    for (const cue of cues) {
      const found = CUE.exec(cue)
      expect(found, cue).not.toBeNull()
      const [from, to] = [seconds(found!.slice(1, 5)), seconds(found!.slice(5, 9))]
      // Cues of chapters come in order, end after they begin (4.1), and do not overlap (4.5).
      expect(from).toBeGreaterThanOrEqual(last)
      expect(to).toBeGreaterThan(from)
      last = to
      const payload = found![9]!
      expect(payload).not.toContain('-->')
      expect(payload).not.toMatch(/<|&(?!amp;|lt;|gt;)/)
    }
  })
})

describe('the other words', () => {
  it('are subtitles with a comma before the thousandths', () => {
    const blocks = WORDS.srt.write(compiled).split('\r\n\r\n')
    expect(blocks[0]).toMatch(/^1\r\n00:00:00,000 --> \d\d:\d\d:\d\d,\d{3}\r\nHarrowmere$/)
    expect(blocks.map((block) => block.split('\r\n')[0])).toEqual(['1', '2', '3', '4', '5'])
  })

  it('are a table as RFC 4180 asks: CRLF, quotation marks doubled, all rows of one length', () => {
    const rows = WORDS.csv.write(odd()).split('\r\n')
    expect(rows.at(-1)).toBe('')
    expect(rows[2]).toContain('"A ""quoted"", one"')
    const table = WORDS.csv.write(compiled).trimEnd().split('\r\n').map((row) => row.split(',')) // prettier-ignore
    expect(table.every((row) => row.length === 6)).toBe(true)
    const { visits } = compiled.travellers[0]!
    table.slice(1).forEach((row, i) => {
      expect(row[0]).toBe(visits[i]!.stop.name)
      expect(Number(row[2])).toBeCloseTo(visits[i]!.arrive, 3)
      expect(row[4]).toMatch(/^00:00:\d\d:\d\d$/)
    })
  })

  it('are a list of chapters that begins at 0:00', () => {
    expect(WORDS.txt.write(compiled)).toMatch(/^0:00 Harrowmere\n0:\d\d Quillhaven\n/)
  })
})
