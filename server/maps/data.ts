import { places } from '../places/places'
import { landFileMade } from './land-file'

/** Has what generated maps are drawn from made, unless it is there: that takes some twenty seconds, once for all data folders. */
export async function mapDataMade(): Promise<void> {
  await Promise.all([landFileMade(), places()])
}
