import { z } from 'zod'
import { fileHash } from './values'

/** The most letters whose widths are kept of a font. */
const MOST_LETTERS = 2000

/**
 * A font file of one's own, and what is needed of it to lay letters out: their widths, and the height of capitals, in thousandths of the letter size. They
 * are kept with the journey, so that its lines break in the same way wherever it is opened.
 */
export const fontSchema = z.strictObject({
  /** SHA-256 of the file, in hexadecimal. */
  file: fileHash,
  name: z.string().trim().min(1).max(80),
  capital: z.int().min(100).max(2000),
  widths: z
    .record(z.string().min(1).max(2), z.int().min(0).max(10_000))
    .refine((widths) => Object.keys(widths).length <= MOST_LETTERS, `has widths of more than ${MOST_LETTERS} letters`),
})

export type OwnFont = z.output<typeof fontSchema>
