import { parentPort, workerData } from 'node:worker_threads'
import { z } from 'zod'
import { compile } from '#core/frame/compile'
import { filmFrame } from '#core/film/settings'
import { frameAt } from '#core/frame/frame-at'
import { parseJourney } from '#core/journey/parse'
import { frameTime } from '#core/pace/rate'
import { createPainter } from '#draw/painter'
import type { Region } from '#draw/region'
import { merged } from '#draw/region'
import { copyPart, createServerStudio, createServerSurface } from './studio'

/** A thread that paints frames of one journey into shared memory. */
export const jobSchema = z.object({
  folder: z.string(),
  journey: z.unknown(),
  /** Whether the ground is painted. */
  ground: z.boolean(),
  slots: z.array(z.instanceof(SharedArrayBuffer)),
})
export const orderSchema = z.object({ frame: z.int().min(0), slot: z.int().min(0) })
export type PaintJob = z.infer<typeof jobSchema>
export type PaintOrder = z.infer<typeof orderSchema>
export type PaintReport = PaintOrder & { paintMs: number }

async function main(port: NonNullable<typeof parentPort>): Promise<void> {
  const { folder, journey: document, ground, slots } = jobSchema.parse(workerData)
  const journey = parseJourney(document)
  const compiled = compile(journey)
  const studio = createServerStudio(folder)
  const painter = createPainter(studio)
  const surface = createServerSurface(journey.frame.width, journey.frame.height)
  const current = new Uint8Array(journey.frame.width * journey.frame.height * 4)
  const views = slots.map((slot) => new Uint8Array(slot))
  /** Where each slot is not what was painted last: frames in a row differ in small parts, so that only these are copied. */
  const whole: Region = { x: 0, y: 0, width: surface.width, height: surface.height }
  const stale = slots.map((): Region[] => [whole])

  async function fulfil(order: PaintOrder): Promise<void> {
    const start = performance.now()
    const frame = filmFrame(frameAt(compiled, frameTime(order.frame, journey.frame.rate)), { ground })
    if (await studio.prepare(frame, compiled.scale)) painter.invalidate()
    let isAnew = false
    const painted = painter.paint(frame, surface.context, compiled.scale, ({ data }) => {
      current.set(data)
      isAnew = true
    })
    surface.update(current, painted, ground && !isAnew)
    for (const regions of stale) regions.push(...(isAnew ? [whole] : painted))
    for (const part of merged(stale[order.slot]!)) copyPart(current, views[order.slot]!, part, surface.width)
    stale[order.slot] = []
    port.postMessage({ ...order, paintMs: performance.now() - start } satisfies PaintReport)
  }

  // In sequence, as each frame is painted over the one before.
  let line = Promise.resolve()
  port.on('message', (message: unknown) => {
    const order = orderSchema.parse(message)
    line = line.then(() => fulfil(order))
  })
}

if (parentPort) await main(parentPort)
