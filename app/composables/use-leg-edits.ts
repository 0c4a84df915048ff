import type { LegPatch } from '#core/journey/edits'
import { editLeg } from '#core/journey/edits'
import type { Leg } from '#core/journey/schema'
import { useFieldEdits } from './use-field-edits'

/** Edits of one leg from its details. */
export function useLegEdits(leg: () => Leg) {
  const { change, done } = useFieldEdits(() => `leg ${leg().id}`)
  /** A change that may be one of several in one go, such as a slider's. */
  const patch = (field: string, values: LegPatch) => change(field, (journey) => editLeg(journey, leg().id, values))
  /** A change that is whole at once, and undone by itself. */
  function set(values: LegPatch) {
    done()
    patch('once', values)
    done()
  }
  return { patch, set, done }
}
