import type { Point } from '#core/geometry/point'
import { editLeg } from '#core/edits/lines/legs'
import type { ChangingValue, CourseShape, Journey, Landmark, Shot, ShotKind, ValueMark } from '#core/journey/schema'
import { inkSchema, landmarkSchema, reframeSchema, shotSchema, valueMarkSchema } from '#core/journey/schema'
import { demo, journeyOver } from './journeys'

/** Stops on the demo's sheet, one more than there are kinds of course. */
const STOPS = [
  [900, 700],
  [1500, 900],
  [2300, 800],
  [3000, 1500],
  [2500, 2300],
  [1400, 2400],
  [700, 1700],
] as const

/** The road network of `journeyWithEveryKind`: from its fifth leg's stop to the next one by way of a spot off the straight line. */
const ROAD = '2500,2300 2200,2700 1800,2800 1500,2600 1400,2400'

/** A course of every kind there is; TypeScript asks for those that are yet to come. */
export const EVERY_COURSE: Record<CourseShape['kind'], CourseShape> = {
  straight: { kind: 'straight' },
  bowed: { kind: 'bowed', bow: 0.3 },
  drawn: {
    kind: 'drawn',
    leave: { x: 60, y: -40 },
    nodes: [
      { at: { x: 2500, y: 900 }, kind: 'smooth', before: { x: -50, y: 10 }, after: { x: 50, y: -10 } },
      { at: { x: 2600, y: 1100 }, kind: 'corner', before: { x: 0, y: -30 }, after: { x: 0, y: 0 }, break: true },
      { at: { x: 2800, y: 1300 }, kind: 'corner', before: { x: 0, y: 0 }, after: { x: 20, y: 40 } },
    ],
    arrive: { x: -30, y: -60 },
    smoothing: 4,
  },
  track: {
    kind: 'track',
    points: '3000,1500 2900,1700 2850,1650 2700,2100 2500,2300',
    times: '0 10 25 40 60',
    heights: '12 30 41.5 20 -3',
    began: 1_790_000_000,
  },
  network: { kind: 'network', mode: 'road', by: 'distance', vias: [{ x: 1800, y: 2800 }] },
  'great-circle': { kind: 'great-circle' },
}

const HUT = { image: 'd'.repeat(64), width: 300, height: 200, vector: false }
const common = { name: 'Hut', shown: { from: { at: 'arrival', stop: 's2', offset: 1 }, to: { at: 'end', offset: -1 }, fade: 0.5 } } as const

/** A landmark of every kind there is. */
export const EVERY_LANDMARK: Record<Landmark['kind'], Landmark> = {
  mark: landmarkSchema.parse({ kind: 'mark', id: 'm', at: { x: 1200, y: 1300 }, ...common }),
  standing: landmarkSchema.parse({ kind: 'standing', id: 'u', at: { x: 1900, y: 1300 }, ...common, picture: HUT, width: 250 }),
  lying: landmarkSchema.parse({ kind: 'lying', id: 'f', at: { x: 1700, y: 2000 }, ...common, picture: HUT, width: 400, rotation: 25 }),
}

const timed = (stop: string) => ({ at: { at: 'departure', stop, offset: 0.5 }, transition: 1 }) as const

/** A shot of every kind there is. */
export const EVERY_SHOT: Record<ShotKind, Shot> = {
  free: shotSchema.parse({
    kind: 'free',
    id: 'free',
    ...timed('s1'),
    view: { centre: { x: 1500, y: 1500 }, zoom: 0.5, bearing: 20, pitch: 30 },
  }),
  overview: shotSchema.parse({ kind: 'overview', id: 'overview', ...timed('s2'), orbit: 5, bearing: 10, pitch: 20 }),
  globe: shotSchema.parse({ kind: 'globe', id: 'globe', ...timed('s2'), stop: 's3', fill: 1.2, spin: 9, pitch: 15 }),
  leg: shotSchema.parse({ kind: 'leg', id: 'leg', ...timed('s3'), leg: 'l3', shift: { x: 0.1, y: -0.1 } }),
  'close-up': shotSchema.parse({
    kind: 'close-up',
    id: 'close',
    ...timed('s4'),
    stop: 's4',
    zoom: 0.9,
    dolly: { kind: 'rise', amount: 0.4 },
  }),
  chase: shotSchema.parse({ kind: 'chase', id: 'chase', ...timed('s5'), travellers: ['traveller'], zoom: 0.8, turns: true }),
}

/** A journey on the demo's georeferenced sheet with a leg and a shot of every kind, a network, and an area; its stops can be visited in any order. */
/** A change of every value there is, in the middle of the film. */
function everyValue(sheet: string): Record<ChangingValue, ValueMark> {
  const mark = (value: ChangingValue, of: object, to: number | string) =>
    valueMarkSchema.parse({ value, id: value, ...of, to, at: { at: 'arrival', stop: 's3', offset: 1 }, within: 2 })
  return {
    'line-width': mark('line-width', { leg: 'l2' }, 3),
    'line-opacity': mark('line-opacity', { leg: 'l2' }, 0.4),
    'line-light': mark('line-light', { leg: 'l2' }, 2),
    'line-colour': mark('line-colour', { leg: 'l2' }, '#17646b'),
    'vehicle-size': mark('vehicle-size', { traveller: 'traveller' }, 2),
    'pin-size': mark('pin-size', { stop: 's2' }, 2),
    'name-size': mark('name-size', { stop: 's2' }, 0.5),
    'sheet-opacity': mark('sheet-opacity', { sheet }, 0.5),
    wash: mark('wash', { sheet }, 0),
    'edge-shade': mark('edge-shade', { sheet }, 0.5),
    'map-dim': mark('map-dim', {}, 0.5),
  }
}

export function journeyWithEveryKind(): Journey {
  const kinds = Object.values(EVERY_COURSE)
  const trip = kinds.reduce(
    (journey, course, i) => editLeg(journey, `l${i + 1}`, { course }),
    journeyOver(STOPS, { over: [inkSchema.parse({ join: 'mitre' })] }, 30),
  )
  const { sheets, camera, ground } = demo()
  return {
    ...trip,
    sheets,
    camera,
    ground,
    networks: [{ id: 'roads', name: 'Roads', mode: 'road', lines: [{ points: ROAD, speed: 60 }] }],
    landmarks: Object.values(EVERY_LANDMARK),
    valueMarks: Object.values(everyValue(sheets[0]!.id)),
    shots: Object.values(EVERY_SHOT),
    reframes: [reframeSchema.parse({ width: 1080, height: 1920, camera, shots: [EVERY_SHOT.free, EVERY_SHOT['close-up']] })],
    areas: [
      {
        id: 'isle',
        name: 'Isle',
        rings: [[600, 600, 1600, 700, 1000, 1500]],
        fill: { colour: '#d8a13a', opacity: 0.4 },
        outline: { colour: '#fbf6ea', width: 4 },
        shown: null,
      },
    ],
  }
}

/** Points of a course, x and y in turn, as points. */
export const pointsOf = (xy: ArrayLike<number>): Point[] =>
  Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }))
