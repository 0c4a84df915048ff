/** The grade of a film: painted in parts and from frame to frame it is what grading each whole frame gives; and the files that it takes. */
import { createHash } from 'node:crypto'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { setFrame, setGrade, setShutter } from '#core/edits/journey'
import { readCube } from '#core/colour/cube'
import { wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import type { Journey } from '#core/journey/schema'
import { gradeSchema, shotSchema } from '#core/journey/schema'
import { createGrader } from '#draw/grade'
import { renderFilm } from '#render/film'
import { createFilmPainter } from '#render/film-painter'
import { paintStill } from '#render/still'
import { lutPath } from '../../server/storage/lut-files'
import { journeyOver } from '../support/journeys'
import { COLD_CUBE } from '../support/luts'
import type { TestServer } from '../support/server'
import { OWN, temporaryFolder } from '../support/server'
import { startServer } from '../support/shared'

const folder = temporaryFolder()
const hash = createHash('sha256').update(COLD_CUBE).digest('hex')
mkdirSync(dirname(lutPath(folder, hash)), { recursive: true })
writeFileSync(lutPath(folder, hash), COLD_CUBE)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const SIZE = { width: 320, height: 180, rate: '30/1' } as const
const driven = setFrame(
  {
    ...journeyOver(
      [
        [200, 300],
        [1500, 800],
      ],
      { vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 120 } },
      4,
    ),
    shots: [
      shotSchema.parse({
        kind: 'free',
        id: 'pan',
        at: { at: 'start', offset: 1 },
        transition: 1,
        view: { centre: { x: 1100, y: 600 }, zoom: 1.3 },
      }),
    ],
  },
  SIZE,
)
const lut = { file: hash, name: 'Cold', strength: 0.7 }

describe('a graded film', () => {
  it.each([
    ['by numbers', { exposure: 0.4, saturation: -0.3 }, 0],
    ['by a table, with darker corners', { lut, vignette: { strength: 0.6, size: 0.6 } }, 0],
    ['with grain', { contrast: 0.2, grain: { strength: 0.8, size: 3 } }, 0],
    ['after it was blurred', { lut, warmth: 0.5 }, 360],
  ] as const)('%s is in each frame what it is of the whole frame', async (_what, of, shutter) => {
    const grade = gradeSchema.parse(of)
    const plain = setShutter(driven, shutter)
    const journey = setGrade(plain, grade)
    const [film, ungraded] = [journey, plain].map((one) => createFilmPainter(folder, compile(one), { pixels: 'rgba', shows: 'all' }))
    const whole = createGrader(SIZE, { grade, cube: readCube(COLD_CUBE, 'Cold'), scale: compile(journey).scale, ground: true })
    for (const k of [3, 10, 11, 12, 30, 31, 45, 46, 61, 62, 118, 119]) {
      await film!.paint(k)
      await ungraded!.paint(k)
      whole.pixels.set(ungraded!.picture.rgba)
      const wanted = new Uint8Array(4 * SIZE.width * SIZE.height)
      whole.finish([{ x: 0, y: 0, ...SIZE }], k, wanted)
      expect(Buffer.compare(film!.picture.rgba, wanted), `frame ${k}`).toBe(0)
      expect(Buffer.compare(film!.picture.rgba, ungraded!.picture.rgba)).not.toBe(0)
    }
    const still = await paintStill(folder, journey, 119 / 30)
    expect(Buffer.compare(still.pixels(), film!.picture.rgba)).toBe(0)
  })

  it('whose table is missing is refused with a sentence', async () => {
    const journey = setGrade(driven, { lut: { ...lut, file: 'e'.repeat(64) } })
    await expect(
      renderFilm({ folder, journey, out: join(folder, 'missing.mp4'), settings: { ...wholeFilm(journey), to: 2 } }),
    ).rejects.toThrow(/The LUT “Cold” is missing/)
  })
})

describe('the files of tables', () => {
  let server: TestServer
  beforeAll(async () => {
    server = await startServer()
    return () => server.stop()
  })
  const add = (name: string, body: string) => fetch(`${server.address}/api/luts?name=${name}`, { method: 'POST', headers: OWN, body })
  const remove = (file: string) => fetch(`${server.address}/api/luts/${file}`, { method: 'DELETE', headers: OWN })

  it('are kept by their content, read again, named in the storage, and deleted where nothing uses them', async () => {
    expect(await (await add('Cold%20morning.cube', COLD_CUBE)).json()).toEqual({ file: hash, name: 'Cold morning' })
    expect(await (await fetch(`${server.address}/api/luts/${hash}`)).text()).toBe(COLD_CUBE)
    const { journey } = (await (await fetch(`${server.address}/api/journeys/demo`)).json()) as { journey: Journey }
    const graded = setGrade(journey, { lut: { file: hash, name: 'Cold morning', strength: 1 }, vignette: { strength: 1, size: 1 } })
    const { id } = (await (await fetch(`${server.address}/api/journeys`, { method: 'POST', headers: OWN, body: JSON.stringify({ journey: graded }) })).json()) as { id: string } // prettier-ignore
    const stored = (await (await fetch(`${server.address}/api/storage`)).json()) as { luts: unknown[] }
    expect(stored.luts).toEqual([{ hash, bytes: COLD_CUBE.length, name: 'Cold morning', isUsed: true }])
    expect((await remove(hash)).status).toBe(409)
    const elsewhere = setGrade(journey, { lut: { file: 'e'.repeat(64), name: 'Gone', strength: 1 } })
    const refused = await fetch(`${server.address}/api/journeys`, {
      method: 'POST',
      headers: OWN,
      body: JSON.stringify({ journey: elsewhere }),
    })
    expect(refused.status).toBe(422)
    expect(((await refused.json()) as { message: string }).message).toBe('The LUT “Gone” is not here: add its file again.')
    await fetch(`${server.address}/api/journeys/${id}`, { method: 'DELETE', headers: OWN })
    // A deleted journey can be restored, and has it.
    expect((await remove(hash)).status).toBe(409)
    await add('other.cube', COLD_CUBE.replace('Cold', 'Other'))
    const other = createHash('sha256').update(COLD_CUBE.replace('Cold', 'Other')).digest('hex')
    expect((await remove(other)).status).toBe(204)
    expect((await remove(other)).status).toBe(404)
  })

  it.each([
    ['a picture', '\u0089PNG\r\n\u001a\n'],
    ['half a table', COLD_CUBE.slice(0, 40)],
    ['a table too large', 'LUT_3D_SIZE 200\n'],
    ['nothing', ''],
  ])('that are %s are refused with a sentence', async (_what, body) => {
    const answer = await add('odd.cube', body)
    expect(answer.status).toBe(422)
    expect(((await answer.json()) as { message: string }).message).toMatch(/^“odd\.cube” [^\n]+\.$/)
    expect(
      ((await (await fetch(`${server.address}/api/storage`)).json()) as { luts: { hash: string }[] }).luts.map(({ hash: of }) => of),
    ).not.toContain(createHash('sha256').update(body).digest('hex'))
  })
})
