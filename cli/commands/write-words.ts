import { writeFileSync } from 'node:fs'
import { WORDS } from '#core/formats/words'
import { compile } from '#core/frame/compile'
import { NO_PLACES } from '#core/labels/label-scene'
import { writeStopsTable } from '#core/writing/stops-table'
import type { Output } from '../command'
import { findJourney } from './find-journey'
import type { WordsOptions } from './words-options'

/** Writes the stop times to a file, or prints them. */
export async function writeWords({ journey: name, format, out }: WordsOptions, output: Output): Promise<void> {
  const { journey } = await findJourney(name)
  const text = format === 'stops' ? writeStopsTable(journey, journey.travellers[0]!) : WORDS[format].write(compile(journey, NO_PLACES))
  if (out === undefined) output.result(text)
  else writeFileSync(out, text)
}
