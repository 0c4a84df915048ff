import { format } from 'date-fns'
import PQueue from 'p-queue'
import { computed, ref, shallowRef } from 'vue'
import { JourneyError } from '#core/error'
import type { ClockOffset, TripPhoto } from '#core/edits/marks/photo-stops'
import { clockOffset, inOrder, isPlaceable } from '#core/edits/marks/photo-stops'
import type { LonLat } from '#core/geo/lon-lat'
import { groundGeo } from '#core/geo/ground'
import type { Point } from '#core/geometry/point'
import type { DrawnMap, Journey, Photo, Sheet } from '#core/journey/schema'
import { AT_ORIGIN } from '#core/sheet/place'
import { USUAL_PAUSE } from '#core/tracks/measure'
import type { TrackOverview } from '#core/tracks/messages'
import { TRACK_LIMITS } from '#core/tracks/track'
import type { DayTrack } from '#core/writing/journey-of-day'
import { bestSpread, journeyOfDay, journeyOfTracks, mapOfDay, MOST_CARDS } from '#core/writing/journey-of-day'
import { nameOfTrip, sheetOfMap } from '#core/writing/make-journey'
import { useLastFrame } from '~/composables/use-last-frame'
import { useMapStyle } from '~/composables/use-map-style'
import { ApiError, createJourney, drawMap, followImport, placeAt } from '~/services/api'
import { WorkerError } from '~/services/call-worker'
import { filesInZip, isZip } from '~/services/dropped-files'
import { namesOfStops } from '~/services/names-of-stops'
import { readPhotoPlace } from '~/services/photo-places'
import { isPhotoFile, uploadPhoto } from '~/services/photo-upload'
import type { TrackReader } from '~/services/track-reader'
import { openTrackReader } from '~/services/track-reader'
import { isTrackFile } from '~/stores/tracks'

/** So many pauses of a track become stops, the longest; and so many marked places. */
const MOST_PAUSES = 6
const MOST_MARKED = 24
/** A photo that is so near to a place, in km, has that place's name. */
const NEAR = 3
/** A day whose ends are near no place is called after the largest that is so near to where it began, in km. */
const AROUND = [10, 25] as const
/** Before its map is drawn a day lies on one that has no picture yet. */
const NO_PICTURE = '0'.repeat(64)
/** Photos are read, and uploaded, so many at a time. */
const AT_ONCE = { reading: 8, uploading: 2 } as const

interface ReadTrack {
  name: string
  overview: TrackOverview
  reader: TrackReader
}

export interface DayPhoto {
  file: File
  photo: TripPhoto
  /** Where it was taken; null if it does not say. */
  place: LonLat | null
}

/** What has been read, laid on the map on which it will be filmed. */
interface Draft {
  map: DrawnMap
  tracks: readonly DayTrack[]
  /** The journey of the tracks alone. */
  tracked: Journey
  photos: readonly DayPhoto[]
  name: string
  date: string | null
}

/** A film made of what was recorded: reads tracks and photos, says what is in them, and makes the journey. */
export function useRecordedDay() {
  const { frame } = useLastFrame()
  const { styled } = useMapStyle()
  /** What is going on, and the share that is done. */
  const running = ref<{ what: string; share: number }>()
  const problems = ref<string[]>([])
  /** Files that could be read with latitude and longitude swapped. */
  const swappable = shallowRef<readonly File[]>([])
  const tracks = shallowRef<readonly ReadTrack[]>([])
  const draft = shallowRef<Draft>()
  /** Seconds to be added to the camera's times. */
  const offset = ref(0)
  const name = ref('')
  let control = new AbortController()

  function close() {
    control.abort()
    control = new AbortController()
    for (const { reader } of tracks.value) reader.close()
    tracks.value = []
    draft.value = undefined
    running.value = undefined
    problems.value = []
    swappable.value = []
    offset.value = 0
  }

  /** Reads files, which take the place of those before. @param swapped whether latitudes and longitudes of tracks are to be swapped */
  async function open(given: readonly File[], swapped = false): Promise<void> {
    close()
    const { signal } = control
    running.value = { what: 'Reading', share: 0 }
    const isOurs = (file: Pick<File, 'name'>) => isTrackFile(file) || isPhotoFile(file)
    try {
      const files = (await Promise.all(given.map((file) => (isZip(file) ? unpacked(file, isOurs) : [file])))).flat()
      const left = files.filter((file) => !isOurs(file)).map((file) => `“${file.name}”`)
      if (left.length > 0) problems.value.push(`Neither a track nor a photo: ${few(left)}.`)
      const read: ReadTrack[] = []
      for (const file of files.filter(isTrackFile)) {
        const track = await readTrack(
          file,
          swapped,
          (share) => running.value && (running.value = { what: `Reading “${file.name}”`, share }),
        )
        if (signal.aborted) return track?.reader.close()
        if (track) read.push(track)
      }
      read.sort((a, b) => (a.overview.start ?? Infinity) - (b.overview.start ?? Infinity))
      tracks.value = read
      running.value = { what: 'Reading the photos', share: 1 }
      const queue = new PQueue({ concurrency: AT_ONCE.reading })
      const photos = await Promise.all(files.filter(isPhotoFile).map((file) => queue.add(() => readPhoto(file))))
      if (signal.aborted) return
      running.value = { what: 'Looking up the places', share: 1 }
      const laid = await lay(read, photos)
      if (signal.aborted) return
      draft.value = laid
      name.value = laid?.name ?? ''
      offset.value = known.value?.seconds ?? 0
    } catch (error) {
      if (signal.aborted) return
      if (!(error instanceof WorkerError || error instanceof JourneyError || error instanceof ApiError)) throw error
      problems.value.push(error.message)
    } finally {
      if (!signal.aborted) running.value = undefined
    }
  }

  async function unpacked(zip: File, isWanted: (file: { name: string }) => boolean): Promise<File[]> {
    try {
      return await filesInZip(zip, isWanted)
    } catch (error) {
      problems.value.push(error instanceof Error ? error.message : String(error))
      return []
    }
  }

  async function readTrack(file: File, swap: boolean, onProgress: (share: number) => void): Promise<ReadTrack | undefined> {
    if (file.size > TRACK_LIMITS.bytes) {
      problems.value.push(`“${file.name}” is larger than ${TRACK_LIMITS.bytes / 1024 ** 2} MiB: cut it into parts.`)
      return undefined
    }
    const reader = openTrackReader()
    try {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const overview = await reader.call('read', { name: file.name, bytes, swap }, { transfer: [bytes.buffer], onProgress })
      return { name: file.name, overview, reader }
    } catch (error) {
      reader.close()
      if (!(error instanceof WorkerError)) throw error
      if (error.kind === 'SwappedError') swappable.value = [...swappable.value, file]
      problems.value.push(error.message)
      return undefined
    }
  }

  async function readPhoto(file: File): Promise<DayPhoto> {
    const { place, time, isExact } = await readPhotoPlace(file)
    return { file, photo: { name: '', time, isExact, at: null, photo: null }, place }
  }

  /** Lays what was read on the map of all of it; undefined where there is nothing to lay. */
  async function lay(read: readonly ReadTrack[], photos: readonly DayPhoto[]): Promise<Draft | undefined> {
    const corners = read.flatMap(({ overview: { bounds: [west, south, east, north] } }) => [{ lon: west, lat: south }, { lon: east, lat: north }]) // prettier-ignore
    const places = [...corners, ...(read.length > 0 ? [] : photos.flatMap(({ place }) => place ?? []))]
    if (places.length === 0) {
      if (photos.length > 0) problems.value.push('None of the photos says where it was taken: drop them together with a track of that day.')
      return undefined
    }
    const map = mapOfDay(places, frame())
    const sheet = sheetOfMap(map, NO_PICTURE)
    const geo = groundGeo({ sheets: [sheet] })!
    const around = await Promise.all(read.map((track) => layTrack(track, sheet)))
    const own = around.map(({ track }) => track)
    const tracked = journeyOfTracks({ name: '', tracks: own }, sheet, frame())
    // Where a track says what the film is of, photos from elsewhere are not in it.
    const isOnMap = ({ x, y }: Point) => x >= 0 && y >= 0 && x <= sheet.width && y <= sheet.height
    const onMap = photos.map((each): DayPhoto => {
      const at = each.place && geo.toGround(each.place)
      if (!at) return each
      return { ...each, photo: isOnMap(at) ? { ...each.photo, at } : { ...each.photo, time: null } }
    })
    const named = read.length > 0 ? onMap : await withNames(onMap)
    const ends =
      own.length > 0 ? [own[0]!.stops[0]!, own.at(-1)!.stops.at(-1)!].filter(({ found }) => found) : named.map(({ photo }) => photo)
    const called = ends.filter((end) => end.name !== '')
    const started = read[0]?.overview.start ?? null
    return {
      map,
      tracks: own,
      tracked,
      photos: named,
      name: called.length > 0 ? nameOfTrip(called) : await nameAround(own[0]?.stops[0]!.place ?? photos.find(({ place }) => place)?.place),
      date: started === null ? firstDay(named) : dayIn(started * 1000, around[0]?.zone),
    }
  }

  /** What a day is called whose ends have no names. */
  async function nameAround(place: LonLat | null | undefined): Promise<string> {
    for (const km of place ? AROUND : []) {
      const found = await placeAt(place!, km).catch(() => undefined)
      if (found) return `Around ${found.name}`
    }
    return 'A day'
  }

  async function layTrack({ overview, reader }: ReadTrack, sheet: Sheet): Promise<{ track: DayTrack; zone: string | undefined }> {
    const { places, points, lengthMetres, movingSeconds, hasTimes, hasHeights } = overview
    const pauses = places.filter(({ isMarked, seconds }) => !isMarked && seconds >= USUAL_PAUSE).sort((a, b) => b.seconds - a.seconds)
    const stops = [...places.filter(({ isMarked }) => isMarked).slice(0, MOST_MARKED), ...pauses.slice(0, MOST_PAUSES)]
    const laid = await reader.call('lay', {
      options: {
        segment: null,
        from: 0,
        to: 1,
        reversed: false,
        // To about what is seen, as the track dialog does.
        metres: points < 2000 ? 0 : Math.max(0.1, lengthMetres / 20_000),
        stops: stops.map(({ lon, lat, name: marked }) => ({ lon, lat, name: marked })),
      },
      georeference: sheet.georeference!,
      place: AT_ORIGIN,
      size: { width: sheet.width, height: sheet.height },
    })
    const { names, zone } = await namesOfStops(laid.stops)
    return {
      track: {
        stops: laid.stops.map(({ at, place }, i) => ({ at, place, ...names[i]! })),
        courses: laid.courses,
        speed: movingSeconds ? (3.6 * lengthMetres) / movingSeconds : null,
        hasTimes,
        hasHeights,
      },
      zone,
    }
  }

  /** Photos without a track are named after the places where they were taken. */
  async function withNames(photos: readonly DayPhoto[]): Promise<DayPhoto[]> {
    const queue = new PQueue({ concurrency: AT_ONCE.reading })
    const near = await Promise.all(
      photos.map(({ place }) => queue.add(async () => (place ? placeAt(place, NEAR).catch(() => undefined) : undefined))),
    )
    return photos.map((each, i) => ({ ...each, photo: { ...each.photo, name: near[i]?.name ?? '' } }))
  }

  const who = computed(() => draft.value?.tracked.travellers[0]!.id ?? '')
  const allPhotos = computed(() => draft.value?.photos.map(({ photo }) => photo) ?? [])
  /** How far the camera's clock is off, by the photos that tell. */
  const known = computed<ClockOffset | undefined>(() => draft.value && clockOffset(draft.value.tracked, allPhotos.value, who.value))
  /** Photos that only the camera's clock can place, which may be set to any zone. */
  const byClock = computed(() => allPhotos.value.filter(({ at, time, isExact }) => at === null && time !== null && !isExact))
  const isClockAsked = computed(() => byClock.value.length > 0 && (draft.value?.tracks.some(({ hasTimes }) => hasTimes) ?? false))
  const placed = computed(
    () => draft.value?.photos.filter(({ photo }) => isPlaceable(draft.value!.tracked, photo, who.value, offset.value)) ?? [],
  )
  /** Those that are shown: as many as have room. */
  const shown = computed(() => {
    const chosen = bestSpread(
      placed.value.map(({ photo }) => photo),
      MOST_CARDS,
    )
    return placed.value.filter(({ photo }) => chosen.includes(photo))
  })

  /** Makes the journey. @returns its id; undefined where it was cancelled, or did not work */
  async function make(): Promise<string | undefined> {
    const made = draft.value
    if (!made) return undefined
    const { signal } = control
    problems.value = []
    running.value = { what: 'Drawing the map', share: 0 }
    try {
      const map = styled(made.map)
      const image = followImport(await drawMap(map), () => undefined, signal)
      const uploaded = await upload(shown.value, signal)
      const sheet = sheetOfMap(map, (await image).hash)
      if (signal.aborted) return undefined
      running.value = { what: 'Making the journey', share: 1 }
      const journey = journeyOfDay(
        { name: name.value.trim() || made.name, date: made.date, tracks: made.tracks, photos: uploaded, offset: offset.value },
        sheet,
        frame(),
      )
      const { id } = await createJourney(journey)
      return signal.aborted ? undefined : id
    } catch (error) {
      if (signal.aborted) return undefined
      if (!(error instanceof ApiError || error instanceof JourneyError)) throw error
      problems.value.push(error.message)
      return undefined
    } finally {
      if (!signal.aborted) running.value = undefined
    }
  }

  /** Uploads photos; one that cannot be shown is told, and left out. A place that several photos have is named once. */
  async function upload(photos: readonly DayPhoto[], signal: AbortSignal): Promise<TripPhoto[]> {
    const shares = photos.map(() => 0)
    const queue = new PQueue({ concurrency: AT_ONCE.uploading })
    const results = await Promise.all(
      photos.map(({ file }, i) =>
        queue.add(() => {
          signal.throwIfAborted()
          return uploadPhoto(
            file,
            (share) => {
              shares[i] = share
              running.value = { what: `Taking in ${photos.length === 1 ? 'the photo' : `${photos.length} photos`}`, share: shares.reduce((sum, each) => sum + each, 0) / shares.length } // prettier-ignore
            },
            signal,
          )
        }),
      ),
    )
    const taken = photos.flatMap(({ photo }, i): TripPhoto[] => {
      const result: Photo | string = results[i]!
      if (typeof result === 'string') problems.value.push(result)
      return typeof result === 'string' ? [] : [{ ...photo, photo: result }]
    })
    const seen = new Set<string>()
    return inOrder(taken).map((photo) => {
      const isNew = !seen.has(photo.name)
      seen.add(photo.name)
      return isNew ? photo : { ...photo, name: '' }
    })
  }

  return {
    running,
    problems,
    swappable,
    tracks,
    draft,
    name,
    offset,
    known,
    byClock,
    isClockAsked,
    placed,
    shown,
    open,
    make,
    close,
  }
}

const few = (names: readonly string[]) => `${names.slice(0, 4).join(', ')}${names.length > 4 ? ` and ${names.length - 4} more` : ''}`

/** The day of a moment on the clocks of a zone; in UTC where that is not known. */
const dayIn = (time: number, zone = 'UTC'): string =>
  new Intl.DateTimeFormat('en-CA', { year: 'numeric', month: '2-digit', day: '2-digit', timeZone: zone }).format(time)

function firstDay(photos: readonly DayPhoto[]): string | null {
  const first = inOrder(photos.map(({ photo }) => photo))[0]?.time
  return first === undefined || first === null ? null : format(first, 'yyyy-MM-dd')
}
