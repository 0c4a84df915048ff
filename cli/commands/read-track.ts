import { readFileSync, statSync } from 'node:fs'
import { basename } from 'node:path'
import { readTrackFile } from '#core/formats/track-file'
import { TRACK_LIMITS } from '#core/tracks/track'
import { countOf, simplifySegment, summariseTrack } from '#core/tracks/measure'
import type { Output } from '../command'
import { UsageError } from '../command'
import type { TrackOptions } from './track-options'

/** Prints what a track amounts to, in one line of JSON. */
export async function readTrack({ file, simplify, swap }: TrackOptions, output: Output): Promise<void> {
  const stat = statSync(file, { throwIfNoEntry: false })
  if (!stat?.isFile()) throw new UsageError(`The track ${file} cannot be read: check the path.`)
  if (stat.size > TRACK_LIMITS.bytes)
    throw new UsageError(`The track ${file} is larger than ${TRACK_LIMITS.bytes / 1024 ** 2} MiB: cut it into parts.`)
  const track = readTrackFile(new Uint8Array(readFileSync(file)), basename(file), swap)
  const summary = summariseTrack(track)
  const kept = track.segments.reduce((sum, segment) => sum + countOf(simplifySegment(segment, simplify)), 0)
  if (!summary) throw new UsageError(`“${basename(file)}” has waypoints, but no track or route.`)
  const { points, ...rest } = summary
  output.result(`${JSON.stringify({ points, kept, segments: track.segments.length, ...rest })}\n`)
}
