import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import type { Copied, Pasted } from '#core/edits/copies'
import { copiedSchema, copyLeg, copyShot, copyStop, paste } from '#core/edits/copies'
import { useEditor } from '~/stores/editor'

/** What was kept, if it can be read. */
function read(text: string): Copied | null {
  try {
    return copiedSchema.nullable().catch(null).parse(JSON.parse(text))
  } catch {
    return null
  }
}

/** Looks and timings that are copied from one leg, stop or shot and pasted onto others; kept in the browser, so that other journeys have them as well. */
export function useCopies() {
  const editor = useEditor()
  const copied = useLocalStorage<Copied | null>('zephyrine-copied', null, { serializer: { read, write: (value) => JSON.stringify(value) } })

  const visit = computed(() =>
    editor.selectedVisit === undefined ? undefined : { traveller: editor.traveller!.id, index: editor.selectedVisit },
  )
  /** What would be copied of what is selected. */
  function selected(): Copied | undefined {
    const { journey, selectedLeg, selectedStop, selectedShot } = editor
    if (!journey) return undefined
    if (selectedLeg) return copyLeg(journey, selectedLeg.id)
    if (selectedStop) return copyStop(journey, selectedStop.id, visit.value)
    return selectedShot && copyShot(selectedShot.shot)
  }
  const kind = computed((): Copied['kind'] | undefined =>
    editor.selectedLeg ? 'leg' : editor.selectedStop ? 'stop' : editor.selectedShot ? 'shot' : undefined,
  )
  /** Whether what was copied can be pasted onto what is selected. */
  const canPaste = computed(() => copied.value !== null && copied.value.kind === kind.value)
  const hasTiming = computed(() => canPaste.value && copied.value?.timing !== null)

  function copy() {
    const value = selected()
    if (!value) return
    copied.value = value
    editor.notice = { text: `Copied the look and timing of this ${value.kind}: select others, and paste.` }
  }

  function pasteOnto(what: Pasted) {
    const { value } = copied
    if (!value || !canPaste.value) return
    const shot = editor.selectedShot?.shot
    const onto = { ids: editor.selectedIds, ...(shot && { shot }), ...(visit.value && { visit: visit.value }) }
    editor.edit((journey) => paste(journey, value, onto, what))
  }

  return { kind, canPaste, hasTiming, copy, pasteOnto }
}
