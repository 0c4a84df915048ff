import { contentsOf, writeJourneyFile } from '../../server/journey-files/pack'
import { keptVersionsOf } from '../../server/storage/versions'
import { openDatabase } from '../../server/storage/database'
import type { Output } from '../command'
import { findJourney } from './find-journey'
import type { PackOptions } from './pack-options'

/** Writes the file, and prints a line of JSON; what is missing in it is told on stderr. */
export async function packToFile({ journey: name, out, versions }: PackOptions, output: Output): Promise<void> {
  const { journey, folder, id } = await findJourney(name)
  const db = openDatabase(folder)
  try {
    const packed = { id: id ?? 'file', journey, versions: versions && id !== undefined ? keptVersionsOf(db, id) : [] }
    const { pieces, missing } = contentsOf(db, folder, packed)
    for (const sentence of missing) output.complain(sentence)
    const bytes = await writeJourneyFile(db, folder, packed, out)
    output.result(`${JSON.stringify({ journey: journey.name, files: pieces.length, versions: packed.versions.length, bytes, out })}\n`)
  } finally {
    db.close()
  }
}
