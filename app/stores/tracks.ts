import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { TRACK_EXTENSIONS, TRACK_LIMITS } from '#core/tracks/track'
import type { TrackOptions, TrackOverview } from '#core/tracks/messages'
import { georeferenceInFrame } from '#core/geo/near-ground'
import type { Size } from '#core/geometry/size'
import type { Point } from '#core/geometry/point'
import type { Georeference, Place, Traveller } from '#core/journey/schema'
import { vehicleAtSpeed } from '#core/dress/first-leg'
import type { TrackUse } from '#core/edits/lines/tracks'
import { addTrack } from '#core/edits/lines/tracks'
import { AT_ORIGIN } from '#core/sheet/place'
import { useFirstLeg } from '~/composables/use-first-leg'
import { isAbort, WorkerError } from '~/services/call-worker'
import { namesOfStops } from '~/services/names-of-stops'
import type { TrackReader } from '~/services/track-reader'
import { openTrackReader } from '~/services/track-reader'
import { useEditor } from './editor'
import { usePhotos } from './photos'
import { useStage } from './stage'

export const isTrackFile = ({ name }: Pick<File, 'name'>): boolean => TRACK_EXTENSIONS.some((ending) => name.toLowerCase().endsWith(ending))

/** How a track is placed on the ground: by the georeference, by places that are clicked, or just into the frame. */
export type LayBy = 'earth' | 'places' | 'frame'

/** A recorded track being imported: read, previewed, and laid. */
export const useTracks = defineStore('tracks', () => {
  const editor = useEditor()
  const stage = useStage()
  const firstLeg = useFirstLeg()
  const name = ref('')
  /** The share that has been read; undefined while no file is being read. */
  const reading = ref<number>()
  const overview = shallowRef<TrackOverview>()
  const problem = ref('')
  /** A file that could be read with latitude and longitude swapped. */
  const swappable = shallowRef<File>()
  /** While a track is laid by its places: those clicked so far, on the ground. */
  const matched = shallowRef<readonly Point[]>([])
  const busy = ref(false)
  let reader: TrackReader | undefined
  let pictures: readonly File[] = []
  let pending: { options: TrackOptions; use: TrackUse; atPace: boolean } | undefined

  const usualWay = computed<LayBy>(() => (editor.geo ? 'earth' : editor.journey?.sheets.length ? 'places' : 'frame'))

  function close() {
    reader?.close()
    reader = undefined
    reading.value = undefined
    overview.value = undefined
    matched.value = []
    pending = undefined
    if (stage.tool === 'match-track') stage.setTool('select')
  }

  /** @param also photos that came with it, which are placed when it has been laid */
  async function open(file: File, also: { swap?: boolean; photos?: readonly File[] } = {}): Promise<void> {
    const { swap = false, photos = [] } = also
    close()
    pictures = photos
    problem.value = ''
    swappable.value = undefined
    if (file.size > TRACK_LIMITS.bytes) {
      problem.value = `“${file.name}” is larger than ${TRACK_LIMITS.bytes / 1024 ** 2} MiB: cut it into parts.`
      return
    }
    name.value = file.name
    reading.value = 0
    const own = openTrackReader()
    reader = own
    try {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const read = await own.call(
        'read',
        { name: file.name, bytes, swap },
        { transfer: [bytes.buffer], onProgress: (share) => (reading.value = share) },
      )
      if (reader === own) overview.value = read
    } catch (error) {
      if (reader !== own) return
      close()
      if (!(error instanceof WorkerError)) throw error
      if (error.kind === 'SwappedError') swappable.value = file
      problem.value = error.message
    } finally {
      if (reader === own) reading.value = undefined
    }
  }

  /** Reads the file again, with latitude and longitude swapped. */
  function openSwapped() {
    const file = swappable.value
    if (file) void open(file, { swap: true, photos: pictures })
  }

  /** The number of points that are left and the length of their line; none once the track has been laid or given up. */
  async function count(options: TrackOptions): Promise<{ points: number; metres: number } | undefined> {
    try {
      return await reader?.call('count', options)
    } catch (error) {
      if (isAbort(error)) return undefined
      throw error
    }
  }

  /** Lays the track, or asks for its places to be clicked first. */
  async function lay(options: TrackOptions, use: TrackUse, atPace: boolean, by: LayBy): Promise<void> {
    pending = { options, use, atPace }
    if (by === 'places') {
      matched.value = []
      stage.setTool('match-track')
      return
    }
    const { geo } = editor
    if (by === 'earth' && geo) await finish(geo.sheet.georeference!, geo.sheet.place, { width: geo.sheet.width, height: geo.sheet.height })
    else if (by === 'frame') await finish(georeferenceInFrame(overview.value!.bounds, editor.journey!.camera, stage.reference), AT_ORIGIN)
  }

  /** Puts the track's next place where the user clicked; with the third the track is laid. */
  function match(p: Point) {
    matched.value = [...matched.value, p]
    if (matched.value.length === 3) void finishMatched()
  }

  /** Lays the track by the places clicked so far; two are enough. */
  async function finishMatched(): Promise<void> {
    const points = matched.value.map((at, i) => {
      const { lon, lat } = overview.value!.match[i]!
      return { id: `m${i}`, name: '', at, lon, lat }
    })
    if (points.length >= 2) await finish({ kind: 'points', plane: null, fit: null, points }, AT_ORIGIN)
  }

  async function finish(georeference: Georeference, place: Place, size?: Size): Promise<void> {
    if (!pending || !reader) return
    const { options, use, atPace } = pending
    busy.value = true
    try {
      const { stops, courses, seconds } = await reader.call('lay', { options, georeference, place, ...(size ? { size } : {}) })
      const { names } = await namesOfStops(stops)
      if (reader === undefined) return
      const ids = stops.map(() => ({ stop: nanoid(10), leg: nanoid(10) }))
      const named = stops.map(({ at, place: onEarth }, i) => ({ at, place: onEarth, ...names[i]! }))
      const { lengthMetres, movingSeconds } = overview.value!
      const suited = movingSeconds ? vehicleAtSpeed((3.6 * lengthMetres) / movingSeconds) : undefined
      const dress = (traveller: Pick<Traveller, 'colour'>) => firstLeg.dressFor(traveller, suited)
      const track = { stops: named, courses, dress, seconds: atPace ? seconds : null }
      if (!editor.edit((journey) => addTrack(journey, track, use, ids))) return
      if (use.use === 'own') editor.chooseTraveller(use.traveller)
      const along = pictures
      close()
      if (along.length > 0) void usePhotos().stopsFrom(along)
    } catch (error) {
      if (isAbort(error)) return
      if (!(error instanceof WorkerError)) throw error
      matched.value = []
      editor.refusal = error.message
    } finally {
      busy.value = false
    }
  }

  return {
    name,
    reading,
    overview,
    problem,
    swappable,
    matched,
    busy,
    usualWay,
    open,
    openSwapped,
    close,
    count,
    lay,
    match,
    finishMatched,
  }
})
