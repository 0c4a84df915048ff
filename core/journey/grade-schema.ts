import { z } from 'zod'
import { fileHash } from './values'

const amount = z.number().min(-1).max(1).default(0)

/** What is done to the colours of the whole picture, at the end, after everything is painted. */
export const gradeSchema = z.strictObject({
  /** Stops. */
  exposure: z.number().min(-2).max(2).default(0),
  contrast: amount,
  /** Towards orange, or towards blue. */
  warmth: amount,
  saturation: amount,
  /** A table of colours out of a .cube file: its SHA-256, what it is called, and how much of it is laid over the picture. */
  lut: z
    .strictObject({ file: fileHash, name: z.string().trim().min(1).max(80), strength: z.number().min(0).max(1).default(1) })
    .nullable()
    .default(null),
  /** Darkens the picture towards its corners: how much there, and how far inwards, as a share. */
  vignette: z
    .strictObject({ strength: z.number().min(0).max(1).default(0.45), size: z.number().min(0).max(1).default(0.5) })
    .nullable()
    .default(null),
  /** Grain as of film, another in each frame. `size` is that of a grain, in rpx. */
  grain: z
    .strictObject({ strength: z.number().min(0).max(1).default(0.3), size: z.number().min(1).max(8).default(2) })
    .nullable()
    .default(null),
})

export type Grade = z.output<typeof gradeSchema>
