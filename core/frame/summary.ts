import { projectionOf } from '../camera/projection'
import type { View } from '../camera/view'
import { degrees } from '../geometry/angle'
import { pointAt } from '../geometry/course'
import type { Point } from '../geometry/point'
import type { TextBlock } from '../type/block'
import type { Frame, LabelItem } from './frame'
import { labelBox } from '../marks/label-layout'

/** A view with how far the ground is bent to a globe, 0..1, and by how many degrees that is turned. */
const viewSummary = ({ bend, ...view }: View) => (bend ? { ...view, globe: { share: bend.share, spin: bend.spin } } : view)

const textOf = ({ lines }: TextBlock): string => lines.map(({ text }) => text).join('\n')

/**
 * A frame without its point tables, for people and tests to read: positions in ground units, headings in degrees, ink lengths in ground units. `screen` is
 * where something is in the frame, in output pixels; null for what lies behind the camera.
 */
export function frameSummary(frame: Frame) {
  const projection = projectionOf(frame.view, frame.reference)
  const screen = (at: Point): Point | null => {
    if (projection.clearance(at) < 0) return null
    const { x, y } = projection.toScreen(at)
    return { x: x * frame.scale, y: y * frame.scale }
  }
  /** What a label covers, in output pixels. */
  const boxOf = ({ at, label, style }: LabelItem) => {
    const { x, y } = projection.toScreen(at)
    const k = Math.sqrt(projection.depthScale(at))
    const box = labelBox(label, style)
    const [left, top] = [(x + k * box.left) * frame.scale, (y + k * box.top) * frame.scale]
    return { left, top, right: (x + k * box.right) * frame.scale, bottom: (y + k * box.bottom) * frame.scale }
  }
  return {
    time: frame.time,
    size: frame.size,
    view: viewSummary(frame.view),
    travellers: frame.motions.map((motion) =>
      motion
        ? {
            leg: motion.leg,
            position: motion.position,
            screen: screen(motion.position),
            heading: degrees(motion.heading),
            travelled: motion.travelled,
            resting: motion.resting,
          }
        : null,
    ),
    items: frame.items.map((item) => {
      switch (item.kind) {
        case 'ground':
        case 'edge-shade':
        case 'depth':
        case 'air':
        case 'dim':
        case 'map-dim':
        case 'credit':
          return item
        case 'sheet':
          return { kind: item.kind, sheet: item.sheet.id, image: item.sheet.image, opacity: item.opacity, edge: item.edge }
        case 'area':
          return { kind: item.kind, area: item.area.id, opacity: item.opacity }
        case 'map-name':
          return { kind: item.kind, id: item.id, at: item.at, screen: screen(item.at), text: textOf(item.block), opacity: item.opacity }
        case 'ink': {
          const { kind, leg, course, tail, head, ink } = item
          return { kind, leg, tail, length: head, courseLength: course.length, head: screen(pointAt(course, head)), line: ink.line.kind }
        }
        case 'particles':
          return { kind: item.kind, leg: item.leg, count: item.seen.length }
        case 'planned': {
          const { kind, leg, course, from } = item
          return { kind, leg, from, courseLength: course.length }
        }
        case 'vehicle': {
          const { kind, leg, at, vehicle, rotation, mirrored, opacity, altitude } = item
          return {
            kind,
            leg,
            at,
            screen: screen(at),
            artwork: vehicle.kind === 'catalogue' ? vehicle.id : vehicle.picture.image,
            rotation: degrees(rotation),
            mirrored,
            opacity,
            altitude,
          }
        }
        case 'carried':
          return { kind: item.kind, leg: item.leg, at: item.at, screen: screen(item.at), carries: item.carried.kind, opacity: item.opacity }
        case 'standing':
          return {
            kind: item.kind,
            id: item.id,
            at: item.at,
            screen: screen(item.at),
            image: item.picture.picture.image,
            opacity: item.opacity,
          }
        case 'pin':
          return { kind: item.kind, stop: item.stop, at: item.at, screen: screen(item.at), scale: item.scale, opacity: item.opacity }
        case 'postcard': {
          const { kind, stop, at, postcard, scale, opacity } = item
          const { id, photo, text } = postcard
          return { kind, stop, card: id, at, screen: screen(at), image: photo?.image ?? null, text, scale, opacity }
        }
        case 'label':
          return {
            kind: item.kind,
            stop: item.stop,
            at: item.at,
            screen: screen(item.at),
            text: textOf(item.label.block),
            box: boxOf(item),
            settled: item.elapsed === null,
          }
        case 'caption': {
          const { kind, id, figure, at, opacity } = item
          const says = figure.kind === 'north-arrow' ? { bearing: figure.bearing } : { text: textOf(figure.block) }
          return { kind, id, figure: figure.kind, ...says, screen: { x: at.x * frame.scale, y: at.y * frame.scale }, opacity }
        }
        default:
          return item satisfies never
      }
    }),
  }
}
