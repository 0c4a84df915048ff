import { FILM_FORMATS } from '#core/film/formats'
import type { ExportRecord } from './exports'

/** Films lie in a folder of their own, named after their exports. */
export const filmFileName = ({ id, format }: Pick<ExportRecord, 'id' | 'format'>): string => `${id}${FILM_FORMATS[format].ending}`

const ENDINGS = Object.values(FILM_FORMATS).map(({ ending }) => ending)

/** Whether a file's name is that of a film, of one that is being written or measured, or of its sound: nothing else in the folder is touched. */
export const isFilmFile = (file: string): boolean =>
  ENDINGS.some((ending) => ['', '.part', '.sound', '.log'].some((rest) => file.endsWith(ending + rest))) && /^[\w-]{1,64}\./.test(file)
