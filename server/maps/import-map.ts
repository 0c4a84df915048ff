import { readFile } from 'node:fs/promises'
import { layoutMap } from '#core/maps/layout'
import { readRecipe } from '#core/maps/recipe'
import type { Built, ImportJob } from '../sheets/job'
import { createTileFile } from '../sheets/tile-file'

/** Imports the recipe of a generated map. Its tiles are drawn when a view needs them. @throws JourneyError if it cannot be drawn */
export async function importMap({ path, name, tiles }: ImportJob): Promise<Built> {
  const recipe = await readFile(path, 'utf8')
  const { size, georeference } = layoutMap(readRecipe(recipe, name))
  const file = createTileFile(tiles)
  try {
    file.markMap()
    file.putDrawing(recipe)
  } finally {
    file.close()
  }
  return { ...size, vector: true, georeference, note: null }
}
