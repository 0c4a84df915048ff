// Where the thread of posters starts: it runs from source, as the painter thread does.
import { register } from 'tsx/esm/api'

register()
await import('./poster-worker.ts')
