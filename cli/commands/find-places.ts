import { places } from '../../server/places/places'
import type { Output } from '../command'
import type { PlacesOptions } from './places-options'

/** Prints the ten best matches as JSON. */
export async function findPlaces({ query, near }: PlacesOptions, output: Output): Promise<void> {
  const list = await places()
  output.result(`${JSON.stringify(list.search(query, near, 10), null, 2)}\n`)
  list.close()
}
