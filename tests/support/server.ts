import type { ChildProcess } from 'node:child_process'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { DemoId } from '#demo/seed'
import { seedDemos } from '#demo/seed'
import { openDatabase } from '../../server/storage/database'

/** What a program sends with requests that change something; see server/http/security.ts. */
export const OWN = { 'x-zephyrine': 'test' }

export const temporaryFolder = (): string => mkdtempSync(join(tmpdir(), 'zephyrine-test-'))

export interface TestServer {
  address: string
  folder: string
  /** The id of its process. */
  pid(): number
  /** Stops the server and starts another over the same data, at the same address. */
  restart(): Promise<void>
  stop(): Promise<void>
}

/** The built application with a data folder of its own, the demo in it, or several. */
export async function startServer(folder = temporaryFolder(), demos: readonly DemoId[] = ['demo']): Promise<TestServer> {
  const db = openDatabase(folder)
  await seedDemos(db, folder, demos)
  db.close()
  const port = await freePort()
  const address = `http://127.0.0.1:${port}`
  let child = await launch(folder, port, address)
  return {
    address,
    folder,
    pid: () => child.pid!,
    async restart() {
      await end(child)
      child = await launch(folder, port, address)
    },
    async stop() {
      await end(child)
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

async function launch(folder: string, port: number, address: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: { ...process.env, ZEPHYRINE_DATA: folder, NITRO_PORT: String(port), NODE_ENV: 'production' },
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  for (let i = 0; i < 200; i++) {
    if (child.exitCode !== null) throw new Error('The server did not start.')
    const up = await fetch(`${address}/api/journeys`).then(
      (response) => response.ok,
      () => false,
    )
    if (up) return child
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error('The server did not answer within 20 s.')
}

function end(child: ChildProcess): Promise<void> {
  return new Promise((resolve) => {
    if (child.exitCode !== null) return resolve()
    child.once('exit', () => resolve())
    child.kill('SIGKILL')
  })
}

function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', reject)
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number }
      probe.close(() => resolve(port))
    })
  })
}
