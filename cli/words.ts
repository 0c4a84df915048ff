/** Writes the stop times of a journey for an editor: see USAGE. */
import { writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import type { WordsFormat } from '#core/formats/words'
import { WORDS, WORDS_FORMATS } from '#core/formats/words'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/frame/label-scene'
import { DEMO_ID } from '#demo/seed'
import { findJourney } from './find-journey'
import { parseFault, runCommand, UsageError } from './usage'

const USAGE = `npm run words -- --journey demo|ID|FILE --format vtt|srt|csv|txt [--out FILE]

  When the film is at which stop: WebVTT chapters, SRT subtitles, a CSV table or a plain chapter list. Without --out it is printed.`

function readArguments(): { journey: string; format: WordsFormat; out: string | undefined } {
  const text = { type: 'string' } as const
  let values
  try {
    values = parseArgs({ options: { journey: { ...text, default: DEMO_ID }, format: { ...text, default: 'vtt' }, out: text } }).values
  } catch (error) {
    throw parseFault(error)
  }
  const format = WORDS_FORMATS.find((name) => name === values.format)
  if (!format) throw new UsageError(`--format is "${values.format}": give one of ${WORDS_FORMATS.join(', ')}.`)
  return { journey: values.journey, format, out: values.out }
}

await runCommand(USAGE, async () => {
  const { journey: name, format, out } = readArguments()
  const { journey } = await findJourney(name)
  const text = WORDS[format].write(compile(journey, NO_PLACES))
  if (out === undefined) process.stdout.write(text)
  else writeFileSync(out, text)
})
