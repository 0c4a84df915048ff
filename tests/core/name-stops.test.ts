import { describe, expect, it } from 'vitest'
import { nameStops } from '#core/tracks/name-stops'

/** 11:40 UTC on 10 August 2026 is 13:40 in Madrid and 05:40 in Denver, by the zones' summer times (IANA time zone database). */
const AT = Date.UTC(2026, 7, 10, 11, 40) / 1000

describe('the stops of a track', () => {
  const stop = (fields: Partial<Parameters<typeof nameStops>[0][0]> = {}) => ({
    name: '',
    time: null,
    near: undefined,
    zone: undefined,
    ...fields,
  })
  const names = (...stops: Parameters<typeof stop>[0][]) => nameStops(stops.map(stop)).map(({ name }) => name)

  it('are named by what is marked, then by the place, then by the time where they are', () => {
    expect(names({ name: 'Hut', near: 'Valley' }, { near: 'Pass' }, { time: AT, zone: 'Europe/Madrid' }, { near: 'Valley' })).toEqual([
      'Hut',
      'Pass',
      'Rest, 13:40',
      'Valley',
    ])
    expect(names({}, { time: AT, zone: 'America/Denver' }, {})).toEqual(['Start', 'Rest, 05:40', 'End'])
    // Nothing near tells the zone: then it is said which clock it is.
    expect(names({}, { time: AT }, {})[1]).toBe('Rest, 11:40 UTC')
  })

  it('never share a name: the start and the end come first', () => {
    expect(
      names(
        { near: 'Valley' },
        { near: 'Valley', time: AT, zone: 'Europe/Madrid' },
        { near: 'Valley', time: AT + 60, zone: 'Europe/Madrid' },
      ),
    ).toEqual(['Valley', 'Rest, 13:40', 'End'])
    const rests = names({}, {}, {}, {})
    expect(rests).toEqual(['Start', 'Rest', 'Rest (2)', 'End'])
  })

  it('say when the list of places gave the name', () =>
    expect(nameStops([stop({ near: 'Valley' }), stop()]).map(({ found }) => found)).toEqual([true, false]))
})
