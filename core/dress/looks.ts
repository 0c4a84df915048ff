import type { z } from 'zod'
import type { Ink, Pin, TextStyle, Wash } from '../journey/schema'
import { inkSchema, pinSchema } from '../journey/schema'
import { WASH_PRESETS } from '../sheet/wash'
import { INK_STYLES } from './ink-styles'
import { TEXT_LOOKS } from './text-styles'

/** A look of the whole journey: the map's wash, the lines, pins and letters, all of one kind. */
export interface JourneyLook {
  id: string
  name: string
  wash: Wash | null
  /** The ground where there is no map. */
  ground: string
  /** The colours of the travellers, one after another. */
  colours: readonly string[]
  /** The line of legs on the ground, and of flights; in the colour of their traveller. */
  ink: Ink
  flight: Ink
  pin: Pick<Pin, 'shape' | 'circle'>
  text: TextStyle
  /** The paper of postcards, and what is written on it. */
  paper: string
  writing: string
}

interface Parts {
  wash: string
  ground: string
  colours: readonly string[]
  ink: string | z.input<typeof inkSchema>
  flight?: string | z.input<typeof inkSchema>
  pin: Pin['shape']
  circle?: 'pulse' | 'settling' | 'by-hand'
  text: string
  /** What the letters of the ready-made look are changed to. */
  letters?: Partial<TextStyle>
  paper?: string
  writing?: string
}

const inkOf = (ink: NonNullable<Parts['flight']>): Ink =>
  typeof ink === 'string' ? INK_STYLES.find(({ id }) => id === ink)!.ink : inkSchema.parse(ink)

function look(id: string, name: string, parts: Parts): JourneyLook {
  const { wash, ground, colours, ink, flight, pin, circle, text, letters, paper = '#fbf6ea', writing = '#14233a' } = parts
  const radius = circle === 'by-hand' ? 0.95 : 0.8
  return {
    id,
    name,
    wash: WASH_PRESETS.find((preset) => preset.name === wash)!.wash,
    ground,
    colours,
    ink: inkOf(ink),
    flight: inkOf(flight ?? ink),
    pin: pinSchema.parse({ shape: pin, circle: circle ? { kind: circle, colour: colours[0], radius } : null }),
    text: { ...TEXT_LOOKS.find((entry) => entry.id === text)!.style, ...letters },
    paper,
    writing,
  }
}

const DARK_HALO = { halo: { colour: '#0a1426', width: 0.1 } }

export const JOURNEY_LOOKS: readonly JourneyLook[] = [
  look('chart-table', 'Chart table', {
    wash: 'As it is',
    ground: '#dfe6dc',
    colours: ['#d8412f', '#27406b', '#17646b', '#c9962b'],
    ink: 'atlas',
    flight: { width: 8, line: { kind: 'dashed', dash: 26, space: 18, fitted: true }, casing: { colour: '#fbf6ea', width: 4 } },
    pin: 'lantern',
    text: 'chart',
  }),
  look('logbook', 'Logbook', {
    wash: 'Old paper',
    ground: '#eadcbd',
    colours: ['#8f2a1c', '#2f4a3a', '#5b3a66', '#3b2413'],
    ink: { ...INK_STYLES.find(({ id }) => id === 'expedition')!.ink, colour: undefined },
    pin: 'flag',
    text: 'chart',
    letters: { colour: '#3b2413', halo: { colour: '#f6e9cc', width: 0.1 } },
    paper: '#f6e9cc',
    writing: '#3b2413',
  }),
  look('night-watch', 'Night watch', {
    wash: 'Night ink',
    ground: '#0d1a2e',
    colours: ['#ffb84d', '#7ad8ff', '#ff8f5a', '#b8f0c8'],
    ink: { width: 7, glow: { colour: '#ffa126', radius: 34, strength: 1 } },
    flight: {
      width: 6,
      line: { kind: 'dashed', dash: 32, space: 20, fitted: true },
      glow: { colour: '#3f9cff', radius: 30, strength: 0.9 },
    },
    pin: 'tower',
    circle: 'pulse',
    text: 'lamplight',
  }),
  look('sea-glass', 'Sea glass', {
    wash: 'Sea glass',
    ground: '#cfe3dc',
    colours: ['#17646b', '#d8412f', '#27406b', '#c9962b'],
    ink: { width: 10, line: { kind: 'dotted', space: 12, fitted: true }, comes: 'popping' },
    pin: 'drop',
    text: 'pebble',
    letters: { plate: { shape: 'pill', colour: '#14504f', opacity: 1 } },
  }),
  look('chalk-board', 'Chalk board', {
    wash: 'Charcoal',
    ground: '#1c2023',
    colours: ['#f4efe2', '#ffd37a', '#9fd8c8', '#f2a79a'],
    ink: 'chalk',
    pin: 'ring',
    circle: 'by-hand',
    text: 'notebook',
    letters: { colour: '#f4efe2', halo: { colour: '#1c2023', width: 0.1 }, plate: null },
    paper: '#f4efe2',
  }),
  look('field-notes', 'Field notes', {
    wash: 'Rag paper',
    ground: '#e8d9b5',
    colours: ['#6b2f1a', '#27406b', '#2f5a3a', '#7a4a12'],
    ink: 'brush',
    flight: 'pencil',
    pin: 'drop',
    circle: 'by-hand',
    text: 'notebook',
    paper: '#f8efda',
    writing: '#3b2413',
  }),
  look('poster', 'Poster', {
    wash: 'Festival',
    ground: '#f3d9a4',
    colours: ['#d8412f', '#17646b', '#5b2a6b', '#27406b'],
    ink: { width: 15, casing: { colour: '#fbf6ea', width: 5 }, shadow: { opacity: 0.35, blur: 5, offset: 5 } },
    pin: 'star',
    circle: 'settling',
    text: 'playbill',
  }),
  look('timetable', 'Timetable', {
    wash: 'Chalk',
    ground: '#eceae2',
    colours: ['#27406b', '#d8412f', '#17646b', '#c9962b'],
    ink: { width: 9, casing: { colour: '#ffffff', width: 3 } },
    flight: { width: 9, line: { kind: 'double', between: 0.3 } },
    pin: 'disc',
    text: 'harbour',
  }),
  look('ember', 'Ember', {
    wash: 'Ember',
    ground: '#24101a',
    colours: ['#ffcf6b', '#ff8f5a', '#f4efe2', '#f2b134'],
    ink: { gradient: ['#ff8f5a', '#d8412f'], width: 9, glow: { colour: '#ff7a2e', radius: 30, strength: 0.85 } },
    pin: 'diamond',
    text: 'whisper',
  }),
  look('signal-room', 'Signal room', {
    wash: 'Phosphor',
    ground: '#04110f',
    colours: ['#5ff0c8', '#ffd37a', '#7ad8ff', '#ff9d8a'],
    ink: { width: 5, glow: { colour: '#39e0c2', radius: 24, strength: 0.85, spark: true } },
    flight: { width: 5, line: { kind: 'dashed', dash: 18, space: 14 }, glow: { colour: '#39e0c2', radius: 24, strength: 0.8 } },
    pin: 'ring',
    circle: 'pulse',
    text: 'chartroom',
    letters: { colour: '#c8fff0', halo: { colour: '#04110f', width: 0.12 } },
  }),
  look('expedition', 'Expedition', {
    wash: 'Old paper',
    ground: '#e3d3ae',
    colours: ['#a8371f', '#1f4a52', '#6b4a12', '#4a2a5b'],
    ink: 'footprints',
    flight: { width: 8, line: { kind: 'stamped', stamp: 'chevron', space: 10, fitted: true } },
    pin: 'tent',
    text: 'stamp',
    letters: { colour: '#5a2413', halo: { colour: '#f6e9cc', width: 0.11 } },
    paper: '#f6e9cc',
    writing: '#3b2413',
  }),
  look('quiet-film', 'Quiet film', {
    wash: 'Charcoal',
    ground: '#23272b',
    colours: ['#ffffff', '#ffd37a', '#9fc8e0', '#f2a79a'],
    ink: { width: 5, taper: 300 },
    pin: 'bead',
    text: 'whisper',
  }),
  look('railway', 'Railway guide', {
    wash: 'Chalk',
    ground: '#f1ecdc',
    colours: ['#14233a', '#8f2a1c', '#17646b', '#7a4a12'],
    ink: { width: 20, line: { kind: 'railway', space: 13 } },
    flight: { width: 7, line: { kind: 'dotted', space: 12, fitted: true } },
    pin: 'signpost',
    text: 'ticket',
  }),
  look('sunset', 'Sunset drive', {
    wash: 'Festival',
    ground: '#f7d9b0',
    colours: ['#f2b134', '#d8412f', '#17646b', '#fbf6ea'],
    ink: { gradient: ['#d8412f', '#5b2a6b'], width: 12, casing: { colour: '#fbf6ea', width: 3 } },
    pin: 'pennant',
    text: 'ribbon',
  }),
  look('pencil-case', 'Pencil case', {
    wash: 'Chalk',
    ground: '#fbf6ea',
    colours: ['#27406b', '#a8371f', '#17646b', '#6b4a12'],
    ink: 'pencil',
    pin: 'stake',
    circle: 'by-hand',
    text: 'note-card',
  }),
  look('lamplight', 'Lamplight', {
    wash: 'Night ink',
    ground: '#101c30',
    colours: ['#fdf3d8', '#ffb84d', '#7ad8ff', '#f2a79a'],
    ink: 'comet',
    pin: 'lantern',
    text: 'lamplight',
    letters: { family: 'alegreya-sans', weight: 500, ...DARK_HALO },
  }),
]
