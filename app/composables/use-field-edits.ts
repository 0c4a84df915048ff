import { useEditor } from '~/stores/editor'
import type { Journey } from '#core/journey/schema'

/** Edits from a field of the details: the changes of one gesture are undone in one step. */
export function useFieldEdits(scope: () => string) {
  const editor = useEditor()
  return {
    change: (field: string, edit: (journey: Journey) => Journey) => editor.edit(edit, `${scope()} ${field}`),
    done: () => editor.endGesture(),
  }
}
