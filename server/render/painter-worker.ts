import { append } from '#core/geometry/extremes'
import { parentPort, workerData } from 'node:worker_threads'
import { z } from 'zod'
import { SHOWN } from '#core/film/passes'
import { PIXEL_FORMATS } from '#core/film/pixel-format'
import { compile } from '#core/frame/compile'
import { parseJourney } from '#core/journey/parse'
import { SIDES } from '#core/journey/schema'
import type { LabelPlaces } from '#core/labels/label-scene'
import { findLabelPlaces, NO_PLACES } from '#core/labels/label-scene'
import type { Region } from '#draw/region'
import { squaresOver } from '#draw/region'
import type { FilmPainter } from './film-painter'
import { createFilmPainter } from './film-painter'

/** A thread that paints frames of one journey into shared memory. */
export const jobSchema = z.object({
  folder: z.string(),
  journey: z.unknown(),
  /** What of the picture is painted. */
  shows: z.enum(SHOWN),
  pixels: z.enum(PIXEL_FORMATS),
  slots: z.array(z.instanceof(SharedArrayBuffer)),
  /** Whether it looks for the places of labels itself, and reports them; otherwise it waits until it is told. */
  findsPlaces: z.boolean(),
})
const placesSchema = z.map(z.string(), z.object({ side: z.enum(SIDES), further: z.number() }))
export const orderSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('places'), places: placesSchema }),
  /** A frame of the film, at a place in the list of those that are painted. */
  z.object({ kind: z.literal('frame'), place: z.int().min(0), frame: z.int().min(0), slot: z.int().min(0) }),
])
export type PaintJob = z.infer<typeof jobSchema>
export type PaintOrder = z.infer<typeof orderSchema>
export type PaintReport =
  { kind: 'places'; places: z.infer<typeof placesSchema> } | { kind: 'frame'; place: number; slot: number; paintMs: number }

function main(port: NonNullable<typeof parentPort>): void {
  const { folder, journey: document, shows, pixels, slots, findsPlaces } = jobSchema.parse(workerData)
  const journey = parseJourney(document)
  const report = (message: PaintReport) => port.postMessage(message)
  const start = (places: LabelPlaces) => createFilmPainter(folder, compile(journey, places), { pixels, shows })
  let painter: FilmPainter | undefined
  if (findsPlaces) {
    const places = findLabelPlaces(compile(journey, NO_PLACES))
    report({ kind: 'places', places: new Map(places) })
    painter = start(places)
  }
  const views = slots.map((slot) => new Uint8Array(slot))
  /** Where each slot is not what was painted last: frames in a row differ in small parts, so that only these are copied. */
  const stale = slots.map((): Region[] => [{ x: 0, y: 0, width: journey.frame.width, height: journey.frame.height }])

  async function paint({ frame, place, slot }: Extract<PaintOrder, { kind: 'frame' }>): Promise<void> {
    if (!painter) throw new Error('A painter was sent a frame before the places of labels.')
    const start = performance.now()
    const changed = await painter.paint(frame)
    for (const regions of stale) append(regions, changed)
    painter.picture.copyTo(views[slot]!, squaresOver(stale[slot]!, journey.frame))
    stale[slot] = []
    report({ kind: 'frame', place, slot, paintMs: performance.now() - start })
  }

  // In sequence, as each frame is painted over the one before.
  let line = Promise.resolve()
  port.on('message', (message: unknown) => {
    const order = orderSchema.parse(message)
    if (order.kind === 'places') painter = start(order.places)
    else line = line.then(() => paint(order))
  })
}

if (parentPort) main(parentPort)
