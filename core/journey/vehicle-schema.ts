import { z } from 'zod'
import { VOICES } from '../vehicles/artwork'
import { VEHICLE_IDS } from '../vehicles/catalogue'
import { anchorSchema, photoSchema } from './picture-schema'
import { colour, lasting, unit } from './values'

/** What is seen to travel, and what it carries; core/dress/vehicle.ts makes it ready to be painted. */

/** How one vehicle gives way to another. */
export const CHANGES = ['fade', 'pop', 'cut'] as const

/** The highest a vehicle rises, as a share of the usual. */
export const MOST_ALTITUDE = 2

/** What a vehicle carries over itself: a plate with a few words, a flag, or a picture of one's own. `size` is its height in rpx. */
export const carriedSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('plate'),
    text: z.string().trim().min(1).max(40),
    paper: colour.default('#fbf6ea'),
    colour: colour.default('#14233a'),
    size: z.number().min(10).max(300).default(40),
  }),
  z.strictObject({
    kind: z.literal('flag'),
    colour: colour.default('#d8412f'),
    second: colour.default('#fbf6ea'),
    size: z.number().min(10).max(300).default(46),
  }),
  z.strictObject({ kind: z.literal('picture'), picture: photoSchema, size: z.number().min(10).max(300).default(64) }),
])

/** A picture on the body of a vehicle, such as a logo on its side or its roof: cut off where its body ends, and never mirrored. */
export const emblemSchema = z.strictObject({
  picture: photoSchema,
  /** Where its middle is, in hundredths of the vehicle's length from the point that rides on the line, ahead and down. */
  x: z.number().min(-100).max(100).default(0),
  y: z.number().min(-150).max(100).default(0),
  /** Its longer side, in hundredths of the vehicle's length. */
  size: z.number().min(2).max(100).default(20),
  /** Degrees, clockwise. */
  rotation: z.number().min(-180).max(180).default(0),
})

/** Fields of every vehicle. Missing ones are those of its drawing, or of a vehicle that carries nothing and keeps still. */
const ofEvery = {
  carries: carriedSchema.optional(),
  /** How dark its shadow is; as dark as usual, or as the sun makes it, where nothing is said. */
  shadow: unit.optional(),
  /** How much it bounces, rolls or sways as it travels; wheels that are seen from the side turn. */
  lively: unit.optional(),
  /** How fast it travels in earnest, in km/h, for sharing out travel times by speed. */
  speed: z.number().min(0.1).max(3000).optional(),
}

/** The most that a vehicle seen from the side leans with its line, in degrees; what its drawing says where nothing is said. */
const lean = z.number().min(0).max(60).optional()

export const vehicleSchema = z.discriminatedUnion('kind', [
  /** One of the vehicles that ship with the application. */
  z.strictObject({
    kind: z.literal('catalogue'),
    artwork: z.enum(VEHICLE_IDS),
    colour: colour.default('#d8412f'),
    /** The colours of its light parts and of its dark ones; those of the drawing where nothing is said. */
    second: colour.optional(),
    third: colour.optional(),
    /** Length of the vehicle in rpx. */
    size: z.number().min(12).max(600).default(110),
    lean,
    ...ofEvery,
    emblem: emblemSchema.optional(),
    /** How high one that flies rises, and how far its shadow parts from it: 1 where nothing is said, 0 stays on the ground. */
    altitude: z.number().min(0).max(MOST_ALTITUDE).optional(),
  }),
  /** A picture of one's own. */
  z.strictObject({
    kind: z.literal('image'),
    picture: photoSchema,
    view: z.enum(['above', 'side', 'upright']).default('side'),
    /** Direction the picture faces, in degrees clockwise from "to the right". */
    facing: z.number().min(-180).max(180).default(0),
    /** The point that rides on the line, as shares of the picture's width and height. */
    anchor: anchorSchema.default({ x: 0.5, y: 1 }),
    /** Its longer side in rpx. */
    size: z.number().min(12).max(600).default(140),
    lean,
    /** What is heard of it, where the film has sounds. */
    voice: z.enum(VOICES).default('engine'),
    ...ofEvery,
  }),
])

/** A vehicle that takes over at a share of a leg's length. */
export const vehicleChangeSchema = z.strictObject({
  at: z.number().min(0.001).max(0.999),
  vehicle: vehicleSchema.nullable(),
  how: z.enum(CHANGES).default('fade'),
  /** How long that takes, in seconds. */
  seconds: lasting,
})

export type VehicleChoice = z.output<typeof vehicleSchema>
export type Emblem = z.output<typeof emblemSchema>
export type Carried = z.output<typeof carriedSchema>
export type VehicleChange = z.output<typeof vehicleChangeSchema>
