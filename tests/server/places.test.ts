/** Places are looked up in GeoNames; where they lie is written out here from general knowledge, to the nearest degree. */
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
    ['Paris', 2, 49],
    ['tokyo', 140, 36],
    ['sao paulo', -47, -24],
    ['Lodz', 19, 52],
    ['tromso', 19, 70],
    ['Washington', -77, 39],
    // In their own languages and scripts.
    ['München', 12, 48],
    ['Wien', 16, 48],
    ['Roma', 12, 42],
    ['Milano', 9, 45],
    ['Firenze', 11, 44],
    ['Venezia', 12, 45],
    ['Praha', 14, 50],
    ['Warszawa', 21, 52],
    ['Lisboa', -9, 39],
    ['København', 13, 56],
    ['東京', 140, 36],
    ['北京', 116, 40],
    ['서울', 127, 38],
    ['Москва', 38, 56],
    ['Αθήνα', 24, 38],
    ['القاهرة', 31, 30],
    // In other languages, and by former names.
    ['Saigon', 107, 11],
    ['Bombay', 73, 19],
    ['Rangoon', 96, 17],
    ['Peking', 116, 40],
    ['Leningrad', 30, 60],
    ['Constantinople', 29, 41],
    // With what tells one from another.
    ['Paris, Texas', -96, 34],
    ['London, Ontario', -81, 43],
    ['London, ON', -81, 43],
    ['Cambridge, UK', 0, 52],
    ['Portland, USA', -123, 46],
    ['Portland Maine', -70, 44],
    ['Birmingham, Alabama', -87, 34],
    ['Santiago, Chile', -71, -33],
    ['San José, Costa', -84, 10],
    ['Perth, Schottland', undefined, undefined],
  ])('finds %s', (typed, lon, lat) => {
    const found = first(typed)
    if (lon === undefined || lat === undefined) return expect(found).toBeUndefined()
    expect(Math.abs(found!.lon - lon)).toBeLessThan(0.8)
    expect(Math.abs(found!.lat - lat)).toBeLessThan(0.8)
  })

  it.each([
    ['Rejkjavik', -22, 64],
    ['amstredam', 5, 52],
    ['los angles', -118, 34],
    ['kopenhagen', 13, 56],
    ['saint petersb', 30, 60],
  ])('forgives slips: %s', (typed, lon, lat) => {
    expect(Math.abs(first(typed)!.lon - lon)).toBeLessThan(0.8)
    expect(Math.abs(first(typed)!.lat - lat)).toBeLessThan(0.8)
  })

  it('calls a place what it was asked for, and says what it is called too', () => {
    expect(first('münchen')).toMatchObject({ name: 'München', known: 'Munich', region: 'Bavaria', country: 'Germany' })
    expect(first('Saigon')).toMatchObject({ name: 'Saigon', known: 'Ho Chi Minh City' })
  })

  it('tells four Miamis apart', () => {
    const miamis = list.search('Miami', undefined, 10).filter(({ name }) => name === 'Miami')
    expect(new Set(miamis.map(({ region, country }) => `${region}, ${country}`)).size).toBeGreaterThanOrEqual(4)
  })

  it('never puts a near miss before what was written right', () => {
    // A village that is called just so goes before the cities whose names are only like it.
    for (const name of ['Zell', 'Boston', 'Pari', 'Rom']) {
      const found = list.search(name, undefined, 10)
      const isRight = found.map((place) =>
        foldName(place.name)
          .split(' ')
          .some((word) => word.startsWith(foldName(name))),
      )
      expect(isRight.indexOf(false) === -1 || !isRight.slice(isRight.indexOf(false)).includes(true), name).toBe(true)
    }
  })

  it('finds places while their name is still being typed', () => {
    for (let n = 3; n <= 6; n++)
      expect(list.search('Lisbon'.slice(0, n), undefined, 10).some((place) => place.known === 'Lisbon')).toBe(true)
  })

  it('ranks by population, and by nearness to what is in view', () => {
    expect(first('Springfield')).toMatchObject({ countryCode: 'US', region: 'Missouri' })
    const near = first('Springfield', { lon: -89.6, lat: 39.8 })!
    expect(Math.hypot(near.lon + 89.6, near.lat - 39.8)).toBeLessThan(0.2)
    const texas = first('Paris', { lon: -95.6, lat: 33.6 })!
    expect(texas.countryCode).toBe('US')
  })

  it('narrows to a country that is named after a comma', () => {
    expect(list.search('Cambridge, gb', undefined, 10).every((place) => place.countryCode === 'GB')).toBe(true)
  })

  it('finds nothing rather than anything', () => {
    for (const text of ['', '   ', 'zzxqj', '"', "'; DROP TABLE places; --", '*', 'a AND NOT b', 'x'.repeat(5000), ',,,', 'Paris,'])
      expect(() => list.search(text, undefined, 10)).not.toThrow()
    expect(list.search('zzxqj', undefined, 10)).toEqual([])
    expect(list.search('san', undefined, 10)).toHaveLength(10)
  })

  it('compares names without accents, case and signs', () => {
    expect(foldName("L'Île-d’Yeu")).toBe('l ile d yeu')
    expect(foldName('Straße ØRSTED Đà Nẵng')).toBe('strasse orsted da nang')
  })
})

describe('what lies at a spot', () => {
  it('is the largest place within reach', () => {
    expect(list.at({ lon: 11.6, lat: 48.15 }, 15)).toMatchObject({ name: 'Munich', zone: 'Europe/Berlin' })
    expect(list.at({ lon: 11.6, lat: 48.15 }, 0.1)).toBeUndefined()
    // In the middle of the South Pacific there is none.
    expect(list.at({ lon: -130, lat: -48 }, 200)).toBeUndefined()
  })
})
