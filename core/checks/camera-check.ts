import type { RateKind, Rates } from '../camera/comfort'
import { ratesBetween, worstOf } from '../camera/comfort'
import { frameCorners, projectionOf } from '../camera/projection'
import type { View } from '../camera/view'
import { viewAt } from '../camera/view-track'
import { greatest } from '../geometry/extremes'
import { frameTime } from '../pace/rate'
import { groundToSheet, usedPart } from '../sheet/place'
import type { CompiledJourney } from '../trips/compiled'
import { outOfFrame } from '../shots/out-of-frame'
import { hasPixels, sharpness } from '../sheet/sharpness'
import { visibilityAt } from '../trips/span'

/** Problems with what the camera shows: where it looks beyond the map, loses whom it follows, magnifies the map too much, moves too fast to be comfortable to watch, or never gets to where it is going. */

type CheckKind = 'edge' | 'lost' | 'soft' | 'fast' | 'late'

/** A stretch of the film with a problem, and its worst moment. */
export interface CameraCheck {
  kind: CheckKind
  /** In seconds. */
  from: number
  to: number
  worstAt: number
  /**
   * How bad it is there: reference pixels by which the frame reaches beyond the map, or by which a traveller that the shot follows is out of the frame;
   * how many times a map pixel is magnified in the film; how many times the comfortable speed it is; or the seconds that the way to a shot is too long.
   */
  worst: number
  /** What is too fast. */
  rate?: RateKind
  /** What comes before the camera has arrived at a shot. */
  cutBy?: 'end' | 'shot'
  /** The id of the shot that the camera is at or on its way to at the worst moment; undefined for the opening view. */
  shot: string | undefined
}

/** A magnification that one sees. */
const SOFT = 1.25
/** What is short of the frame's edge, or beyond it, by less is not noticed, in reference pixels. */
const MISSED = 1
/** No more moments than this are looked at, evenly spread. */
const MOST = 1200
/** Problems of a kind that are so close are one, in seconds. */
const SOON = 0.25

/** Looks through a film for problems, in the order of the film. */
export function checkCamera(compiled: CompiledJourney): CameraCheck[] {
  const moments = cameraMoments(compiled, Math.max(1, Math.ceil(compiled.frames / MOST)))
  const checks: CameraCheck[] = []
  /** Adds a moment to the stretch that it belongs to. */
  const note = (kind: CheckKind, time: number, value: number, rate?: RateKind) => {
    const last = checks.findLast((check) => check.kind === kind)
    if (last && time - last.to <= SOON) {
      last.to = time
      if (value > last.worst) Object.assign(last, { worst: value, worstAt: time, shot: shotAt(compiled, time) }, rate && { rate })
    } else checks.push({ kind, from: time, to: time, worstAt: time, worst: value, shot: shotAt(compiled, time), ...(rate && { rate }) })
  }
  for (const { time, view, rates } of moments) {
    const beyond = view.bend ? 0 : beyondMap(compiled, view)
    if (beyond > MISSED) note('edge', time, beyond)
    const out = lostAt(compiled, view, time)
    if (out > MISSED) note('lost', time, out)
    const magnified = magnificationAt(compiled, view, time)
    if (magnified > SOFT) note('soft', time, magnified)
    const { kind, excess } = worstOf(rates)
    if (excess > 1) note('fast', time, excess, kind)
  }
  return [...checks, ...lateShots(compiled)].sort((a, b) => a.from - b.from)
}

/** Less than this is not seen to be missing, in seconds. */
const LATE = 0.05

/** The shots at which the camera does not arrive before the film ends, or before it leaves for the next. */
const lateShots = ({ shots, lastTime }: CompiledJourney): CameraCheck[] =>
  shots.flatMap(({ shot, start, end, until }) => {
    if (end <= until + LATE) return []
    const cutBy = until >= lastTime ? 'end' : 'shot'
    return [{ kind: 'late', from: start, to: until, worstAt: until, worst: end - until, shot: shot.id, cutBy }]
  })

/** What the camera does, every so many frames; over a cut nothing moves. */
export function cameraMoments(compiled: CompiledJourney, step: number): { time: number; view: View; rates: Rates }[] {
  const { frames, journey, reference, shots } = compiled
  const perFrame = frameTime(1, journey.frame.rate)
  const cuts = shots.filter(({ start, end }) => end === start).map(({ start }) => start)
  return Array.from({ length: Math.ceil(frames / step) }, (_, i) => {
    const time = frameTime(i * step, journey.frame.rate)
    const view = viewAt(compiled, time)
    const next = time + perFrame
    const isCut = cuts.some((cut) => cut > time && cut <= next) || next > compiled.lastTime
    return { time, view, rates: ratesBetween(view, isCut ? view : viewAt(compiled, next), perFrame, reference) }
  })
}

/** The id of the shot that is in force at a time. */
const shotAt = ({ shots }: CompiledJourney, time: number): string | undefined =>
  shots.findLast(({ start }) => start <= time + 1e-9)?.shot.id

/** How far the frame reaches beyond the first map, in reference pixels; where it is mirrored there, or is a panel with edges, that is as it should be. */
function beyondMap({ sheets, journey, reference }: CompiledJourney, view: View): number {
  const sheet = sheets[0]?.sheet
  if (!sheet || (journey.ground.edge !== 'plain' && journey.ground.edge !== 'held')) return 0
  const { left, top, right, bottom } = usedPart(sheet)
  const projection = projectionOf(view, reference)
  return greatest(
    frameCorners(projection).map((corner) => {
      const { x, y } = groundToSheet(sheet.place, corner)
      return Math.max(left - x, x - right, top - y, y - bottom) * sheet.place.scale * projection.scaleAt(corner)
    }),
  )
}

/**
 * How far one of those whom the shot in force follows, or has in view with all of the trip, is out of the frame, in reference pixels: the camera may be
 * kept on the map elsewhere. On the way to a shot it may be anywhere.
 */
function lostAt({ views, reference }: CompiledJourney, view: View, time: number): number {
  const placed = views.shots.findLast(({ start }) => start <= time + 1e-9)
  return !placed || time < placed.end || view.bend ? 0 : outOfFrame(placed.look.keeps, time, view, reference)
}

/** How many film pixels a map pixel takes in the middle of the frame, of the uppermost map there that covers the others; 0 where there is none. */
function magnificationAt({ sheets, journey }: CompiledJourney, view: View, time: number): number {
  const over = sheets.findLast(({ sheet, shown }) => {
    if (sheet.opacity * visibilityAt(shown, time) <= 0.5) return false
    const { left, top, right, bottom } = usedPart(sheet)
    const { x, y } = groundToSheet(sheet.place, view.centre)
    return x >= left && x <= right && y >= top && y <= bottom
  })
  return over && hasPixels(over.sheet) ? 1 / sharpness(over.sheet, view, journey.frame) : 0
}

const RATE_NAMES: Readonly<Record<RateKind, string>> = {
  pan: 'The picture moves',
  turn: 'The camera turns',
  zoom: 'The zoom changes',
  tilt: 'The tilt changes',
}

/** A camera problem in a sentence. @param mapWidth pixels of the first map */
export function toldCheck({ kind, from, to, worst, rate, cutBy }: CameraCheck, mapWidth: number | undefined): string {
  const when = to - from < 0.05 ? `at ${from.toFixed(1)} s` : `from ${from.toFixed(1)} to ${to.toFixed(1)} s`
  switch (kind) {
    case 'edge':
      return `The frame extends ${Math.ceil(worst)} px beyond the map ${when}.`
    case 'lost':
      return `What the shot follows is up to ${Math.ceil(worst)} px out of frame ${when}, because the camera is kept on the map.`
    case 'soft': {
      const would = mapWidth === undefined ? '' : ` A map ${Math.ceil((mapWidth * worst) / 100) * 100} px wide would be sharp.`
      return `The map is enlarged ${worst.toFixed(1)}× ${when}.${would}`
    }
    case 'fast':
      return `${RATE_NAMES[rate ?? 'pan']} at ${worst.toFixed(1)}× the comfortable speed ${when}.`
    case 'late':
      return `The camera does not arrive: ${cutBy === 'end' ? 'the film ends' : 'the next shot begins'} ${worst.toFixed(1)} s too early, at ${to.toFixed(1)} s.`
    default:
      return kind satisfies never
  }
}
