import type { DrawnMap, Georeference } from '#core/journey/schema'
import { JobLine } from '../sheets/job-line'
import type { Answer } from '../sheets/job'

/** Maps are drawn in a process of their own: the finest coasts take seconds. It is kept, as reading the coasts takes a second by itself. */
const line = new JobLine(50_000, 60_000)

/** Previews overtaken by a newer one have no use any more. */
export class Overtaken extends Error {}

let latest: AbortController | undefined

/**
 * A small picture of a map. Only the preview asked for last is made.
 * @throws Overtaken if another one was asked for meanwhile, JourneyError if the map cannot be drawn
 */
export async function previewMap(map: DrawnMap, signal: AbortSignal): Promise<Extract<Answer, { is: 'previewed' }>> {
  latest?.abort(new Overtaken())
  latest = new AbortController()
  const answer = await line.do({ do: 'preview', map }, 1, AbortSignal.any([latest.signal, signal]))
  return answer as Extract<Answer, { is: 'previewed' }>
}

/** Writes a map to an SVG file. @throws JourneyError if it cannot be drawn; the signal's reason when aborted */
export async function drawMapTo(map: DrawnMap, out: string, signal: AbortSignal): Promise<Georeference> {
  const answer = await line.do({ do: 'map', map, out }, 0, signal)
  return (answer as Extract<Answer, { is: 'mapped' }>).georeference
}
