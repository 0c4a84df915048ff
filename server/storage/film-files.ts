import { FILM_FORMATS } from '#core/film/formats'
import type { ExportRecord } from './exports'

/** Films lie in a folder of their own, named after their exports. */
export const filmFileName = ({ id, format }: Pick<ExportRecord, 'id' | 'format'>): string => `${id}${FILM_FORMATS[format].ending}`

const ENDINGS = Object.values(FILM_FORMATS).map(({ ending }) => ending)

/** Whether a file's name is that of a film, of one that is being written, or of its sound: nothing else in the folder is touched. */
export const isFilmFile = (file: string): boolean =>
  ENDINGS.some((ending) => file.endsWith(ending) || file.endsWith(`${ending}.part`) || file.endsWith(`${ending}.sound`)) &&
  /^[\w-]{1,64}\./.test(file)
