import { z } from 'zod'
import { fileHash, unit } from './values'

/** An imported picture; its size in pixels, which are nominal for a drawing. */
export const photoSchema = z.strictObject({
  image: fileHash,
  width: z.int().min(1),
  height: z.int().min(1),
  vector: z.boolean().default(false),
})

/** The spot of a picture that is at its place, as shares of its width and height. */
export const anchorSchema = z.strictObject({ x: unit, y: unit })

export type Photo = z.output<typeof photoSchema>
