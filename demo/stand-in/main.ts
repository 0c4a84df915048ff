/** `npm run stand-in -- --port 3600`: a tile service of the Lantern Isles on this machine, to try tile services with. */
import { parseArgs } from 'node:util'
import { standInAddresses, startStandIn } from './service'

const USUAL_PORT = '3600'

function portIn(args: string[]): number {
  const { values } = parseArgs({ args, options: { port: { type: 'string', default: USUAL_PORT } } })
  const port = Number(values.port)
  if (!Number.isInteger(port) || port < 0 || port > 65_535)
    throw new Error(`--port should be a number from 0 to 65535, not “${values.port}”.`)
  return port
}

try {
  const { root } = await startStandIn(portIn(process.argv.slice(2)))
  // The program that started it reads the first line.
  console.log(root)
  console.log(standInAddresses(root).join('\n'))
} catch (error) {
  const { code, message } = error as NodeJS.ErrnoException
  console.error(code === 'EADDRINUSE' ? 'Another program uses this port: choose another with --port.' : message)
  process.exitCode = 2
}
// Started by the demo, it ends with it.
if (process.send) process.on('disconnect', () => process.exit())
