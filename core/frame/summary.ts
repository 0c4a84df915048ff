import { degrees } from '../geometry/angle'
import type { Frame } from './frame'

/** A frame without its point tables, for people and tests to read: positions in ground units, headings in degrees, ink lengths in ground units. */
export function frameSummary(frame: Frame) {
  return {
    time: frame.time,
    size: frame.size,
    view: frame.view,
    travellers: frame.motions.map((motion) =>
      motion
        ? {
            leg: motion.leg,
            position: motion.position,
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
        case 'credit':
          return item
        case 'sheet':
          return { kind: item.kind, sheet: item.sheet.id, image: item.sheet.image, opacity: item.opacity, edge: item.edge }
        case 'area':
          return { kind: item.kind, area: item.area.id, opacity: item.opacity }
        case 'ink':
          return { kind: item.kind, leg: item.leg, length: item.head, courseLength: item.course.length, line: item.ink.line }
        case 'vehicle': {
          const { kind, leg, at, vehicle, rotation, mirrored, opacity, altitude } = item
          return { kind, leg, at, artwork: vehicle.artwork, rotation: degrees(rotation), mirrored, opacity, altitude }
        }
        case 'pin':
          return { kind: item.kind, stop: item.stop, at: item.at, scale: item.scale, opacity: item.opacity }
        case 'postcard': {
          const { kind, stop, at, postcard, scale, opacity } = item
          return { kind, stop, at, image: postcard.photo?.image ?? null, text: postcard.text, scale, opacity }
        }
        case 'label':
          return { kind: item.kind, stop: item.stop, at: item.at, text: item.text, scale: item.scale, opacity: item.opacity }
      }
    }),
  }
}
