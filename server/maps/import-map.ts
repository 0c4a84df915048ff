import { readFile, stat } from 'node:fs/promises'
import { JourneyError } from '#core/error'
import { layoutMap } from '#core/maps/layout'
import { readRecipe } from '#core/maps/recipe'
import type { Built, ImportJob } from '../sheets/job'
import { createTileFile } from '../sheets/tile-file'

/** A recipe has a few hundred bytes. */
const MOST_BYTES = 64 * 1024

/** Imports the recipe of a generated map. Its tiles are drawn when a view needs them. @throws JourneyError if it cannot be drawn */
export async function importMap({ path, name, tiles }: ImportJob): Promise<Built> {
  const { size: bytes } = await stat(path)
  if (bytes > MOST_BYTES)
    throw new JourneyError(`“${name}” is not a generated map that this version can draw: it is far too large for one.`)
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
