import { request } from 'node:http'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import Database from 'better-sqlite3'
import { join } from 'node:path'
import { rename } from '#core/edits/journey'
import type { Journey } from '#core/journey/schema'
import type { TestServer } from '../support/server'
import { OWN } from '../support/server'
import { startServer } from '../support/shared'

let server: TestServer
beforeAll(async () => {
  server = await startServer()
})
afterAll(() => server.stop())

/** A request with headers that fetch does not let be set. */
const raw = (path: string, headers: Record<string, string>, method = 'GET') =>
  new Promise<{ status: number; headers: Record<string, unknown>; body: string }>((resolve, reject) => {
    const { port } = new URL(server.address)
    const asked = request({ host: '127.0.0.1', port, path, method, headers }, (response) => {
      let body = ''
      response.on('data', (data: Buffer) => (body += data.toString()))
      response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, body }))
    })
    asked.on('error', reject)
    asked.end()
  })
const own = () => ({ host: new URL(server.address).host })

describe('every answer', () => {
  // OWASP ASVS 4.0.3, level 1: V14.4.1 (content type), V14.4.3 (CSP), V14.4.4 (nosniff), V14.4.6 (Referrer-Policy), V14.4.7 (frame-ancestors);
  // V14.5.3 (no origin is allowed that is not our own). V14.4.5 (HSTS) is for HTTPS, which a server for one machine does not speak.
  it.each(['/', '/icon.svg', '/api/journeys', '/api/nothing', '/journeys/demo', '/api/journeys/absent'])(
    'carries the security headers: %s',
    async (path) => {
      const { headers } = await raw(path, own())
      expect(headers['content-type']).toMatch(/^(text\/html|image\/svg|application\/json)/)
      expect(headers['content-security-policy']).toMatch(
        /^default-src 'none'; script-src 'self' 'wasm-unsafe-eval'( 'sha256-[\w+/=]+')*; .*frame-ancestors 'none'$/,
      )
      expect(headers).toMatchObject({
        'x-content-type-options': 'nosniff',
        'referrer-policy': 'no-referrer',
        'cross-origin-resource-policy': 'same-origin',
        'cross-origin-opener-policy': 'same-origin',
      })
      expect(headers['access-control-allow-origin']).toBeUndefined()
    },
  )

  it('is refused to foreign hosts and pages, static files included', async () => {
    for (const path of ['/', '/icon.svg', '/api/journeys']) {
      expect((await raw(path, { host: 'evil.example' })).status).toBe(403)
      expect((await raw(path, { ...own(), origin: 'http://evil.example' })).status).toBe(403)
      expect((await raw(path, { ...own(), origin: 'null' })).status).toBe(403)
      expect((await raw(path, own())).status).toBe(200)
    }
  })

  it('to a change without an origin asks for a header that a foreign page cannot set', async () => {
    expect((await raw('/api/journeys/demo/duplicate', own(), 'POST')).status).toBe(403)
    expect((await raw('/api/journeys/demo/duplicate', { ...own(), origin: server.address }, 'POST')).status).toBe(200)
    expect((await raw('/api/journeys/demo/duplicate', { ...own(), ...OWN }, 'POST')).status).toBe(200)
  })
})

describe('a save while another program holds the database', () => {
  const read = async () => (await (await fetch(`${server.address}/api/journeys/demo`)).json()) as { journey: Journey; revision: number }
  const save = ({ journey, revision }: { journey: Journey; revision: number }, name: string) =>
    fetch(`${server.address}/api/journeys/demo`, {
      method: 'PUT',
      headers: OWN,
      body: JSON.stringify({ revision, journey: rename(journey, name) }),
    })

  it('waits for it without holding up anybody, and says so when it takes too long', async () => {
    const other = new Database(join(server.folder, 'zephyrine.sqlite'))
    other.exec('BEGIN IMMEDIATE')
    const record = await read()
    const saving = save(record, 'Patience')
    // Answered while the save waits: the save comes to an end only after the lock is let go.
    expect((await fetch(`${server.address}/api/journeys`)).status).toBe(200)
    other.exec('ROLLBACK')
    expect((await saving).status).toBe(200)
    other.exec('BEGIN IMMEDIATE')
    const late = await save(await read(), 'Too late')
    other.exec('ROLLBACK')
    other.close()
    expect(late.status).toBe(503)
    expect(((await late.json()) as { message: string }).message).toMatch(/^Another program holds Zephyrine’s data/)
    expect((await read()).journey.name).toBe('Patience')
  })
})
