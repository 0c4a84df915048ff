import { refDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { JOURNEY_LOOKS } from '#core/dress/looks'
import { dressJourney } from '#core/edits/looks'
import { compile } from '#core/frame/compile'
import { facesOf } from '#core/frame/faces'
import { frameAt } from '#core/frame/frame-at'
import type { Journey } from '#core/journey/schema'
import { createPainter } from '#draw/painter'
import { createBrowserStudio } from '~/services/browser-studio'
import { loadFaces } from '~/services/frame-fonts'
import { useEditor } from '~/stores/editor'

/** The longer side of the pictures, in pixels: for high-density screens. */
const SIDE = 280

/** Which moment is shown, as a share of the film: when much of the way has been made, and the vehicle is still there. */
const MOMENT = 0.63

/** The pictures follow the journey once it has rested for so long, in milliseconds. */
const REST = 600

/** Small pictures of the open journey in each of the ready-made looks, by id, as data URLs; painted one after another, as tiles arrive. */
export function useLookPictures() {
  const editor = useEditor()
  const pictures = ref<Record<string, string>>({})
  const studio = createBrowserStudio(() => void paintAll())
  const journey = refDebounced(
    computed(() => editor.journey),
    REST,
  )
  let turn = 0

  async function paintAll() {
    const now = ++turn
    const shown = journey.value
    if (!shown) return
    for (const look of JOURNEY_LOOKS) {
      const dressed = dressJourney(shown, look)
      await loadFaces(facesOf(dressed))
      // Between two pictures the page can do something else.
      await new Promise((resolve) => setTimeout(resolve))
      if (now !== turn) return
      pictures.value = { ...pictures.value, [look.id]: pictureOf(dressed) }
    }
  }

  function pictureOf(dressed: Journey): string {
    const compiled = compile(dressed, editor.labelPlaces)
    const frame = frameAt(compiled, compiled.lastTime * MOMENT)
    const scale = SIDE / Math.max(frame.reference.width, frame.reference.height)
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(frame.reference.width * scale)
    canvas.height = Math.round(frame.reference.height * scale)
    createPainter(studio).paint({ ...frame, items: frame.items.filter(({ kind }) => kind !== 'credit') }, canvas.getContext('2d')!, scale)
    return canvas.toDataURL('image/webp', 0.85)
  }

  watch(journey, () => void paintAll(), { immediate: true })
  onBeforeUnmount(() => turn++)
  return pictures
}
