// Runs a command of the project from its bundle: `node scripts/run.mjs render --out film.mp4`.
import { fileURLToPath, pathToFileURL } from 'node:url'
import { programPath } from './bundles.mjs'

process.chdir(fileURLToPath(new URL('..', import.meta.url)))
const [, , name] = process.argv
// The command sees its own arguments alone.
process.argv.splice(1, 2, programPath(name))
await import(pathToFileURL(process.argv[1]).href)
