/** A trip as a calendar: iCalendar files as RFC 5545 describes them. */
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readTrip } from '#core/writing/read-trip'

const calendar = (...events: readonly (readonly string[])[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Test//EN', ...events.flatMap((lines) => ['BEGIN:VEVENT', ...lines, 'END:VEVENT']), 'END:VCALENDAR', ''].join('\r\n') // prettier-ignore

describe('a calendar of a trip', () => {
  it('is read in the order of its events, with their days, nights and how one gets there', () => {
    const { places, unread } = readTrip(
      calendar(
        ['DTSTART:20260503T140000Z', 'DTEND:20260505T100000Z', 'SUMMARY:Train to Madrid', 'LOCATION:Madrid'],
        ['DTSTART;VALUE=DATE:20260501', 'DTEND;VALUE=DATE:20260504', 'SUMMARY:Lisbon', 'LOCATION:Lisbon, Portugal'],
        ['DTSTART:20260502T200000', 'SUMMARY:Call home'],
      ),
    )
    expect(places).toMatchObject([
      // As of RFC 5545, 3.6.1, the end of an event of whole days is the day after its last one: two nights lie between three days.
      { name: 'Lisbon', within: ['Portugal'], by: null, nights: 2, day: { year: 2026, month: 5, day: 1 }, note: '' },
      { name: 'Madrid', within: [], by: 'train', nights: 2, day: { year: 2026, month: 5, day: 3 }, note: 'Train to Madrid' },
    ])
    expect(unread).toEqual([{ line: 18, text: 'Call home', why: 'place' }])
  })

  it('has the town of an address, and the coordinates of RFC 5545, section 3.8.1.6', () => {
    // The section's own example; and a folded line with escaped commas, as of 3.1 and 3.3.11.
    const { places } = readTrip(
      calendar(
        ['DTSTART:20260501T100000Z', 'SUMMARY:Office', 'GEO:37.386013;-122.082932'],
        ['DTSTART:20260502T100000Z', 'SUMMARY:A hotel', 'LOCATION:Grand Hotel\\, Rua do Carmo 12\\, 1200-093', '  Lisboa\\, Portugal'],
      ),
    )
    expect(places).toMatchObject([
      { name: 'Office', at: { lat: 37.386013, lon: -122.082932 } },
      { name: 'Lisboa', within: ['Portugal'], at: null, note: 'A hotel' },
    ])
  })

  it('that is damaged is told, whatever is done to it', () => {
    expect(readTrip('BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\n')).toMatchObject({ places: [] })
    expect(readTrip('BEGIN:VCALENDAR\nnonsense\nEND:VCALENDAR')).toMatchObject({ places: [], unread: [{ why: 'calendar' }] })
    const whole = calendar(['DTSTART:20260501T100000Z', 'SUMMARY:Office', 'LOCATION:Rome', 'GEO:41.9;12.5', 'RRULE:FREQ=DAILY'])
    fc.assert(
      fc.property(fc.nat(whole.length - 1), fc.string({ maxLength: 6 }), fc.nat(12), (at, put, cut) => {
        const { places } = readTrip(whole.slice(0, at) + put + whole.slice(at + cut))
        expect(places.length).toBeLessThanOrEqual(200)
      }),
      { numRuns: 300 },
    )
  })
})
