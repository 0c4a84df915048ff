/** Places of written trips, chosen together: the right ones by general knowledge of where they are; and how much is asked. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readTrip } from '#core/writing/read-trip'
import { places } from '../../server/places/places'
import { resolveTrip } from '../../server/places/resolve'
import type { PlaceSearch } from '../../server/places/search'
import { WRITTEN_TRIPS } from '../support/written-trips'

let list: PlaceSearch
beforeAll(async () => {
  list = await places()
})
afterAll(() => list.close())

const resolved = (text: string) => resolveTrip(readTrip(text).places, list)
const firstOf = (text: string) =>
  resolved(text).map(({ options: [first] }) => first && `${first.known}, ${first.region}, ${first.countryCode}`)

describe('the places of written trips', () => {
  it('are right for at least 95 in a hundred, and of those that are wrong most are marked', () => {
    expect(WRITTEN_TRIPS.length).toBeGreaterThanOrEqual(200)
    const wrong: { what: string; isUncertain: boolean }[] = []
    let [count, uncertain] = [0, 0]
    for (const { text, places: wanted } of WRITTEN_TRIPS) {
      const found = resolved(text)
      expect(found.map(({ name }) => name), text).toEqual(wanted.map(({ name }) => name)) // prettier-ignore
      found.forEach(({ name, options: [first], isUncertain }, i) => {
        const { country, region } = wanted[i]!
        count++
        if (isUncertain) uncertain++
        if (first?.countryCode === country && (region === '' || first.region === region)) return
        wrong.push({
          what: `${name}: ${first?.region} ${first?.countryCode}, not ${region} ${country}, in ${JSON.stringify(text)}`,
          isUncertain,
        })
      })
    }
    const told = wrong.map(({ what, isUncertain }) => `${isUncertain ? '?' : '!'} ${what}`).join('\n')
    expect(count).toBeGreaterThan(700)
    expect(1 - wrong.length / count, told).toBeGreaterThanOrEqual(0.95)
    expect(wrong.filter(({ isUncertain }) => isUncertain).length / Math.max(1, wrong.length), told).toBeGreaterThanOrEqual(0.8)
    // Who is asked about everything is not helped.
    expect(uncertain / count).toBeLessThan(0.2)
  })

  it('are told apart by what is written with them, by how one gets there, and by the codes of airports', () => {
    // Over an ocean the city is meant that everybody knows, and not its namesake on the other side.
    const countries = (text: string) => firstOf(text).map((place) => place?.slice(-2))
    expect(countries('Lisbon - New York')).toEqual(['PT', 'US'])
    expect(countries('Athens - New York')).toEqual(['GR', 'US'])
    expect(countries('Rome - Buenos Aires')).toEqual(['IT', 'AR'])
    expect(countries('Paris - Tokyo - Sydney - London')).toEqual(['FR', 'JP', 'AU', 'GB'])
    expect(firstOf('Cambridge - Boston')[0]).toBe('Cambridge, Massachusetts, US')
    expect(firstOf('Birmingham - Atlanta')[0]).toBe('Birmingham, Alabama, US')
    expect(firstOf('Paris, Texas - Dallas')[0]).toBe('Paris, Texas, US')
    expect(firstOf('London, Ontario\nToronto')[0]).toBe('London, Ontario, CA')
    expect(firstOf('Wien - Krems - Linz')[1]).toBe('Krems an der Donau, Lower Austria, AT')
    expect(firstOf('Springfield in Ohio - Chicago')[0]).toBe('Springfield, Ohio, US')
    expect(firstOf('LIS - MAD - RAK').map((place) => place?.slice(-2))).toEqual(['PT', 'ES', 'MA'])
    // On foot nobody goes to another continent.
    expect(firstOf('Zermatt\nwalk to Täsch\nbike to Visp').map((place) => place?.slice(-2))).toEqual(['CH', 'CH', 'CH'])
  })

  it('of a list with commas are places of their own, where the words after a comma are no country or state', () => {
    expect(firstOf('Lisbon, Madrid, Marrakesh').map((place) => place?.slice(-2))).toEqual(['PT', 'ES', 'MA'])
    expect(resolved('Porto, Portugal')).toHaveLength(1)
  })

  it('that nobody knows are told, and the others fit together over them', () => {
    const [first, lost, last] = resolved('Boston - Qwxzyvut - Springfield - Albany')
    expect([lost!.options, lost!.isUncertain]).toEqual([[], true])
    expect(first!.options[0]!.region).toBe('Massachusetts')
    expect(last!.options[0]!.region).toBe('Massachusetts')
  })

  it('with coordinates are where these say, and the others near them', () => {
    const [hut, town] = resolved('Our hut (44.9, -93.2)\nRichmond')
    expect([hut!.at, hut!.options]).toEqual([{ lon: -93.2, lat: 44.9 }, []])
    expect(town!.options[0]!.countryCode).toBe('US')
  })

  it('are found quickly, however many there are', () => {
    const text = WRITTEN_TRIPS.flatMap(({ places: some }) => some.map(({ name }) => name)).slice(0, 200).join('\n') // prettier-ignore
    expect(resolved(text)).toHaveLength(200)
    expect(resolved('')).toEqual([])
  })
})
