import type { ChildProcess } from 'node:child_process'
import { execFileSync, spawn } from 'node:child_process'
import { rename, rm } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { FILM_FORMATS } from '#core/film/formats'
import type { FilmSettings } from '#core/film/settings'
import type { FrameRate } from '#core/pace/rate'
import { startArchive, startPicture } from './pictures'

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

/** Takes the frames of a film, and writes them to a file that has its name only when it is complete. */
export interface Encoder {
  /** Writes one frame, RGBA, row by row, alpha not premultiplied; resolves when the encoder is ready for the next. */
  write(frame: Uint8Array): Promise<void>
  /** Finishes the film and gives it its name. */
  finish(): Promise<void>
  /** Aborts, and deletes the unfinished file. */
  abort(): Promise<void>
}

/** The name of a file until it is complete. */
export const partOf = (out: string): string => `${out}.part`

/** Starts what writes a film of these settings. @throws Error from its methods, with what went wrong */
export function startEncoder(out: string, settings: FilmSettings, rate: FrameRate): Encoder {
  const { encoder } = FILM_FORMATS[settings.format]
  switch (encoder.kind) {
    case 'ffmpeg':
      return startFfmpeg(out, settings, rate, encoder.output({ quality: settings.quality, alpha: !settings.ground }))
    case 'archive':
      return startArchive(out, settings)
    case 'picture':
      return startPicture(out, settings)
    default:
      return encoder satisfies never
  }
}

function startFfmpeg(out: string, { width, height }: FilmSettings, rate: FrameRate, output: readonly string[]): Encoder {
  const partial = partOf(out)
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-video_size', `${width}x${height}`, '-framerate', rate, '-i', 'pipe:0']
  const call = ['-hide_banner', '-loglevel', 'error', '-y', ...input, '-r', rate, ...output, partial]
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
      const pipe = child.stdin
      if (child.exitCode !== null) throw failure(child.exitCode)
      if (pipe.write(frame)) return
      // Not by events.once, which would fail on the broken pipe before ffmpeg has said why it broke.
      const drained = new Promise<'ready'>((resolve) => pipe.once('drain', () => resolve('ready')))
      const result = await Promise.race([drained, ended])
      if (result !== 'ready') throw failure(result)
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
