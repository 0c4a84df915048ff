import type { Size } from '../geometry/size'
import { clamp } from '../geometry/clamp'
import type { View } from '../camera/view'
import { withoutBend } from '../camera/view'
import type { ViewTrack } from '../camera/view-track'
import type { Journey, Sheet } from '../journey/schema'
import { courseGround } from '../courses/compile-course'
import { heldIn } from '../sheet/framing'
import type { CompiledShot, CompiledVisit } from '../trips/compiled'
import type { TimedTrip } from '../trips/compile-traveller'
import { globeOf } from './globe'
import { hasPixels, sharpZoom } from '../sheet/sharpness'
import { plannedShots } from './shot-plan'
import type { Scene, TimedShot } from './shots'
import { placeShots, sceneOf } from './shots'
import { framesPerSecond } from '../pace/rate'
import { momentAt, timeOf } from '../trips/span'

/** The camera of a film: the shots of the document, and between them those of its plan that nobody has set or taken out. */
export function compileCamera(
  journey: Journey,
  trips: readonly TimedTrip[],
  moments: ReadonlyMap<string, CompiledVisit>,
  { frames, lastTime, reference }: { frames: number; lastTime: number; reference: Size },
): { views: ViewTrack; shots: CompiledShot[] } {
  const { camera: opening, ground, shots, frame } = journey
  const sheet = journey.sheets.find(({ tracing }) => !tracing)
  const hold = sheet && ground.edge === 'held' ? holdOn(sheet, reference) : null
  const { geo } = courseGround(journey)
  const scene = sceneOf({ trips, opening, lastTime, frames, rate: frame.rate, reference, globe: geo && globeOf(geo) })
  const byHand = shots.map((shot): TimedShot => ({ shot, time: clamp(timeOf(shot.at, moments, lastTime), 0, lastTime) }))
  const planned = planOf(journey, scene, sheet, hold, moments)
  const timed = [...planned, ...byHand].sort((a, b) => a.time - b.time)
  return {
    views: {
      opening: hold?.(opening) ?? opening,
      shots: placeShots(timed, scene),
      reference,
      hold,
      lastTime,
      easedAt: framesPerSecond(frame.rate),
      handheld: journey.handheld,
    },
    shots: timed.map((entry, i) => ({
      shot: entry.shot,
      isPlanned: planned.includes(entry),
      start: entry.time,
      end: entry.time + entry.shot.transition,
      until: timed[i + 1]?.time ?? lastTime,
    })),
  }
}

/** Keeps views on a sheet: a flat one wholly; one whose ground is bent the less the more it is, as there is no beyond on a globe. */
function holdOn(sheet: Sheet, reference: Size): (view: View) => View {
  return (view) => {
    const { bend } = view
    if (!bend) return heldIn(sheet, view, reference)
    if (bend.share === 1) return view
    const held = heldIn(sheet, withoutBend(view), reference)
    const k = (1 - bend.share) ** 4
    const between = (a: number, b: number) => a + (b - a) * k
    return {
      ...view,
      centre: { x: between(view.centre.x, held.centre.x), y: between(view.centre.y, held.centre.y) },
      zoom: view.zoom * (held.zoom / view.zoom) ** k,
    }
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
    sharpZoom: sheet && hasPixels(sheet) ? sharpZoom(sheet, frame) : Infinity,
    onMap: (view) => (sheet ? heldIn(sheet, view, scene.reference) : view),
    hold,
    momentOf: (time) => momentAt(time, stops),
    globe: plan.globe,
  })
  const gone = new Set([...plan.without, ...shots.map(({ id }) => id)])
  return planned.filter(({ shot }) => !gone.has(shot.id))
}
