import { JourneyError } from '../../error'
import { isTiedTo, markedOf } from '../../journey/lookup'
import type { Journey, ValueMark } from '../../journey/schema'
import { LIMITS, ownerOf, valueMarkSchema } from '../../journey/schema'

/** Changes to the value marks of a journey: pure functions, journey in, journey out, as in journey.ts. */

/** Adds a mark. @throws JourneyError if there are as many as there can be */
export function addValueMark(journey: Journey, mark: ValueMark): Journey {
  if (journey.valueMarks.length >= LIMITS.valueMarks)
    throw new JourneyError(`A journey has at most ${LIMITS.valueMarks} marks at which a value changes: delete one first.`)
  return { ...journey, valueMarks: [...journey.valueMarks, mark] }
}

/** Changes when and how a value changes, and to what: a share, or for a colour a colour; anything else is not taken. */
export function editValueMark(
  journey: Journey,
  id: string,
  patch: Partial<Pick<ValueMark, 'at' | 'within' | 'easing'>> & { to?: number | string },
): Journey {
  return {
    ...journey,
    valueMarks: journey.valueMarks.map((mark) => {
      if (mark.id !== id) return mark
      const { success, data } = valueMarkSchema.safeParse({ ...mark, ...patch })
      return success ? data : mark
    }),
  }
}

export const removeValueMark = (journey: Journey, id: string): Journey => ({
  ...journey,
  valueMarks: journey.valueMarks.filter((mark) => mark.id !== id),
})

/** Removes from a draft the value marks of what is gone, and those that are tied to a stop that is. */
export function dropLostValues(draft: Journey): void {
  const left = {
    leg: new Set(draft.travellers.flatMap((traveller) => traveller.legs.map(({ id }) => id))),
    traveller: new Set(draft.travellers.map(({ id }) => id)),
    stop: new Set(markedOf(draft).map(({ id }) => id)),
    sheet: new Set(draft.sheets.map(({ id }) => id)),
  }
  const stops = new Set(draft.stops.map(({ id }) => id))
  draft.valueMarks = draft.valueMarks.filter((mark) => {
    const owner = ownerOf(mark)
    return (!owner || left[owner.kind].has(owner.id)) && isTiedTo(mark.at, stops)
  })
}
