/** Films with a shutter: each frame is the mean of the moments it is exposed for, painted one by one, however the film's painter goes about it. */
import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { setFrame, setShutter } from '#core/edits/journey'
import { frameOf } from '#core/film/passes'
import { wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { exposureAt } from '#core/frame/exposure'
import { toLinear } from '#core/colour/srgb'
import { glowSchema, shotSchema } from '#core/journey/schema'
import { frameTime } from '#core/pace/rate'
import { freshDemo } from '#demo/seed'
import { createPainter } from '#draw/painter'
import { renderFilm } from '#render/film'
import { createFilmPainter } from '#render/film-painter'
import { paintStill } from '#render/still'
import { createServerStudio, createServerSurface } from '#render/studio'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const SIZE = { width: 480, height: 270, rate: '30/1' } as const

/** A car on a glowing line, filmed by a camera that rests, moves from 1 s to 2 s, and rests again. */
const driven = (pitch: number) =>
  setShutter(
    setFrame(
      {
        ...journeyOver(
          [
            [200, 300],
            [1500, 800],
          ],
          {
            vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 120 },
            ink: { glow: glowSchema.parse({ colour: '#ffd27a', radius: 20, strength: 1 }) },
          },
          4,
        ),
        shots: [
          shotSchema.parse({
            kind: 'free',
            id: 'pan',
            at: { at: 'start', offset: 1 },
            transition: 1,
            view: { centre: { x: 1100, y: 600 }, zoom: 1.3, bearing: 12, pitch },
          }),
        ],
      },
      SIZE,
    ),
    180,
  )

/** The mean of pictures in linear light, of floating point numbers. */
function meanOf(pictures: readonly Uint8Array[]): Float64Array {
  const mean = new Float64Array(pictures[0]!.length)
  for (let at = 0; at < mean.length; at += 4) {
    const opacity = pictures.reduce((sum, picture) => sum + picture[at + 3]! / 255, 0)
    for (let k = 0; k < 3 && opacity > 0; k++) {
      const light = pictures.reduce((sum, picture) => sum + (toLinear(picture[at + k]! / 255) * picture[at + 3]!) / 255, 0) / opacity
      mean[at + k] = 255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)
    }
    mean[at + 3] = (255 * opacity) / pictures.length
  }
  return mean
}

const plain = (pitch: number) => () => ({ journey: driven(pitch), folder })
const ofDemo = async () => {
  const demo = await freshDemo()
  return { ...demo, journey: setShutter(setFrame(demo.journey, SIZE), 180) }
}

describe('a film with a shutter', () => {
  const cases = [
    ['straight down', plain(0), 'all', [10, 31, 40, 45, 46, 70, 119]],
    ['tilted', plain(40), 'all', [28, 40, 59, 60, 61]],
    ['without its ground', plain(0), 'over', [10, 40, 41, 70]],
    ['of the demo, over its sheet', ofDemo, 'all', [62, 506, 507]],
  ] as const

  it.each(cases)('%s has the mean of the moments in each frame', async (_name, make, shows, frames) => {
    const { journey, folder } = await make()
    const compiled = compile(journey)
    const film = createFilmPainter(folder, compiled, { pixels: 'rgba', shows })
    let most = 0
    let exposed = 0
    for (const k of frames) {
      await film.paint(k)
      const moments = exposureAt(compiled, frameTime(k, SIZE.rate))
      if (moments.length > 1) exposed++
      const pictures: Uint8Array[] = []
      for (const moment of moments) {
        const studio = createServerStudio(folder)
        const surface = createServerSurface(SIZE.width, SIZE.height)
        const frame = frameOf(moment, shows)
        await studio.prepare(frame, compiled.scale)
        createPainter(studio).paint(frame, surface.context, compiled.scale)
        pictures.push(surface.pixels())
      }
      const wanted = meanOf(pictures)
      film.picture.rgba.forEach((value, at) => {
        // The colour of what can hardly be seen is not kept exactly by canvases.
        if (at % 4 < 3 && film.picture.rgba[at | 3]! < 32) return
        most = Math.max(most, Math.abs(value - wanted[at]!))
      })
    }
    expect(exposed).toBeGreaterThanOrEqual(2)
    // Rounding is half of one.
    expect(most).toBeLessThan(shows === 'all' ? 1.01 : 4)
  })

  it('shows in a still what it shows in that frame', async () => {
    const journey = driven(0)
    const film = createFilmPainter(folder, compile(journey), { pixels: 'rgba', shows: 'all' })
    await film.paint(45)
    const still = await paintStill(folder, journey, 1.5)
    expect(Buffer.compare(Buffer.from(film.picture.rgba), Buffer.from(still.pixels()))).toBe(0)
  })

  it('is the same with one painter and with three, and blurred', async () => {
    const journey = driven(20)
    const settings = { ...wholeFilm(journey, 'png'), from: 20, to: 62 }
    const make = async (name: string, painters: number, of = journey) => {
      const out = join(folder, name)
      await renderFilm({ folder, journey: of, out, painters, settings })
      return readFileSync(out)
    }
    const [one, three, sharp] = [await make('one.zip', 1), await make('three.zip', 3), await make('sharp.zip', 1, setShutter(journey, 0))]
    expect(one.equals(three)).toBe(true)
    expect(one.equals(sharp)).toBe(false)
  })
})
