import { clamp } from '../../geometry/clamp'
import type { View } from '../../camera/view'
import { referenceSize } from '../../camera/view'
import { geoOfSheet, groundGeo } from '../../geo/ground'
import { degrees } from '../../geometry/angle'
import type { Point } from '../../geometry/point'
import { distance } from '../../geometry/point'
import { fillingView, fittingView } from '../../sheet/framing'
import {
  AT_ORIGIN,
  groundToSheet,
  placeByTwoPoints,
  placeInside,
  sheetToGround,
  turnedAbout,
  turnedPlace,
  usedPart,
} from '../../sheet/place'
import { produce } from 'immer'
import { JourneyError } from '../../error'
import { dropLostValues } from '../pace/values'
import type { Move } from './ground-move'
import { movedView, withGroundMoved } from './ground-move'
import type { Area, Ground, Journey, MapNames, Place, Sheet, Wash } from '../../journey/schema'
import { mapNamesSchema } from '../../journey/schema'

/** Changes to a journey's sheets and ground: pure functions, journey in, journey out, as in journey.ts. */

/** The share of the frame that a sheet laid over others takes up at first. */
const INSET = 0.6

/**
 * Lays a sheet. On bare ground its pixels become the ground's unit and the view fills the frame with it, while what is there keeps its place in
 * the frame. Over other sheets it is laid where it belongs on the Earth if that is known of both, else into the middle of the frame.
 */
export function addSheet(journey: Journey, sheet: Sheet): Journey {
  if (journey.sheets.length === 0) return layFirst(journey, sheet)
  const place = geoPlace(journey, sheet) ?? insetPlace(journey, sheet)
  return { ...journey, sheets: [...journey.sheets, { ...sheet, place }] }
}

function layFirst(journey: Journey, sheet: Sheet): Journey {
  const reference = referenceSize(journey.frame)
  const laid = { ...sheet, place: AT_ORIGIN }
  const camera = fillingView(laid, reference)
  const moved = withGroundMoved(journey, sameInFrame(journey.camera, camera))
  return { ...moved, camera, sheets: [laid] }
}

/** The map of the ground that keeps the place in the frame of all that is on it, from one view straight down to another; bearings and pitches do not count. */
const sameInFrame =
  (from: View, to: View): Move =>
  (p) => ({
    x: to.centre.x + ((p.x - from.centre.x) * from.zoom) / to.zoom,
    y: to.centre.y + ((p.y - from.centre.y) * from.zoom) / to.zoom,
  })

function insetPlace({ camera, frame }: Journey, sheet: Sheet): Place {
  const { width, height } = referenceSize(frame)
  return placeInside(sheet, camera.centre, { width: (INSET * width) / camera.zoom, height: (INSET * height) / camera.zoom })
}

/** Where a georeferenced sheet lies on a georeferenced ground: by two of its points, far apart. */
function geoPlace(journey: Journey, sheet: Sheet): Place | undefined {
  const own = geoOfSheet({ ...sheet, place: AT_ORIGIN })
  const ground = groundGeo(journey)
  if (!own || !ground) return undefined
  const spots = [
    { x: sheet.width * 0.2, y: sheet.height * 0.2 },
    { x: sheet.width * 0.8, y: sheet.height * 0.8 },
  ].map((p) => {
    const at = own.toLonLat(p)
    const there = at && ground.toGround(at)
    return there && { p, there }
  })
  const [a, b] = spots
  return a && b && placeByTwoPoints(a.p, b.p, a.there, b.there)
}

/** How things on a sheet are repositioned when it is replaced. */
export type ReplaceBy =
  | { by: 'lonlat' }
  /** Two spots: where they are on the ground now, and where on the new image. */
  | { by: 'points'; pairs: readonly [MatchedSpot, MatchedSpot] }
  | { by: 'frame' }

interface MatchedSpot {
  ground: Point
  sheet: Point
}

/** The best way that needs no input: by the Earth if both sheets are georeferenced, else by the frame. */
export const usualReplacement = (old: Sheet, next: Pick<Sheet, 'georeference'>): ReplaceBy =>
  geoOfSheet(old) && next.georeference ? { by: 'lonlat' } : { by: 'frame' }

/** The fields that a new image brings along; wash, opacity, span and the like are kept from the replaced sheet. */
export type SheetImage = Pick<Sheet, 'name' | 'image' | 'width' | 'height' | 'vector' | 'georeference' | 'credit' | 'drawn' | 'taken'>

/**
 * Replaces the image of a sheet. Under the first sheet the ground's unit changes, and stops, courses, areas and other sheets move along; another
 * sheet is laid where the replaced one was.
 * @throws JourneyError where the new map does not show what the frame shows, or two matched points lie on one spot.
 */
export function replaceSheet(journey: Journey, id: string, next: SheetImage, how: ReplaceBy): Journey {
  const index = journey.sheets.findIndex((sheet) => sheet.id === id)
  const old = journey.sheets[index]
  if (!old) return journey
  const { name, image, width, height, vector, georeference, credit, drawn, taken } = next
  const sheet: Sheet = { ...old, name, image, width, height, vector, georeference, credit, drawn, taken, crop: null }
  return index === 0 ? replaceFirst(journey, old, { ...sheet, place: AT_ORIGIN }, how) : replaceUpper(journey, old, sheet, how)
}

function replaceFirst(journey: Journey, old: Sheet, next: Sheet, how: ReplaceBy): Journey {
  const reference = referenceSize(journey.frame)
  const sheets = [next, ...journey.sheets.slice(1)]
  if (how.by === 'frame') {
    const camera = fillingView(next, reference)
    const moved = withGroundMoved({ ...journey, sheets }, sameInFrame(journey.camera, camera), next.id)
    return { ...moved, camera }
  }
  const move = how.by === 'lonlat' ? byLonLat(journey, old, next) : byPairs(how.pairs)
  const moved = withGroundMoved({ ...journey, sheets }, move, next.id)
  return { ...moved, camera: movedView(journey.camera, move) }
}

function byPairs(pairs: readonly [MatchedSpot, MatchedSpot]): (p: Point) => Point {
  const place = placeByTwoPoints(pairs[0].ground, pairs[1].ground, pairs[0].sheet, pairs[1].sheet)
  return (p) => sheetToGround(place, p)
}

/** By their place on the Earth; what the new map does not show is extrapolated linearly from the frame's middle. */
function byLonLat(journey: Journey, old: Sheet, next: Sheet): (p: Point) => Point {
  const [from, to] = [geoOfSheet(old), geoOfSheet(next)]
  const exactly = (p: Point): Point | undefined => {
    const at = from?.toLonLat(p)
    return at && to?.toGround(at)
  }
  const { centre, zoom } = journey.camera
  const beside = { x: centre.x + 100 / zoom, y: centre.y }
  const [a, b] = [exactly(centre), exactly(beside)]
  if (!a || !b)
    throw new JourneyError(`“${next.name}” does not show the place that the frame shows now: keep things by the frame or by two points.`)
  const roughly = placeByTwoPoints({ x: 0, y: 0 }, { x: 100, y: 0 }, a, b)
  return (p) => exactly(p) ?? sheetToGround(roughly, { x: (p.x - centre.x) * zoom, y: (p.y - centre.y) * zoom })
}

function replaceUpper(journey: Journey, old: Sheet, next: Sheet, how: ReplaceBy): Journey {
  const place = placeInstead(journey, old, next, how)
  return { ...journey, sheets: journey.sheets.map((sheet) => (sheet === old ? { ...next, place } : sheet)) }
}

function placeInstead(journey: Journey, old: Sheet, next: Sheet, how: ReplaceBy): Place {
  if (how.by === 'points') return placeByTwoPoints(how.pairs[0].sheet, how.pairs[1].sheet, how.pairs[0].ground, how.pairs[1].ground)
  const onEarth = how.by === 'lonlat' ? geoPlace(journey, next) : undefined
  if (onEarth) return onEarth
  // As wide as before, around the same middle.
  const scale = (old.place.scale * old.width) / next.width
  const middle = sheetToGround(old.place, { x: old.width / 2, y: old.height / 2 })
  const turned = sheetToGround({ x: 0, y: 0, scale, rotation: old.place.rotation }, { x: next.width / 2, y: next.height / 2 })
  return { x: middle.x - turned.x, y: middle.y - turned.y, scale, rotation: old.place.rotation }
}

/** Moves stops whose place on the Earth is known to where it lies on the ground now; those already there, to a hundredth of a gu, stay the same. */
export function placedStops(journey: Journey): Journey {
  const geo = groundGeo(journey)
  if (!geo) return journey
  return {
    ...journey,
    stops: journey.stops.map((stop) => {
      const at = stop.place && geo.toGround(stop.place)
      return !at || distance(at, stop.at) < 0.01 ? stop : { ...stop, at }
    }),
  }
}

/** Takes a sheet away; the ground stays as it is. */
export const removeSheet = (journey: Journey, id: string): Journey =>
  produce(journey, (draft) => {
    draft.sheets = draft.sheets.filter((sheet) => sheet.id !== id)
    dropLostValues(draft)
  })

/** Moves a sheet to an index in the stack; 0 is the lowest. */
export function restackSheet(journey: Journey, id: string, to: number): Journey {
  const sheets = journey.sheets.filter((sheet) => sheet.id !== id)
  const sheet = journey.sheets.find((s) => s.id === id)
  if (!sheet) return journey
  sheets.splice(to, 0, sheet)
  return { ...journey, sheets }
}

export type SheetPatch = Partial<Pick<Sheet, 'name' | 'tracing' | 'place' | 'opacity' | 'shown' | 'crop' | 'georeference' | 'credit'>>

/** Changes the given fields of a sheet. */
export const editSheet = (journey: Journey, id: string, patch: SheetPatch): Journey => ({
  ...journey,
  sheets: journey.sheets.map((sheet) => (sheet.id === id ? { ...sheet, ...patch } : sheet)),
})

/** Washes a sheet, or with null leaves it as it is. */
export const setWash = (journey: Journey, id: string, wash: Wash | null): Journey => ({
  ...journey,
  sheets: journey.sheets.map((sheet) => (sheet.id === id ? { ...sheet, wash } : sheet)),
})

/** Turns a sheet clockwise about its middle. Everything on the ground turns along with the first sheet. */
export function turnSheet(journey: Journey, id: string, degrees: number): Journey {
  const index = journey.sheets.findIndex((sheet) => sheet.id === id)
  const sheet = journey.sheets[index]
  if (!sheet) return journey
  const { left, top, right, bottom } = usedPart(sheet)
  const middle = sheetToGround(sheet.place, { x: (left + right) / 2, y: (top + bottom) / 2 })
  const turned = editSheet(journey, id, { place: turnedPlace(sheet.place, middle, degrees) })
  return index === 0 ? withGroundMoved(turned, (p) => turnedAbout(p, middle, degrees), id) : turned
}

/** Turns a sheet so that a line between two ground points becomes level or upright, whichever is closer. */
export function straightenSheet(journey: Journey, id: string, a: Point, b: Point): Journey {
  if (Math.hypot(b.x - a.x, b.y - a.y) === 0)
    throw new JourneyError('The line to straighten by has no length: draw it along something that should be level or upright.')
  const angle = degrees(Math.atan2(b.y - a.y, b.x - a.x))
  return turnSheet(journey, id, 90 * Math.round(angle / 90) - angle)
}

/** Crops a sheet to the rectangle, in its pixels, about two ground points; null uses all of it again. */
export function cropSheet(journey: Journey, id: string, corners: readonly [Point, Point] | null): Journey {
  const sheet = journey.sheets.find((s) => s.id === id)
  if (!sheet) return journey
  if (!corners) return editSheet(journey, id, { crop: null })
  const [a, b] = corners.map((corner) => groundToSheet(sheet.place, corner)) as [Point, Point]
  const clamped = (value: number, most: number) => Math.round(clamp(value, 0, most))
  const crop = {
    left: clamped(Math.min(a.x, b.x), sheet.width),
    top: clamped(Math.min(a.y, b.y), sheet.height),
    right: clamped(Math.max(a.x, b.x), sheet.width),
    bottom: clamped(Math.max(a.y, b.y), sheet.height),
  }
  if (crop.right - crop.left < 16 || crop.bottom - crop.top < 16)
    throw new JourneyError('The crop is smaller than 16 pixels of the sheet: draw a larger rectangle on it.')
  return editSheet(journey, id, { crop })
}

/** Changes the given fields of the ground. The first time the sheet becomes a panel, the view steps back until its edges show. */
export function setGround(journey: Journey, patch: Partial<Ground>): Journey {
  const next = { ...journey, ground: { ...journey.ground, ...patch } }
  const sheet = journey.sheets[0]
  if (patch.edge !== 'panel' || journey.ground.edge === 'panel' || !sheet) return next
  const whole = fittingView(sheet, referenceSize(journey.frame))
  return { ...next, camera: { ...whole, zoom: whole.zoom * PANEL_SHARE } }
}

/** Changes the names of countries and seas on the map. How they look is kept while there are none. */
export function setMapNames(journey: Journey, patch: Partial<MapNames>): Journey {
  const before = journey.ground.names ?? mapNamesSchema.parse({ countries: false, seas: false })
  return { ...journey, ground: { ...journey.ground, names: { ...before, ...patch } } }
}

/** How much of the frame a panel takes up at first. */
const PANEL_SHARE = 0.86

export const setCreditLine = (journey: Journey, creditLine: boolean): Journey => ({ ...journey, creditLine })

export const addArea = (journey: Journey, area: Area): Journey => ({ ...journey, areas: [...journey.areas, area] })

export const editArea = (journey: Journey, id: string, patch: Partial<Omit<Area, 'id' | 'rings'>>): Journey => ({
  ...journey,
  areas: journey.areas.map((area) => (area.id === id ? { ...area, ...patch } : area)),
})

export const removeArea = (journey: Journey, id: string): Journey => ({ ...journey, areas: journey.areas.filter((area) => area.id !== id) })
