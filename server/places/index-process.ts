import { indexPlaces } from './index-places'

/** A process that makes the list of places; its argument is the path of the list. */
await indexPlaces(process.argv[2]!)
