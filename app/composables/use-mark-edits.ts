import type { MarkPatch } from '#core/edits/marks/marks'
import { editMark } from '#core/edits/marks/marks'
import { useEditor } from '~/stores/editor'
import { useFieldEdits } from './use-field-edits'

/**
 * Edits of a stop, or of a mark beside the way, from its details: changes of the look of pins and labels apply to all selected stops, those of name and
 * place to one.
 */
export function useMarkEdits(mark: () => { id: string }) {
  const editor = useEditor()
  const { change, done } = useFieldEdits(() => `mark ${mark().id}`)
  /** A change that may be part of a gesture, such as a slider's. */
  const patch = (field: string, values: MarkPatch) =>
    change(field, (journey) => {
      const isOwn = values.name !== undefined || values.at !== undefined || !editor.selectedIds.includes(mark().id)
      return (isOwn ? [mark().id] : editor.selectedIds).reduce((j, id) => editMark(j, id, values), journey)
    })
  /** A single change, undone in one step. */
  function set(values: MarkPatch) {
    done()
    patch('once', values)
    done()
  }
  return { patch, set, done }
}
