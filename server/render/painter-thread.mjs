// Where a painter thread starts: it runs from source, the same for the server, the command line and the tests.
import { register } from 'tsx/esm/api'

register()
await import('./painter-worker.ts')
