import type { StopPatch } from '#core/edits/stops'
import { editStop } from '#core/edits/stops'
import type { Stop } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { useFieldEdits } from './use-field-edits'

/** Edits of a stop from its details: changes of the look of pins and labels apply to all selected stops, those of name and place to one. */
export function useStopEdits(stop: () => Stop) {
  const editor = useEditor()
  const { change, done } = useFieldEdits(() => `stop ${stop().id}`)
  /** A change that may be part of a gesture, such as a slider's. */
  const patch = (field: string, values: StopPatch) =>
    change(field, (journey) => {
      const isOwn = values.name !== undefined || values.at !== undefined || !editor.selectedIds.includes(stop().id)
      return (isOwn ? [stop().id] : editor.selectedIds).reduce((j, id) => editStop(j, id, values), journey)
    })
  /** A single change, undone in one step. */
  function set(values: StopPatch) {
    done()
    patch('once', values)
    done()
  }
  return { patch, set, done }
}
