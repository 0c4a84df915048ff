import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Photo } from '#core/journey/schema'
import { addPostcard, editPostcard, newPostcard } from '#core/edits/marks/postcards'
import type { ClockOffset, TripPhoto } from '#core/edits/marks/photo-stops'
import { addPhotoStops, clockOffset, isPlaceable } from '#core/edits/marks/photo-stops'
import { geoSheet } from '#core/geo/georeference'
import type { LonLat } from '#core/geo/lon-lat'
import { georeferenceInFrame, toGroundBy } from '#core/geo/near-ground'
import { greatest, least } from '#core/geometry/extremes'
import type { Point } from '#core/geometry/point'
import { useFirstLeg } from '~/composables/use-first-leg'
import { PLACED_PHOTOS, SHOWN_PHOTOS, uploadPhoto } from '~/services/photo-upload'
import { readPhotoPlace } from '~/services/photo-places'
import { chooseFiles } from '~/services/choose-files'
import { useEditor } from './editor'
import { usePlayback } from './playback'
import { useStage } from './stage'

/** The most photos imported at once; a trip has no more stops than this. */
const MOST_PHOTOS = 200

const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
const few = (names: readonly string[]) => `${names.slice(0, 5).join(', ')}${names.length > 5 ? ' …' : ''}`

interface ReadPhoto {
  file: File
  photo: TripPhoto
}

/** Photos being imported: one for a stop's postcard, or many that become stops. */
export const usePhotos = defineStore('photos', () => {
  const editor = useEditor()
  const playback = usePlayback()
  const stage = useStage()
  const firstLeg = useFirstLeg()
  const running = ref<{ name: string; number: number; of: number; share: number }>()
  /** The result of the last import of photos, or what was wrong with them. */
  const outcome = ref('')
  /** Whether all of them failed. */
  const failed = ref(false)
  /** Photos of which some can only be placed by the camera's clock, and how far that is off by those that know both. */
  const asked = shallowRef<{ photos: readonly ReadPhoto[]; byClock: readonly TripPhoto[]; known: ClockOffset | undefined }>()
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
        results.push(await uploadPhoto(file, (share) => running.value && (running.value.share = share), own.signal))
        if (own.signal.aborted || editor.opening !== opening) return undefined
      }
      return results
    } finally {
      if (control === own) running.value = undefined
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

  /** Makes stops from photos, each with its photo as a postcard. Where some are placed by the camera's clock, that is asked first. */
  async function stopsFrom(files: readonly File[]): Promise<void> {
    outcome.value = ''
    if (files.length > MOST_PHOTOS) return fail(`At most ${MOST_PHOTOS} photos at once: choose fewer.`)
    const { opening } = editor
    const read = await Promise.all(files.map(async (file) => ({ file, ...(await readPhotoPlace(file)) })))
    if (editor.opening !== opening) return
    const journey = editor.journey!
    const toGround = toGroundBy(journey) ?? inFrame(read.flatMap(({ place }) => (place ? [place] : [])))
    const photos = read.map(({ file, name, place, time, isExact }) => ({
      file,
      photo: { name, time, isExact, at: (place && toGround?.(place)) ?? null, photo: null },
    }))
    const who = editor.traveller!.id
    const all = photos.map(({ photo }) => photo)
    const known = clockOffset(journey, all, who)
    const isRecorded = editor.traveller!.legs.some(({ course }) => course.kind === 'track' && course.began !== null)
    const byClock = all.filter(({ at, time }) => at === null && time !== null)
    if (isRecorded && byClock.some(({ isExact }) => !isExact)) asked.value = { photos, byClock, known }
    else await place(photos, known?.seconds ?? 0)
  }

  /** Where there is no map yet, the photos are laid into the frame, as a track is. */
  function inFrame(places: readonly LonLat[]): ((at: LonLat) => Point | undefined) | undefined {
    const { camera, sheets } = editor.journey!
    if (sheets.length > 0 || places.length === 0) return undefined
    const [lons, lats] = [places.map(({ lon }) => lon), places.map(({ lat }) => lat)]
    const bounds = [least(lons), least(lats), greatest(lons), greatest(lats)] as const
    return geoSheet(georeferenceInFrame(bounds, camera, stage.reference)).toSheet
  }

  /** Uploads the photos for which there is a place, and makes their stops. */
  async function place(photos: readonly ReadPhoto[], offset: number): Promise<void> {
    asked.value = undefined
    const who = editor.traveller!.id
    const placed = photos.filter(({ photo }) => isPlaceable(editor.journey!, photo, who, offset))
    const results = await bringIn(placed.map(({ file }) => file))
    if (!results) return
    const shown = placed.map(({ photo }, i): TripPhoto => {
      const result = results[i]!
      return { ...photo, photo: typeof result === 'string' ? null : result }
    })
    const before = editor.journey!.stops.length
    const ids = shown.map(() => ({ stop: nanoid(10), leg: nanoid(10) }))
    if (
      shown.length > 0 &&
      !editor.edit((journey) => addPhotoStops(journey, shown, who, ids, { offset, dress: firstLeg.dressFor(editor.traveller!) }))
    )
      return
    const nowhere = photos.filter((each) => !placed.includes(each)).map(({ photo: { name } }) => `“${name}”`)
    const problems = results.filter((result) => typeof result === 'string')
    failed.value = shown.length === 0
    const isMapLost = editor.journey!.sheets.length > 0 && !toGroundBy(editor.journey!)
    outcome.value = [
      `${count(photos.length, 'photo')}, ${count(editor.journey!.stops.length - before, 'stop')}.`,
      ...(nowhere.length > 0 ? [`Without a place on the map: ${few(nowhere)}.`] : []),
      ...(nowhere.length === 1 && photos.length === 1
        ? ['Drop it on a stop to make it a postcard there, or choose it as a map in the details of the sheet.']
        : []),
      ...(nowhere.length > 0 && isMapLost
        ? ['The map does not know where it lies: georeference it in its details, or place two stops by a track or by name first.']
        : []),
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
    asked,
    place,
    stopsFrom,
    postcardFrom,
    show,
    cancel: () => control?.abort(),
    choosePostcard: (stop: string, card?: string) => chooseFiles(SHOWN_PHOTOS, false, ([file]) => postcardFrom(file!, stop, card)),
    chooseStops: () => chooseFiles(PLACED_PHOTOS, true, stopsFrom),
  }
})
