/** Sound that comes in, in every format that is read, and goes out with films, as ffmpeg and ffprobe (of the FFmpeg project) hear it. */
import { execFileSync } from 'node:child_process'
import { createReadStream, existsSync, readdirSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { afterAll, describe, expect, it } from 'vitest'
import { addAudio as addPiece, editAudio, setSound } from '#core/edits/pace/audio'
import { setFrame } from '#core/edits/journey'
import type { FilmFormatId } from '#core/film/formats'
import { FILM_FORMATS } from '#core/film/formats'
import { wholeFilm } from '#core/film/settings'
import { SOUND_RATE, toIntegers, wavHeader } from '#core/sound/pcm'
import { ffmpegPath } from '#render/ffmpeg'
import { renderFilm } from '#render/film'
import { addAudio } from '../../server/audio/add-audio'
import { audioPath } from '../../server/storage/audio-files'
import { journeyOver } from '../support/journeys'
import { temporaryFolder } from '../support/server'
import { clickTrack } from '../support/sounds'
import { probe, probeSound } from '../support/video'

const folder = temporaryFolder()
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A click each second, from half a second on: an unmistakable clock. */
const SECONDS = 12
const clicks = clickTrack({ tempo: 60, seconds: SECONDS, start: 0.5 })
const wav = join(folder, 'clicks.wav')
writeFileSync(wav, Buffer.concat([wavHeader(clicks.length, 2, SOUND_RATE), new Uint8Array(toIntegers([clicks, clicks]).buffer)]))
const encoded = (name: string, ...codec: string[]) => {
  const path = join(folder, name)
  if (!existsSync(path)) execFileSync(ffmpegPath(), ['-v', 'error', '-y', '-i', wav, ...codec, path])
  return path
}
const add = (path: string, name = 'clicks') => addAudio(folder, createReadStream(path), name, new AbortController().signal)

/** The times of the clicks in samples, in seconds: where it gets loud after it was quiet. */
function clickTimes(samples: Int16Array): number[] {
  const times: number[] = []
  for (let i = 0; i < samples.length / 2; i++) {
    const time = i / SOUND_RATE
    if (Math.abs(samples[2 * i]!) > 6000 && (times.length === 0 || time - times.at(-1)! > 0.3)) times.push(time)
  }
  return times
}
const decoded = (path: string): Int16Array => {
  const bytes = execFileSync(ffmpegPath(), ['-v', 'error', '-i', path, '-ac', '2', '-ar', String(SOUND_RATE), '-f', 's16le', '-'], {
    maxBuffer: 1e9,
  })
  return new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2)
}

describe('a file of sound', () => {
  it.each([
    ['WAV', () => wav],
    ['MP3', () => encoded('clicks.mp3', '-c:a', 'libmp3lame', '-b:a', '192k')],
    ['OGG', () => encoded('clicks.ogg', '-c:a', 'libvorbis')],
    ['M4A', () => encoded('clicks.m4a', '-c:a', 'aac')],
    ['FLAC', () => encoded('clicks.flac', '-c:a', 'flac')],
    ['a WAV at 44 100, mono', () => encoded('mono.wav', '-ac', '1', '-ar', '44100')],
  ])('in %s is taken in, and its clicks stay where they were', async (_what, path) => {
    const { file, seconds } = await add(path())
    expect(Math.abs(seconds - SECONDS)).toBeLessThan(0.1)
    const bytes = readFileSync(audioPath(folder, file))
    const times = clickTimes(new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2))
    expect(times).toHaveLength(SECONDS)
    // Half a frame at 60 frames a second.
    times.forEach((time, i) => expect(Math.abs(time - 0.5 - i)).toBeLessThan(1 / 120))
  })

  it('that is none, is damaged, or only points at others is refused with a sentence, and nothing is left of it', async () => {
    const before = readdirSync(join(folder, 'audio')).length
    const send = (bytes: Buffer | string) => addAudio(folder, Readable.from([Buffer.from(bytes)]), 'odd.mp3', new AbortController().signal)
    await expect(send('not a sound')).rejects.toThrow(
      '“odd.mp3” is not a sound that can be read: choose a WAV, MP3, OGG, M4A or FLAC file.',
    )
    await expect(send('')).rejects.toThrow(/not a sound/)
    await expect(send(`#EXTM3U\n#EXTINF:10,\nfile:///etc/passwd\n`)).rejects.toThrow(/not a sound/)
    await expect(send(readFileSync('demo/emberlight.webp'))).rejects.toThrow(/not a sound/)
    await expect(send(`ID3${'x'.repeat(4000)}`)).rejects.toThrow(/cannot be read/)
    const cut = encoded('cut.m4a', '-c:a', 'aac')
    truncateSync(cut, 900)
    await expect(add(cut)).rejects.toThrow(/cannot be read/)
    expect(readdirSync(join(folder, 'audio')).length).toBe(before)
  })

  it('whose header says what no recording has is refused before it is decoded', async () => {
    /** A WAV file by its definition (Multimedia Programming Interface 1.0, 1991), with an odd chunk before the one that describes it. */
    const headed = (channels: number, rate: number) => {
      const head = Buffer.alloc(56)
      head.write('RIFF', 0, 'latin1')
      head.writeUInt32LE(48 + 3000, 4)
      head.write('WAVEnote', 8, 'latin1')
      head.writeUInt32LE(3, 16)
      head.write('fmt ', 24, 'latin1')
      head.writeUInt32LE(16, 28)
      head.writeUInt16LE(1, 32)
      head.writeUInt16LE(channels, 34)
      head.writeUInt32LE(rate, 36)
      head.writeUInt32LE(rate * channels * 2, 40)
      head.writeUInt16LE(channels * 2, 44)
      head.writeUInt16LE(16, 46)
      head.write('data', 48, 'latin1')
      head.writeUInt32LE(3000, 52)
      return Buffer.concat([head, Buffer.alloc(3000)])
    }
    const send = (bytes: Buffer) => addAudio(folder, Readable.from([bytes]), 'odd.wav', new AbortController().signal)
    await expect(send(headed(1, 1))).rejects.toThrow(
      '“odd.wav” has 1 samples a second, and 4000 to 192000 can be read: save it anew at 48000.',
    )
    await expect(send(headed(1, 4_000_000))).rejects.toThrow(/4000000 samples a second/)
    await expect(send(headed(200, 48_000))).rejects.toThrow('“odd.wav” has 200 channels, and 1 to 8 can be read: save it anew in stereo.')
    expect((await send(headed(1, 8000))).seconds).toBeGreaterThan(0.1)
  })

  it('that is being read can be cancelled', async () => {
    const control = new AbortController()
    const slow = new Readable({ read() {} })
    slow.push(readFileSync(wav).subarray(0, 1000))
    const adding = addAudio(folder, slow, 'slow', control.signal)
    setTimeout(() => control.abort(new Error('cancelled')), 100)
    await expect(adding).rejects.toThrow()
    expect(readdirSync(join(folder, 'audio')).filter((name) => name.startsWith('incoming'))).toEqual([])
  })
})

describe('a film with music', () => {
  const film = setFrame(journeyOver([[300, 300], [1500, 800]], {}, 10), { width: 160, height: 90, rate: '30/1' }) // prettier-ignore

  it.each(['mp4', 'mov', 'webm'] as const)(
    'as %s has it in time with the picture at its start and at its end',
    async (format: FilmFormatId) => {
      const added = await add(wav)
      const journey = editAudio(addPiece(film, 'p', added), 'p', { offset: 0.25, fadeOut: 0 })
      const out = join(folder, `film${FILM_FORMATS[format].ending}`)
      await renderFilm({ folder, journey, out, settings: wholeFilm(journey, format) })
      expect(probe(out).nb_read_frames).toBe('300')
      // The first picture stands at the very beginning.
      expect(Number(probe(out).start_time)).toBe(0)
      expect(probeSound(out)!.codec_name).toBe({ mp4: 'aac', mov: 'pcm_s16le', webm: 'opus' }[format as 'mp4'])
      const times = clickTimes(decoded(out))
      // The clicks of the piece are at 0.5, 1.5, … of it, a quarter of a second later in the film.
      expect(times).toHaveLength(10)
      for (const i of [0, 9]) expect(Math.abs(times[i]! - (0.75 + i))).toBeLessThan(0.003)
      expect(existsSync(`${out}.sound`)).toBe(false)
    },
  )

  it('of which a part is exported has the sound of that part', async () => {
    const added = await add(wav)
    const journey = editAudio(addPiece(film, 'p', added), 'p', { fadeOut: 0 })
    const out = join(folder, 'part.mp4')
    await renderFilm({ folder, journey, out, settings: { ...wholeFilm(journey), from: 90, to: 240 } })
    const times = clickTimes(decoded(out))
    expect(times).toHaveLength(5)
    times.forEach((time, i) => expect(Math.abs(time - 0.5 - i)).toBeLessThan(1 / 30))
  })

  it('may be silent, and is where nothing is to be heard', async () => {
    const added = await add(wav)
    const out = join(folder, 'silent.mp4')
    await renderFilm({ folder, journey: addPiece(film, 'p', added), out, settings: { ...wholeFilm(film), to: 10, sound: false } })
    expect(probeSound(out)).toBeUndefined()
    await renderFilm({ folder, journey: film, out, settings: { ...wholeFilm(film), to: 10 } })
    expect(probeSound(out)).toBeUndefined()
  })

  it('gives its sound as a WAV file of its own, to the sample', async () => {
    const journey = setSound(film, 'pin', 1)
    const out = join(folder, 'sounds.wav')
    await renderFilm({ folder, journey, out, settings: wholeFilm(journey, 'wav') })
    expect(statSync(out).size).toBe(44 + 4 * 10 * SOUND_RATE)
    expect(probeSound(out)).toMatchObject({ codec_name: 'pcm_s16le', sample_rate: '48000', channels: 2 })
    expect(decoded(out).some((sample) => Math.abs(sample) > 1000)).toBe(true)
    await expect(renderFilm({ folder, journey: film, out, settings: wholeFilm(film, 'wav') })).rejects.toThrow(/silent/)
  })

  it('whose piece is missing is refused, with nothing left', async () => {
    const journey = addPiece(film, 'p', { file: 'f'.repeat(64), name: 'Lost', seconds: 5 })
    const out = join(folder, 'lost.mp4')
    await expect(renderFilm({ folder, journey, out })).rejects.toThrow(/missing/)
    expect(readdirSync(folder).filter((name) => name.startsWith('lost'))).toEqual([])
  })
})
