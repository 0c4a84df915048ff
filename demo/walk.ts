import { trackCourse } from '#core/courses/track-course'
import { lineNoise } from '#core/geometry/noise'
import { parseJourney } from '#core/journey/parse'
import type { Journey, JourneyInput, Sheet } from '#core/journey/schema'
import { JOURNEY_FORMAT, JOURNEY_VERSION } from '#core/journey/schema'
import { WASH_PRESETS } from '#core/sheet/wash'
import { through } from './courses'
import { TOWNS } from './places'

/** Points on the way over Great Wick, from Millbeck past the tarn to Oar's End. */
const MILLBECK = TOWNS.millbeck.at
const TARN = { x: 1830, y: 1560 }
const OARS_END = TOWNS.oarsend.at
const UP = [MILLBECK, { x: 1560, y: 1740 }, { x: 1640, y: 1620 }, { x: 1760, y: 1640 }, TARN]
const DOWN = [TARN, { x: 1960, y: 1500 }, { x: 2080, y: 1570 }, { x: 2230, y: 1480 }, { x: 2410, y: 1540 }, { x: 2570, y: 1520 }, OARS_END]

/** Seconds between two recorded points. */
const EVERY = 30

/** A made-up recording of a walk: it wanders a little, goes slower uphill, and knows its heights. */
function recording(points: readonly { x: number; y: number }[], began: number, seed: number, height: (share: number) => number) {
  const line = through(points)
  const xy: number[] = []
  const times: number[] = []
  const heights: number[] = []
  const last = line.lengths.length - 1
  for (let i = 0; i <= last; i += 6) {
    const share = line.lengths[i]! / line.length
    const stray = i === 0 || i + 6 > last ? 0 : 7
    xy.push(line.points[2 * i]! + stray * lineNoise(seed, i / 9), line.points[2 * i + 1]! + stray * lineNoise(seed + 1, i / 9))
    times.push(began + times.length * EVERY)
    heights.push(height(share))
  }
  return trackCourse(xy, times, heights)
}

/** A walk of one day over Great Wick: a recorded track, drawn by hand, in an upright frame. */
export function walkJourney(sheet: Sheet): Journey {
  const began = 1_782_900_000
  const wash = WASH_PRESETS.find(({ name }) => name === 'Rag paper')!.wash
  const sepia = '#6b2f1a'
  const label = { style: { size: 58, colour: '#3b2413', halo: { colour: '#f8efda' } } }
  const pin = { shape: 'drop' as const, colour: '#a8371f', size: 96, inside: { kind: 'number' as const } }
  const ink = {
    colour: sepia,
    width: 12,
    hand: 'brush' as const,
    planned: { colour: '#3b2413', width: 5, opacity: 0.4, line: { kind: 'dotted' as const, space: 14 } },
  }
  const document: JourneyInput = {
    format: JOURNEY_FORMAT,
    version: JOURNEY_VERSION,
    name: 'Over Great Wick on foot',
    frame: { width: 1080, height: 1920, rate: '30/1' },
    seconds: 18,
    sheets: [{ ...sheet, wash }],
    ground: { edge: 'mirrored' },
    sun: { bearing: -45, height: 38, softness: 0.5, strength: 0.4 },
    camera: { centre: { x: 1560, y: 1720 }, zoom: 1.22, bearing: 0, pitch: 20 },
    shots: [
      {
        kind: 'free',
        id: 'tarn',
        at: { at: 'departure', stop: 'millbeck', offset: 0.6 },
        transition: 4,
        view: { centre: { x: 1790, y: 1600 }, zoom: 1.2, bearing: 22, pitch: 42 },
      },
      {
        kind: 'free',
        id: 'descent',
        at: { at: 'departure', stop: 'tarn', offset: -0.3 },
        transition: 4.5,
        view: { centre: { x: 2170, y: 1610 }, zoom: 0.78, bearing: 20, pitch: 40 },
      },
      {
        kind: 'free',
        id: 'end',
        at: { at: 'arrival', stop: 'oarsend', offset: -1.4 },
        transition: 2.6,
        view: { centre: { x: 2120, y: 1690 }, zoom: 0.6, bearing: 0, pitch: 0 },
      },
    ],
    stops: [
      { id: 'millbeck', name: 'Millbeck', at: MILLBECK, pin, label },
      {
        id: 'tarn',
        name: 'Lamplighter’s Tarn',
        at: TARN,
        pin: { ...pin, circle: { kind: 'by-hand', colour: '#a8371f', radius: 0.95 } },
        label,
        postcards: [
          {
            id: 'alone',
            text: 'Eleven hundred metres, and not a soul',
            frame: 'torn',
            size: 430,
            tilt: -4,
            paper: '#f8efda',
            colour: '#3b2413',
            comes: 'rise',
          },
        ],
      },
      {
        id: 'oarsend',
        name: 'Oar’s End',
        at: OARS_END,
        pin: { ...pin, circle: { kind: 'by-hand', colour: '#a8371f', radius: 0.95 } },
        label,
      },
    ],
    landmarks: [
      {
        kind: 'mark',
        id: 'beacon',
        name: 'Old beacon',
        at: { x: 2150, y: 1300 },
        pin: { shape: 'disc', colour: '#17646b', size: 76, lift: 0.9, inside: { kind: 'icon', icon: 'view' } },
        label: { style: { ...label.style, size: 38 } },
      },
    ],
    captions: [
      {
        id: 'title',
        content: { kind: 'title', text: 'Over Great Wick\non foot', second: 'one day in June' },
        corner: 'top',
        style: { family: 'playpen-sans', weight: 600, size: 92, colour: '#3b2413', halo: { colour: '#f8efda', width: 0.1 } },
        appears: { style: 'wipe', by: 'word' },
        shown: { from: { at: 'start' }, to: { at: 'start', offset: 4 }, fade: 0.5 },
      },
      ...(['distance', 'height'] as const).map((kind) => ({
        id: kind,
        content: { kind },
        heading: kind === 'distance' ? 'Walked' : 'Height',
        corner: kind === 'distance' ? ('bottom-left' as const) : ('bottom-right' as const),
        style: { family: 'playpen-sans' as const, weight: 600, size: 70, colour: '#3b2413', halo: { colour: '#f8efda', width: 0.1 } },
      })),
    ],
    travellers: [
      {
        id: 'traveller',
        colour: sepia,
        visits: [
          { stop: 'millbeck', layover: 1 },
          { stop: 'tarn', layover: 2.6 },
          { stop: 'oarsend', layover: 2.2 },
        ],
        legs: [
          {
            id: 'up',
            course: recording(UP, began, 3, (share) => 160 + 980 * share),
            easing: 'recorded',
            vehicle: { kind: 'catalogue', artwork: 'walker', colour: '#17646b', size: 118 },
            ink,
          },
          {
            id: 'down',
            course: recording(DOWN, began + 9000, 5, (share) => 1140 - 1130 * share),
            easing: 'recorded',
            vehicle: { kind: 'catalogue', artwork: 'walker', colour: '#17646b', size: 118 },
            ink,
          },
        ],
      },
    ],
  }
  return parseJourney(document)
}
