import type { z } from 'zod'
import { bodySchema } from './body-schema'
import { checkReferences } from './references'

export { frameSchema, JOURNEY_FORMAT, JOURNEY_VERSION, LAYERS, SHUTTERS } from './body-schema'
export type { FrameFormat, Layer, Shutter } from './body-schema'
export * from './caption-schema'
export * from './course-schema'
export * from './depth-schema'
export * from './font-schema'
export * from './grade-schema'
export * from './ink-schema'
export * from './label-schema'
export * from './landmark-schema'
export * from './pace-schema'
export * from './picture-schema'
export * from './pin-schema'
export * from './postcard-schema'
export * from './reframe-schema'
export * from './shot-schema'
export * from './sheet-schema'
export * from './stop-schema'
export * from './text-schema'
export * from './traveller-schema'
export * from './vehicle-schema'
export * from './value-schema'
export { LIMITS } from './values'
export type { Moment, Span } from './values'

/** The journey document: what is stored, exchanged and undone; see docs/journey-format.md. */
export const journeySchema = bodySchema.superRefine(checkReferences)

export type Journey = z.output<typeof journeySchema>
export type JourneyInput = z.input<typeof journeySchema>
