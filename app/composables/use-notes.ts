import { nanoid } from 'nanoid'
import { addNote } from '#core/edits/pace/notes'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'

/** Adds a note at the play position, and selects it. */
export function useNotes() {
  const editor = useEditor()
  const camera = useCamera()
  const playback = usePlayback()
  function add() {
    const id = nanoid(10)
    if (editor.edit((j) => addNote(j, { id, at: camera.momentOf(playback.time), text: 'Note' }))) editor.select({ kind: 'note', id })
  }
  return { add }
}
