import { ref, watch } from 'vue'
import type { Sheet } from '#core/journey/schema'
import { coarsestLevel } from '#core/sheet/pyramid'
import { WASH_PRESETS } from '#core/sheet/wash'
import { washedImage } from '#draw/ground/wash'
import type { SheetPicture } from '#draw/studio'
import { createSurface } from '~/services/browser-studio'
import { tileAddress } from '~/services/addresses'

/** Size of the pictures, for high-density screens. */
const WIDTH = 124
const HEIGHT = 70

/** Small pictures of the user's sheet in each of the ready-made washes, by name, as data URLs. */
export function useWashPictures(sheet: () => Sheet) {
  const pictures = ref<Record<string, string>>({})
  watch(
    () => sheet().image,
    async (hash) => {
      const response = await fetch(tileAddress(hash, { level: coarsestLevel(sheet()), column: 0, row: 0 })).catch(() => undefined)
      if (response?.status !== 200) return
      const whole = await createImageBitmap(await response.blob(), { resizeWidth: WIDTH, resizeQuality: 'high' })
      const step = sheet().width / WIDTH
      const covered = { x: 0, y: 0, width: sheet().width, height: whole.height * step }
      const picture: SheetPicture = { image: whole, pixels: { width: WIDTH, height: whole.height }, step, ...covered }
      const made: Record<string, string> = {}
      for (const { name, wash } of WASH_PRESETS) {
        const canvas = document.createElement('canvas')
        Object.assign(canvas, { width: WIDTH, height: HEIGHT })
        const washed = wash ? washedImage({ createSurface }, picture, wash) : whole
        canvas.getContext('2d')!.drawImage(washed, 0, (HEIGHT - whole.height) / 2)
        made[name] = canvas.toDataURL('image/webp', 0.85)
      }
      if (sheet().image === hash) pictures.value = made
    },
    { immediate: true },
  )
  return pictures
}
