import { clamp } from '../../geometry/clamp'
import { degrees, radians } from '../../geometry/angle'
import type { View } from '../../camera/view'
import { GREATEST_ZOOM, LEAST_ZOOM } from '../../camera/view'
import type { Point } from '../../geometry/point'
import { subtract } from '../../geometry/point'
import { placeByTwoPoints, sheetToGround } from '../../sheet/place'
import type { Area, CourseShape, Journey, Landmark, Network, Place, Sheet, Shot } from '../../journey/schema'
import { readPoints, writePoints } from '../../journey/track-line'

/** A map of the ground onto a new one, as when the first sheet is turned or replaced. */
export type Move = (p: Point) => Point

/**
 * Moves everything on the ground by a map of it: stops, the courses of legs, networks, areas, landmarks, the scale, the shots of the camera, and all sheets but one that
 * stays. The view with which the film begins is the caller's responsibility.
 */
export function withGroundMoved(journey: Journey, move: Move, staying?: string): Journey {
  const places = new Map(journey.stops.map(({ id, at }) => [id, at]))
  return {
    ...journey,
    stops: journey.stops.map((stop) => ({ ...stop, at: move(stop.at) })),
    travellers: journey.travellers.map((traveller) => ({
      ...traveller,
      legs: traveller.legs.map((leg, i) => {
        const [a, b] = [traveller.visits[i]!, traveller.visits[i + 1]!].map(({ stop }) => places.get(stop)!) as [Point, Point]
        return { ...leg, course: movedCourse(leg.course, a, b, move) }
      }),
    })),
    networks: journey.networks.map((network) => movedNetwork(network, move)),
    landmarks: journey.landmarks.map((landmark) => movedLandmark(landmark, move)),
    areas: journey.areas.map((area) => movedArea(area, move)),
    measures: movedMeasures(journey, move),
    shots: journey.shots.map((shot) => movedShot(shot, journey, move)),
    reframes: journey.reframes.map((reframe) => ({
      ...reframe,
      camera: reframe.camera && movedView(reframe.camera, move),
      shots: reframe.shots.map((shot) => movedShot(shot, journey, move)),
    })),
    sheets: journey.sheets.map((sheet) => (sheet.id === staying ? sheet : { ...sheet, place: movedPlace(sheet, move) })),
  }
}

/** A view of the same part of the ground as before. Its bearing stays, as that is measured against the map. */
export function movedView(view: View, move: Move): View {
  const zoom = view.zoom / localScale(move, view.centre, 1 / view.zoom)
  return { ...view, centre: move(view.centre), zoom: clamp(zoom, LEAST_ZOOM, GREATEST_ZOOM) }
}

/** A shot of the same part of the ground as before; what it is of moves by itself, and what fills a share of the frame goes on to do so. */
function movedShot(shot: Shot, { stops, camera }: Journey, move: Move): Shot {
  if ('view' in shot) return { ...shot, view: movedView(shot.view, move) }
  if ('fill' in shot) return shot
  const subject = 'stop' in shot ? stops.find(({ id }) => id === shot.stop)?.at : undefined
  const zoom = shot.zoom / localScale(move, subject ?? camera.centre, 1 / shot.zoom)
  return { ...shot, zoom: clamp(zoom, LEAST_ZOOM, GREATEST_ZOOM) }
}

/** The local scale of a map of the ground at a point. */
function localScale(move: Move, at: Point, step: number): number {
  const from = move(at)
  const [right, down] = [move({ x: at.x + step, y: at.y }), move({ x: at.x, y: at.y + step })]
  return Math.sqrt((Math.hypot(right.x - from.x, right.y - from.y) * Math.hypot(down.x - from.x, down.y - from.y)) / step ** 2)
}

/** A scale that was given holds for the new ground as for the old one, at the middle of the film's first view. */
function movedMeasures({ measures, camera }: Journey, move: Move): Journey['measures'] {
  const { metresPerUnit } = measures
  return metresPerUnit === null
    ? measures
    : { ...measures, metresPerUnit: metresPerUnit / localScale(move, camera.centre, 1 / camera.zoom) }
}

/** A handle, which is an offset, at a point that moves. */
function movedHandle(at: Point, offset: Point, move: Move): Point {
  return subtract(move({ x: at.x + offset.x, y: at.y + offset.y }), move(at))
}

/** The course of a leg from a to b, moved by a map of the ground. */
export function movedCourse(course: CourseShape, a: Point, b: Point, move: Move): CourseShape {
  switch (course.kind) {
    case 'straight':
    case 'bowed':
    case 'great-circle':
      // These courses follow from their stops.
      return course
    case 'drawn':
      return {
        ...course,
        leave: movedHandle(a, course.leave, move),
        nodes: course.nodes.map((node) => ({
          ...node,
          at: move(node.at),
          before: movedHandle(node.at, node.before, move),
          after: movedHandle(node.at, node.after, move),
        })),
        arrive: movedHandle(b, course.arrive, move),
        ...(course.smoothing !== undefined && { smoothing: course.smoothing * localScale(move, a, course.smoothing) }),
      }
    case 'track':
      return { ...course, points: movedLine(course.points, move) }
    case 'network':
      return { ...course, vias: course.vias.map(move) }
    default:
      return course satisfies never
  }
}

const movedNetwork = (network: Network, move: Move): Network => ({
  ...network,
  lines: network.lines.map((line) => ({ ...line, points: movedLine(line.points, move) })),
})

/** A picture beside the way keeps its place on the map: it grows with it, and one that lies on it turns with it. */
function movedLandmark(landmark: Landmark, move: Move): Landmark {
  const { at } = landmark
  const to = move(at)
  switch (landmark.kind) {
    case 'mark':
      return { ...landmark, at: to }
    case 'standing':
      return { ...landmark, at: to, width: landmark.width * localScale(move, at, landmark.width) }
    case 'lying': {
      const angle = radians(landmark.rotation)
      const right = subtract(move({ x: at.x + landmark.width * Math.cos(angle), y: at.y + landmark.width * Math.sin(angle) }), to)
      const rotation = degrees(Math.atan2(right.y, right.x))
      return { ...landmark, at: to, width: landmark.width * localScale(move, at, landmark.width), rotation }
    }
    default:
      return landmark satisfies never
  }
}

const movedArea = (area: Area, move: Move): Area => ({ ...area, rings: area.rings.map((ring) => movedPairs(ring, move)) })

const movedLine = (line: string, move: Move): string => writePoints(movedPairs(readPoints(line), move))

/** Points, x and y in turn. */
function movedPairs(pairs: ArrayLike<number>, move: Move): number[] {
  const moved: number[] = []
  for (let i = 0; i + 1 < pairs.length; i += 2) {
    const { x, y } = move({ x: pairs[i]!, y: pairs[i + 1]! })
    moved.push(x, y)
  }
  return moved
}

function movedPlace({ place, width, height }: Sheet, move: Move): Place {
  const [a, b] = [
    { x: 0, y: height / 2 },
    { x: width, y: height / 2 },
  ] as const
  return placeByTwoPoints(a, b, move(sheetToGround(place, a)), move(sheetToGround(place, b)))
}
