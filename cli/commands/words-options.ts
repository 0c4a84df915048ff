import { parseArgs } from 'node:util'
import type { WordsFormat } from '#core/formats/words'
import { WORDS_FORMATS } from '#core/formats/words'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'

export interface WordsOptions {
  journey: string
  format: WordsFormat
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
  const format = WORDS_FORMATS.find((name) => name === values.format)
  if (!format) throw new UsageError(`--format is "${values.format}": give one of ${WORDS_FORMATS.join(', ')}.`)
  return { journey: values.journey, format, out: values.out }
}

/** Writes the stop times of a journey for an editor. */
export const wordsOptions: CommandOptions<WordsOptions> = {
  usage: `npm run words -- --journey demo|ID|FILE --format vtt|srt|csv|txt [--out FILE]

  When the film is at which stop: WebVTT chapters, SRT subtitles, a CSV table or a plain chapter list. Without --out it is printed.`,
  read,
}
