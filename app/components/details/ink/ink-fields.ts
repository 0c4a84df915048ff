import { boundsOf } from '#core/journey/bounds'
import {
  afterSchema,
  arrowSchema,
  casingSchema,
  glowSchema,
  leaderSchema,
  lineSchema,
  particlesSchema,
  plannedSchema,
  shadowSchema,
} from '#core/journey/schema'
import type { Arrow, Glow, Ink, Leader, Line, Particles, Planned } from '#core/journey/schema'
import type { FieldSpec } from '~/components/fields/field-list'

/** What can be set of an ink, group by group. */

const px = { as: 'number', unit: 'px' } as const
const seconds = { as: 'number', usual: [0.1, 6], step: 0.1, precision: 1, unit: 's' } as const
const FITTED = { key: 'fitted', label: 'End on a whole mark', as: 'switch' } as const

export const LINE_KINDS: readonly { value: Line['kind']; title: string }[] = [
  { value: 'solid', title: 'Solid' },
  { value: 'dashed', title: 'Dashed' },
  { value: 'dotted', title: 'Dotted' },
  { value: 'double', title: 'Double' },
  { value: 'railway', title: 'Rails' },
  { value: 'stamped', title: 'Stamped marks' },
  { value: 'hidden', title: 'Not shown' },
]

export const STAMP_NAMES = {
  chevron: 'Chevrons',
  footprints: 'Footprints',
  paws: 'Paws',
  waves: 'Waves',
  diamonds: 'Diamonds',
  crosses: 'Crosses',
  own: 'A picture of your own …',
} as const satisfies Record<Extract<Line, { kind: 'stamped' }>['stamp'], string>

export const LINE_FIELDS: { [K in Line['kind']]: readonly FieldSpec<Extract<Line, { kind: K }>>[] } = {
  solid: [],
  dashed: [
    { key: 'dash', label: 'Dash', ...px, ...boundsOf(lineSchema, 'dashed.dash'), usual: [2, 120] },
    { key: 'space', label: 'Space', ...px, ...boundsOf(lineSchema, 'dashed.space'), usual: [2, 120] },
    FITTED,
  ],
  dotted: [{ key: 'space', label: 'Space', ...px, ...boundsOf(lineSchema, 'dotted.space'), usual: [2, 120] }, FITTED],
  double: [{ key: 'between', label: 'Between', as: 'percent', ...boundsOf(lineSchema, 'double.between') }],
  railway: [{ key: 'space', label: 'Sleepers', ...px, ...boundsOf(lineSchema, 'railway.space'), usual: [4, 120] }],
  stamped: [{ key: 'space', label: 'Space', ...px, ...boundsOf(lineSchema, 'stamped.space'), usual: [2, 120] }, FITTED],
  hidden: [],
}

const CASING_FIELDS: readonly FieldSpec<NonNullable<Ink['casing']>>[] = [
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'width', label: 'Width', ...px, ...boundsOf(casingSchema, 'width'), usual: [1, 20], step: 0.5, precision: 1 },
]

const SHADOW_FIELDS: readonly FieldSpec<NonNullable<Ink['shadow']>>[] = [
  { key: 'opacity', label: 'Strength', as: 'percent' },
  { key: 'blur', label: 'Softness', ...px, ...boundsOf(shadowSchema, 'blur'), usual: [0, 40] },
  { key: 'offset', label: 'Below', ...px, ...boundsOf(shadowSchema, 'offset'), usual: [0, 40] },
]

const GLOW_FIELDS: readonly FieldSpec<Glow>[] = [
  { key: 'colour', label: 'Light', as: 'colour' },
  { key: 'radius', label: 'Reach', ...px, ...boundsOf(glowSchema, 'radius'), usual: [2, 100] },
  { key: 'strength', label: 'Strength', as: 'percent' },
  { key: 'breathes', label: 'Pulses slowly', as: 'switch' },
  { key: 'spark', label: 'A bright spot runs along', as: 'switch' },
]

const ARROW_FIELDS: readonly FieldSpec<Arrow>[] = [
  {
    key: 'shape',
    label: 'Shape',
    as: 'choice',
    choices: [
      { value: 'barbed', title: 'Barbed' },
      { value: 'broad', title: 'Broad' },
      { value: 'open', title: 'Open' },
    ],
  },
  {
    key: 'at',
    label: 'Where',
    as: 'choice',
    choices: [
      { value: 'head', title: 'Leads' },
      { value: 'end', title: 'At the end' },
    ],
  },
  { key: 'size', label: 'Size', as: 'number', ...boundsOf(arrowSchema, 'size'), usual: [1.5, 8], step: 0.1, precision: 1, unit: '×' },
]

const LEADER_FIELDS: readonly FieldSpec<Leader>[] = [
  {
    key: 'shape',
    label: 'Shape',
    as: 'choice',
    choices: [
      { value: 'dot', title: 'Dot' },
      { value: 'ring', title: 'Ring' },
    ],
  },
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'size', label: 'Size', ...px, ...boundsOf(leaderSchema, 'size'), usual: [6, 80] },
]

const pace = { as: 'number', unit: 'px/s' } as const
const PARTICLES_FIELDS: readonly FieldSpec<Particles>[] = [
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'perSecond', label: 'A second', as: 'number', ...boundsOf(particlesSchema, 'perSecond') },
  { key: 'size', label: 'Size', ...px, ...boundsOf(particlesSchema, 'size'), usual: [1, 30], step: 0.5, precision: 1 },
  { key: 'life', label: 'Life', ...seconds, ...boundsOf(particlesSchema, 'life'), usual: [0.1, 4] },
  { key: 'drift', label: 'Drift', ...pace, ...boundsOf(particlesSchema, 'drift'), usual: [0, 200] },
  { key: 'rise', label: 'Rise', ...pace, ...boundsOf(particlesSchema, 'rise'), usual: [-100, 100] },
]

const PLANNED_FIELDS: readonly FieldSpec<Planned>[] = [
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'width', label: 'Width', ...px, ...boundsOf(plannedSchema, 'width'), usual: [1, 30], step: 0.5, precision: 1 },
  { key: 'opacity', label: 'Opacity', as: 'percent' },
]

/** The parts of an ink that can be left out: what each begins with, and what can be set of it. */
export const INK_PARTS = {
  casing: { initial: casingSchema.parse({}), fields: CASING_FIELDS },
  shadow: { initial: shadowSchema.parse({}), fields: SHADOW_FIELDS },
  glow: { initial: glowSchema.parse({}), fields: GLOW_FIELDS },
  arrow: { initial: arrowSchema.parse({}), fields: ARROW_FIELDS },
  leader: { initial: leaderSchema.parse({}), fields: LEADER_FIELDS },
  particles: { initial: particlesSchema.parse({}), fields: PARTICLES_FIELDS },
  planned: { initial: plannedSchema.parse({}), fields: PLANNED_FIELDS },
} as const satisfies {
  [K in 'casing' | 'shadow' | 'glow' | 'arrow' | 'leader' | 'particles' | 'planned']: {
    initial: Ink[K]
    fields: readonly FieldSpec<NonNullable<Ink[K]>>[]
  }
}

export const HAND_NAMES = [
  { value: 'none', title: 'No' },
  { value: 'pencil', title: 'Pencil' },
  { value: 'brush', title: 'Brush' },
  { value: 'chalk', title: 'Chalk' },
] as const satisfies readonly { value: Ink['hand']; title: string }[]

export const COMING_NAMES = [
  { value: 'drawn', title: 'Drawn with its traveller' },
  { value: 'piece-by-piece', title: 'Dash by dash' },
  { value: 'popping', title: 'Popping up one by one' },
  { value: 'faded', title: 'Fades in whole' },
  { value: 'from-middle', title: 'From the middle' },
] as const satisfies readonly { value: Ink['comes']; title: string }[]

export const AFTER_NAMES = [
  { value: 'stays', title: 'Stays' },
  { value: 'dims', title: 'Dims' },
  { value: 'fades', title: 'Fades away' },
  { value: 'runs-out', title: 'Erases from the tail' },
] as const satisfies readonly { value: Ink['after']['kind']; title: string }[]

export const AFTER_FIELDS: { [K in Ink['after']['kind']]: readonly FieldSpec<Extract<Ink['after'], { kind: K }>>[] } = {
  stays: [],
  dims: [
    { key: 'opacity', label: 'To', as: 'percent' },
    { key: 'seconds', label: 'Within', ...seconds, ...boundsOf(afterSchema, 'dims.seconds') },
  ],
  fades: [{ key: 'seconds', label: 'Within', ...seconds, ...boundsOf(afterSchema, 'fades.seconds') }],
  'runs-out': [{ key: 'seconds', label: 'Within', ...seconds, ...boundsOf(afterSchema, 'runs-out.seconds') }],
}
