import { useLocalStorage } from '@vueuse/core'
import { DEFAULT_FRAME } from '#core/journey/create'
import type { FrameFormat } from '#core/journey/schema'
import { frameSchema } from '#core/journey/schema'
import { JSON_TEXT } from '~/services/json-text'

/** The frame that was chosen last, in whichever journey: the next one begins with it. */
export function useLastFrame() {
  const last = useLocalStorage<unknown>('zephyrine-frame', null, { serializer: JSON_TEXT })
  return {
    frame(): FrameFormat {
      const known = frameSchema.safeParse(last.value)
      return known.success ? known.data : DEFAULT_FRAME
    },
    used(frame: FrameFormat) {
      last.value = frame
    },
  }
}
