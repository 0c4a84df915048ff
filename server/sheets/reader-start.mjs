// Where the process starts that reads files from outside: it runs from source, the same for the server, the command line and the tests.
import { register } from 'tsx/esm/api'

register()
await import('./reader-process.ts')
