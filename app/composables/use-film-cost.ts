import { tryOnScopeDispose, watchDebounced } from '@vueuse/core'
import type { Ref } from 'vue'
import { ref, shallowRef, watch } from 'vue'
import type { FilmCost, FilmSettings } from '#core/film/settings'
import { measureExport } from '~/services/api'

/** So long after the last change a few frames are made, in milliseconds: not for what is only passed over. */
const PAUSE = 500

/**
 * What an export takes, by a few of its frames that the server makes meanwhile; undefined while that is not known. Whoever cares no more sets the settings to
 * undefined, which ends it.
 */
export function useFilmCost(journeyId: string, settings: Ref<FilmSettings | undefined>) {
  const cost = shallowRef<FilmCost>()
  const isMeasuring = ref(false)
  let under: AbortController | undefined

  function forget() {
    under?.abort()
    under = undefined
    cost.value = undefined
    isMeasuring.value = settings.value !== undefined
  }
  async function measure(wanted: FilmSettings) {
    const own = (under = new AbortController())
    // Where it cannot be measured, what films took before has to do.
    const found = await measureExport(journeyId, wanted, own.signal).catch(() => undefined)
    if (under !== own) return
    cost.value = found
    isMeasuring.value = false
  }

  watch(settings, forget, { immediate: true })
  watchDebounced(settings, (wanted) => void (wanted && measure(wanted)), { debounce: PAUSE, immediate: true })
  tryOnScopeDispose(() => under?.abort())
  return { cost, isMeasuring }
}
