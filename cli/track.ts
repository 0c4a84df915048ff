/** Reads a recorded track and prints its summary: see USAGE. */
import { readFileSync, statSync } from 'node:fs'
import { basename } from 'node:path'
import { parseArgs } from 'node:util'
import { readTrackFile } from '#core/formats/track-file'
import { TRACK_LIMITS } from '#core/tracks/track'
import { countOf, simplifySegment, summariseTrack } from '#core/tracks/measure'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = 'npm run track -- FILE [--simplify METRES] [--swap]'

function readArguments(): { file: string; simplify: number; swap: boolean } {
  let parsed
  try {
    parsed = parseArgs({ allowPositionals: true, options: { simplify: { type: 'string' }, swap: { type: 'boolean' } } })
  } catch (error) {
    throw parseFault(error)
  }
  const [file, ...more] = parsed.positionals
  if (file === undefined) throw new UsageError('The path of the track is missing.')
  if (more.length > 0) throw new UsageError(`One track at a time: “${more[0]}” is one too many.`)
  const simplify = Number(parsed.values.simplify ?? 0)
  if (!(simplify >= 0) || parsed.values.simplify === '')
    throw new UsageError(`--simplify should be a distance in metres, not “${parsed.values.simplify}”.`)
  return { file, simplify, swap: parsed.values.swap ?? false }
}

async function main(): Promise<void> {
  const { file, simplify, swap } = readArguments()
  const stat = statSync(file, { throwIfNoEntry: false })
  if (!stat?.isFile()) throw new UsageError(`The track ${file} cannot be read: check the path.`)
  if (stat.size > TRACK_LIMITS.bytes)
    throw new UsageError(`The track ${file} is larger than ${TRACK_LIMITS.bytes / 1024 ** 2} MiB: cut it into parts.`)
  const track = readTrackFile(new Uint8Array(readFileSync(file)), basename(file), swap)
  const summary = summariseTrack(track)
  const kept = track.segments.reduce((sum, segment) => sum + countOf(simplifySegment(segment, simplify)), 0)
  if (!summary) throw new UsageError(`“${basename(file)}” has waypoints, but no track or route.`)
  const { points, ...rest } = summary
  console.log(JSON.stringify({ points, kept, segments: track.segments.length, ...rest }))
}

await runCommand(USAGE, main)
