import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { groundGeo } from '#core/geo/ground'
import type { Past } from '#core/journey/history'
import type { Journey } from '#core/journey/schema'
import { useCompiling } from './editor/compiling'
import { useDocument } from './editor/document'
import { useSelecting } from './editor/selecting'

/** A message about something that has just happened, and possibly an action. */
export interface Notice {
  text: string
  action?: { title: string; run: () => void }
}

/** The journey being edited with its undo (`editor/document.ts`), what it is compiled to (`editor/compiling.ts`), and what is selected of it (`editor/selecting.ts`). */
export const useEditor = defineStore('editor', () => {
  const { compiledOf, forgetPlaces, ...compiling } = useCompiling()
  const { open: openDocument, ...document } = useDocument(compiledOf)
  const { journey } = document
  const compiled = computed(() => (journey.value ? compiledOf(journey.value) : undefined))
  const { letGo, forgetSelection, ...selecting } = useSelecting(journey, compiled)
  const notice = shallowRef<Notice>()
  /** The ways between the Earth and the ground, where a sheet is georeferenced. */
  const geo = computed(() => journey.value && groundGeo(journey.value))

  /** @param kept the stored undo steps */
  function open(opened: Journey, kept: Past = []) {
    forgetPlaces()
    forgetSelection()
    notice.value = undefined
    openDocument(opened, kept)
  }

  function undo() {
    document.undo()
    letGo()
  }
  function redo() {
    document.redo()
    letGo()
  }

  /** Makes the journey another one, in one step of undo. @returns whether it makes a film */
  function replace(other: Journey): boolean {
    document.endGesture()
    const done = document.editDocument(() => other)
    letGo()
    return done
  }

  // Edits of one gesture are those of one thing.
  watch(selecting.selection, document.endGesture, { flush: 'sync' })

  return { ...compiling, ...document, ...selecting, compiled, notice, geo, open, undo, redo, replace }
})
