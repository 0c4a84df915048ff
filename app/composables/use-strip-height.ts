import { useLocalStorage, useWindowSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { JSON_TEXT } from '~/services/json-text'

/** The height of the pace strip at the least, in CSS pixels: a ruler, the camera and one trip. */
export const LOWEST_STRIP = 152
/** The most of the window that it takes by itself, and once somebody has opened a part of it. */
const MOST = { own: 0.36, asked: 0.45 }

/** The height of the pace strip: as high as what is in it asks for, until somebody drags its edge. It is remembered in this browser. */
export function useStripHeight() {
  const kept = useLocalStorage<unknown>('zephyrine-strip-height', null, { serializer: JSON_TEXT })
  const wanted = ref(LOWEST_STRIP)
  const share = ref(MOST.own)
  const { height: windowHeight } = useWindowSize()
  const height = computed({
    get: () =>
      typeof kept.value === 'number'
        ? kept.value
        : Math.round(Math.max(LOWEST_STRIP, Math.min(wanted.value, share.value * windowHeight.value))),
    set: (px) => (kept.value = px),
  })
  /** @param isAsked whether somebody has opened what is to be seen, so that a height that hides it goes */
  function makeRoom(px: number, isAsked: boolean) {
    wanted.value = px
    if (!isAsked) return
    share.value = MOST.asked
    if (height.value < px) kept.value = null
  }
  return { height, makeRoom }
}
