import { execFileSync } from 'node:child_process'
import { createRequire } from 'node:module'
import { ffmpegPath } from '#render/ffmpeg'

const require = createRequire(import.meta.url)
const ffprobe = (require('@ffprobe-installer/ffprobe') as { path: string }).path

export interface VideoStream {
  codec_name: string
  start_time: string
  width: number
  height: number
  pix_fmt: string
  color_space: string
  color_primaries: string
  color_transfer: string
  color_range: string
  r_frame_rate: string
  avg_frame_rate: string
  nb_read_frames: string
}

/** What ffprobe says of a file's video stream, its frames counted one by one. */
export function probe(path: string): VideoStream {
  const text = execFileSync(ffprobe, ['-v', 'error', '-count_frames', '-select_streams', 'v', '-show_streams', '-of', 'json', path], {
    encoding: 'utf8',
  })
  return (JSON.parse(text) as { streams: VideoStream[] }).streams[0]!
}

export interface SoundStream {
  codec_name: string
  start_time: string
  sample_rate: string
  channels: number
}

/** What ffprobe says of a file's sound; undefined where it is silent. */
export function probeSound(path: string): SoundStream | undefined {
  const text = execFileSync(ffprobe, ['-v', 'error', '-select_streams', 'a', '-show_streams', '-of', 'json', path], { encoding: 'utf8' })
  return (JSON.parse(text) as { streams: SoundStream[] }).streams[0]
}

/** Frame k of a film, decoded to RGBA. */
export const decodeFrame = (path: string, k: number): Buffer =>
  execFileSync(
    ffmpegPath(),
    [
      '-v',
      'error',
      '-i',
      path,
      '-vf',
      `select=eq(n\\,${k}),scale=in_color_matrix=bt709:in_range=tv`,
      '-frames:v',
      '1',
      '-pix_fmt',
      'rgba',
      '-f',
      'rawvideo',
      '-',
    ],
    { maxBuffer: 64 * 1024 * 1024 },
  )
