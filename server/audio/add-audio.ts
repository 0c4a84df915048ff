import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { createWriteStream, existsSync } from 'node:fs'
import { mkdir, open, rename, rm, stat } from 'node:fs/promises'
import { dirname } from 'node:path'
import type { Readable } from 'node:stream'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { nanoid } from 'nanoid'
import PQueue from 'p-queue'
import { JourneyError } from '#core/error'
import { MOST_AUDIO } from '#core/journey/pace-schema'
import { SOUND_RATE } from '#core/sound/pcm'
import { ffmpegPath } from '../render/ffmpeg'
import { audioPath } from '../storage/audio-files'

/** The largest file of sound, in bytes: twenty minutes of uncompressed sound. */
const MOST_AUDIO_BYTES = 300 * 1024 ** 2

/** How long reading one may take on a busy machine, in milliseconds. */
const MOST_WAIT = 120_000

/** What is known of a piece of sound once it is here. */
export interface AddedAudio {
  file: string
  name: string
  seconds: number
}

/**
 * Takes in a file of sound and keeps it decoded under its content hash.
 * @throws JourneyError that says what is wrong with it; the signal's reason when aborted
 */
export async function addAudio(folder: string, stream: Readable, name: string, signal: AbortSignal): Promise<AddedAudio> {
  const incoming = audioPath(folder, `incoming-${nanoid(8)}`)
  const decoded = `${incoming}-decoded`
  await mkdir(dirname(incoming), { recursive: true })
  try {
    const hash = await keep(stream, incoming, name, signal)
    const path = audioPath(folder, hash)
    if (!existsSync(path)) {
      const format = await formatOf(incoming, name)
      if (format === 'wav') await checkWav(incoming, name)
      await line.add(() => decode(incoming, format, decoded, name, signal), { signal })
      await rename(decoded, path)
    }
    const seconds = (await stat(path)).size / 4 / SOUND_RATE
    if (seconds > MOST_AUDIO) {
      await rm(path, { force: true })
      throw new JourneyError(`“${name}” is longer than ${MOST_AUDIO / 60} minutes: cut it to what is heard with the film.`)
    }
    if (seconds < 0.01) throw new JourneyError(`“${name}” has no sound in it.`)
    return { file: hash, name: name.slice(0, 120), seconds: Math.floor(seconds * 1000) / 1000 }
  } finally {
    await Promise.all([incoming, decoded].map((path) => rm(path, { force: true })))
  }
}

/** Decoding takes a core each: of several files at once the others wait. */
const line = new PQueue({ concurrency: 2 })

/** What sound that was recorded by anything has: samples a second, and channels (common practice, no source). */
const RATES = { least: 4000, most: 192_000 }
const MOST_CHANNELS = 8

/** So many chunks of a WAV file are looked through for the one that describes it: it is the first of most. */
const MOST_CHUNKS = 64

/** The largest piece of memory that the decoder may ask for at once, in bytes: a header may say that a sample lasts for an hour. */
const MOST_PIECE = 64 * 1024 ** 2

/** Writes a stream down. @returns the SHA-256 of what came */
async function keep(stream: Readable, path: string, name: string, signal: AbortSignal): Promise<string> {
  const hash = createHash('sha256')
  let bytes = 0
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length
      hash.update(chunk)
      // What is too much is drained, so that the answer still comes through.
      done(null, bytes <= MOST_AUDIO_BYTES ? chunk : undefined)
    },
  })
  await pipeline(stream, counted, createWriteStream(path), { signal })
  if (bytes > MOST_AUDIO_BYTES)
    throw new JourneyError(`“${name}” is larger than ${MOST_AUDIO_BYTES / 1024 ** 2} MiB: choose a smaller file.`)
  return hash.digest('hex')
}

/** The formats that are read, by how their files begin; ffmpeg is told which it is, so that no file can make it look elsewhere, as playlists do. */
async function formatOf(path: string, name: string): Promise<string> {
  const file = await open(path)
  const start = Buffer.alloc(16)
  await file.read(start, 0, 16, 0)
  await file.close()
  const word = (at: number, length = 4) => start.toString('latin1', at, at + length)
  if (word(0) === 'RIFF' && word(8) === 'WAVE') return 'wav'
  if (word(0, 3) === 'ID3' || (start[0] === 0xff && (start[1]! & 0xe6) === 0xe2)) return 'mp3'
  if (word(0) === 'OggS') return 'ogg'
  if (word(0) === 'fLaC') return 'flac'
  if (word(4) === 'ftyp') return 'mov'
  throw new JourneyError(`“${name}” is not a sound that can be read: choose a WAV, MP3, OGG, M4A or FLAC file.`)
}

/** Refuses a WAV file whose header says what no recording has. Chunk by chunk, as RIFF has it; one without the chunk is left to the decoder. */
async function checkWav(path: string, name: string): Promise<void> {
  const file = await open(path)
  try {
    const head = Buffer.alloc(8)
    let at = 12
    for (let chunks = 0; chunks < MOST_CHUNKS && (await file.read(head, 0, 8, at)).bytesRead === 8; chunks++) {
      const start = at + 8
      const bytes = head.readUInt32LE(4)
      at = start + bytes + (bytes % 2)
      if (head.toString('latin1', 0, 4) !== 'fmt ') continue
      const format = Buffer.alloc(8)
      await file.read(format, 0, 8, start)
      const [channels, rate] = [format.readUInt16LE(2), format.readUInt32LE(4)]
      if (rate < RATES.least || rate > RATES.most)
        throw new JourneyError(
          `“${name}” has ${rate} samples a second, and ${RATES.least} to ${RATES.most} can be read: save it anew at 48000.`,
        )
      if (channels < 1 || channels > MOST_CHANNELS)
        throw new JourneyError(`“${name}” has ${channels} channels, and 1 to ${MOST_CHANNELS} can be read: save it anew in stereo.`)
      return
    }
  } finally {
    await file.close()
  }
}

/** Decodes a file in a process of its own, whose memory and time are bounded. */
function decode(from: string, format: string, to: string, name: string, signal: AbortSignal): Promise<void> {
  const input = ['-protocol_whitelist', 'file', '-f', format, '-i', from]
  const only = ['-map', '0:a:0', '-vn', '-sn', '-dn', '-map_metadata', '-1', '-t', String(MOST_AUDIO + 1)]
  const output = ['-ac', '2', '-ar', String(SOUND_RATE), '-f', 's16le', to]
  return new Promise((resolve, reject) => {
    const child = spawn(
      ffmpegPath(),
      ['-hide_banner', '-loglevel', 'error', '-nostdin', '-max_alloc', String(MOST_PIECE), '-y', ...input, ...only, ...output],
      {
        stdio: 'ignore',
      },
    )
    const timer = setTimeout(() => child.kill('SIGKILL'), MOST_WAIT)
    const stop = () => child.kill('SIGKILL')
    signal.addEventListener('abort', stop)
    child.on('error', reject)
    child.on('close', (code) => {
      clearTimeout(timer)
      signal.removeEventListener('abort', stop)
      if (signal.aborted) reject(signal.reason as Error)
      else if (code === 0) resolve()
      else reject(new JourneyError(`“${name}” cannot be read: it is damaged, has no sound in it, or takes too long.`))
    })
  })
}
