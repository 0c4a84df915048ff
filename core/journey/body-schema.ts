import { z } from 'zod'
import { FRAME_RATES } from '../pace/rate'
import { captionSchema, measuresSchema } from './caption-schema'
import { networkSchema } from './course-schema'
import { depthSchema, handheldSchema, sunSchema } from './depth-schema'
import { fontSchema } from './font-schema'
import { gradeSchema } from './grade-schema'
import { areaSchema, groundSchema, sheetSchema } from './sheet-schema'
import { landmarkSchema } from './landmark-schema'
import { audioSchema, noteSchema, shareSchema, soundsSchema } from './pace-schema'
import { reframeSchema } from './reframe-schema'
import { planSchema, shotSchema } from './shot-schema'
import { stopSchema } from './stop-schema'
import { travellerSchema } from './traveller-schema'
import { valueMarkSchema } from './value-schema'
import { colour, evenSide, LIMITS, viewSchema } from './values'

/**
 * The journey document, version 11: what is stored, exchanged and undone.
 * Lengths are in ground units (gu) or reference pixels (rpx), times in seconds; see docs/journey-format.md.
 */
export const JOURNEY_FORMAT = 'zephyrine-journey'
export const JOURNEY_VERSION = 11

const title = z.string().trim().min(1).max(120)

export const frameSchema = z.strictObject({
  width: evenSide,
  height: evenSide,
  rate: z.enum(FRAME_RATES),
})

/** For how many degrees of its turn a rotary shutter may be open. 180 is what film cameras usually have (common practice, no source). */
export const SHUTTERS = [0, 90, 180, 360] as const

/** The layers of a frame over the map, in their usual order. Marks are pins and pictures beside the way. */
export const LAYERS = ['lines', 'marks', 'vehicles', 'labels', 'cards'] as const

/** The document field by field; whether what it names is in it is for references.ts to say. */
export const bodySchema = z.strictObject({
  format: z.literal(JOURNEY_FORMAT),
  version: z.literal(JOURNEY_VERSION),
  name: title,
  frame: frameSchema,
  /** For how much of each frame's time its picture is exposed, so that what moves is blurred: 360 is all of it, 0 a moment. */
  shutter: z.literal(SHUTTERS).default(0),
  /** Length of the film. */
  seconds: z.number().min(1).max(LIMITS.seconds),
  ground: groundSchema.prefault({}),
  /** From the lowest to the uppermost; the pixels of the first are the ground's unit. */
  sheets: z.array(sheetSchema).max(LIMITS.sheets).default([]),
  areas: z.array(areaSchema).max(LIMITS.areas).default([]),
  /** Whether the film ends with a line that names the sources. */
  creditLine: z.boolean().default(false),
  networks: z.array(networkSchema).max(LIMITS.networks).default([]),
  /** The view with which the film begins, unless a shot does. */
  camera: viewSchema,
  /** How the camera films where no shot says so. */
  plan: planSchema.prefault({}),
  /** What the camera films, in any order. */
  shots: z.array(shotSchema).max(LIMITS.shots).default([]),
  /** The frames of other shapes in which it is also filmed. */
  reframes: z.array(reframeSchema).max(LIMITS.reframes).default([]),
  depth: depthSchema.prefault({}),
  /** Where the light comes from; null for light straight from above. */
  sun: sunSchema.nullable().default(null),
  /** Whether the camera sways as if it was held by hand. */
  handheld: handheldSchema.nullable().default(null),
  /** What is done to the colours of the whole picture. */
  grade: gradeSchema.nullable().default(null),
  /** Titles and readouts, from the lowest to the uppermost. */
  captions: z.array(captionSchema).max(LIMITS.captions).default([]),
  measures: measuresSchema.prefault({}),
  /** How automatic travel times share what the set ones leave. */
  share: shareSchema.prefault({}),
  /** Seconds that a leg with an automatic time takes on average, where the film is as long as its trips need; null where its length is set. */
  legSeconds: z.number().min(0.25).max(60).nullable().default(null),
  notes: z.array(noteSchema).max(LIMITS.notes).default([]),
  /** How values of lines, vehicles and sheets change over time, in any order. */
  valueMarks: z.array(valueMarkSchema).max(LIMITS.valueMarks).default([]),
  /** What is heard with the film. */
  audio: z.array(audioSchema).max(LIMITS.audio).default([]),
  sounds: soundsSchema.prefault({}),
  stops: z.array(stopSchema).max(LIMITS.stops).default([]),
  /** What is over what, from the lowest to the uppermost: the map is under all, titles are over all. */
  order: z
    .array(z.enum(LAYERS))
    .length(LAYERS.length)
    .refine((order) => new Set(order).size === LAYERS.length, 'must have each layer once')
    .default([...LAYERS]),
  /** Fonts of one's own that its texts are set in. */
  fonts: z.array(fontSchema).max(LIMITS.fonts).default([]),
  /** Colours that are kept for use again. */
  colours: z.array(colour).max(LIMITS.colours).default([]),
  /** What the checks found and is as it should be: the check, the kind of thing and its id. */
  accepted: z.array(z.string().trim().min(1).max(120)).max(LIMITS.accepted).default([]),
  /** What is seen beside the way, from the lowest to the uppermost. */
  landmarks: z.array(landmarkSchema).max(LIMITS.landmarks).default([]),
  /** From the lowest to the uppermost. They may share stops. */
  travellers: z.array(travellerSchema).min(1).max(LIMITS.travellers),
})

export type JourneyBody = z.output<typeof bodySchema>
export type Layer = (typeof LAYERS)[number]
export type FrameFormat = z.output<typeof frameSchema>
export type Shutter = (typeof SHUTTERS)[number]
