import type { DrawnMap } from '#core/journey/schema'
import { JobLine } from '../sheets/job-line'
import type { Answer } from '../sheets/job'
import { mapDataMade } from './data'

/** Previews are drawn in a process of their own, which is kept, as reading what they are drawn from takes a second by itself. */
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
  const either = AbortSignal.any([latest.signal, signal])
  await mapDataMade()
  return (await line.do({ do: 'preview', map }, 1, either)) as Extract<Answer, { is: 'previewed' }>
}
