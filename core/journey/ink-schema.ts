import { z } from 'zod'
import { photoSchema } from './picture-schema'
import { colour, lasting, unit } from './values'

/** The look of a leg's line. Lengths are in reference pixels (rpx), those along the line at the zoom at which the leg is travelled. */

const stretch = z.number().min(1).max(400)

/** Whether the pattern is stretched a little, so that the line begins and ends with a whole dash or mark. */
const fitted = z.boolean().default(false)

export const STAMPS = ['chevron', 'footprints', 'paws', 'waves', 'diamonds', 'crosses', 'own'] as const

export const lineSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('solid') }),
  /** Visible lengths, caps included. */
  z.strictObject({ kind: z.literal('dashed'), dash: stretch.default(26), space: stretch.default(18), fitted }),
  /** Round dots, and the space between two of them. */
  z.strictObject({ kind: z.literal('dotted'), space: stretch.default(18), fitted }),
  /** Two lines side by side; the space between them as a share of the whole width. */
  z.strictObject({ kind: z.literal('double'), between: z.number().min(0.1).max(0.8).default(0.4) }),
  /** Rails on sleepers, and the space between two of these. */
  z.strictObject({ kind: z.literal('railway'), space: stretch.default(16) }),
  /** Marks in the direction of travel, and the space between two of them. */
  z
    .strictObject({
      kind: z.literal('stamped'),
      stamp: z.enum(STAMPS).default('chevron'),
      /** The mark of one's own, which faces to the right. */
      picture: photoSchema.nullable().default(null),
      space: stretch.default(18),
      fitted,
    })
    .refine(({ stamp, picture }) => stamp !== 'own' || picture !== null, 'has no picture, though its mark is one of its own'),
  /** Not seen: the leg only guides its vehicle. */
  z.strictObject({ kind: z.literal('hidden') }),
])

export const glowSchema = z.strictObject({
  colour: colour.default('#ffd27a'),
  /** How far the light reaches. */
  radius: z.number().min(1).max(120).default(22),
  strength: unit.default(0.8),
  /** Whether the light swells and falls slowly. */
  breathes: z.boolean().default(false),
  /** Whether a bright spot runs along the line again and again. */
  spark: z.boolean().default(false),
})

export const casingSchema = z.strictObject({
  colour: colour.default('#fbf6ea'),
  /** How far it stands out on either side. */
  width: z.number().min(0.5).max(40).default(4),
})

export const shadowSchema = z.strictObject({
  opacity: unit.default(0.45),
  blur: z.number().min(0).max(60).default(6),
  /** How far below the line it lies. */
  offset: z.number().min(0).max(60).default(5),
})

const ARROW_SHAPES = ['barbed', 'broad', 'open'] as const
export const arrowSchema = z.strictObject({
  shape: z.enum(ARROW_SHAPES).default('barbed'),
  /** Whether it leads the line, or waits at its end until that is reached. */
  at: z.enum(['head', 'end']).default('head'),
  /** Its width, in widths of the line. */
  size: z.number().min(1.5).max(10).default(3.2),
})

export const leaderSchema = z.strictObject({
  shape: z.enum(['dot', 'ring']).default('dot'),
  colour: colour.default('#fbf6ea'),
  /** Its diameter. */
  size: z.number().min(4).max(120).default(24),
})

/** Sparks or dust that the traveller leaves behind. Sizes and speeds are the most; each particle has some of its own. */
export const particlesSchema = z.strictObject({
  colour: colour.default('#ffe3a0'),
  perSecond: z.number().min(1).max(120).default(50),
  /** Diameter in rpx, and how long it is seen, in seconds. */
  size: z.number().min(1).max(60).default(7),
  life: z.number().min(0.1).max(4).default(1.4),
  /** How fast it drifts off to any side, and how fast it rises, or falls where negative, in rpx a second. */
  drift: z.number().min(0).max(400).default(60),
  rise: z.number().min(-300).max(300).default(0),
})

/** The course that is still to be travelled, shown before it is. */
export const plannedSchema = z.strictObject({
  colour: colour.default('#14233a'),
  width: z.number().min(0.5).max(60).default(4),
  opacity: unit.default(0.45),
  line: lineSchema.prefault({ kind: 'dotted', space: 12 }),
})

/** What becomes of a line after its leg has been travelled; in seconds. */
export const afterSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('stays') }),
  z.strictObject({ kind: z.literal('dims'), opacity: unit.default(0.35), seconds: z.number().min(0.1).max(30).default(1) }),
  z.strictObject({ kind: z.literal('fades'), seconds: z.number().min(0.1).max(30).default(1.5) }),
  z.strictObject({ kind: z.literal('runs-out'), seconds: z.number().min(0.1).max(30).default(1.5) }),
])

const JOINS = ['round', 'bevel', 'mitre'] as const
const HANDS = ['none', 'pencil', 'brush', 'chalk'] as const
const COMINGS = ['drawn', 'piece-by-piece', 'popping', 'faded', 'from-middle'] as const

export const inkSchema = z.strictObject({
  colour: colour.default('#d8412f'),
  /** Colours to which it changes along its course, in equal steps from `colour` on. */
  gradient: z.array(colour).max(5).default([]),
  opacity: z.number().min(0.05).max(1).default(1),
  /** Stroke width; of rails, from one end of a sleeper to the other. */
  width: z.number().min(0.5).max(100).default(9),
  cap: z.enum(['round', 'butt', 'square']).default('round'),
  /** How its corners are joined; a mitre that would be longer than so many widths of the line is bevelled. */
  join: z.enum(JOINS).default('round'),
  mitreLimit: z.number().min(1).max(20).default(4),
  line: lineSchema.prefault({ kind: 'solid' }),
  /** What it seems to have been drawn with by hand. */
  hand: z.enum(HANDS).default('none'),
  casing: casingSchema.nullable().default(null),
  shadow: shadowSchema.nullable().default(null),
  glow: glowSchema.nullable().default(null),
  /** The length over which it grows from nothing at its tail. */
  taper: z.number().min(0).max(4000).default(0),
  /** How soft its edges are: the standard deviation of their blur. */
  soft: z.number().min(0).max(60).default(0),
  /** The length over which it fades out towards its head, while that is on its way. */
  feather: z.number().min(0).max(4000).default(0),
  arrow: arrowSchema.nullable().default(null),
  leader: leaderSchema.nullable().default(null),
  particles: particlesSchema.nullable().default(null),
  /** How fast its pattern moves along the line, in rpx a second; backwards where negative. */
  march: z.number().min(-400).max(400).default(0),
  /** How it comes into the picture: with its traveller, and as a whole or in pieces, or by itself. */
  comes: z.enum(COMINGS).default('drawn'),
  /** How long it takes to fade in, where it does, in seconds. */
  comesIn: lasting,
  planned: plannedSchema.nullable().default(null),
  after: afterSchema.prefault({ kind: 'stays' }),
  /** The length that stays behind the traveller; null for all of it. */
  wake: z.number().min(10).max(8000).nullable().default(null),
})

export type Ink = z.output<typeof inkSchema>
export type Line = z.output<typeof lineSchema>
/** The marks that are drawn by the application. */
export type Stamp = Exclude<(typeof STAMPS)[number], 'own'>
export type Glow = z.output<typeof glowSchema>
export type Arrow = z.output<typeof arrowSchema>
export type Leader = z.output<typeof leaderSchema>
export type Particles = z.output<typeof particlesSchema>
export type Planned = z.output<typeof plannedSchema>
export type Join = (typeof JOINS)[number]
export type Hand = (typeof HANDS)[number]
export type Coming = (typeof COMINGS)[number]
