import type { OwnFont } from '#core/journey/font-schema'
import { fontPath } from '../storage/font-files'
import { takeIn } from '../storage/take-in'

/** The largest font file, in bytes: those with the scripts of East Asia are the largest. */
export const MOST_FONT_BYTES = 12 * 1024 ** 2

/** Keeps a font file under its content hash, if it can be read. @throws JourneyError that says what is wrong with it */
export async function addFont(folder: string, file: Buffer, name: string): Promise<OwnFont> {
  const { hash, found } = await takeIn((of) => fontPath(folder, of), file, name, 'font')
  return { ...found.font, file: hash }
}
