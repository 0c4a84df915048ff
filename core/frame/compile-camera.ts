import type { Size } from '../geometry/size'
import { clamp } from '../geometry/clamp'
import type { ViewTrack } from '../camera/view-track'
import type { Journey, Sheet } from '../journey/schema'
import { heldIn } from '../sheet/framing'
import type { CompiledShot, CompiledVisit } from './compiled'
import type { TimedTrip } from './compile-traveller'
import { sharpZoom } from './sharpness'
import { plannedShots } from './shot-plan'
import type { Scene, TimedShot } from './shots'
import { placeShots, sceneOf } from './shots'
import { momentAt, timeOf } from './span'

/** The camera of a film: the shots of the document, and between them those of its plan that nobody has set or taken out. */
export function compileCamera(
  journey: Journey,
  trips: readonly TimedTrip[],
  moments: ReadonlyMap<string, CompiledVisit>,
  { frames, lastTime, reference }: { frames: number; lastTime: number; reference: Size },
): { views: ViewTrack; shots: CompiledShot[] } {
  const { camera: opening, ground, shots, frame } = journey
  const sheet = journey.sheets.find(({ tracing }) => !tracing)
  const hold = sheet && ground.edge === 'held' ? (view: ViewTrack['opening']) => heldIn(sheet, view, reference) : <T>(view: T): T => view
  const scene = sceneOf({ trips, opening, lastTime, frames, rate: frame.rate, reference })
  const byHand = shots.map((shot): TimedShot => ({ shot, time: clamp(timeOf(shot.at, moments, lastTime), 0, lastTime) }))
  const planned = planOf(journey, scene, sheet, hold, moments)
  const timed = [...planned, ...byHand].sort((a, b) => a.time - b.time)
  return {
    views: { opening: hold(opening), shots: placeShots(timed, scene), reference, hold },
    shots: timed.map((entry, i) => ({
      shot: entry.shot,
      isPlanned: planned.includes(entry),
      start: entry.time,
      end: entry.time + entry.shot.transition,
      until: timed[i + 1]?.time ?? lastTime,
    })),
  }
}

/** The shots of the journey's plan, but for those that were taken out or are in the document. */
function planOf(
  { plan, shots, frame }: Journey,
  scene: Scene,
  sheet: Sheet | undefined,
  hold: ViewTrack['hold'],
  moments: ReadonlyMap<string, CompiledVisit>,
): TimedShot[] {
  if (plan.temperament === null) return []
  const stops = [...moments.values()].map(({ stop, arrive, leave }) => ({ stop: stop.id, arrive, leave }))
  const planned = plannedShots(plan.temperament, scene, {
    sharpZoom: sheet && !sheet.vector ? sharpZoom(sheet, frame) : Infinity,
    onMap: (view) => (sheet ? heldIn(sheet, view, scene.reference) : view),
    hold,
    momentOf: (time) => momentAt(time, stops),
  })
  const gone = new Set([...plan.without, ...shots.map(({ id }) => id)])
  return planned.filter(({ shot }) => !gone.has(shot.id))
}
