import type { ChildProcess } from 'node:child_process'
import { execFileSync, spawn } from 'node:child_process'
import { randomFillSync } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { FolderInUse, lockFolder } from '../../server/storage/folder-lock'
import type { TestServer } from '../support/server'
import { OWN, temporaryFolder } from '../support/server'
import { startServer } from '../support/shared'

let server: TestServer
beforeAll(async () => {
  server = await startServer()
})
afterAll(() => server.stop())

/** Starts a server and waits for its end. */
function start(env: Record<string, string>): Promise<{ code: number | null; words: string }> {
  const child: ChildProcess = spawn(process.execPath, ['.output/server/index.mjs'], {
    env: { ...process.env, NODE_ENV: 'production', ...env },
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  let words = ''
  child.stderr!.on('data', (data: Buffer) => (words += data.toString()))
  return new Promise((resolve) => child.once('exit', (code) => resolve({ code, words })))
}

/** The processes that read files for a server. */
const readersOf = (pid: number): string[] =>
  execFileSync('ps', ['-eo', 'args'], { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line.includes(`reader.js ${pid} `))

describe('a second start', () => {
  it('on the folder of a running server ends with its address, and touches nothing', async () => {
    mkdirSync(join(server.folder, 'images'), { recursive: true })
    const half = join(server.folder, 'images', 'incoming-half')
    const film = join(server.folder, 'exports', 'running.mp4.part')
    mkdirSync(join(server.folder, 'exports'), { recursive: true })
    writeFileSync(half, 'half of a map')
    writeFileSync(film, 'half of a film')
    const { code, words } = await start({ ZEPHYRINE_DATA: server.folder, NITRO_PORT: '0' })
    expect(code).toBe(1)
    expect(words).toContain(`at ${server.address}/`)
    expect(existsSync(half) && existsSync(film)).toBe(true)
    expect((await fetch(`${server.address}/api/journeys`)).status).toBe(200)
    await server.restart()
    expect(existsSync(half) || existsSync(film), 'left over once their server has ended').toBe(false)
  })

  it('on a port that is taken ends with exit code 1', async () => {
    const other = createServer()
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve))
    const { port } = other.address() as { port: number }
    const { code, words } = await start({ ZEPHYRINE_DATA: temporaryFolder(), NITRO_PORT: String(port) })
    other.close()
    expect(code).toBe(1)
    expect(words).toMatch(/Another program uses the address http:\/\/127\.0\.0\.1:\d+\/: choose another port/)
  })

  it('finds the lock free when the process that held it has ended', () => {
    const folder = temporaryFolder()
    const release = lockFolder(folder, 'http://127.0.0.1:1/')
    release()
    lockFolder(folder, 'http://127.0.0.1:2/')()
    const held = spawn(process.execPath, ['-e', `const D = require('better-sqlite3'); const d = new D('${join(folder, 'server.lock')}'); d.exec('BEGIN EXCLUSIVE'); console.log('held'); setInterval(() => d.open, 1000)`], { stdio: ['ignore', 'pipe', 'inherit'] }) // prettier-ignore
    return new Promise<void>((resolve, reject) => {
      held.stdout.once('data', () => {
        try {
          expect(() => lockFolder(folder, '')).toThrow(FolderInUse)
        } catch (error) {
          reject(error as Error)
        }
        held.once('exit', () => {
          lockFolder(folder, '')()
          resolve()
        })
        held.kill('SIGKILL')
      })
    })
  })

  it('binds to this machine only, also with an empty HOST', async () => {
    const folder = temporaryFolder()
    const child = spawn(process.execPath, ['.output/server/index.mjs'], {
      env: { ...process.env, NODE_ENV: 'production', ZEPHYRINE_DATA: folder, HOST: '', NITRO_HOST: '', NITRO_PORT: '0' },
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    const said = await new Promise<string>((resolve) => child.stdout.on('data', (data: Buffer) => resolve(data.toString())))
    child.kill('SIGKILL')
    expect(said).toMatch(/http:\/\/127\.0\.0\.1:/)
  })
})

describe('a kill during an import', () => {
  it('leaves no reader behind, and the server starts again', async () => {
    const size = { width: 7000, height: 5000 }
    const noise = randomFillSync(new Uint8Array(3 * size.width * size.height))
    const picture = await sharp(noise, { raw: { ...size, channels: 3 } })
      .png({ compressionLevel: 0 })
      .toBuffer()
    const response = await fetch(`${server.address}/api/images?name=large.png`, {
      method: 'POST',
      headers: OWN,
      body: new Uint8Array(picture),
    })
    expect(response.status).toBe(202)
    const pid = server.pid()
    await expect.poll(() => readersOf(pid).length, { timeout: 20_000 }).toBeGreaterThan(0)
    await server.restart()
    await expect.poll(() => readersOf(pid), { timeout: 5000 }).toEqual([])
    expect((await fetch(`${server.address}/api/journeys`)).status).toBe(200)
    // Nothing is kept of it, but for what the reader was writing when it ended.
    await server.restart()
    expect(readdirSync(join(server.folder, 'images')).filter((file) => file.startsWith('incoming-'))).toEqual([])
    expect(readFileSync(join(server.folder, 'server.address'), 'utf8')).toBe(`${server.address}/`)
  })
})
