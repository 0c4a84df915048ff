import { z } from 'zod'
import { creditSchema, regionSchema, takenSchema, tileRunsSchema, tileServiceSchema } from '../journey/sheet-schema'
import { sheetPlanSchema } from './sheet-plan'

/** An order for a sheet of tiles: what is asked of the server, and kept with the tiles until all have come. */
export const tileOrderSchema = z
  .object({
    name: z.string().trim().min(1).max(120),
    service: tileServiceSchema,
    region: regionSchema,
    sharp: takenSchema.shape.sharp,
    plan: sheetPlanSchema,
    /** The tiles that are taken; null for all of the sheet. */
    wanted: tileRunsSchema.nullable(),
    /** Asked for before the first tile: who made the map, and under which licence it may be shown. */
    credit: creditSchema.refine(({ author, licence }) => author.trim() !== '' && licence.trim() !== '', 'needs an author and a licence'),
  })
  .refine(({ plan, service }) => plan.finest < service.grid.levels.length, 'asks for a level that the service has not')
export type TileOrder = z.output<typeof tileOrderSchema>

/** A part of a map that is looked at before anything is taken; `level` is null for the level that fits the width. */
export const glimpseSchema = z.object({
  service: tileServiceSchema,
  region: regionSchema,
  /** Pixels. */
  width: z.int().min(64).max(1280),
  level: z.int().min(0).max(29).nullable(),
})
export type Glimpse = z.output<typeof glimpseSchema>
