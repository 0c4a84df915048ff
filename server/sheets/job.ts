import { z } from 'zod'
import { fontSchema } from '#core/journey/font-schema'
import { drawnMapSchema, georeferenceSchema, tileRunsSchema, tileServiceSchema } from '#core/journey/sheet-schema'
import { SHEET_FORMATS } from '#core/sheet/limits'
import { PENS } from '#core/sheet/pen'
import type { SheetFormat } from '#core/sheet/limits'
import { describedSchema } from '#core/tiles/described'
import { glimpseSchema } from '#core/tiles/order'
import { sheetPlanSchema } from '#core/tiles/sheet-plan'

/** Tiles along a side of the block drawn at once: reading a drawing costs more than drawing four times the area; of a generated map only what is near is read. */
export const blockSide = (isMap: boolean): number => (isMap ? 2 : 4)

/** With what services are asked: the key that stands for `{key}` in their addresses, and the file of answers that may be used again. */
const asking = { key: z.string().optional(), cache: z.string() }

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
  /** Reads the measures of a font file. */
  z.object({ do: z.literal('font'), path: z.string(), name: z.string() }),
  /** Reads a table of colours, to see whether it can be. */
  z.object({ do: z.literal('lut'), path: z.string(), name: z.string() }),
  /** Draws the block of a vector image round a tile into tiles of one level. */
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
    /** How wide the lines of a generated map are drawn. */
    pen: z.int().min(PENS.least).max(PENS.most),
  }),
  /** Takes the tiles of a service into a file; `cache` is where answers that may be used again are kept. */
  z.object({
    do: z.literal('take'),
    out: z.string(),
    service: tileServiceSchema,
    plan: sheetPlanSchema,
    wanted: tileRunsSchema,
    ...asking,
  }),
  /** Finds out what there is at an address. */
  z.object({ do: z.literal('describe'), id: z.int(), address: z.string(), ...asking }),
  /** Makes a small picture of a part of a service's map. */
  z.object({ do: z.literal('glimpse'), id: z.int(), glimpse: glimpseSchema, ...asking }),
  /** Makes a small picture of a generated map. */
  z.object({ do: z.literal('preview'), id: z.int(), map: drawnMapSchema }),
])
export type Job = z.infer<typeof jobSchema>
export type ImportJob = Extract<Job, { do: 'import' }>
export type TakeJob = Extract<Job, { do: 'take' }>
export type DrawJob = Extract<Job, { do: 'draw' }>
/** The jobs of a process that is kept. */
type FileJob = Extract<Job, { do: 'font' | 'lut' }>
export type KeptJob = Exclude<Job, ImportJob | FileJob | TakeJob>

/** The facts about an imported image. */
const builtSchema = z.object({
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
  z.object({ is: z.literal('font'), font: fontSchema.omit({ file: true }) }),
  z.object({ is: z.literal('lut') }),
  /** The numbers of tiles that have come, that the service has not, and that did not come. */
  z.object({ is: z.literal('taken'), came: z.int(), nothing: z.int(), missing: z.int() }),
  z.object({ is: z.literal('described'), id: z.int(), described: describedSchema }),
  /** A WebP picture in base64; the side of the service's tiles in pixels, and the mean of their bytes. */
  z.object({ is: z.literal('glimpsed'), id: z.int(), webp: z.string(), side: z.int(), bytes: z.number(), level: z.int() }),
  z.object({ is: z.literal('drawn'), id: z.int() }),
  /** A WebP picture in base64, and how far apart the points of the map's coasts are, in metres; null where there are none. */
  z.object({ is: z.literal('previewed'), id: z.int(), webp: z.string(), coasts: z.number().nullable() }),
  /** `message` is a sentence for the user if `expected`, else an internal error. */
  z.object({ is: z.literal('failed'), id: z.int().optional(), message: z.string(), expected: z.boolean() }),
])
export type Answer = z.infer<typeof answerSchema>
