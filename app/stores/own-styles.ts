import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { NewStyle, StyleKind } from '#core/dress/own-styles'
import type { OwnStyle } from '~/services/api'
import { ApiError, deleteStyle, keepStyle, listStyles } from '~/services/api'

/** The styles that people have kept under names of their own; they are the same in all journeys. */
export const useOwnStyles = defineStore('own-styles', () => {
  const styles = shallowRef<readonly OwnStyle[]>([])
  /** Why a style could not be kept, read or taken away, for as long as it is shown. */
  const failure = ref('')
  let asked: Promise<void> | undefined

  async function trying(run: () => Promise<void>): Promise<boolean> {
    failure.value = ''
    try {
      await run()
      return true
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      failure.value = error.message
      return false
    }
  }

  /** Reads them, once. */
  function load() {
    asked ??= trying(async () => {
      styles.value = await listStyles()
    }).then((done) => {
      if (!done) asked = undefined
    })
    return asked
  }

  /** @returns whether it is kept */
  const keep = (style: NewStyle): Promise<boolean> =>
    trying(async () => {
      const kept = await keepStyle(style)
      styles.value = [...styles.value, kept].sort((a, b) => a.name.localeCompare(b.name, 'en'))
    })

  const remove = (id: string): Promise<boolean> =>
    trying(async () => {
      await deleteStyle(id)
      styles.value = styles.value.filter((style) => style.id !== id)
    })

  const ofKind = <K extends StyleKind>(kind: K) =>
    styles.value.filter((style): style is Extract<OwnStyle, { kind: K }> => style.kind === kind)

  return { failure, load, keep, remove, ofKind }
})
