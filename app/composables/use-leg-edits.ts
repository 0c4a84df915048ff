import type { LegPatch } from '#core/edits/lines/legs'
import { editLeg } from '#core/edits/lines/legs'
import type { Journey, Leg } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { useFieldEdits } from './use-field-edits'

/** Edits of a leg from its details: changes of look, vehicle and pace apply to all selected legs, those of a course to one. */
export function useLegEdits(leg: () => Leg) {
  const editor = useEditor()
  const { change, done } = useFieldEdits(() => `leg ${leg().id}`)
  /** Does something to all selected legs, if this one is among them. */
  const eachSelected = (journey: Journey, edit: (journey: Journey, id: string) => Journey) =>
    (editor.selectedIds.includes(leg().id) ? editor.selectedIds : [leg().id]).reduce(edit, journey)
  /** A change that may be part of a gesture, such as a slider's. */
  const patch = (field: string, values: LegPatch) =>
    change(field, (journey) =>
      values.course ? editLeg(journey, leg().id, values) : eachSelected(journey, (j, id) => editLeg(j, id, values)),
    )
  /** A single change, undone in one step. */
  function set(values: LegPatch) {
    done()
    patch('once', values)
    done()
  }
  return { patch, set, done, eachSelected }
}
