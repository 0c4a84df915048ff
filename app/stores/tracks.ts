import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { TRACK_EXTENSIONS, TRACK_LIMITS } from '#core/tracks/track'
import type { TrackOptions, TrackOverview } from '#core/tracks/messages'
import { webMercator } from '#core/geo/plane'
import type { Size } from '#core/geometry/size'
import type { Point } from '#core/geometry/point'
import type { Georeference, Place } from '#core/journey/schema'
import type { TrackUse } from '#core/edits/lines/tracks'
import { addTrack } from '#core/edits/lines/tracks'
import { AT_ORIGIN } from '#core/sheet/place'
import { isAbort, WorkerError } from '~/services/call-worker'
import type { TrackReader } from '~/services/track-reader'
import { openTrackReader } from '~/services/track-reader'
import { useEditor } from './editor'
import { useStage } from './stage'

export const isTrackFile = ({ name }: File): boolean => TRACK_EXTENSIONS.some((ending) => name.toLowerCase().endsWith(ending))

/** How a track is placed on the ground: by the georeference, by places that are clicked, or just into the frame. */
export type LayBy = 'earth' | 'places' | 'frame'

/** A recorded track being imported: read, previewed, and laid. */
export const useTracks = defineStore('tracks', () => {
  const editor = useEditor()
  const stage = useStage()
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

  async function open(file: File, swap = false): Promise<void> {
    close()
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
    if (file) void open(file, true)
  }

  /** The number of points that are left; none once the track has been laid or given up. */
  async function count(options: TrackOptions): Promise<number | undefined> {
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
    else if (by === 'frame') await finish(frameGeoreference(overview.value!.bounds), AT_ORIGIN)
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

  /** A plane that shows bounds in the middle of the frame. */
  function frameGeoreference([west, south, east, north]: TrackOverview['bounds']): Georeference {
    const sw = webMercator.forward({ lon: west, lat: Math.max(-85, south) })!
    const ne = webMercator.forward({ lon: east < west ? east + 360 : east, lat: Math.min(85, north) })!
    const { centre, zoom } = editor.journey!.camera
    const { width, height } = stage.reference
    const metres = Math.max((ne.x - sw.x) / (0.75 * width), (ne.y - sw.y) / (0.75 * height), 1e-3) * zoom
    const [x, y] = [(sw.x + ne.x) / 2, (sw.y + ne.y) / 2]
    return {
      kind: 'affine',
      source: 'world-file',
      plane: { kind: 'mercator' },
      matrix: [metres, 0, x - metres * centre.x, 0, -metres, y + metres * centre.y],
    }
  }

  async function finish(georeference: Georeference, place: Place, size?: Size): Promise<void> {
    if (!pending || !reader) return
    const { options, use, atPace } = pending
    busy.value = true
    try {
      const { stops, courses, seconds } = await reader.call('lay', { options, georeference, place, ...(size ? { size } : {}) })
      const ids = stops.map(() => ({ stop: nanoid(10), leg: nanoid(10) }))
      const track = { stops, courses, seconds: atPace ? seconds : null }
      if (!editor.edit((journey) => addTrack(journey, track, use, ids))) return
      if (use.use === 'own') editor.chooseTraveller(use.traveller)
      close()
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
