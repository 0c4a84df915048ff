import { z } from 'zod'
import { labelSchema } from './label-schema'
import { anchorSchema, photoSchema } from './picture-schema'
import { pinSchema } from './pin-schema'
import { id, point, spanSchema, unit } from './values'

/** What is seen beside the way: nobody travels there. */
const common = {
  id,
  name: z.string().trim().max(120).default(''),
  at: point,
  /** When it is seen; null for the whole film. */
  shown: spanSchema.nullable().default(null),
}

/** How wide a picture is on the ground, in gu: it grows with the map. */
const width = z.number().min(0.01).max(1e6)

export const landmarkSchema = z.discriminatedUnion('kind', [
  /** A pin, a name, or both. */
  z.strictObject({ kind: z.literal('mark'), ...common, pin: pinSchema.prefault({}), label: labelSchema.prefault({}) }),
  /** A picture that stands upright on the ground. */
  z.strictObject({
    kind: z.literal('standing'),
    ...common,
    picture: photoSchema,
    width,
    /** The spot of it that is at its place. */
    anchor: anchorSchema.default({ x: 0.5, y: 1 }),
    opacity: unit.default(1),
    /** How dark its shadow is, at its foot. */
    shadow: unit.default(0.35),
  }),
  /** A picture that lies on the map, its middle at its place. */
  z.strictObject({
    kind: z.literal('lying'),
    ...common,
    picture: photoSchema,
    width,
    /** Degrees, clockwise. */
    rotation: z.number().min(-180).max(180).default(0),
    opacity: unit.default(1),
  }),
])

export type Landmark = z.output<typeof landmarkSchema>
export type LandmarkMark = Extract<Landmark, { kind: 'mark' }>
export type StandingPicture = Extract<Landmark, { kind: 'standing' }>
export type LyingPicture = Extract<Landmark, { kind: 'lying' }>
