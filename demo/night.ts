import type { Point } from '#core/geometry/point'
import { parseJourney } from '#core/journey/parse'
import type { Journey, JourneyInput, Sheet } from '#core/journey/schema'
import { JOURNEY_FORMAT, JOURNEY_VERSION } from '#core/journey/schema'
import { WASH_PRESETS } from '#core/sheet/wash'
import { TOWNS } from './places'

/** The harbour north of Saltern, where the ferry from Emberlight lands. */
const SALTERN_QUAY: Point = { x: 4955, y: 2258 }

const GOLD = '#ffc46b'
const SEA_LIGHT = '#7ad8ff'

/** A night crossing: by ferry past the lighthouses to Saltern, then by air over the dark sea. */
export function nightJourney(sheet: Sheet): Journey {
  const wash = WASH_PRESETS.find(({ name }) => name === 'Night ink')!.wash
  const label = { style: { size: 48, colour: '#fdf3d8', halo: { colour: '#0a1426' } } }
  const lighthouse = { shape: 'tower' as const, colour: '#d8412f', size: 74, circle: { kind: 'pulse' as const, colour: GOLD, radius: 1.5 } }
  const stop = (id: string, name: string, at: Point) => ({
    id,
    name,
    at,
    pin: lighthouse,
    label,
  })
  const document: JourneyInput = {
    format: JOURNEY_FORMAT,
    version: JOURNEY_VERSION,
    name: 'Night crossing',
    frame: { width: 1920, height: 1080, rate: '30/1' },
    seconds: 20,
    sheets: [{ ...sheet, wash }],
    ground: { edge: 'mirrored' },
    camera: { centre: { x: 5200, y: 1250 }, zoom: 0.8, bearing: -14, pitch: 46 },
    shots: [
      {
        kind: 'free',
        id: 'sound',
        at: { at: 'departure', stop: 'emberlight', offset: 0.4 },
        transition: 4.6,
        view: { centre: { x: 5100, y: 1960 }, zoom: 0.66, bearing: 18, pitch: 52 },
      },
      {
        kind: 'free',
        id: 'open-sea',
        at: { at: 'departure', stop: 'saltern', offset: -0.4 },
        transition: 3.2,
        view: { centre: { x: 3640, y: 2360 }, zoom: 0.5, bearing: 0, pitch: 40 },
      },
      {
        kind: 'free',
        id: 'whole-way',
        at: { at: 'arrival', stop: 'quillhaven', offset: -1.2 },
        transition: 3,
        view: { centre: { x: 3980, y: 1780 }, zoom: 0.42, bearing: 0, pitch: 26 },
      },
    ],
    stops: [
      stop('emberlight', 'Emberlight', TOWNS.emberlight.at),
      stop('saltern', 'Saltern Quay', SALTERN_QUAY),
      stop('quillhaven', 'Quillhaven', TOWNS.quillhaven.at),
    ],
    captions: [
      {
        id: 'title',
        content: { kind: 'title', text: 'Night crossing', second: 'Emberlight to Quillhaven' },
        corner: 'left',
        style: { family: 'jura', size: 84, case: 'capitals', spacing: 0.16, colour: '#fdf3d8', halo: null, shadow: 1 },
        appears: { style: 'fade', by: 'letter' },
        shown: { from: { at: 'start' }, to: { at: 'start', offset: 3.6 }, fade: 0.6 },
      },
      {
        id: 'distance',
        content: { kind: 'distance' },
        corner: 'bottom-left',
        style: { family: 'jura', size: 64, colour: GOLD, halo: null, shadow: 1 },
        shown: { from: { at: 'start', offset: 3.8 }, to: { at: 'end' }, fade: 0.5 },
      },
    ],
    measures: { unit: 'nmi' },
    // Dusk when it begins, and night before the ferry has landed.
    valueMarks: [
      { id: 'dusk', value: 'wash', sheet: sheet.id, at: { at: 'start' }, within: 0, to: 0.3 },
      { id: 'night', value: 'wash', sheet: sheet.id, at: { at: 'departure', stop: 'emberlight', offset: 0.5 }, within: 6, to: 1 },
      { id: 'faint', value: 'line-light', leg: 'ferry', at: { at: 'start' }, within: 0, to: 0.2 },
      { id: 'bright', value: 'line-light', leg: 'ferry', at: { at: 'departure', stop: 'emberlight', offset: 1.5 }, within: 4, to: 1 },
    ],
    travellers: [
      {
        id: 'traveller',
        name: 'Night mail',
        colour: GOLD,
        visits: [
          { stop: 'emberlight', layover: 1.2 },
          { stop: 'saltern', layover: 1.6 },
          { stop: 'quillhaven', layover: 2.4 },
        ],
        legs: [
          {
            id: 'ferry',
            course: {
              kind: 'drawn',
              leave: { x: -60, y: 220 },
              nodes: [{ at: { x: 5400, y: 1900 }, kind: 'smooth', before: { x: 90, y: -260 }, after: { x: -90, y: 260 } }],
              arrive: { x: 150, y: -150 },
            },
            vehicle: {
              kind: 'catalogue',
              artwork: 'ferry',
              colour: '#d8412f',
              size: 132,
              lively: 0.6,
              carries: { kind: 'plate', text: 'Night mail', size: 34 },
            },
            ink: {
              colour: GOLD,
              gradient: ['#ff8f5a', SEA_LIGHT],
              width: 8,
              feather: 260,
              glow: { colour: '#ff9d3c', radius: 34, strength: 0.95, breathes: true },
              planned: { colour: '#fdf3d8', width: 4, opacity: 0.35, line: { kind: 'dotted', space: 14 } },
            },
          },
          {
            id: 'flight',
            course: { kind: 'bowed', bow: -0.2 },
            vehicle: { kind: 'catalogue', artwork: 'airliner', colour: '#f2efe4', size: 128 },
            ink: {
              colour: SEA_LIGHT,
              width: 7,
              line: { kind: 'dashed', dash: 34, space: 20, fitted: true },
              glow: { colour: '#3f9cff', radius: 30, strength: 0.95, spark: true },
              planned: { colour: '#fdf3d8', width: 4, opacity: 0.35, line: { kind: 'dotted', space: 14 } },
            },
          },
        ],
      },
    ],
  }
  return parseJourney(document)
}
