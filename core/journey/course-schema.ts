import { z } from 'zod'
import { countIn, HEIGHTS_PATTERN, isRising, POINTS_PATTERN, TIMES_PATTERN } from './track-line'
import { id, LIMITS, point } from './values'

/** The ways from stop to stop, and the networks that they are led over. */

const NODE_KINDS = ['corner', 'smooth', 'symmetric'] as const

/** In gu: about the width of a frame over a map of ordinary size. */
const MOST_SMOOTHING = 2000

const nodeSchema = z.strictObject({
  at: point,
  /** How its handles are linked: not at all, in one line, or in one line with equal lengths. */
  kind: z.enum(NODE_KINDS).default('smooth'),
  /** Handles, as offsets from `at`, towards the node before and the node after. */
  before: point,
  after: point,
  /** The line is broken: it ends here and goes on at the next node, where the traveller is at once. */
  break: z.boolean().optional(),
})

export const NETWORK_MODES = ['road', 'rail', 'water'] as const

export const courseSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('straight') }),
  /** `bow` is the signed sagitta over the chord; positive bows to the left of the direction of travel. */
  z.strictObject({ kind: z.literal('bowed'), bow: z.number().min(-1).max(1).default(0.18) }),
  /**
   * From stop to stop through nodes; `leave` and `arrive` are the handles at the two stops, as offsets. With `smoothing` the line is a smoother one that
   * lies within about so many gu of that through the nodes, which stay as they are.
   */
  z.strictObject({
    kind: z.literal('drawn'),
    leave: point,
    nodes: z
      .array(nodeSchema)
      .max(LIMITS.nodes)
      .refine((nodes) => !nodes.at(-1)?.break, 'has a break after the last node: the line must end at the stop'),
    arrive: point,
    smoothing: z.number().positive().max(MOST_SMOOTHING).optional(),
  }),
  /** The shortest way over the Earth, where the ground is georeferenced; else straight. */
  z.strictObject({ kind: z.literal('great-circle') }),
  /** A recorded track: its points, whose ends are replaced by the stops, and the seconds at which each was reached, if known. */
  z
    .strictObject({
      kind: z.literal('track'),
      points: z
        .string()
        .max(24 * LIMITS.trackPoints)
        .regex(POINTS_PATTERN, 'must be points like "12.5,8 13,9.25"'),
      times: z
        .string()
        .max(14 * LIMITS.trackPoints)
        .regex(TIMES_PATTERN, 'must be seconds like "0 1.5 3"')
        .nullable()
        .default(null),
      /** When the first point was recorded, in seconds since 1970, where that is known. */
      began: z.number().min(-1e11).max(1e11).nullable().default(null),
      /** Metres above the sea at each point, where they are known. */
      heights: z
        .string()
        .max(9 * LIMITS.trackPoints)
        .regex(HEIGHTS_PATTERN, 'must be metres like "12 13.5 -2"')
        .nullable()
        .default(null),
    })
    .refine(({ points }) => countIn(points) <= LIMITS.trackPoints, `has more than ${LIMITS.trackPoints} points`)
    .refine(({ points, times }) => times === null || countIn(times) === countIn(points), 'has not as many times as points')
    .refine(({ times }) => times === null || isRising(times), 'has times that fall: each point is reached after the one before')
    .refine(({ points, heights }) => heights === null || countIn(heights) === countIn(points), 'has not as many heights as points'),
  /** The best way over the networks of a mode, by way of some spots; straight where there is none. */
  z.strictObject({
    kind: z.literal('network'),
    mode: z.enum(NETWORK_MODES),
    by: z.enum(['distance', 'time']).default('time'),
    vias: z.array(point).max(LIMITS.vias).default([]),
  }),
])

/** Lines to travel along by one mode, such as the roads of a region. */
export const networkSchema = z.strictObject({
  id,
  name: z.string().trim().max(120).default(''),
  mode: z.enum(NETWORK_MODES),
  lines: z
    .array(
      z.strictObject({
        points: z
          .string()
          .max(24 * LIMITS.trackPoints)
          .regex(POINTS_PATTERN, 'must be points like "12.5,8 13,9.25"'),
        /** Travel speed in km/h. */
        speed: z.number().min(1).max(1000),
      }),
    )
    .max(LIMITS.networkLines)
    .refine(
      (lines) => lines.reduce((sum, line) => sum + countIn(line.points), 0) <= LIMITS.trackPoints,
      `have more than ${LIMITS.trackPoints} points`,
    ),
})

export type CourseShape = z.output<typeof courseSchema>
export type DrawnCourse = Extract<CourseShape, { kind: 'drawn' }>
export type CourseNode = z.output<typeof nodeSchema>
export type NodeKind = (typeof NODE_KINDS)[number]
export type TrackCourse = Extract<CourseShape, { kind: 'track' }>
export type NetworkCourse = Extract<CourseShape, { kind: 'network' }>
export type Network = z.output<typeof networkSchema>
export type NetworkMode = (typeof NETWORK_MODES)[number]
