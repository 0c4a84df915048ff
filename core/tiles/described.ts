import { z } from 'zod'
import { JourneyError } from '../error'
import type { TileService } from '../journey/schema'
import { creditSchema, tileServiceSchema } from '../journey/schema'

/** What an address turned out to be: one or more maps that can be taken from it, and what their service says of itself. */
export const describedSchema = z.object({
  /** In a word or two, for the interface. */
  is: z.enum(['template', 'tilejson', 'wmts', 'pmtiles']),
  credit: creditSchema,
  /** What the service says of fees and of who may use it. */
  terms: z.string(),
  maps: z.array(z.object({ id: z.string(), title: z.string(), service: tileServiceSchema })).min(1),
  /** What the service also offers but cannot be used, each in a sentence. */
  unusable: z.array(z.string()),
})
export type Described = z.output<typeof describedSchema>

/** A service as it may be kept in a journey. @throws JourneyError if what it says of itself is beyond all bounds */
export function checkedService(service: TileService): TileService {
  const { success, data } = tileServiceSchema.safeParse(service)
  if (!success) throw new JourneyError(`What “${service.name}” says of its tiles cannot be right: their levels, place or address.`)
  return data
}

/** Texts of a service are cut to what a field holds; they may be HTML, as attributions are. */
export const plainText = (text: string, most = 300): string =>
  text
    .replace(/<[^>]{0,2000}>/g, ' ')
    .replace(/&(amp|lt|gt|quot|#39|copy|nbsp);/g, (_, name: string) => ENTITIES[name]!)
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, most)

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', '#39': "'", copy: '©', nbsp: ' ' }

/** What is said of services whose tiles are not pictures. */
export const vectorTiles = (name: string): string =>
  `“${name}” has vector tiles; only tiles that are pictures can be used: look for raster tiles of the same service.`
