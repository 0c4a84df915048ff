import { noJourney, orRefuse } from '../http/refuse'
import { posterRevision } from '../posters/posters'
import type { Db } from '../storage/database'
import { readJourney } from '../storage/journeys'
import { keptVersionsOf } from '../storage/versions'
import type { Packable } from './pack'

/** A journey of the list as it goes into a file. @throws an error response if there is none, or it cannot be read */
export function packableOf(db: Db, id: string, withVersions: boolean): Packable {
  return orRefuse(() => {
    const record = readJourney(db, id)
    if (!record) throw noJourney()
    return { id, journey: record.journey, versions: withVersions ? keptVersionsOf(db, id) : [], poster: posterRevision(id) }
  })
}
