/** Exported files, as ffprobe (of the FFmpeg project) sees them. */
import type { Journey } from '#core/journey/schema'
import { glowSchema, shotSchema } from '#core/journey/schema'
import { existsSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { setFrame } from '#core/edits/journey'
import type { FrameRate } from '#core/pace/rate'
import { FRAME_RATES, frameCount, frameTime } from '#core/pace/rate'
import { wholeFilm } from '#core/film/settings'
import { renderFilm } from '#render/film'
import { paintStill } from '#render/still'
import { journeyOver, paperSheet } from '../support/journeys'
import { meanDifference } from '../support/pixels'
import { temporaryFolder } from '../support/server'
import { decodeFrame, probe } from '../support/video'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const film = (rate: FrameRate, seconds = 2, width = 320, height = 180) =>
  setFrame(
    journeyOver(
      [
        [200, 300],
        [1500, 800],
      ],
      {
        vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 120 },
        ink: { glow: glowSchema.parse({ colour: '#ffd27a', radius: 20, strength: 1 }) },
      },
      seconds,
    ),
    { width, height, rate },
  )

/** With a camera that rests, moves and rests again. */
const withPan = (journey: Journey): Journey => ({
  ...journey,
  shots: [
    shotSchema.parse({
      kind: 'free',
      id: 'pan',
      at: { at: 'start', offset: 1 },
      transition: 1,
      view: { centre: { x: 1100, y: 600 }, zoom: 1.3, bearing: 12, pitch: 20 },
    }),
  ],
})

/** What compression and halved colour resolution cost at the encoder's quality, as a mean difference; a frame off by one shows a multiple of it. */
const LOSS = 2

describe('renderFilm', () => {
  it.each(FRAME_RATES)('at %s has the exact rate, frame count, size and colours', async (rate) => {
    const out = join(folder, `${rate.replace('/', '-')}.mp4`)
    const journey = film(rate)
    const { frames } = await renderFilm({ folder, journey, out })
    expect(frames).toBe(frameCount(2, rate))
    expect(probe(out)).toMatchObject({
      codec_name: 'h264',
      width: 320,
      height: 180,
      pix_fmt: 'yuv420p',
      color_space: 'bt709',
      color_primaries: 'bt709',
      color_transfer: 'bt709',
      color_range: 'tv',
      r_frame_rate: rate,
      avg_frame_rate: rate,
      nb_read_frames: String(frames),
    })
  })

  it('shows in each frame what the still of that frame shows, colours kept', async () => {
    const out = join(folder, 'compare.mp4')
    const journey = film('25/1', 2, 640, 360)
    await renderFilm({ folder, journey, out })
    for (const k of [0, 17, 30, 49]) {
      const still = await paintStill(folder, journey, frameTime(k, '25/1'))
      expect(meanDifference(decodeFrame(out, k), still.pixels())).toBeLessThan(LOSS)
    }
  })

  it('renders a part, frame-exact', async () => {
    const out = join(folder, 'part.mp4')
    const journey = film('25/1', 3, 640, 360)
    await renderFilm({ folder, journey, out, settings: { ...wholeFilm(journey), from: 25, to: 35 } })
    expect(probe(out).nb_read_frames).toBe('10')
    const still = await paintStill(folder, journey, frameTime(25, '25/1'))
    expect(meanDifference(decodeFrame(out, 0), still.pixels())).toBeLessThan(LOSS)
  })

  it('is the same byte for byte with one, two and five painters, and fails as one', async () => {
    const journey = withPan(film('25/1', 4))
    const [one, two, five] = await Promise.all(
      [1, 2, 5].map(async (painters) => {
        const out = join(folder, `painters-${painters}.mp4`)
        await renderFilm({ folder, journey, out, painters })
        return readFileSync(out)
      }),
    )
    expect(probe(join(folder, 'painters-5.mp4')).nb_read_frames).toBe('100')
    expect(two!.equals(one!)).toBe(true)
    expect(five!.equals(one!)).toBe(true)
    const broken = { ...film('30/1', 4), sheets: [{ ...paperSheet, name: 'Gone' }] }
    await expect(renderFilm({ folder, journey: broken, out: join(folder, 'broken.mp4'), painters: 3 })).rejects.toThrow(/is missing in/)
    expect(readdirSync(folder).filter((name) => name.startsWith('broken'))).toEqual([])
  })

  it('puts the index before the pictures, so that a player can begin at once', async () => {
    const bytes = readFileSync(join(folder, '30-1.mp4'))
    expect(bytes.indexOf('moov')).toBeGreaterThan(0)
    expect(bytes.indexOf('moov')).toBeLessThan(bytes.indexOf('mdat'))
  })

  it('leaves nothing behind when it is cancelled', async () => {
    const out = join(folder, 'cancelled.mp4')
    const control = new AbortController()
    const rendering = renderFilm({
      folder,
      journey: film('60/1', 20),
      out,
      signal: control.signal,
      onProgress: (done) => done === 20 && control.abort(new Error('enough')),
    })
    await expect(rendering).rejects.toThrow('enough')
    expect(readdirSync(folder).filter((name) => name.startsWith('cancelled'))).toEqual([])
  })

  it('says why encoding failed', async () => {
    const out = join(folder, 'no-such-folder', 'film.mp4')
    await expect(renderFilm({ folder, journey: film('30/1'), out })).rejects.toThrow(/Encoding stopped .*No such file or directory/)
    expect(existsSync(out)).toBe(false)
  })

  it('reports a sheet whose picture is not there', async () => {
    const journey = { ...film('30/1'), sheets: [{ ...paperSheet, name: 'Gone' }] }
    await expect(renderFilm({ folder, journey, out: join(folder, 'gone.mp4') })).rejects.toThrow(
      /The picture of the sheet “Gone” is missing in .*: import it again/,
    )
  })
})
