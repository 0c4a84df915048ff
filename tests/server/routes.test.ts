/** The built server, asked as a browser (or something less friendly) would ask it. */
import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { request } from 'node:http'
import { join } from 'node:path'
import { inflateSync } from 'node:zlib'
import * as fontkit from 'fontkit'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { addAudio } from '#core/edits/pace/audio'
import { rename, setFrame } from '#core/edits/journey'
import { setSeconds } from '#core/edits/pace/film-length'
import type { Journey, OwnFont } from '#core/journey/schema'
import { inkSchema, pinSchema, textStyleSchema } from '#core/journey/schema'
import { SOUND_RATE, wavHeader } from '#core/sound/pcm'
import type { TestServer } from '../support/server'
import { OWN } from '../support/server'
import { startServer } from '../support/shared'

let server: TestServer
beforeAll(async () => {
  server = await startServer()
})
afterAll(() => server.stop())

interface Answer {
  status: number
  // The tests look into answers of many shapes.
  body: Record<string, unknown> & { message?: string; journey?: Journey; id?: string; revision?: number }
}
async function ask(method: string, path: string, body?: unknown): Promise<Answer> {
  const response = await fetch(server.address + path, { method, headers: OWN, body: body === undefined ? undefined : JSON.stringify(body) })
  const text = await response.text()
  return { status: response.status, body: text ? JSON.parse(text) : {} }
}
const demo = async () => (await ask('GET', '/api/journeys/demo')).body.journey!

/** A journey whose film takes a moment: small frames, as long as asked. */
async function made(seconds: number): Promise<string> {
  const journey = setFrame(setSeconds(await demo(), seconds), { width: 320, height: 180, rate: '30/1' })
  return (await ask('POST', '/api/journeys', { journey: rename(journey, `Film of ${seconds} s`) })).body.id!
}

async function events(path: string, until: (record: Record<string, unknown>) => boolean): Promise<Record<string, unknown>[]> {
  const response = await fetch(server.address + path)
  const seen: Record<string, unknown>[] = []
  let rest = ''
  const decoder = new TextDecoder()
  for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
    rest += decoder.decode(chunk, { stream: true })
    for (let end = rest.indexOf('\n\n'); end >= 0; end = rest.indexOf('\n\n')) {
      seen.push(JSON.parse(rest.slice(rest.indexOf('data: ') + 6, end)) as Record<string, unknown>)
      rest = rest.slice(end + 2)
      if (until(seen.at(-1)!)) return seen
    }
  }
  return seen
}

describe('versions', () => {
  it('are kept, listed, read, copied with their journey, and deleted', async () => {
    const { id } = (await ask('POST', '/api/journeys', { journey: rename(await demo(), 'With versions') })).body as { id: string }
    const path = `/api/journeys/${id}/versions`
    expect((await ask('GET', path)).body).toEqual([])
    const journey = rename(await demo(), 'As it was')
    const kept = await ask('POST', path, { name: ' Before the client ', journey })
    expect(kept).toMatchObject({ status: 200, body: { name: 'Before the client' } })
    const version = kept.body.id!
    expect((await ask('GET', path)).body).toEqual([kept.body])
    expect((await ask('GET', `${path}/${version}`)).body.journey).toEqual(journey)
    const copy = (await ask('POST', `/api/journeys/${id}/duplicate`)).body.id!
    expect((await ask('GET', `/api/journeys/${copy}/versions`)).body).toMatchObject([{ name: 'Before the client' }])
    expect((await ask('DELETE', `${path}/${version}`)).status).toBe(204)
    expect((await ask('DELETE', `${path}/${version}`)).status).toBe(404)
    expect((await ask('GET', `${path}/${version}`)).body.message).toMatch(/not here/)
  })

  it('that cannot be are refused with a sentence', async () => {
    const journey = await demo()
    const path = '/api/journeys/demo/versions'
    expect((await ask('POST', path, { name: '', journey })).body.message).toMatch(/name/)
    expect((await ask('POST', path, { name: 'x'.repeat(61), journey })).status).toBe(422)
    expect((await ask('POST', path, { name: 'Broken', journey: { ...journey, seconds: -1 } })).body.message).toMatch(/seconds/)
    expect((await ask('POST', '/api/journeys/nowhere/versions', { name: 'Lost', journey })).status).toBe(404)
    expect((await ask('GET', '/api/journeys/demo/versions/..%2Fx')).status).toBe(404)
    expect((await ask('GET', path)).body).toEqual([])
  })
})

describe('journeys', () => {
  it('are listed, made, read, saved, duplicated, deleted and brought back', async () => {
    const { body } = await ask('POST', '/api/journeys', { journey: rename(await demo(), 'Mine') })
    const path = `/api/journeys/${body.id}`
    expect((await ask('PUT', path, { revision: 1, journey: rename(body.journey!, 'Mine again') })).body).toEqual({ revision: 2 })
    expect((await ask('GET', path)).body).toMatchObject({ revision: 2, journey: { name: 'Mine again' } })
    expect((await ask('POST', `${path}/duplicate`)).body).toMatchObject({ revision: 1, journey: { name: 'Mine again (copy)' } })
    expect((await ask('DELETE', path)).status).toBe(204)
    expect((await ask('GET', path)).status).toBe(404)
    expect((await ask('POST', `${path}/restore`)).status).toBe(204)
    expect((await ask('GET', path)).body.revision).toBe(2)
    const list = (await ask('GET', '/api/journeys')).body as unknown as { name: string; stops: number }[]
    expect(list.map((entry) => entry.name)).toEqual(expect.arrayContaining(['Mine again', 'Mine again (copy)', 'Round the Lantern Isles']))
  })

  it('lose nothing when two windows save: the second gets 409 and the first one’s work stays', async () => {
    const { body } = await ask('POST', '/api/journeys', { journey: await demo() })
    const path = `/api/journeys/${body.id}`
    expect((await ask('PUT', path, { revision: 1, journey: rename(body.journey!, 'First') })).status).toBe(200)
    const late = await ask('PUT', path, { revision: 1, journey: rename(body.journey!, 'Second') })
    expect(late).toMatchObject({
      status: 409,
      body: { message: expect.stringContaining('changed in another window'), data: { revision: 2 } },
    })
    expect((await ask('GET', path)).body).toMatchObject({ revision: 2, journey: { name: 'First' } })
  })

  it('are refused with a sentence when they are not sound', async () => {
    const journey = await demo()
    expect(await ask('POST', '/api/journeys', { journey: { ...journey, seconds: -3 } })).toMatchObject({
      status: 422,
      body: { message: expect.stringContaining('seconds') },
    })
    expect(
      await ask('POST', '/api/journeys', { journey: { ...journey, sheets: [{ ...journey.sheets[0], image: 'b'.repeat(64) }] } }),
    ).toMatchObject({
      status: 422,
      body: { message: expect.stringContaining('import it again') },
    })
    expect((await ask('POST', '/api/journeys', 'text')).status).toBe(422)
    expect((await ask('PUT', '/api/journeys/demo', { journey })).body.message).toContain('revision')
    const photo = { image: 'e'.repeat(64), width: 9, height: 9 }
    const lost = { ...journey, stops: journey.stops.map((stop, i) => (i === 0 ? { ...stop, postcards: [{ id: 'card', photo }] } : stop)) }
    expect((await ask('POST', '/api/journeys', { journey: lost })).body.message).toContain('choose it again')
    const broken = await fetch(`${server.address}/api/journeys`, { method: 'POST', headers: OWN, body: '{"journey":' })
    expect(broken.status).toBe(400)
    const flood = await fetch(`${server.address}/api/journeys`, { method: 'POST', headers: OWN, body: 'x'.repeat(49 * 1024 * 1024) })
    expect(flood.status).toBe(413)
    expect((await ask('GET', '/api/journeys')).status).toBe(200)
  })

  it('are not found under made-up or hostile addresses', async () => {
    for (const id of ['nobody', '..%2F..%2Fetc%2Fpasswd', "x'%20OR%20'1'='1"])
      expect((await ask('GET', `/api/journeys/${id}`)).status).toBe(404)
    expect((await ask('GET', '/api/images/..%2F..%2Fzephyrine.sqlite/0')).status).toBe(404)
    expect((await ask('GET', `/api/images/${'a'.repeat(64)}/0`)).status).toBe(404)
  })

  it('have a poster, which nobody waits for: it is made behind the scenes and listed when it is there', async () => {
    type Listed = { id: string; revision: number; poster: number | null; posterIsComing: boolean }
    const listed = async (id: string) => ((await ask('GET', '/api/journeys')).body as unknown as Listed[]).find((entry) => entry.id === id)!
    const { journey: whole } = (await ask('GET', '/api/journeys/demo')).body as { journey: Journey }
    const copy = (await ask('POST', '/api/journeys', { journey: whole })).body as { id: string }
    // Without a picture the route says so at once.
    expect((await fetch(`${server.address}/api/journeys/${copy.id}/poster`)).status).toBe(404)
    expect(await listed(copy.id)).toMatchObject({ poster: null, posterIsComing: true })
    await expect.poll(async () => (await listed(copy.id)).poster, { timeout: 60_000, interval: 200 }).toBe(1)
    expect(await listed(copy.id)).toMatchObject({ posterIsComing: false })
    const response = await fetch(`${server.address}/api/journeys/${copy.id}/poster?revision=1`)
    expect(response.headers.get('content-type')).toBe('image/webp')
    expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(20_000)
    // A copy has it from the beginning.
    const second = (await ask('POST', `/api/journeys/${copy.id}/duplicate`)).body as { id: string }
    expect(await listed(second.id)).toMatchObject({ revision: 1, poster: 1, posterIsComing: false })
    expect((await fetch(`${server.address}/api/journeys/${second.id}/poster`)).status).toBe(200)
    // A save replaces it; until then the one before can be shown.
    const { journey, revision } = (await ask('GET', `/api/journeys/${copy.id}`)).body as { journey: Journey; revision: number }
    await ask('PUT', `/api/journeys/${copy.id}`, { revision, journey: { ...journey, name: 'Renamed' } })
    expect(await listed(copy.id)).toMatchObject({ revision: 2, poster: 1, posterIsComing: true })
    await expect.poll(async () => (await listed(copy.id)).poster, { timeout: 60_000, interval: 200 }).toBe(2)
    expect(readdirSync(join(server.folder, 'posters')).filter((file) => file.startsWith(copy.id))).toEqual([`${copy.id}.2.webp`])
  })
})

/** What becomes of an import. */
const importOf = async (id: string) => (await events(`/api/imports/${id}/events`, (record) => record.state !== 'running')).at(-1)

describe('images', () => {
  it('come in tiles that never change', async () => {
    const { image } = (await demo()).sheets[0]!
    const tile = (path: string) => fetch(`${server.address}/api/images/${image}/tiles/${path}`)
    const response = await tile('1/2/0')
    expect(response.headers.get('cache-control')).toContain('immutable')
    expect(response.headers.get('content-type')).toBe('image/webp')
    expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(5000)
    for (const none of ['0/99/0', '-1/0/0', '9/0/0', '1.5/0/0', 'x/0/0']) expect([204, 404]).toContain((await tile(none)).status)
  })

  it('are refused with a sentence when they are none', async () => {
    const response = await fetch(`${server.address}/api/images?name=letter.png`, { method: 'POST', headers: OWN, body: 'Dear Sir' })
    expect(response.status).toBe(422)
    expect(((await response.json()) as { message: string }).message).toContain('“letter.png” is not a PNG')
  })

  it('are imported with progress, and an import can be cancelled', async () => {
    const picture = await sharp({
      create: { width: 3000, height: 2000, channels: 3, background: '#345', noise: { type: 'gaussian', mean: 128, sigma: 60 } },
    })
      .png()
      .toBuffer()
    const send = async () => {
      const response = await fetch(`${server.address}/api/images?name=noise.png`, {
        method: 'POST',
        headers: OWN,
        body: new Uint8Array(picture),
      })
      expect(response.status).toBe(202)
      return ((await response.json()) as { id: string }).id
    }
    const cancelled = await send()
    expect((await ask('DELETE', `/api/imports/${cancelled}`)).status).toBe(204)
    expect(await importOf(cancelled)).toEqual({ state: 'cancelled' })
    expect(await importOf(await send())).toMatchObject({ state: 'done', result: { width: 3000, height: 2000, vector: false } })
    expect((await ask('DELETE', '/api/imports/nothing')).status).toBe(404)
  })
})

describe('a piece of sound', () => {
  it('is listed as kept, and deleted only once no journey has it', async () => {
    const wav = Buffer.concat([wavHeader(SOUND_RATE, 2, SOUND_RATE), Buffer.alloc(4 * SOUND_RATE)])
    const sent = await fetch(`${server.address}/api/audio?name=calm.wav`, { method: 'POST', headers: OWN, body: wav })
    const piece = (await sent.json()) as { file: string; name: string; seconds: number }
    const { id } = (await ask('POST', '/api/journeys', { journey: addAudio(await demo(), 'calm', piece) })).body
    const kept = { hash: piece.file, bytes: 4 * SOUND_RATE }
    expect((await ask('GET', '/api/storage')).body).toMatchObject({ audio: [{ ...kept, name: 'calm.wav', isUsed: true }], fonts: [] })
    const path = `/api/audio/${piece.file}`
    const refused = { status: 409, body: { message: 'A journey uses this sound, or one that was deleted and can be restored.' } }
    expect(await ask('DELETE', path)).toMatchObject(refused)
    await ask('DELETE', `/api/journeys/${id}`)
    expect(await ask('DELETE', path)).toMatchObject(refused)
    const lone = await fetch(`${server.address}/api/audio?name=lone.wav`, { method: 'POST', headers: OWN, body: wav.subarray(0, 20_044) })
    const other = `/api/audio/${((await lone.json()) as { file: string }).file}`
    expect((await ask('DELETE', other)).status).toBe(204)
    expect(await ask('DELETE', other)).toMatchObject({ status: 404, body: { message: 'This sound is not here.' } })
  })
})

describe('the real world', () => {
  const map = {
    region: { west: 5, south: 45, east: 11, north: 48 },
    projection: 'conic',
    style: 'atlas',
    borders: true,
    graticule: false,
    aspect: 1.5,
  }

  it('is searched for places by name', async () => {
    const { status, body } = await ask('GET', '/api/places?q=reykjavk&lon=-20&lat=64')
    expect(status).toBe(200)
    expect((body as unknown as { name: string }[])[0]!.name).toBe('Reykjavík')
    expect((await ask('GET', '/api/places?q=x&lon=999&lat=0')).status).toBe(400)
  })

  it('is drawn as a small picture at once, and as a sheet that knows where it lies', async () => {
    const preview = await fetch(`${server.address}/api/maps/preview`, { method: 'POST', headers: OWN, body: JSON.stringify({ map }) })
    expect(preview.headers.get('content-type')).toBe('image/webp')
    const { body } = await ask('POST', '/api/maps', { map })
    expect(await importOf(body.id!)).toMatchObject({
      state: 'done',
      result: { width: 4096, height: 2731, vector: true, georeference: { kind: 'affine', source: 'drawn' } },
    })
    const { hash } = ((await importOf(body.id!)) as unknown as { result: { hash: string } }).result
    const tile = async (pen: string) => {
      const answer = await fetch(`${server.address}/api/images/${hash}/tiles/3/0/0${pen}`)
      return { status: answer.status, bytes: Buffer.from(await answer.arrayBuffer()) }
    }
    const [plain, fine] = [await tile(''), await tile('?pen=-4')]
    expect(plain.bytes.equals((await tile('?pen=0')).bytes)).toBe(true)
    expect(plain.bytes.equals(fine.bytes)).toBe(false)
    for (const pen of ['?pen=99', '?pen=-99', '?pen=1.5', '?pen=x']) expect((await tile(pen)).status).toBe(400)
    const refused = await ask('POST', '/api/maps/preview', { map: { ...map, region: { west: 0, south: 50, east: 10, north: 40 } } })
    expect(refused.status).toBe(422)
  })

  it('gives a country’s outline on a sheet, or says that it does not lie there', async () => {
    const sheet = {
      georeference: { kind: 'affine', source: 'world-file', plane: { kind: 'degrees' }, matrix: [0.01, 0, 5, 0, -0.01, 48] },
      width: 600,
      height: 300,
    }
    const { body } = await ask('POST', '/api/areas', { country: '756', ...sheet })
    expect((body as { name: string }).name).toBe('Switzerland')
    expect((await ask('POST', '/api/areas', { country: '152', ...sheet })).status).toBe(422)
    expect((await ask('POST', '/api/areas', { country: 'Atlantis', ...sheet })).status).toBe(404)
  })
})

describe('exports', () => {
  it('are refused with a sentence where their settings do not go together', async () => {
    const id = await made(15)
    const settings = { format: 'gif', quality: 'good', shows: 'all', from: 0, to: 15, width: 1920, height: 1080 }
    const { status, body } = await ask('POST', `/api/journeys/${id}/exports`, { settings })
    expect(status).toBe(422)
    expect(body.message).toBe('GIF is for loops of up to 1280 pixels a side: choose a smaller size, or another format.')
    expect((await ask('POST', `/api/journeys/${id}/exports`, { settings: { ...settings, format: 'avi' } })).status).toBe(422)
  })

  it('are measured by a few frames, but not while films are made', async () => {
    const id = await made(60)
    const settings = { format: 'mp4', quality: 'draft', shows: 'all', from: 0, to: 1800, width: 640, height: 360 }
    const { status, body } = await ask('POST', `/api/journeys/${id}/estimate`, { settings })
    expect(status).toBe(200)
    expect(body.bytes).toBeGreaterThan(1000)
    expect(body.seconds).toBeGreaterThan(1)
    expect((await ask('POST', `/api/journeys/${id}/estimate`, { settings: { ...settings, to: 1801 } })).status).toBe(422)
    expect((await ask('POST', '/api/journeys/none/estimate', { settings })).status).toBe(404)
    // An export that begins ends what is measured.
    const broken = ask('POST', `/api/journeys/${id}/estimate`, { settings: { ...settings, width: 1920, height: 1080 } })
    const film = (await ask('POST', `/api/journeys/${id}/exports`, { settings })).body.id!
    expect((await broken).status).toBe(204)
    expect((await ask('POST', `/api/journeys/${id}/estimate`, { settings })).status).toBe(204)
    await ask('DELETE', `/api/exports/${film}`)
    await events(`/api/exports/${film}/events`, (record) => record.state === 'cancelled')
  })

  it('run with progress to a file that can be downloaded under the journey’s name', async () => {
    const { body } = await ask('POST', `/api/journeys/${await made(15)}/exports`, {})
    const seen = await events(`/api/exports/${body.id}/events`, (record) => record.state === 'done')
    expect(seen.at(-1)).toMatchObject({ state: 'done', framesDone: 450, framesTotal: 450, error: null })
    const progress = seen.map((record) => record.framesDone as number)
    expect(progress).toEqual([...progress].sort((a, b) => a - b))
    const file = await fetch(`${server.address}/api/exports/${body.id}/file`)
    expect(file.headers.get('content-disposition')).toContain("filename*=UTF-8''Film%20of%2015%20s.mp4")
    expect((await file.arrayBuffer()).byteLength).toBe(seen.at(-1)!.bytes)
  })

  it('wait their turn, can be cancelled waiting or running, and leave no file then', async () => {
    const id = await made(60)
    const first = (await ask('POST', `/api/journeys/${id}/exports`, {})).body.id!
    const second = (await ask('POST', `/api/journeys/${id}/exports`, {})).body.id!
    await events(`/api/exports/${first}/events`, (record) => (record.framesDone as number) > 0)
    expect((await ask('DELETE', `/api/exports/${second}`)).status).toBe(204)
    expect((await ask('DELETE', `/api/exports/${first}`)).status).toBe(204)
    for (const one of [first, second]) {
      const [last] = (await events(`/api/exports/${one}/events`, (record) => record.state === 'cancelled')).slice(-1)
      expect(last).toMatchObject({ state: 'cancelled' })
      expect((await ask('GET', `/api/exports/${one}/file`)).status).toBe(409)
      expect(readdirSync(join(server.folder, 'exports')).filter((name) => name.startsWith(one))).toEqual([])
    }
  })

  it('end with their journey when that is deleted', async () => {
    const id = await made(120)
    const running = (await ask('POST', `/api/journeys/${id}/exports`, {})).body.id!
    const waiting = (await ask('POST', `/api/journeys/${id}/exports`, {})).body.id!
    await events(`/api/exports/${running}/events`, (record) => (record.framesDone as number) > 0)
    expect((await ask('DELETE', `/api/journeys/${id}`)).status).toBe(204)
    for (const one of [running, waiting]) {
      const [last] = (await events(`/api/exports/${one}/events`, (record) => record.state === 'cancelled')).slice(-1)
      expect(last).toMatchObject({ state: 'cancelled' })
    }
    expect(readdirSync(join(server.folder, 'exports')).filter((name) => name.startsWith(running))).toEqual([])
  })

  it('say that they were interrupted when the server stopped under them; journeys are all there', async () => {
    const id = await made(60)
    const started = (await ask('POST', `/api/journeys/${id}/exports`, {})).body.id!
    await events(`/api/exports/${started}/events`, (record) => (record.framesDone as number) > 0)
    await server.restart()
    const [record] = (await ask('GET', `/api/journeys/${id}/exports`)).body as unknown as Record<string, unknown>[]
    expect(record).toMatchObject({ id: started, state: 'failed', error: expect.stringContaining('export again') })
    expect(readdirSync(join(server.folder, 'exports')).filter((name) => name.startsWith(started))).toEqual([])
    expect((await ask('GET', `/api/journeys/${id}`)).body.journey!.name).toBe('Film of 60 s')
  })
})

describe('who may ask', () => {
  it('is this machine’s own page alone', async () => {
    const status = (headers: Record<string, string>) =>
      new Promise<number>((resolve) =>
        request(`${server.address}/api/journeys`, { headers }, (response) => resolve(response.resume().statusCode!)).end(),
      )
    expect(await status({})).toBe(200)
    expect(await status({ host: 'elsewhere.example' })).toBe(403)
    expect(await status({ origin: 'http://elsewhere.example' })).toBe(403)
    expect(await status({ origin: server.address })).toBe(200)
  })
})

describe('styles of one’s own', () => {
  const style = { kind: 'ink', name: 'Night road', look: inkSchema.parse({ colour: '#8fd8ff', glow: {} }) }

  const styles = async () => (await ask('GET', '/api/styles')).body as unknown as { id: string; kind: string; name: string }[]

  it('are kept, listed by name, not kept twice under one name, and taken away', async () => {
    const kept = await ask('POST', '/api/styles', style)
    expect(kept).toMatchObject({ status: 200, body: style })
    await ask('POST', '/api/styles', { kind: 'pin', name: 'Night road', look: pinSchema.parse({}) })
    await ask('POST', '/api/styles', { ...style, name: 'a path' })
    expect((await styles()).map(({ kind, name }) => `${kind} ${name}`)).toEqual(['ink a path', 'ink Night road', 'pin Night road'])
    const twice = await ask('POST', '/api/styles', { ...style, name: 'night ROAD' })
    expect(twice).toMatchObject({ status: 422, body: { message: expect.stringContaining('already: choose another name') } })
    for (const { id } of await styles()) expect((await ask('DELETE', `/api/styles/${id}`)).status).toBe(204)
    expect((await ask('GET', '/api/styles')).body).toEqual([])
    expect((await ask('DELETE', `/api/styles/${kept.body.id}`)).status).toBe(404)
  })

  it('are refused where they are not what they say, and nothing is kept', async () => {
    for (const wrong of [
      { ...style, name: ' ' },
      { ...style, name: 'two\nlines' },
      { ...style, name: 'a\0b' },
      { ...style, kind: 'spell' },
      { ...style, look: { ...style.look, width: 1e9 } },
      { ...style, look: pinSchema.parse({}) },
    ])
      expect((await ask('POST', '/api/styles', wrong)).status).toBe(422)
    expect((await ask('GET', '/api/styles')).body).toEqual([])
  })
})

/** A collection (TTC) of twice the font in a WOFF file, as the OpenType specification 1.9 lays it out; the tables are shared. */
function collectionOf(path: string): Buffer {
  const woff = readFileSync(path)
  const count = woff.readUInt16BE(12)
  const tables = Array.from({ length: count }, (_, i) => {
    const entry = 44 + 20 * i
    const [offset, packed, length] = [4, 8, 12].map((at) => woff.readUInt32BE(entry + at)) as [number, number, number]
    const bytes = woff.subarray(offset, offset + packed)
    return { tag: woff.subarray(entry, entry + 4), bytes: packed < length ? inflateSync(bytes) : bytes, sum: woff.readUInt32BE(entry + 16) }
  })
  const header = Buffer.alloc(20 + 12 + 16 * count)
  header.write('ttcf')
  header.writeUInt32BE(0x00010000, 4)
  header.writeUInt32BE(2, 8)
  header.writeUInt32BE(20, 12)
  header.writeUInt32BE(20, 16)
  woff.copy(header, 20, 4, 8)
  header.writeUInt16BE(count, 24)
  let at = header.length
  const parts: Buffer[] = [header]
  tables.forEach(({ tag, bytes, sum }, i) => {
    const entry = 32 + 16 * i
    tag.copy(header, entry)
    header.writeUInt32BE(sum, entry + 4)
    header.writeUInt32BE(at, entry + 8)
    header.writeUInt32BE(bytes.length, entry + 12)
    parts.push(bytes, Buffer.alloc((4 - (bytes.length % 4)) % 4))
    at += bytes.length + parts.at(-1)!.length
  })
  return Buffer.concat(parts)
}

describe('fonts of one’s own', () => {
  const file = readFileSync('node_modules/@fontsource/jura/files/jura-latin-400-normal.woff2')
  const send = (body: BodyInit, name = 'My hand.woff2') =>
    fetch(`${server.address}/api/fonts?name=${encodeURIComponent(name)}`, { method: 'POST', headers: OWN, body }).then(async (answer) => ({
      status: answer.status,
      body: (await answer.json()) as OwnFont & { message: string },
    }))

  it('are measured, kept under their content, given out again, and needed by journeys that are set in them', async () => {
    const { status, body } = await send(file)
    expect(status).toBe(200)
    const font = fontkit.create(file) as fontkit.Font
    expect(body).toMatchObject({
      file: createHash('sha256').update(file).digest('hex'),
      name: 'Jura Light',
      capital: Math.round((font.capHeight / font.unitsPerEm) * 1000),
    })
    for (const letter of 'Hi7é')
      if (letter in body.widths)
        expect(body.widths[letter]).toBe(Math.round((font.glyphForCodePoint(letter.codePointAt(0)!).advanceWidth / font.unitsPerEm) * 1000))
    expect(Object.keys(body.widths).length).toBeGreaterThan(90)
    const given = await fetch(`${server.address}/api/fonts/${body.file}`)
    expect(Buffer.from(await given.arrayBuffer()).equals(file)).toBe(true)
    expect((await fetch(`${server.address}/api/fonts/${'0'.repeat(64)}`)).status).toBe(404)
    expect((await fetch(`${server.address}/api/fonts/..%2Fzephyrine.sqlite`)).status).toBe(404)
    const { journey } = (await ask('GET', '/api/journeys/demo')).body as { journey: Journey }
    expect((await ask('POST', '/api/journeys', { journey: { ...journey, fonts: [body] } })).status).toBe(200)
    const lost = await ask('POST', '/api/journeys', { journey: { ...journey, fonts: [{ ...body, file: 'a'.repeat(64) }] } })
    expect(lost).toMatchObject({ status: 422, body: { message: 'The font “Jura Light” is not here: add its file again.' } })
    // A kept style of letters brings its font along.
    const look = { ...textStyleSchema.parse({ family: `own-${body.file}` }), font: body }
    expect(await ask('POST', '/api/styles', { kind: 'text', name: 'In my hand', look })).toMatchObject({ status: 200, body: { look } })
  })

  it.each([
    ['words', Buffer.from('not a font'), 422, /not a font that can be read/],
    ['a picture', readFileSync('demo/emberlight.webp'), 422, /not a font that can be read/],
    ['a font that was cut off', file.subarray(0, file.length / 3), 422, /cannot be read|can be read/],
    ['nothing', Buffer.alloc(0), 422, /not a font that can be read/],
    ['a collection', collectionOf('node_modules/@fontsource/jura/files/jura-latin-400-normal.woff'), 422, /holds several fonts/],
    ['a file that is too large', Buffer.alloc(13 * 1024 ** 2), 413, /larger than 12 MiB/],
  ])('are refused where they are %s, with a sentence', async (_what, body, status, message) => {
    const answer = await send(new Uint8Array(body))
    expect(answer.status).toBe(status)
    expect(answer.body.message).toMatch(message)
  })
})
