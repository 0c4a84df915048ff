import { nanoid } from 'nanoid'
import { ref } from 'vue'
import type { PlacedPhoto } from '#core/journey/photo-stops'
import { addPhotoStops } from '#core/journey/photo-stops'
import { readPhotoPlace } from '~/services/photo-places'
import { useEditor } from '~/stores/editor'

/** As many photos are taken at once; a trip has no more stops. */
const MOST_PHOTOS = 200

/** Makes stops of photos that say where they were taken. */
export function usePhotoStops() {
  const editor = useEditor()
  /** What became of the photos chosen last. */
  const outcome = ref('')

  async function take(files: readonly File[]): Promise<void> {
    outcome.value = ''
    const { geo } = editor
    if (!geo) return void (outcome.value = 'Photos can be placed once a sheet’s place on the Earth is known: see its details.')
    if (files.length > MOST_PHOTOS) return void (outcome.value = `At most ${MOST_PHOTOS} photos at once: choose fewer.`)
    const photos = (await Promise.all(files.map(readPhotoPlace))).map((photo) => ({
      ...photo,
      at: photo.place && geo.toGround(photo.place),
    }))
    const placed = photos.flatMap(({ name, at, time }): PlacedPhoto[] => (at ? [{ name, at, time }] : []))
    const unplaced = photos.flatMap(({ name, at }) => (at ? [] : [`“${name}”`]))
    const before = editor.journey!.stops.length
    const ids = placed.map(() => ({ stop: nanoid(10), leg: nanoid(10) }))
    if (placed.length > 0 && !editor.edit((journey) => addPhotoStops(journey, placed, editor.traveller!.id, ids))) return
    const made = editor.journey!.stops.length - before
    const rest =
      unplaced.length === 0 ? '' : ` Without a place on the map: ${unplaced.slice(0, 5).join(', ')}${unplaced.length > 5 ? ' …' : ''}.`
    outcome.value = `${photos.length} ${photos.length === 1 ? 'photo' : 'photos'}, ${made} ${made === 1 ? 'stop' : 'stops'}.${rest}`
  }

  function choose() {
    const input = document.createElement('input')
    input.type = 'file'
    input.multiple = true
    input.accept = '.jpg,.jpeg,.heic,.heif,.tif,.tiff,.png,.webp,.avif'
    input.onchange = () => void take([...(input.files ?? [])])
    input.click()
  }

  return { outcome, choose }
}
