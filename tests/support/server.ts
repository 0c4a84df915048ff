import type { ChildProcess } from 'node:child_process'
import { spawn } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { DemoId } from '#demo/seed'
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

/**
 * The built application over a copy of a data folder.
 * @param template with all demos in it
 * @param demos those that the copy has
 * @param folder where the copy comes to lie
 */
export async function serveCopyOf(template: string, demos: readonly DemoId[], folder = temporaryFolder()): Promise<TestServer> {
  cpSync(template, folder, { recursive: true })
  const db = openDatabase(folder)
  db.prepare(`DELETE FROM journeys WHERE id NOT IN (${demos.map(() => '?').join(', ')})`).run(...demos)
  db.close()
  return serve(folder)
}

/** The built application over a data folder, which goes when it is stopped. */
export async function serve(folder: string): Promise<TestServer> {
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
