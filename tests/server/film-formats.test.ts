/** Films of every format, as ffprobe and ffmpeg (of the FFmpeg project) see them; a ZIP as fflate reads it. */
import { glowSchema } from '#core/journey/schema'
import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, rmSync, statSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { unzipSync } from 'fflate'
import sharp from 'sharp'
import { afterAll, describe, expect, it, vi } from 'vitest'
import type { FilmFormatId } from '#core/film/formats'
import { FILM_FORMAT_IDS, FILM_FORMATS } from '#core/film/formats'
import type { FilmSettings } from '#core/film/settings'
import type { Shown } from '#core/film/passes'
import { checkFilm, fileNameOf, filmSettingsSchema, wholeFilm } from '#core/film/settings'
import { setFrame } from '#core/edits/journey'
import { frameTime } from '#core/pace/rate'
import { ffmpegPath } from '#render/ffmpeg'
import { renderFilm } from '#render/film'
import { paintStill } from '#render/still'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'
import { probe } from '../support/video'

/** All formats are written by the ffmpeg of 2018 that comes with the packages, as where none is installed; films elsewhere are written by what is. */
const folder = temporaryFolder()
// Where Node lies there may be a newer one beside it.
symlinkSync(process.execPath, join(folder, 'node'))
vi.stubEnv('PATH', folder)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const [WIDTH, HEIGHT, FRAMES] = [320, 180, 24]
const journey = setFrame(
  journeyOver(
    [
      [300, 300],
      [1500, 800],
    ],
    {
      vehicle: { kind: 'catalogue', artwork: 'car', colour: '#d8412f', size: 160 },
      ink: { width: 30, colour: '#17646b', glow: glowSchema.parse({ colour: '#ffd27a', radius: 40, strength: 1 }) },
    },
    2,
  ),
  { width: WIDTH, height: HEIGHT, rate: '24/1' },
)
const settings = (format: FilmFormatId, patch: Partial<FilmSettings> = {}): FilmSettings => {
  const most = FILM_FORMATS[format].encoder.kind === 'picture' ? { from: 20, to: 21 } : { from: 10, to: 10 + FRAMES }
  return { ...wholeFilm(journey, format), ...most, ...patch }
}
const render = async (format: FilmFormatId, patch: Partial<FilmSettings> = {}) => {
  const out = join(folder, `${format}${patch.shows === 'over' ? '-clear' : ''}${FILM_FORMATS[format].ending}`)
  await renderFilm({ folder, journey, out, settings: settings(format, patch) })
  return out
}
/** A frame of a film, RGBA; the decoder is named where the usual one leaves the alpha out. */
const decoded = (file: string, frame: number, decoder: string[] = []): Uint8Array =>
  execFileSync(ffmpegPath(), ['-v', 'error', ...decoder, '-i', file, '-vf', `select=eq(n\\,${frame})`, '-vframes', '1', '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'], { maxBuffer: 1e9 }) // prettier-ignore
const still = async (frame: number, shows: Shown = 'all'): Promise<Uint8Array> =>
  (await paintStill(folder, journey, frameTime(frame, '24/1'), WIDTH, shows)).pixels()

/** Mean differences over a backdrop, and of alpha, in steps of 255. */
function differences(a: Uint8Array, b: Uint8Array, backdrop: number): { colour: number; alpha: number } {
  let [colour, alpha] = [0, 0]
  for (let i = 0; i < a.length; i += 4) {
    const over = (pixels: Uint8Array, c: number) => backdrop + ((pixels[i + c]! - backdrop) * pixels[i + 3]!) / 255
    for (let c = 0; c < 3; c++) colour += Math.abs(over(a, c) - over(b, c)) / 3
    alpha += Math.abs(a[i + 3]! - b[i + 3]!)
  }
  return { colour: colour / (a.length / 4), alpha: alpha / (a.length / 4) }
}

describe('a film', () => {
  it('is encoded by the program that comes with the packages', () => {
    expect(ffmpegPath()).toContain('@ffmpeg-installer')
  })

  it.each([
    ['mp4', 'h264', /^yuv420p$/],
    // Written with 10 bits, which a reader may take for 12.
    ['mov', 'prores', /^yuv444p1[02]le$/],
    ['webm', 'vp9', /^yuv420p$/],
    ['gif', 'gif', /^bgra$/],
    ['apng', 'apng', /^rgb24$/],
  ] as const)('in %s has its codec, size, rate and frames, and shows what the still shows', async (format, codec, pixels) => {
    const file = await render(format)
    const found = probe(file)
    expect(found).toMatchObject({ codec_name: codec, width: WIDTH, height: HEIGHT, nb_read_frames: String(FRAMES) })
    expect(found.pix_fmt).toMatch(pixels)
    // Of pictures that move ffprobe only estimates the rate: their delays are looked at below.
    if (format !== 'gif' && format !== 'apng') expect(found).toMatchObject({ r_frame_rate: '24/1', avg_frame_rate: '24/1' })
    // 256 colours and their dithering cost more than compression does.
    const loss = format === 'gif' ? 6 : 2
    for (const k of [0, 11, FRAMES - 1]) expect(differences(decoded(file, k), await still(10 + k), 0).colour).toBeLessThan(loss)
  })

  it.each([
    ['mov', /^yuva444p1[02]le$/, []],
    // The alpha is in a stream of its own, which only libvpx decodes.
    ['webm', /^yuv420p$/, ['-c:v', 'libvpx-vp9']],
    ['apng', /^rgba$/, []],
  ] as const)(
    'in %s without ground is transparent, with straight alpha: right over black and over white',
    async (format, pixels, decoder) => {
      const file = await render(format, { shows: 'over' })
      expect(probe(file).pix_fmt).toMatch(pixels)
      for (const k of [0, 11, FRAMES - 1]) {
        const [film, frame] = [decoded(file, k, [...decoder]), await still(10 + k, 'over')]
        for (const backdrop of [0, 255]) {
          const { colour, alpha } = differences(film, frame, backdrop)
          expect(colour).toBeLessThan(2)
          expect(alpha).toBeLessThan(2)
        }
        // Most of the frame is nothing at all, and the vehicle is wholly there.
        const alphas = Array.from({ length: frame.length / 4 }, (_, i) => film[4 * i + 3]!)
        expect(alphas.filter((value) => value < 4).length).toBeGreaterThan(alphas.length / 2)
        expect(alphas.filter((value) => value > 250).length).toBeGreaterThan(100)
      }
    },
  )

  it('as a PNG sequence is a picture for each frame, numbered as in the film', async () => {
    const names = Array.from({ length: FRAMES }, (_, k) => `frame-${String(10 + k).padStart(5, '0')}.png`)
    for (const shows of ['all', 'over'] as const) {
      const files = unzipSync(readFileSync(await render('png', { shows })))
      expect(Object.keys(files)).toEqual(names)
      const picture = await sharp(files['frame-00021.png']).ensureAlpha().raw().toBuffer()
      expect(differences(picture, await still(21, shows), 128)).toEqual({ colour: 0, alpha: 0 })
      expect((await sharp(files['frame-00021.png']).metadata()).hasAlpha).toBe(shows === 'over')
    }
  })

  it('as a still is one picture', async () => {
    const picture = await sharp(await render('still', { shows: 'over' }), {})
      .raw()
      .toBuffer()
    expect(differences(picture, await still(20, 'over'), 255)).toEqual({ colour: 0, alpha: 0 })
  })

  it('as a GIF goes round for ever, without a jump in its timing', async () => {
    const file = await render('gif')
    // The application extension with a count of 0. Source: the Netscape looping extension, as GIF readers know it.
    expect(readFileSync(file).indexOf(Buffer.from('NETSCAPE2.0\x03\x01\x00\x00\x00', 'latin1'))).toBeGreaterThan(0)
    const delays = (await sharp(file, { animated: true }).metadata()).delay!
    expect(delays).toHaveLength(FRAMES)
    // 24 frames take a second: each 40 or 50 ms.
    expect(Math.min(...delays)).toBeGreaterThanOrEqual(40)
    expect(Math.max(...delays)).toBeLessThanOrEqual(50)
    expect(delays.reduce((sum, delay) => sum + delay, 0)).toBeGreaterThanOrEqual(980)
    expect(delays.reduce((sum, delay) => sum + delay, 0)).toBeLessThanOrEqual(1020)
  })

  it('as a GIF of 60 frames a second has every second one, each shown as long as two', async () => {
    const fast = setFrame(journey, { ...journey.frame, rate: '60/1' })
    const out = join(folder, 'fast.gif')
    await renderFilm({ folder, journey: fast, out, settings: { ...wholeFilm(fast, 'gif'), from: 0, to: 60 } })
    const delays = (await sharp(out, { animated: true }).metadata()).delay!
    // A second; each delay is at least the two hundredths that browsers keep to (common practice, no source).
    expect(delays).toHaveLength(30)
    expect(Math.min(...delays)).toBeGreaterThanOrEqual(20)
    expect(Math.abs(delays.reduce((sum, delay) => sum + delay, 0) - 1000)).toBeLessThanOrEqual(20)
  })

  it('as an APNG shows each frame for exactly its time', async () => {
    const bytes = readFileSync(await render('apng'))
    const delays: number[] = []
    // Chunk fcTL: delay_num and delay_den after six fields. Source: W3C PNG (Third Edition), section 11.3.5.2.
    for (let at = bytes.indexOf('fcTL'); at >= 0; at = bytes.indexOf('fcTL', at + 4))
      delays.push(bytes.readUInt16BE(at + 24) / bytes.readUInt16BE(at + 26))
    expect(delays).toHaveLength(FRAMES)
    for (const delay of delays) expect(delay).toBeCloseTo(1 / 24, 4)
  })

  it.each(['mp4', 'webm', 'mov'] as const)('in %s is larger the better it is to look', async (format) => {
    const sizes: number[] = []
    for (const quality of ['draft', 'good', 'best'] as const) sizes.push(statSync(await render(format, { quality })).size)
    expect(sizes[0]).toBeLessThan(sizes[1]!)
    expect(sizes[1]).toBeLessThan(sizes[2]!)
  })

  it('may be of another size than the journey', async () => {
    expect(probe(await render('mp4', { width: 640, height: 360 }))).toMatchObject({ width: 640, height: 360 })
  })

  it('leaves nothing behind when it is cancelled, in any format', async () => {
    for (const format of FILM_FORMAT_IDS.filter((id) => FILM_FORMATS[id].encoder.kind !== 'sound')) {
      const control = new AbortController()
      const out = join(folder, `cancelled${FILM_FORMATS[format].ending}`)
      const run = renderFilm({ folder, journey, out, settings: settings(format), signal: control.signal, onProgress: () => control.abort(new Error('enough')) }) // prettier-ignore
      if (FILM_FORMATS[format].encoder.kind === 'picture') await run.catch(() => undefined)
      else await expect(run).rejects.toThrow('enough')
      expect(existsSync(`${out}.part`)).toBe(false)
    }
  })
})

describe('settings that do not go together', () => {
  it.each([
    ['transparent H.264', settings('mp4', { shows: 'over' }), /MP4 \(H.264\) cannot be transparent: leave the ground in/],
    ['a part beyond the film', settings('mp4', { to: 999 }), /does not lie within the film/],
    ['a still of two frames', settings('still', { from: 1, to: 3 }), /holds one frame/],
    ['a large GIF', settings('gif', { width: 1920, height: 1080 }), /up to 1280 pixels a side/],
  ])('are refused with a sentence: %s', async (_what, wanted, message) => {
    expect(() => checkFilm(journey, wanted)).toThrow(message)
    await expect(renderFilm({ folder, journey, out: join(folder, 'x'), settings: wanted })).rejects.toThrow(message)
  })

  it('are refused by the schema: odd sides, unknown formats', () => {
    expect(filmSettingsSchema.safeParse(settings('mp4', { width: 321 })).success).toBe(false)
    expect(filmSettingsSchema.safeParse({ ...settings('mp4'), format: 'avi' }).success).toBe(false)
  })
})

it('a title makes a safe file name', () => {
  expect(fileNameOf('Zu den Inseln: 3 / 4 …', 'webm')).toBe('Zu den Inseln 3  4.webm')
  expect(fileNameOf('../..', 'png')).toBe('film.zip')
})
