import { referenceSize } from '#core/camera/view'
import { parseJourney } from '#core/journey/parse'
import type { Journey, JourneyInput, Photo, Sheet } from '#core/journey/schema'
import { JOURNEY_FORMAT, JOURNEY_VERSION, sheetSchema } from '#core/journey/schema'
import { fillingView } from '#core/sheet/framing'
import type { Course } from '#core/geometry/course'
import { writePoints } from '#core/journey/track-line'
import simplify from 'simplify-js'
import { ferryCourses, railwayCourse, roadCourses } from './courses'
import { COAST_ROAD, CONTROL_POINTS, RAILWAY, SOUND_CROSSING, TOWNS } from './places'

/** The sheet of the Lantern Isles, in an empty stretch of the southern Indian Ocean. The degrees are rounded, as if read off a chart. */
export const demoSheet = (image: { hash: string; width: number; height: number }): Sheet =>
  sheetSchema.parse({
    id: 'isles',
    name: 'Lantern Isles',
    image: image.hash,
    width: image.width,
    height: image.height,
    georeference: { kind: 'points', points: CONTROL_POINTS },
    credit: { title: 'Lantern Isles', author: 'Zephyrine', licence: 'CC0 1.0', source: 'made up for the demo' },
  })

/** The made-up photo of Emberlight at dusk. */
export const demoPhoto = ({ hash, width, height }: { hash: string; width: number; height: number }): Photo => ({
  image: hash,
  width,
  height,
  vector: false,
})

/** Tolerance of the networks' lines, in ground units. */
const NETWORK_TOLERANCE = 1

/** The roads, the railway and the ferries of the Lantern Isles, which legs can follow. */
function demoNetworks(): JourneyInput['networks'] {
  const lines = (courses: readonly Course[], speed: number) =>
    courses.map(({ points }) => {
      const all = Array.from({ length: points.length / 2 }, (_, i) => ({ x: points[2 * i]!, y: points[2 * i + 1]! }))
      return { points: writePoints(simplify(all, NETWORK_TOLERANCE, true).flatMap(({ x, y }) => [x, y])), speed }
    })
  return [
    { id: 'roads', name: 'Roads of the Isles', mode: 'road', lines: lines(roadCourses(), 60) },
    { id: 'railway', name: 'Great Wick Railway', mode: 'rail', lines: lines([railwayCourse()], 80) },
    { id: 'ferries', name: 'Lantern ferries', mode: 'water', lines: lines(ferryCourses(), 25) },
  ]
}

/** The demo journey: round the Lantern Isles in 24 seconds. */
export function demoJourney(sheet: Sheet, photo: Photo): Journey {
  const frame = { width: 1920, height: 1080, rate: '30/1' } as const
  const vermilion = '#d8412f'
  const whole = fillingView(sheet, referenceSize(frame))
  const label = { style: { size: 46 } }
  const document: JourneyInput = {
    format: JOURNEY_FORMAT,
    version: JOURNEY_VERSION,
    name: 'Round the Lantern Isles',
    frame,
    seconds: 24,
    sheets: [sheet],
    ground: { edge: 'mirrored' },
    // As on the hills of the sheet, whose north-western slopes are bright.
    sun: { bearing: -45, height: 42, softness: 0.4, strength: 0.45 },
    // Close to Harrowmere at first; then all of the Isles, and the flight from aside.
    camera: { centre: { x: 1400, y: 1240 }, zoom: 0.82, bearing: 0, pitch: 24 },
    shots: [
      { kind: 'free', id: 'isles', at: { at: 'departure', stop: 'harrowmere' }, transition: 4, view: whole },
      {
        kind: 'free',
        id: 'flight',
        at: { at: 'departure', stop: 'lampwick', offset: -1 },
        transition: 2.6,
        view: { centre: { x: 4420, y: 1640 }, zoom: 0.62, bearing: 16, pitch: 52 },
      },
      { kind: 'free', id: 'end', at: { at: 'arrival', stop: 'emberlight', offset: -1.6 }, transition: 2.7, view: whole },
    ],
    stops: [
      {
        id: 'harrowmere',
        name: 'Harrowmere',
        at: TOWNS.harrowmere.at,
        pin: { shape: 'lantern', colour: vermilion },
        label,
      },
      {
        id: 'quillhaven',
        name: 'Quillhaven',
        at: TOWNS.quillhaven.at,
        pin: { shape: 'lantern', colour: vermilion },
        label,
      },
      {
        id: 'oarsend',
        name: 'Oar’s End',
        at: TOWNS.oarsend.at,
        pin: { shape: 'lantern', colour: vermilion },
        label,
      },
      {
        id: 'lampwick',
        name: 'Lampwick',
        at: TOWNS.lampwick.at,
        pin: { shape: 'lantern', colour: vermilion },
        label,
      },
      {
        id: 'emberlight',
        name: 'Emberlight',
        at: TOWNS.emberlight.at,
        pin: { shape: 'lantern', colour: vermilion },
        label,
        postcards: [{ id: 'dusk', photo, text: 'Emberlight at dusk', place: { kind: 'side', side: 'bottom' }, tilt: 3, comes: 'swing' }],
      },
    ],
    captions: [
      {
        id: 'title',
        content: { kind: 'title', text: 'Round the Lantern Isles', second: 'four days by rail, road, oar and air' },
        corner: 'bottom',
        style: { size: 96, colour: '#fbf6ea', halo: { colour: '#14233a', width: 0.08 }, shadow: 0.6 },
        appears: { style: 'rise', by: 'word' },
        shown: { from: { at: 'start' }, to: { at: 'start', offset: 3.4 }, fade: 0.5 },
      },
      {
        id: 'day',
        content: { kind: 'day' },
        heading: 'Lantern Isles',
        corner: 'top-left',
        style: { size: 58, colour: '#fbf6ea', halo: { colour: '#14233a', width: 0.1 } },
        shown: { from: { at: 'start', offset: 3.6 }, to: { at: 'end' }, fade: 0.5 },
      },
    ],
    networks: demoNetworks(),
    travellers: [
      {
        id: 'traveller',
        visits: [
          { stop: 'harrowmere', layover: 1, date: '2026-06-04' },
          { stop: 'quillhaven', layover: 1.2, date: '2026-06-05' },
          { stop: 'oarsend', layover: 1.2, date: '2026-06-06' },
          { stop: 'lampwick', layover: 1.2, date: '2026-06-07' },
          { stop: 'emberlight', layover: 2.2, date: '2026-06-07' },
        ],
        legs: [
          {
            id: 'night-train',
            course: RAILWAY,
            vehicle: { kind: 'catalogue', artwork: 'train', colour: '#27406b', size: 130 },
            ink: { colour: '#27406b', width: 10, glow: { colour: '#ffd98a', radius: 26, strength: 0.9 } },
          },
          {
            id: 'bicycle',
            course: COAST_ROAD,
            vehicle: { kind: 'catalogue', artwork: 'bicycle', colour: vermilion, size: 92, lively: 0.5 },
            ink: { colour: vermilion, width: 9, line: { kind: 'dashed', dash: 26, space: 16 } },
          },
          {
            id: 'rowing-boat',
            course: SOUND_CROSSING,
            vehicle: { kind: 'catalogue', artwork: 'rowboat', colour: '#f2efe4', size: 96, lively: 0.7 },
            ink: { colour: '#fbf6ea', width: 10, line: { kind: 'dotted', space: 14 } },
          },
          {
            id: 'seaplane',
            course: { kind: 'bowed', bow: 0.22 },
            vehicle: { kind: 'catalogue', artwork: 'seaplane', colour: vermilion, size: 128 },
            ink: {
              colour: vermilion,
              width: 9,
              line: { kind: 'dashed', dash: 34, space: 20 },
              glow: { colour: '#fff1c9', radius: 18, strength: 0.35 },
            },
          },
        ],
      },
    ],
  }
  return parseJourney(document)
}

/** The demo with a camera that rests over all of its sheet: what is on it can be told by where it is on the sheet. */
export function stillDemo(journey: Journey): Journey {
  const camera = fillingView(journey.sheets[0]!, referenceSize(journey.frame))
  return { ...journey, camera, shots: [], ground: { ...journey.ground, edge: 'plain' } }
}
