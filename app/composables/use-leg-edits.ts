import type { LegPatch } from '#core/journey/edits'
import { editLeg } from '#core/journey/edits'
import type { Leg } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { useFieldEdits } from './use-field-edits'

/** Edits of a leg from its details; of look, vehicle and pace all selected legs take the change, a course is one leg's own. */
export function useLegEdits(leg: () => Leg) {
  const editor = useEditor()
  const { change, done } = useFieldEdits(() => `leg ${leg().id}`)
  /** A change that may be one of several in one go, such as a slider's. */
  const patch = (field: string, values: LegPatch) =>
    change(field, (journey) => {
      const ids = values.course || !editor.selectedIds.includes(leg().id) ? [leg().id] : editor.selectedIds
      return ids.reduce((j, id) => editLeg(j, id, values), journey)
    })
  /** A change that is whole at once, and undone by itself. */
  function set(values: LegPatch) {
    done()
    patch('once', values)
    done()
  }
  return { patch, set, done }
}
