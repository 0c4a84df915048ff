import { z } from 'zod'
import { SIDES } from './label-schema'
import { photoSchema } from './picture-schema'
import { colour, id, LIMITS, lasting, unit } from './values'

/** Most degrees by which a postcard lies askew, to either side. */
const MOST_TILT = 20

/** What a postcard is made of: see core/marks/card-layout.ts. */
export const CARD_FRAMES = ['print', 'plate', 'torn', 'round', 'plain', 'cinema'] as const
export const CARD_COMINGS = ['pop', 'fade', 'rise', 'swing', 'unroll', 'none'] as const
export const CARD_GOINGS = ['fade', 'shrink', 'sink', 'roll-up', 'none'] as const

/** The least that is left of a photo, as a share of its width and of its height. */
export const LEAST_CROP = 0.05

/** A photo, or a text alone, that is shown at a stop for a while. */
export const postcardSchema = z.strictObject({
  id,
  photo: photoSchema.nullable().default(null),
  /** The part of the photo that is shown, as shares of its width and height; null for all of it. */
  crop: z
    .strictObject({ left: unit, top: unit, right: unit, bottom: unit })
    .refine(({ left, right, top, bottom }) => right - left >= LEAST_CROP && bottom - top >= LEAST_CROP, 'leaves too little of the photo')
    .nullable()
    .default(null),
  text: z.string().max(240).default(''),
  /** Where it lies: on a side of its pin, or with its middle so many reference pixels from the stop. */
  place: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('side'), side: z.enum(SIDES) }),
      z.strictObject({ kind: z.literal('free'), x: z.number().min(-4000).max(4000), y: z.number().min(-4000).max(4000) }),
    ])
    .prefault({ kind: 'side', side: 'top' }),
  /** Its longer side in rpx, without the text under a photo. */
  size: z.number().min(80).max(1600).default(420),
  /** Degrees, clockwise. */
  tilt: z.number().min(-MOST_TILT).max(MOST_TILT).default(-3),
  frame: z.enum(CARD_FRAMES).default('print'),
  /** How dark its shadow is. */
  shadow: unit.default(0.5),
  /** Whether a line leads from it to its stop. */
  stalk: z.boolean().default(false),
  paper: colour.default('#fbf6ea'),
  colour: colour.default('#14233a'),
  comes: z.enum(CARD_COMINGS).default('pop'),
  goes: z.enum(CARD_GOINGS).default('fade'),
  /** How long it takes to come, and to go, in seconds. */
  comesIn: lasting,
  goesIn: lasting,
  /** How much the map behind it is darkened while it is seen. */
  dims: unit.default(0),
  /** Seconds by which it comes later than in its turn, and those after it with it. */
  delay: z.number().min(-30).max(30).default(0),
  /** How long it stays: while the traveller rests (and long enough to be taken in), to the film's end, or so many seconds. */
  stays: z.union([z.enum(['rest', 'end']), z.number().min(0.5).max(LIMITS.seconds)]).default('rest'),
})

export type Postcard = z.output<typeof postcardSchema>
export type PhotoCrop = NonNullable<Postcard['crop']>
export type CardFrame = (typeof CARD_FRAMES)[number]
