import type { FollowOrder, FollowReply } from '#core/follow/messages'
import { followReplySchema } from '#core/follow/messages'

type Ask = FollowOrder['ask']
type Answer<Kind extends Ask['kind']> = Extract<FollowReply, { kind: Kind }>

/** An error while searching a road; the message is for the user. */
export class FollowError extends Error {}

/**
 * Lets a worker search a road, or the colour of a spot.
 * @param onProgress gets the share done, 0..1
 * @throws FollowError, or the signal's reason if it was cancelled
 */
export function askFollower<Kind extends Ask['kind']>(
  order: FollowOrder & { ask: Extract<Ask, { kind: Kind }> },
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<Answer<Kind>> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('../workers/follow-worker.ts', import.meta.url), { type: 'module' })
    const end = () => worker.terminate()
    signal.addEventListener('abort', () => {
      end()
      reject(signal.reason as Error)
    })
    worker.onerror = ({ message }) => {
      end()
      reject(new FollowError(message || 'The search for the road failed: reload the page and try again.'))
    }
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const answer = followReplySchema.parse(data)
      if (answer.kind === 'progress') return onProgress(answer.share)
      end()
      if (answer.kind === 'failed') reject(new FollowError(answer.message))
      else resolve(answer as Answer<Kind>)
    }
    worker.postMessage(order)
  })
}
