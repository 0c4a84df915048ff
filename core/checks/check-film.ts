import type { CompiledJourney } from '../trips/compiled'
import type { Finding } from './finding'
import { checkJourney } from './journey-check'
import { checkWords } from './words-check'

/**
 * All that would look wrong in a film, but for its camera (camera-check.ts) and names without room. Stops after every moment that is looked at: what asks may go
 * on later, or not at all.
 */
export function* checkFilm(compiled: CompiledJourney): Generator<undefined, Finding[]> {
  return [...(yield* checkWords(compiled)), ...checkJourney(compiled)]
}

/** The same in one go. */
export function allFindings(compiled: CompiledJourney): Finding[] {
  const looking = checkFilm(compiled)
  for (;;) {
    const { done, value } = looking.next()
    if (done) return value
  }
}
