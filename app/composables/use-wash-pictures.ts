import { ref, watch } from 'vue'
import type { Sheet } from '#core/journey/schema'
import { levelsOf } from '#core/sheet/levels'
import { WASH_PRESETS, washPixels } from '#core/sheet/wash'
import { imageAddress } from '~/services/api'

/** Size of the pictures, for screens of twice the usual density. */
const WIDTH = 124
const HEIGHT = 70

/** Small pictures of the user's own sheet in each of the ready-made washes, by name, as data addresses. */
export function useWashPictures(sheet: () => Sheet) {
  const pictures = ref<Record<string, string>>({})
  watch(
    () => sheet().image,
    async (hash) => {
      const response = await fetch(imageAddress(hash, levelsOf(sheet()).at(-1)!)).catch(() => undefined)
      if (!response?.ok) return
      const whole = await createImageBitmap(await response.blob(), { resizeWidth: WIDTH, resizeQuality: 'high' })
      const canvas = document.createElement('canvas')
      Object.assign(canvas, { width: WIDTH, height: HEIGHT })
      const context = canvas.getContext('2d', { willReadFrequently: true })!
      const made: Record<string, string> = {}
      for (const { name, wash } of WASH_PRESETS) {
        context.drawImage(whole, 0, (HEIGHT - whole.height) / 2)
        if (wash) {
          const pixels = context.getImageData(0, 0, WIDTH, HEIGHT)
          washPixels(pixels.data, wash)
          context.putImageData(pixels, 0, 0)
        }
        made[name] = canvas.toDataURL('image/webp', 0.85)
      }
      if (sheet().image === hash) pictures.value = made
    },
    { immediate: true },
  )
  return pictures
}
