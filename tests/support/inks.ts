import type { z } from 'zod'
import { courseOf } from '#core/geometry/course'
import type { Course } from '#core/geometry/course'
import { bowedCubics } from '#core/geometry/bow'
import type { InkItem } from '#core/frame/frame'
import type { Coming, Hand, Line } from '#core/journey/schema'
import { inkSchema, STAMPS } from '#core/journey/schema'

export type InkInput = z.input<typeof inkSchema>

/** A course that bends, in a frame of 1920 x 1080 at a zoom of one. */
export const BENT = courseOf(bowedCubics({ x: 500, y: 500 }, { x: 1300, y: 700 }, 0.3))

/** Ink along a course as a frame has it, with all of it drawn unless said otherwise. */
export const inkItem = (input: InkInput, course: Course = BENT, fields: Partial<InkItem> = {}): InkItem => {
  const ink = inkSchema.parse(input)
  return {
    kind: 'ink',
    leg: 'l',
    layer: 0,
    course,
    tail: 0,
    head: course.length,
    front: Infinity,
    patternZoom: 1,
    phase: 0,
    opacity: ink.opacity,
    light: 1,
    spark: null,
    leads: true,
    ink,
    ...fields,
  }
}

/** A line of every kind; TypeScript asks for those that are yet to come. */
const LINES: { [K in Line['kind']]: InkInput } = {
  solid: { width: 20 },
  dashed: { width: 14, line: { kind: 'dashed', dash: 40, space: 26 } },
  dotted: { width: 24, line: { kind: 'dotted', space: 20, fitted: true } },
  double: { width: 24, line: { kind: 'double' } },
  railway: { width: 30, line: { kind: 'railway' } },
  stamped: { width: 16, line: { kind: 'stamped', stamp: 'footprints' } },
  hidden: { line: { kind: 'hidden' } },
}
const HANDS: Record<Exclude<Hand, 'none'>, InkInput> = {
  pencil: { width: 16, hand: 'pencil' },
  brush: { width: 30, hand: 'brush', taper: 200 },
  chalk: { width: 30, hand: 'chalk' },
}
const COMINGS: Record<Exclude<Coming, 'drawn'>, InkInput> = {
  'piece-by-piece': { width: 14, line: { kind: 'dashed' }, comes: 'piece-by-piece' },
  popping: { width: 24, line: { kind: 'dotted' }, comes: 'popping' },
  faded: { comes: 'faded', opacity: 0.6 },
  'from-middle': { comes: 'from-middle' },
}

/** An ink for everything that can be set of one, by name. */
export const EVERY_INK: readonly (readonly [name: string, ink: InkInput])[] = [
  ...Object.entries(LINES),
  ...Object.entries(HANDS),
  ...Object.entries(COMINGS),
  ...STAMPS.filter((stamp) => stamp !== 'own').map(
    (stamp) => [`stamped with ${stamp}`, { width: 14, line: { kind: 'stamped', stamp } }] as const,
  ),
  ['with square caps', { cap: 'square', width: 40 }],
  ['with a casing', { width: 16, casing: { width: 8 } }],
  ['with a shadow', { width: 16, shadow: { blur: 12, offset: 14 } }],
  ['with a wide glow', { glow: { colour: '#ffffff', radius: 60, strength: 1 } }],
  ['with a glow and a spark', { width: 12, glow: { colour: '#ffffff', radius: 40, strength: 1, spark: true, breathes: true } }],
  ['with a gradient', { width: 20, gradient: ['#17646b', '#27406b'] }],
  [
    'half transparent, with all at once',
    { width: 16, opacity: 0.5, casing: {}, shadow: {}, glow: {}, gradient: ['#17646b'], hand: 'brush' },
  ],
  ['tapered', { width: 30, taper: 300 }],
  ['with a barbed arrow', { width: 12, arrow: { shape: 'barbed', size: 6 } }],
  ['with a broad arrow at its end', { width: 12, arrow: { shape: 'broad', at: 'end', size: 6 } }],
  ['with an open arrow and a casing', { width: 12, arrow: { shape: 'open', size: 6 }, casing: {} }],
  ['with a ring at its head', { width: 8, leader: { shape: 'ring', size: 60 } }],
  ['with soft edges, a casing and a gradient', { width: 24, soft: 10, casing: {}, gradient: ['#17646b'] }],
  ['with soft dots', { width: 24, soft: 6, line: { kind: 'dotted' } }],
  ['with a feathered head, a casing and a glow', { width: 20, feather: 300, casing: {}, glow: {} }],
  ['marching', { width: 12, line: { kind: 'dashed' }, march: 80 }],
]
