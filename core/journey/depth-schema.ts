import { z } from 'zod'
import { colour, id, unit } from './values'

/** How the camera sways, as one that is held by hand: at most so many rpx and degrees; another seed sways in another way. */
export const handheldSchema = z.strictObject({
  px: z.number().min(0).max(60).default(7),
  degrees: z.number().min(0).max(4).default(0.35),
  seed: z.int().min(0).max(999).default(1),
})

/** The light in which all that stands on the map casts a shadow, and the direction of every other shadow. */
export const sunSchema = z.strictObject({
  /** Where on the map it comes from, in degrees clockwise from up. */
  bearing: z.number().min(-180).max(180).default(-35),
  /** How high it stands, in degrees: shadows are as long as things are high at 45. */
  height: z.number().min(8).max(85).default(40),
  softness: unit.default(0.4),
  /** How dark shadows are, where a thing has no darkness of its own. */
  strength: unit.default(0.5),
})

/** How what is further away looks, where the camera is tilted, and what is round the globe. */
export const depthSchema = z.strictObject({
  /** The ground is soft before and behind what is in focus, as in a lens; what marks the way stays sharp. */
  softFocus: z
    .strictObject({
      strength: unit.default(0.5),
      /** How much of it there is behind and before what is in focus. */
      far: unit.default(1),
      near: unit.default(1),
      /** What is in focus: the traveller, the middle of the frame, or a stop. */
      on: z
        .discriminatedUnion('kind', [
          z.strictObject({ kind: z.literal('traveller') }),
          z.strictObject({ kind: z.literal('middle') }),
          z.strictObject({ kind: z.literal('stop'), stop: id }),
        ])
        .prefault({ kind: 'traveller' }),
    })
    .nullable()
    .default(null),
  /** The colour that the ground fades to with distance. */
  haze: z
    .strictObject({ colour: colour.default('#dfe8ea'), strength: unit.default(0.5) })
    .nullable()
    .default(null),
  /** What is round the globe: the colour of the sky, that of the air along the globe's edge, and how much of it is under clouds, which drift slowly. */
  sky: z.strictObject({ colour: colour.default('#0b1626'), air: colour.default('#a9d3ee'), clouds: unit.default(0.65) }).prefault({}),
})

export type Sky = z.output<typeof depthSchema>['sky']
export type Depth = z.output<typeof depthSchema>
