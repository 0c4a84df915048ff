/** A journey whose files are missing: whatever is gone, the rest can be read, and nothing names what is gone. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withoutFiles } from '#core/edits/without-files'
import { FILE_KINDS, filesOf } from '#core/journey/files'
import { parseJourney } from '#core/journey/parse'
import { journeyWithEveryFile } from '../support/every-file'

const journey = journeyWithEveryFile()

describe('a journey without some of its files', () => {
  it('has all the places in which a file can be named', () => {
    // Written out, so that a place which is forgotten here is missed: sheet, tracing, card, pin, picture beside the way (standing and lying), mark's pin, line's mark, the one
    // of a planned line, emblem, vehicle, vehicle it changes to, carried picture; font; sound; LUT.
    const count = (kind: string) => new Set(filesOf(journey).flatMap((file) => (file.kind === kind ? [file.hash] : []))).size
    expect(FILE_KINDS.map(count)).toEqual([13, 1, 1, 1])
    // No hash stands anywhere in the document but where `filesOf` finds it.
    const named = new Set(filesOf(journey).map(({ hash }) => hash))
    const written = new Set(JSON.stringify(journey).match(/(?<=")[0-9a-f]{64}(?=")/g))
    expect(written).toEqual(named)
  })

  it('can be read, names nothing that is gone, and keeps all the rest', () => {
    const all = [...new Set(filesOf(journey).map(({ hash }) => hash))]
    fc.assert(
      fc.property(fc.subarray(all), (gone) => {
        const left = withoutFiles(journey, (_kind, hash) => gone.includes(hash))
        expect(parseJourney(JSON.parse(JSON.stringify(left)))).toEqual(left)
        expect(new Set(filesOf(left).map(({ hash }) => hash))).toEqual(new Set(all.filter((hash) => !gone.includes(hash))))
        expect(JSON.stringify(left)).not.toMatch(new RegExp(gone.join('|') || '^$'))
        expect(left.stops.map(({ id }) => id)).toEqual(journey.stops.map(({ id }) => id))
        expect(left.travellers.map(({ legs }) => legs.length)).toEqual(journey.travellers.map(({ legs }) => legs.length))
      }),
      { numRuns: 60 },
    )
    expect(withoutFiles(journey, () => false)).toEqual(journey)
  })
})
