import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { foldName } from '../../server/places/fold'
import { places } from '../../server/places/places'
import type { PlaceSearch } from '../../server/places/search'

let list: PlaceSearch
beforeAll(async () => {
  list = await places()
})
afterAll(() => list.close())

const first = (text: string, near?: { lon: number; lat: number }) => list.search(text, near, 10)[0]

describe('the search for places', () => {
  it.each([
    ['Paris', 'Paris', 'FR'],
    ['tokyo', 'Tokyo', 'JP'],
    ['sao paulo', 'São Paulo', 'BR'],
    ['Lodz', 'Łódź', 'PL'],
    ['tromso', 'Tromsø', 'NO'],
    ['Rejkjavik', 'Reykjavík', 'IS'],
    ['amstredam', 'Amsterdam', 'NL'],
    ['los angles', 'Los Angeles', 'US'],
    ['kopenhagen', 'Copenhagen', 'DK'],
    ['saint petersb', 'Saint Petersburg', 'RU'],
  ])('forgives accents and slips: %s', (typed, name, countryCode) => expect(first(typed)).toMatchObject({ name, countryCode }))

  it('finds places while their name is still being typed', () => {
    for (let n = 3; n <= 6; n++)
      expect(list.search('Lisbon'.slice(0, n), undefined, 10).some((place) => place.name === 'Lisbon')).toBe(true)
  })

  it('ranks by population, and by nearness to what is in view', () => {
    expect(first('Springfield')).toMatchObject({ countryCode: 'US', population: 166810 })
    const near = first('Springfield', { lon: -89.6, lat: 39.8 })!
    expect(Math.hypot(near.lon + 89.6, near.lat - 39.8)).toBeLessThan(0.2)
    const texas = first('Paris', { lon: -95.6, lat: 33.6 })!
    expect(texas.countryCode).toBe('US')
  })

  it('narrows to a country that is named after a comma', () => {
    expect(first('San José, Costa')).toMatchObject({ countryCode: 'CR' })
    expect(list.search('Cambridge, gb', undefined, 10).every((place) => place.countryCode === 'GB')).toBe(true)
  })

  it('finds nothing rather than anything', () => {
    for (const text of ['', '   ', 'zzxqj', '"', "'; DROP TABLE places; --", '*', 'a AND NOT b', 'x'.repeat(5000)])
      expect(() => list.search(text, undefined, 10)).not.toThrow()
    expect(list.search('zzxqj', undefined, 10)).toEqual([])
    expect(list.search('san', undefined, 10)).toHaveLength(10)
  })

  it('compares names without accents, case and signs', () => {
    expect(foldName("L'Île-d’Yeu")).toBe('l ile d yeu')
    expect(foldName('Straße ØRSTED Đà Nẵng')).toBe('strasse orsted da nang')
  })
})
