import { JourneyError } from '../../error'
import type { Journey, Note } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'

/** Changes to the notes at moments of a journey: pure functions, journey in, journey out, as in journey.ts. */

/** Adds a note. @throws JourneyError if there are as many as there can be */
export function addNote(journey: Journey, note: Note): Journey {
  if (journey.notes.length >= LIMITS.notes) throw new JourneyError(`A journey has at most ${LIMITS.notes} notes: delete one first.`)
  return { ...journey, notes: [...journey.notes, note] }
}

export const editNote = (journey: Journey, id: string, patch: Partial<Omit<Note, 'id'>>): Journey => ({
  ...journey,
  notes: journey.notes.map((note) => (note.id === id ? { ...note, ...patch } : note)),
})

export const removeNote = (journey: Journey, id: string): Journey => ({ ...journey, notes: journey.notes.filter((note) => note.id !== id) })
