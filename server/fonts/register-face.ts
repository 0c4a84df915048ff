import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { GlobalFonts } from '@napi-rs/canvas'
import { JourneyError } from '#core/error'
import { isOwnFamily } from '#core/type/families'
import type { Face } from '#core/type/measure'
import { fontParts } from '#draw/type/fonts'
import { fontPath, hasFont } from '../storage/font-files'

const require = createRequire(join(process.cwd(), 'package.json'))
const registered = new Set<string>()

/** Makes a face known to the canvases, if it is not yet. @param data the data folder, for a font of one's own @throws JourneyError if it is one's own, and its file is not in the data folder */
export function registerFace(face: Pick<Face, 'family' | 'weight'>, data: string): void {
  for (const { registered: name, family, file } of fontParts(face)) {
    if (registered.has(name)) continue
    if (isOwnFamily(family)) {
      if (!hasFont(data, file)) throw new JourneyError(`A font of your own is missing in ${data}: add its file again.`)
      if (!GlobalFonts.register(readFileSync(fontPath(data, file)), name))
        throw new JourneyError('A font of your own cannot be used for the film: choose another.')
      registered.add(name)
      continue
    }
    const folder = join(dirname(require.resolve(`@fontsource/${family}/package.json`)), 'files')
    GlobalFonts.register(readFileSync(join(folder, file)), name)
    registered.add(name)
  }
}
