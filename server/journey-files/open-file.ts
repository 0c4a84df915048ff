import { rm } from 'node:fs/promises'
import { JourneyError } from '#core/error'
import type { Db } from '../storage/database'
import { deleteJourney, insertJourney, journeyDocument, readJourney, replaceJourney } from '../storage/journeys'
import { insertVersion, listVersions, MOST_VERSIONS } from '../storage/versions'
import { unpackJourney } from './unpack'

/** A journey that came out of a file. */
export interface OpenedJourney {
  id: string
  name: string
  /** The journey of the list that it was saved from, if it is there still. */
  sameAs: { id: string; name: string } | null
  /** A sentence for each file that it does without, as it was missing. */
  missing: readonly string[]
}

/**
 * Takes in the journey in a received file as a new one, with its versions. The file is deleted.
 * @throws JourneyError if it cannot be read; the signal's reason when aborted
 */
export async function openJourneyFile(
  db: Db,
  folder: string,
  { path, name }: { path: string; name: string },
  options: { onProgress: (share: number) => void; signal: AbortSignal },
): Promise<OpenedJourney> {
  try {
    const { journey, versions, origin, missing } = await unpackJourney(db, folder, path, name, options)
    options.signal.throwIfAborted()
    const id = db.transaction(() => {
      const made = insertJourney(db, journey)
      for (const version of versions.slice(-MOST_VERSIONS)) insertVersion(db, made.id, version.name, version.journey, version.createdAt)
      return made.id
    })()
    const known = origin === null ? undefined : journeyDocument(db, origin)
    const sameAs = known && { id: origin!, name: (JSON.parse(known.document) as { name: string }).name }
    return { id, name: journey.name, sameAs: sameAs ?? null, missing }
  } finally {
    await rm(path, { force: true })
  }
}

/**
 * Puts a journey in the place of another one, of which it is a later state: that is kept as a version, and the other one's own versions stay. The one that
 * was put there is deleted (and can be restored).
 * @returns whether both are there
 * @throws JourneyError if there are too many versions
 */
export const putInPlaceOf = (db: Db, id: string, by: string): boolean =>
  db.transaction(() => {
    const [old, next] = [readJourney(db, id), readJourney(db, by)]
    if (!old || !next) return false
    if (listVersions(db, id).length >= MOST_VERSIONS)
      throw new JourneyError(
        `“${old.journey.name}” has ${MOST_VERSIONS} versions already, and what is replaced is kept as one: delete one first, or keep both.`,
      )
    insertVersion(db, id, 'Before it was replaced', old.journey)
    replaceJourney(db, id, next.journey)
    deleteJourney(db, by)
    return true
  })()
