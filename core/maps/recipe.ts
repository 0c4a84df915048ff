import { z } from 'zod'
import { JourneyError } from '../error'
import { drawnMapSchema } from '../journey/sheet-schema'
import type { DrawnMap } from '../journey/schema'

/**
 * The file that a generated map is kept as: how it is drawn, and no picture, as it is drawn again for each zoom. It is told from other JSON by its
 * beginning, and goes with its journey like any map.
 */
const recipeSchema = z.strictObject({ generatedMap: z.literal(1), map: drawnMapSchema })

/** The beginning of a recipe. */
export const RECIPE_START = '{"generatedMap":'

export const writeRecipe = (map: DrawnMap): string => JSON.stringify({ generatedMap: 1, map } satisfies z.input<typeof recipeSchema>)

/** @throws JourneyError if it is none, or one of a later version */
export function readRecipe(text: string, name: string): DrawnMap {
  try {
    return recipeSchema.parse(JSON.parse(text)).map
  } catch (error) {
    throw new JourneyError(`“${name}” is not a generated map that this version can draw: generate it again.`, { cause: error })
  }
}
