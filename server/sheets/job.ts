import { z } from 'zod'
import { georeferenceSchema } from '#core/journey/sheet-schema'
import { SHEET_FORMATS } from '#core/sheet/limits'
import type { SheetFormat } from '#core/sheet/limits'

/** Requests to the process that reads files from outside, and its answers. */
export const jobSchema = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('import'),
    path: z.string(),
    /** The file's own name, for the messages. */
    name: z.string(),
    format: z.enum(Object.keys(SHEET_FORMATS) as [SheetFormat, ...SheetFormat[]]),
    /** Where the tile file is to be made. */
    tiles: z.string(),
  }),
  /** Draws a region of a vector image into tiles of one level. */
  z.object({
    do: z.literal('draw'),
    id: z.int(),
    tiles: z.string(),
    original: z.string(),
    width: z.int().positive(),
    height: z.int().positive(),
    level: z.int(),
    column: z.int().min(0),
    row: z.int().min(0),
  }),
])
export type Job = z.infer<typeof jobSchema>
export type ImportJob = Extract<Job, { do: 'import' }>
export type DrawJob = Extract<Job, { do: 'draw' }>

/** The facts about an imported image. */
export const builtSchema = z.object({
  width: z.int().positive(),
  height: z.int().positive(),
  vector: z.boolean(),
  georeference: georeferenceSchema.nullable(),
  /** Why the file's georeference cannot be used. */
  note: z.string().nullable(),
})
export type Built = z.infer<typeof builtSchema>

export const answerSchema = z.discriminatedUnion('is', [
  z.object({ is: z.literal('progress'), share: z.number().min(0).max(1) }),
  z.object({ is: z.literal('built'), built: builtSchema, peakMiB: z.number() }),
  z.object({ is: z.literal('drawn'), id: z.int() }),
  /** `message` is a sentence for the user if `expected`, else an internal error. */
  z.object({ is: z.literal('failed'), id: z.int().optional(), message: z.string(), expected: z.boolean() }),
])
export type Answer = z.infer<typeof answerSchema>
