import { parseArgs } from 'node:util'
import type { WordsFormat } from '#core/formats/words'
import { WORDS_FORMATS } from '#core/formats/words'
import type { CommandOptions } from '../command'
import { parseFault } from '../command'
import { oneOf } from './map-options'

export interface WordsOptions {
  journey: string
  /** How stop times are written, or the stops themselves as a table. */
  format: WordsFormat | 'stops'
  out: string | undefined
}

function read(args: readonly string[]): WordsOptions {
  const text = { type: 'string' } as const
  let values
  try {
    values = parseArgs({
      args: [...args],
      options: { journey: { ...text, default: 'demo' }, format: { ...text, default: 'vtt' }, out: text },
    }).values
  } catch (error) {
    throw parseFault(error)
  }
  const format = oneOf('--format', values.format, [...WORDS_FORMATS, 'stops'] as const)
  return { journey: values.journey, format, out: values.out }
}

/** Writes the stop times of a journey for an editor. */
export const wordsOptions: CommandOptions<WordsOptions> = {
  usage: `npm run words -- --journey demo|ID|FILE --format vtt|srt|csv|txt|stops [--out FILE]

  When the film is at which stop: WebVTT chapters, SRT subtitles, a CSV table or a plain chapter list; or the stops as a
  table that makes a trip again. Without --out it is printed.`,
  read,
}
