import { TRACK_CALLS } from '#core/tracks/messages'
import { callWorker } from './call-worker'

/** A worker that reads one track file, and lays it; `close` ends it at once. */
export const openTrackReader = () =>
  callWorker(TRACK_CALLS, () => new Worker(new URL('../workers/track-worker.ts', import.meta.url), { type: 'module' }))

export type TrackReader = ReturnType<typeof openTrackReader>
