import { useDropZone } from '@vueuse/core'
import type { Ref } from 'vue'
import { useEditor } from '~/stores/editor'
import { readPhotoPlace } from '~/services/photo-places'
import { isPhotoFile } from '~/services/photo-upload'
import { usePhotos } from '~/stores/photos'
import { isAudioFile, useSound } from '~/stores/sound'
import { isTrackFile, useTracks } from '~/stores/tracks'
import { isSystemFile, isWorldFile } from '~/stores/world-file'

/**
 * Imports what is dropped on the editor: a track, photos, or a map with its world file.
 * @param importMap imports a map with the files that belong to it
 */
export function useDrops(desk: Readonly<Ref<HTMLElement | null>>, importMap: (files: readonly File[]) => Promise<void>) {
  const editor = useEditor()
  const tracks = useTracks()
  const photos = usePhotos()
  const sound = useSound()

  const zone = useDropZone(desk, {
    multiple: true,
    onDrop(_files, event) {
      const dropped = [...(event.dataTransfer?.items ?? [])].filter((item) => item.kind === 'file')
      const isFolder = (item: DataTransferItem) => item.webkitGetAsEntry()?.isDirectory ?? false
      if (dropped.some(isFolder)) return void (editor.refusal = 'A folder cannot be imported: drop the files in it.')
      void take(
        dropped.flatMap((item) => item.getAsFile() ?? []),
        stopUnder(event),
      )
    },
  })

  /** The stop that something is dropped on. */
  function stopUnder({ clientX, clientY }: DragEvent): string | undefined {
    const handle = document.elementsFromPoint(clientX, clientY).find((element) => element.closest('[data-stop]'))
    return handle?.closest<HTMLElement>('[data-stop]')?.dataset.stop
  }

  /** Imports what was dropped, and names the files it left out. */
  async function take(files: File[], stop: string | undefined) {
    const pictures = files.filter(isPhotoFile)
    const heard = files.find(isAudioFile)
    if (heard) void sound.add(heard)
    const track = files.find(isTrackFile)
    // What a camera has taken is a photo of the trip; one other picture, or one with a world file, is a map.
    const read = await Promise.all(pictures.map(readPhotoPlace))
    const isPlaced = files.some((file) => isWorldFile(file) || isSystemFile(file))
    const isTrip = !isPlaced && (read.some(({ isFromCamera }) => isFromCamera) || (pictures.length > 1 && editor.geo !== undefined))
    const taken = ((): readonly File[] => {
      if (track) {
        void tracks.open(track, { photos: isTrip ? pictures : [] })
        return isTrip ? [track, ...pictures] : [track]
      }
      if (stop !== undefined && pictures[0]) {
        void photos.postcardFrom(pictures[0], stop)
        return [pictures[0]]
      }
      if (isTrip) {
        void photos.stopsFrom(pictures)
        return pictures
      }
      const map = files.find((file) => !isWorldFile(file) && !isSystemFile(file) && !isAudioFile(file))
      const beside = files.filter((file) => isWorldFile(file) || isSystemFile(file))
      const together = map ? [map, ...beside] : beside
      if (together.length > 0) void importMap(together)
      return together
    })()
    const left = files.filter((file) => file !== heard && !taken.includes(file)).map(({ name }) => `“${name}”`)
    if (left.length > 0)
      editor.notice = {
        text: `Left out: ${left.slice(0, 4).join(', ')}${left.length > 4 ? ` and ${left.length - 4} more` : ''}. Drop one map, track or piece of music at a time, or photos together.`,
      }
  }

  return zone
}
