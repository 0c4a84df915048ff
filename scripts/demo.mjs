// `npm run demo`: installs what is missing, builds, seeds the Lantern Isles, starts, prints the address. PORT and ZEPHYRINE_DATA are honoured.
import { fork, spawn } from 'node:child_process'
import { once } from 'node:events'
import { createServer } from 'node:net'
import { createInterface } from 'node:readline'
import { buildApplication, installPackages, run } from './steps.mjs'

const HOST = '127.0.0.1'

installPackages()
buildApplication()
if (run(process.execPath, ['scripts/run.mjs', 'seed']) !== 0) process.exit(1)

// A tile service of the Isles, so that taking tiles can be tried without the open network.
const standIn = fork('scripts/run.mjs', ['stand-in', '--port', '0'], { stdio: ['ignore', 'pipe', 'inherit', 'ipc'] })
const lines = createInterface({ input: standIn.stdout })
const standInAddress = await Promise.race([once(lines, 'line').then(([line]) => line), once(standIn, 'exit').then(() => undefined)])

const port = await freePort(Number(process.env.PORT ?? 3000), process.env.PORT !== undefined)
const server = spawn(process.execPath, ['.output/server/index.mjs'], {
  stdio: ['ignore', 'inherit', 'inherit'],
  env: {
    ...process.env,
    NITRO_HOST: HOST,
    NITRO_PORT: String(port),
    ...(standInAddress && { ZEPHYRINE_STAND_IN: standInAddress }),
    NODE_ENV: 'production',
  },
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => {
  standIn.kill()
  process.exit(code ?? 0)
})

await answering(`http://${HOST}:${port}/api/journeys`)
console.log(`\nZephyrine is at http://${HOST}:${port}/   (Ctrl+C stops it)`)
if (standInAddress) console.log(`A tile service of the Lantern Isles, to try: ${standInAddress}/xyz/{z}/{x}/{y}.png\n`)

/** The asked port, or, when nobody asked for it and it is taken, the next free one. */
async function freePort(wanted, fixed) {
  for (let candidate = wanted; candidate < wanted + 50; candidate++) {
    if (await isFree(candidate)) return candidate
    if (fixed) break
  }
  console.error(`Port ${wanted} is in use: choose another with PORT=3456 npm run demo.`)
  process.exit(1)
}

function isFree(candidate) {
  return new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen(candidate, HOST, () => probe.close(() => resolve(true)))
  })
}

async function answering(address) {
  for (;;) {
    const up = await fetch(address).then(
      (response) => response.ok,
      () => false,
    )
    if (up) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
}
