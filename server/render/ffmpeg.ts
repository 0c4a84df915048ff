import type { ChildProcess } from 'node:child_process'
import { execFileSync, spawn } from 'node:child_process'
import { rename, rm } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import type { FilmSound } from '#core/film/formats'
import { pixelFormatOf, rateInFile } from '#core/film/formats'
import type { FilmSettings } from '#core/film/settings'
import type { FrameRate } from '#core/pace/rate'
import type { Encoder } from './encoder'
import { partOf } from './encoder'

let found: string | undefined

/** The ffmpeg on the PATH if there is one, else the one that came with the packages. */
export function ffmpegPath(): string {
  if (!found) {
    try {
      execFileSync('ffmpeg', ['-version'], { stdio: 'ignore' })
      found = 'ffmpeg'
    } catch {
      const require = createRequire(join(process.cwd(), 'package.json'))
      found = (require('@ffmpeg-installer/ffmpeg') as { path: string }).path
    }
  }
  return found
}

/** Where ffmpeg writes the sizes of the pictures that it makes (`-vstats_file`), and the times of those that are to be whole pictures, in seconds. */
export interface PictureLog {
  log: string
  keys: readonly number[]
}

/** Pipes frames to ffmpeg. @param output its arguments for what it writes @param sound a WAV file that is heard with the film, and its arguments for that */
export function startFfmpeg(
  out: string,
  settings: FilmSettings,
  rate: FrameRate,
  output: readonly string[],
  sound?: { file: string } & Pick<FilmSound, 'output' | 'lead'>,
  pictures?: PictureLog,
): Encoder {
  const partial = partOf(out)
  const { width, height } = settings
  const written = rateInFile(settings.format, rate)
  const every = written === rate ? 1 : 2
  let count = 0
  const input = [
    '-f',
    'rawvideo',
    '-pix_fmt',
    pixelFormatOf(settings),
    '-video_size',
    `${width}x${height}`,
    '-framerate',
    written,
    '-i',
    'pipe:0',
  ]
  const heard = sound ? ['-itsoffset', String(sound.lead), '-i', sound.file] : []
  const call = [
    ...['-hide_banner', '-loglevel', 'error', '-y'],
    ...(pictures ? ['-vstats_file', pictures.log] : []),
    ...input,
    ...heard,
    ...['-r', written],
    ...(sound?.output ?? []),
    ...(pictures ? ['-force_key_frames', pictures.keys.join(',')] : []),
    ...output,
    partial,
  ]
  const child = spawn(ffmpegPath(), call, { stdio: ['pipe', 'ignore', 'pipe'] })
  const words: string[] = []
  child.stderr.setEncoding('utf8').on('data', (text: string) => words.push(text))
  // A broken pipe shows up as an exit code, with a reason; the stream's own error adds nothing.
  child.stdin.on('error', () => {})
  const ended = exitOf(child)
  const failure = (code: number | string) =>
    new Error(
      `Encoding stopped (${code}): ${words.join('').replaceAll(partial, 'the film').trim().split('\n').slice(-3).join(' ') || 'ffmpeg gave no reason'}`,
    )

  return {
    async write(frame) {
      if (count++ % every !== 0) return
      const pipe = child.stdin
      if (child.exitCode !== null) throw failure(child.exitCode)
      // Not by events.once, which would fail on the broken pipe before ffmpeg has said why it broke.
      const taken = new Promise<boolean>((resolve) => pipe.write(frame, (error) => resolve(!error)))
      if ((await Promise.race([taken, ended])) !== true) throw failure(await ended)
    },
    async finish() {
      child.stdin.end()
      const code = await ended
      if (code !== 0) {
        await rm(partial, { force: true })
        throw failure(code)
      }
      await rename(partial, out)
    },
    async abort() {
      child.kill('SIGKILL')
      await ended
      await rm(partial, { force: true })
    },
  }
}

const exitOf = (child: ChildProcess): Promise<number | string> =>
  new Promise((resolve) => {
    child.on('error', (error) => resolve(error.message))
    child.on('close', (code, signal) => resolve(code ?? signal ?? 'unknown'))
  })
