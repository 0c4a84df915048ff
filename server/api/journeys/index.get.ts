import { defineEventHandler } from 'h3'
import { posterIsComing, posterRevision } from '../../posters/posters'
import { database } from '../../storage/database'
import { listJourneys } from '../../storage/journeys'

/** Each journey with the revision that its poster shows, if there is one, and whether a newer one is being made. */
export default defineEventHandler(() =>
  listJourneys(database()).map((journey) => ({
    ...journey,
    posterIsComing: posterIsComing(journey.id, journey.revision),
    poster: posterRevision(journey.id) ?? null,
  })),
)
