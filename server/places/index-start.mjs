// Where the process starts that makes the list of places; its argument is the path of the list.
import { register } from 'tsx/esm/api'

register()
const { indexPlaces } = await import('./index-places.ts')
await indexPlaces(process.argv[2])
