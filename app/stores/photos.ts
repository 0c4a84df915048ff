import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Photo } from '#core/journey/schema'
import { addPostcard, editPostcard, newPostcard } from '#core/edits/marks/postcards'
import type { PlacedPhoto } from '#core/edits/marks/photo-stops'
import { addPhotoStops } from '#core/edits/marks/photo-stops'
import { ApiError, followImport, uploadImage } from '~/services/api'
import { MOST_PHOTO_BYTES, readPhotoPlace } from '~/services/photo-places'
import { chooseFiles } from '~/services/choose-files'
import { useEditor } from './editor'
import { usePlayback } from './playback'

/** The most photos imported at once; a trip has no more stops than this. */
const MOST_PHOTOS = 200

/** Extensions of photos that can be shown, and of those from which only the place can be read. */
const SHOWN = ['.jpg', '.jpeg', '.png', '.webp', '.avif', '.tif', '.tiff']
const PLACED = [...SHOWN, '.heic', '.heif']

const endsIn = ({ name }: File, endings: readonly string[]) => endings.some((ending) => name.toLowerCase().endsWith(ending))

export const isPhotoFile = (file: File): boolean => endsIn(file, PLACED)

const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
const few = (names: readonly string[]) => `${names.slice(0, 5).join(', ')}${names.length > 5 ? ' …' : ''}`

/** Photos being imported: one for a stop's postcard, or many that become stops. */
export const usePhotos = defineStore('photos', () => {
  const editor = useEditor()
  const playback = usePlayback()
  const running = ref<{ name: string; number: number; of: number; share: number }>()
  /** The result of the last import of photos, or what was wrong with them. */
  const outcome = ref('')
  /** Whether all of them failed. */
  const failed = ref(false)
  let control: AbortController | undefined

  /**
   * Uploads photos to the server, which cuts them into tiles.
   * @returns the result for each, which is a sentence if it cannot be shown; undefined if it was cancelled, or another journey has been opened
   */
  async function bringIn(files: readonly File[]): Promise<(Photo | string)[] | undefined> {
    control?.abort()
    const own = new AbortController()
    control = own
    const { opening } = editor
    const results: (Photo | string)[] = []
    try {
      for (const [i, file] of files.entries()) {
        running.value = { name: file.name, number: i + 1, of: files.length, share: 0 }
        results.push(await bringOne(file, own.signal))
        if (own.signal.aborted || editor.opening !== opening) return undefined
      }
      return results
    } finally {
      if (control === own) running.value = undefined
    }
  }

  async function bringOne(file: File, signal: AbortSignal): Promise<Photo | string> {
    if (!endsIn(file, SHOWN)) return `“${file.name}” cannot be shown: save it as JPEG, PNG, WebP, AVIF or TIFF.`
    if (file.size > MOST_PHOTO_BYTES) return `“${file.name}” is larger than ${MOST_PHOTO_BYTES / 1024 ** 2} MiB: save it smaller.`
    // Uploading and cutting take about the same time.
    const half = (from: number) => (share: number) => running.value && (running.value.share = from + share / 2)
    try {
      const id = await uploadImage(file, half(0), signal)
      const { hash, width, height, vector } = await followImport(id, half(0.5), signal)
      return { image: hash, width, height, vector }
    } catch (error) {
      if (error instanceof ApiError) return error.message
      throw error
    }
  }

  /** Moves the play position to where a card of a stop is fully visible. */
  function show(stop: string, card: string) {
    const { postcards = [] } = editor.compiled?.marks.find((mark) => mark.stop.id === stop) ?? {}
    const times = postcards.find(({ postcard }) => postcard.id === card)
    if (times) playback.goToTime(Math.min(times.from + 0.5, editor.compiled!.lastTime))
  }

  function fail(why: string) {
    outcome.value = why
    failed.value = true
  }

  /** Adds a postcard with a photo to a stop, or replaces the photo of one of its cards. */
  async function postcardFrom(file: File, stop: string, card?: string): Promise<void> {
    outcome.value = ''
    const [result] = (await bringIn([file])) ?? []
    if (result === undefined) return
    if (typeof result === 'string') return fail(result)
    const id = card ?? nanoid(10)
    editor.edit((journey) => {
      const known = journey.stops.find((other) => other.id === stop)
      if (!known) return journey
      return card === undefined
        ? addPostcard(journey, stop, newPostcard(known, id, { photo: result }))
        : editPostcard(journey, stop, card, { photo: result, crop: null })
    })
    show(stop, id)
  }

  /** Makes stops from photos that say where they were taken, each with its photo as a postcard. */
  async function stopsFrom(files: readonly File[]): Promise<void> {
    outcome.value = ''
    const { geo } = editor
    if (!geo) return fail('To place photos, georeference a sheet first: see its details.')
    if (files.length > MOST_PHOTOS) return fail(`At most ${MOST_PHOTOS} photos at once: choose fewer.`)
    const read = await Promise.all(
      files.map(async (file) => {
        const { name, place, time } = await readPhotoPlace(file)
        return { file, name, time, at: place && geo.toGround(place) }
      }),
    )
    const placed = read.flatMap(({ at, ...photo }) => (at ? [{ ...photo, at }] : []))
    const results = await bringIn(placed.map(({ file }) => file))
    if (!results) return
    const photos = placed.map(({ name, at, time }, i): PlacedPhoto => {
      const photo = results[i]!
      return { name, at, time, photo: typeof photo === 'string' ? null : photo }
    })
    const before = editor.journey!.stops.length
    const ids = photos.map(() => ({ stop: nanoid(10), leg: nanoid(10) }))
    if (photos.length > 0 && !editor.edit((journey) => addPhotoStops(journey, photos, editor.traveller!.id, ids))) return
    const nowhere = read.flatMap(({ name, at }) => (at ? [] : [`“${name}”`]))
    const problems = results.filter((result) => typeof result === 'string')
    failed.value = photos.length === 0
    outcome.value = [
      `${count(files.length, 'photo')}, ${count(editor.journey!.stops.length - before, 'stop')}.`,
      ...(nowhere.length > 0 ? [`Without a place on the map: ${few(nowhere)}.`] : []),
      ...problems.slice(0, 3),
    ].join(' ')
  }

  const words = computed(() => {
    if (!running.value) return ''
    const { name, number, of, share } = running.value
    return `${of > 1 ? `Photo ${number} of ${of}` : 'Photo'}, “${name}”: ${Math.round(share * 100)} %`
  })

  return {
    running,
    words,
    outcome,
    failed,
    stopsFrom,
    postcardFrom,
    show,
    cancel: () => control?.abort(),
    choosePostcard: (stop: string, card?: string) => chooseFiles(SHOWN, false, ([file]) => postcardFrom(file!, stop, card)),
    chooseStops: () => chooseFiles(PLACED, true, stopsFrom),
  }
})
