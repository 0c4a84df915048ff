import { FOLLOW_CALLS } from '#core/follow/messages'
import { callWorker } from './call-worker'

/** A worker that searches roads in the picture of a map; `close` ends the search. */
export const openFollower = () =>
  callWorker(FOLLOW_CALLS, () => new Worker(new URL('../workers/follow-worker.ts', import.meta.url), { type: 'module' }))
