import type { DrawnMap } from '#core/journey/schema'
import { drawingLine, PREVIEW_FIRST } from '../sheets/drawing-line'
import type { Answer } from '../sheets/job'
import { mapDataMade } from './data'

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
  return (await drawingLine.do({ do: 'preview', map }, PREVIEW_FIRST, either)) as Extract<Answer, { is: 'previewed' }>
}
