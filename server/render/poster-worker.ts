import { parentPort } from 'node:worker_threads'
import { z } from 'zod'
import { parseJourney } from '#core/journey/parse'
import { paintPoster } from './poster'

/** A thread that paints posters: the finished journey as a small picture. */
export const posterOrderSchema = z.object({ folder: z.string(), document: z.string(), out: z.string() })
export type PosterOrder = z.infer<typeof posterOrderSchema>
/** `error` is null if the picture has been written. */
export type PosterReport = { error: string | null }

const paint = ({ folder, document, out }: PosterOrder): Promise<void> => paintPoster(folder, parseJourney(JSON.parse(document)), out)

parentPort?.on('message', (message: unknown) => {
  void paint(posterOrderSchema.parse(message)).then(
    () => parentPort!.postMessage({ error: null } satisfies PosterReport),
    (error: unknown) => parentPort!.postMessage({ error: error instanceof Error ? error.message : String(error) } satisfies PosterReport),
  )
})
