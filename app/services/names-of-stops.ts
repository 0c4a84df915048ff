import type { LonLat } from '#core/geo/lon-lat'
import { nameStops } from '#core/tracks/name-stops'
import { placeAt } from './api'

/** A stop has the name of a place that is so near, in kilometres; one that is further away tells the time zone. */
const REACHES = [3, 25, 150] as const

interface Nearby {
  near: string | undefined
  zone: string | undefined
}

/** The name of the place that is at a spot, and the time zone of the nearest one; without the list of places neither is known. */
async function nearby(place: LonLat): Promise<Nearby> {
  for (const km of REACHES) {
    const found = await placeAt(place, km).catch(() => undefined)
    if (found) return { zone: found.zone || undefined, near: km === REACHES[0] ? found.name : undefined }
  }
  return { near: undefined, zone: undefined }
}

/** Names for the stops of a track, and the time zone in which it begins, where that is known. */
export async function namesOfStops(stops: readonly { name: string; place: LonLat; time: number | null }[]) {
  // The beginning tells the zone even where its name is marked.
  const around = await Promise.all(stops.map(({ name, place }, i) => (name === '' || i === 0 ? nearby(place) : undefined)))
  const names = nameStops(stops.map(({ name, time }, i) => ({ name, time, near: around[i]?.near, zone: around[i]?.zone })))
  return { names, zone: around[0]?.zone }
}
