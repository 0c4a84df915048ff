import { execFileSync } from 'node:child_process'
import { mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { rename } from '#core/edits/journey'
import type { Journey } from '#core/journey/schema'
import { troubleOf } from '../../server/http/trouble'
import type { TestServer } from '../support/server'
import { OWN, temporaryFolder } from '../support/server'
import { startServer } from '../support/shared'

/** A disk of its own that is soon full. @returns undefined where this machine does not let one be made */
function smallDisk(): string | undefined {
  const folder = temporaryFolder()
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=40m', 'tmpfs', folder], { stdio: 'ignore' })
    return folder
  } catch {
    rmSync(folder, { recursive: true })
    return undefined
  }
}
const disk = smallDisk()

describe.skipIf(!disk)('on a full disk', () => {
  let server: TestServer
  afterAll(async () => {
    await server.stop().catch(() => undefined)
    execFileSync('umount', ['-l', disk!])
  })
  const ask = (path: string, method = 'GET', body?: unknown) =>
    fetch(server.address + path, { method, headers: OWN, body: body === undefined ? undefined : JSON.stringify(body) })
  const read = async () => (await (await ask('/api/journeys/demo')).json()) as { journey: Journey; revision: number }
  /** Writes until nothing more fits. */
  function fill(): void {
    for (const size of [4 << 20, 1 << 16, 1 << 12]) {
      for (let i = 0; ; i++) {
        try {
          writeFileSync(join(disk!, `filler-${size}-${i}`), Buffer.alloc(size))
        } catch {
          break
        }
      }
    }
  }
  const empty = () => readdirSync(disk!).filter((file) => file.startsWith('filler')).forEach((file) => rmSync(join(disk!, file))) // prettier-ignore

  it('saves, exports and imports say so, end, and go on when there is room', async () => {
    server = await startServer(join(disk!, 'data'))
    mkdirSync(disk!, { recursive: true })
    fill()
    const { journey, revision } = await read()
    const large = { ...journey, name: 'Too much', stops: journey.stops.map((stop) => ({ ...stop, name: 'x'.repeat(120) })) }
    let refused: Response | undefined
    // The log of the database may have a little room left from before.
    for (let i = 0; i < 60 && !refused; i++) {
      const answer = await ask('/api/journeys', 'POST', { journey: large })
      if (!answer.ok) refused = answer
    }
    expect(refused!.status).toBe(507)
    expect(((await refused!.json()) as { message: string }).message).toBe('The disk is full: make room, then it goes on.')
    const picture = await fetch(`${server.address}/api/images?name=map.png`, {
      method: 'POST',
      headers: OWN,
      body: new Uint8Array(3_000_000),
    })
    expect(picture.status).toBeGreaterThanOrEqual(400)
    expect(await picture.text()).not.toContain(disk!)
    empty()
    const saved = await ask('/api/journeys/demo', 'PUT', { revision, journey: rename(journey, 'Room again') })
    expect(saved.status).toBe(200)
    const { id } = (await (await ask('/api/journeys/demo/exports', 'POST', {})).json()) as { id: string }
    await expect.poll(async () => (await state(id)).framesDone, { timeout: 60_000 }).toBeGreaterThan(5)
    fill()
    // It fails by itself, or is cancelled: either way it ends.
    await ask(`/api/exports/${id}`, 'DELETE')
    await expect.poll(async () => (await state(id)).state, { timeout: 60_000 }).toMatch(/^(failed|cancelled)$/)
    expect(readdirSync(join(disk!, 'data', 'exports')).filter((file) => file.startsWith(id))).toEqual([])
    empty()
    for (const poster of readdirSync(join(disk!, 'data', 'posters')))
      expect(statSync(join(disk!, 'data', 'posters', poster)).size, poster).toBeGreaterThan(0)
  })

  const state = async (id: string) =>
    ((await (await ask('/api/journeys/demo/exports')).json()) as { id: string; state: string; framesDone: number }[]).find(
      (record) => record.id === id,
    )!
})

describe('trouble of the machine', () => {
  it('is told by its codes, however deep they lie', () => {
    const full = Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' })
    expect(troubleOf(new Error('outside', { cause: full }))?.status).toBe(507)
    expect(troubleOf(Object.assign(new Error('x'), { code: 'ENOSPC' }))?.status).toBe(507)
    expect(troubleOf(new Error('Encoding stopped (1): the film: No space left on device'))?.status).toBe(507)
    expect(troubleOf(Object.assign(new Error('x'), { code: 'SQLITE_BUSY' }))?.status).toBe(503)
    expect(troubleOf(new Error('something else'))).toBeUndefined()
  })
})
