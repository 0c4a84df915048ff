/** The passes of a film: laid over one another in their order they are its picture. */
import { rmSync } from 'node:fs'
import { afterAll, describe, expect, it } from 'vitest'
import { produce } from 'immer'
import { setFrame } from '#core/edits/journey'
import { passesOf, passFilms } from '#core/film/passes'
import { wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import type { Journey } from '#core/journey/schema'
import { captionSchema, glowSchema, gradeSchema } from '#core/journey/schema'
import { freshDemo } from '#demo/seed'
import { createFilmPainter } from '#render/film-painter'
import { renderFilm } from '#render/film'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'
import { probe } from '../support/video'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const SIZE = { width: 640, height: 360, rate: '30/1' } as const

/** Pictures over one another, as W3C Compositing and Blending Level 1, 5.1 (simple alpha compositing) has it, in numbers without rounding. */
function laidOver(pictures: readonly Uint8Array[]): Float64Array {
  const sum = new Float64Array(pictures[0]!.length)
  for (const picture of pictures)
    for (let i = 0; i < picture.length; i += 4) {
      const alpha = picture[i + 3]! / 255
      for (let c = 0; c < 3; c++) sum[i + c] = alpha * picture[i + c]! + (1 - alpha) * sum[i + c]!
      sum[i + 3] = 255 * alpha + (1 - alpha) * sum[i + 3]!
    }
  return sum
}

/** How far off the sum of the passes is at most in some frames, and at how many of a thousand values by more than one step of 255. */
async function farthest(data: string, journey: Journey, frames: readonly number[]): Promise<{ most: number; over: number }> {
  const compiled = compile(journey)
  const [film, ...passes] = (['all', ...passesOf(compiled)] as const).map((shows) =>
    createFilmPainter(data, compiled, { pixels: 'rgba', shows }),
  )
  let [most, over, count] = [0, 0, 0]
  for (const k of frames) {
    for (const painter of [film!, ...passes]) await painter.paint(k)
    const sum = laidOver(passes.map(({ picture }) => picture.rgba))
    film!.picture.rgba.forEach((value, i) => {
      const off = Math.abs(value - sum[i]!)
      most = Math.max(most, off)
      if (off > 1) over++
    })
    count += sum.length
  }
  return { most, over: (1000 * over) / count }
}

const dull = (journey: Journey): Journey =>
  produce(journey, (draft) => {
    for (const { legs } of draft.travellers) for (const { ink } of legs) ink.glow = null
  })

describe('passes', () => {
  it('laid over one another are the film of the demo, but for the light of lines', async () => {
    const demo = await freshDemo()
    const journey = dull(setFrame(demo.journey, SIZE))
    expect(passesOf(compile(journey, NO_PLACES))).toEqual(['ground', 'lines', 'marks', 'vehicles', 'labels', 'cards', 'titles'])
    // Both round to steps of 255 as often as shapes lie on one another: of a thousand values one is more than a step off.
    const { most, over } = await farthest(demo.folder, journey, [0, 150, 300, 301, 420, 500, 640, 719])
    expect(most).toBeLessThan(3)
    expect(over).toBeLessThan(1)
  })

  it('follow the order of the layers, are not graded, and have the sound with the ground', async () => {
    const journey = setFrame(
      {
        ...journeyOver(
          [
            [400, 300],
            [1500, 800],
          ],
          { vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 120 } },
        ),
        order: ['labels', 'vehicles', 'marks', 'lines', 'cards'],
        grade: gradeSchema.parse({ exposure: 1, saturation: -1, grain: { strength: 1 } }),
      },
      { width: 320, height: 180, rate: '30/1' },
    )
    const compiled = compile(journey, NO_PLACES)
    // It has no cards and no titles.
    const films = passFilms(compiled, wholeFilm(journey, 'mov'))
    expect(films.map(({ part }) => part)).toEqual(['1 ground', '2 labels', '3 vehicles', '4 marks', '5 lines'])
    expect(films.map(({ settings }) => settings.sound)).toEqual([true, false, false, false, false])
    const { most } = await farthest(folder, { ...journey, grade: null }, [0, 40, 80])
    expect(most).toBeLessThan(3)
    const paint = async (shows: 'all' | 'ground' | 'lines', of: Journey) => {
      const painter = createFilmPainter(folder, compile(of), { pixels: 'rgba', shows })
      await painter.paint(40)
      return Buffer.from(painter.picture.rgba)
    }
    for (const shows of ['ground', 'lines'] as const) expect((await paint(shows, journey)).equals(await paint(shows, { ...journey, grade: null }))).toBe(true) // prettier-ignore
    expect((await paint('all', journey)).equals(await paint('all', { ...journey, grade: null }))).toBe(false)
  })

  it('are left out where nothing can be seen in them', () => {
    const bare = produce(
      journeyOver([
        [400, 300],
        [1500, 800],
      ]),
      (draft) => {
        for (const stop of draft.stops) [stop.pin.shape, stop.label.shown] = ['none', false]
        for (const { legs } of draft.travellers) for (const leg of legs) [leg.ink.line, leg.vehicle] = [{ kind: 'hidden' }, null]
      },
    )
    expect(passesOf(compile(bare, NO_PLACES))).toEqual(['ground'])
    const titled = { ...bare, captions: [captionSchema.parse({ id: 't', content: { kind: 'title', text: 'A title' } })] }
    expect(passesOf(compile(titled, NO_PLACES))).toEqual(['ground', 'titles'])
  })

  it.each(['ground', 'lines'] as const)('of the %s alone is a film of the same length, opaque where it has the ground', async (shows) => {
    const journey = setFrame(
      journeyOver(
        [
          [400, 300],
          [1500, 800],
        ],
        { ink: { glow: glowSchema.parse({}) } },
      ),
      { width: 320, height: 180, rate: '30/1' },
    )
    const out = `${folder}/${shows}.mov`
    await renderFilm({ folder, journey, out, settings: { ...wholeFilm(journey, 'mov'), shows, from: 30, to: 42 } })
    const { nb_read_frames: frames, pix_fmt: pixels } = probe(out)
    expect([Number(frames), pixels]).toEqual([12, expect.stringMatching(shows === 'ground' ? /^yuv444p1[02]le$/ : /^yuva444p1[02]le$/)])
  })
})
