import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { CompiledJourney, CompiledShot } from '#core/trips/compiled'
import { compile } from '#core/frame/compile'
import type { LabelPlaces } from '#core/labels/label-scene'
import { NO_PLACES } from '#core/labels/label-scene'
import { groundGeo } from '#core/geo/ground'
import type { TimesFix } from '#core/edits/pace/film-length'
import { fixesOfTimes, withOwnLength } from '#core/edits/pace/film-length'
import { editReframed, reframed } from '#core/edits/camera/reframe'
import { JourneyError } from '#core/error'
import { findLeg } from '#core/journey/lookup'
import type { Past } from '#core/journey/history'
import { keptPast, pastOf } from '#core/journey/history'
import { checkEdited } from '#core/journey/parse'
import { TimesError } from '#core/pace/schedule'
import type { Audio, Caption, Journey, Landmark, Leg, Note, Sheet, Stop, Traveller } from '#core/journey/schema'

/** `also` are the ids of further stops or legs that were selected with the first. */
export type Selection =
  | { kind: 'journey' }
  | { kind: 'sheet'; id?: string }
  /** A shot of the camera, or without an id the view with which the film begins. */
  | { kind: 'shot'; id?: string }
  | { kind: 'stop'; id: string; visit?: number; also?: readonly string[] }
  | { kind: 'leg'; id: string; also?: readonly string[] }
  /** A title or readout. */
  | { kind: 'caption'; id: string }
  /** Something beside the way. */
  | { kind: 'landmark'; id: string }
  /** A note at a moment. */
  | { kind: 'note'; id: string }
  /** A piece of music or speech. */
  | { kind: 'audio'; id: string }

/** A message about something that has just happened, and possibly an action. */
export interface Notice {
  text: string
  action?: { title: string; run: () => void }
}

/** The number of undo steps kept. A step is a journey that shares all unchanged parts with its neighbours. */
const MOST_STEPS = 300

/** The journey being edited, its past and future, and what is selected. Every change goes through `edit`. */
export const useEditor = defineStore('editor', () => {
  /** The journey as it is stored; `journey` is what it is in the frame that is worked on. */
  const document = shallowRef<Journey>()
  /** Which of the journey's further frames is worked on; undefined is its own. */
  const reframe = ref<number>()
  const shownOf = (of: Journey): Journey => (reframe.value !== undefined && of.reframes[reframe.value] ? reframed(of, reframe.value) : of)
  const journey = computed(() => document.value && shownOf(document.value))
  /** Counts the journeys opened so far: tells one opening from the next. */
  const opening = ref(0)
  const past = shallowRef<readonly Journey[]>([])
  const future = shallowRef<readonly Journey[]>([])
  const selection = ref<Selection>({ kind: 'journey' })
  /** Why the last edit was refused, for as long as it is shown. */
  const refusal = ref('')
  const notice = shallowRef<Notice>()
  /** What would make the times fit that the last edit was refused for. */
  const fixes = shallowRef<readonly TimesFix[]>([])
  let gesture: string | undefined

  /** The places of automatic labels that were found last, and whether they are those of the journey as it is now. */
  const labelPlaces = shallowRef<LabelPlaces>(NO_PLACES)
  const labelsPlaced = ref(false)
  /** The stops and marks whose names overlap something for a while, as there is no room for them. */
  const crowdedLabels = shallowRef<ReadonlySet<string>>(new Set())
  /** The journey that was compiled last: an edit is tried out before it is shown, and need not be compiled twice. */
  let latest: { journey: Journey; places: LabelPlaces; compiled: CompiledJourney } | undefined
  function compiledOf(of: Journey): CompiledJourney {
    const places = labelPlaces.value
    if (latest?.journey !== of || latest.places !== places) latest = { journey: of, places, compiled: compile(of, places) }
    return latest.compiled
  }
  const compiled = computed(() => (journey.value ? compiledOf(journey.value) : undefined))
  /** The selected traveller, and its compiled trip. */
  const travellerId = ref('')
  /** The traveller that is worked on: the one chosen last, or the first one. */
  const traveller = computed(
    () => journey.value && (journey.value.travellers.find(({ id }) => id === travellerId.value) ?? journey.value.travellers[0]!),
  )
  const itinerary = computed(() => compiled.value?.travellers.find((trip) => trip.traveller === traveller.value))
  const selectedStop = computed<Stop | undefined>(() => {
    const { value } = selection
    return value.kind === 'stop' ? journey.value?.stops.find((stop) => stop.id === value.id) : undefined
  })
  /** The index in the itinerary of the visit selected with its stop; undefined if only the stop was, or the traveller does not visit it. */
  const selectedVisit = computed<number | undefined>(() => {
    const { value } = selection
    if (value.kind !== 'stop' || value.visit === undefined) return undefined
    return traveller.value?.visits[value.visit]?.stop === value.id ? value.visit : undefined
  })
  const selectedLeg = computed<Leg | undefined>(() => {
    const { value } = selection
    return value.kind === 'leg' && journey.value ? findLeg(journey.value, value.id)?.leg : undefined
  })

  /** Ids of all stops, or all legs, that are selected. */
  const selectedIds = computed<readonly string[]>(() => {
    const { value } = selection
    if (value.kind !== 'stop' && value.kind !== 'leg') return []
    const known = new Set(
      value.kind === 'stop'
        ? journey.value?.stops.map(({ id }) => id)
        : journey.value?.travellers.flatMap(({ legs }) => legs.map(({ id }) => id)),
    )
    return [value.id, ...(value.also ?? [])].filter((id) => known.has(id))
  })

  /** The sheet shown in the details: the chosen one, or the lowest. */
  const selectedSheet = computed<Sheet | undefined>(() => {
    const { value } = selection
    if (value.kind !== 'sheet' || !journey.value) return undefined
    return journey.value.sheets.find((sheet) => sheet.id === value.id) ?? journey.value.sheets[0]
  })
  /** The selected shot, which may be one of the plan; undefined for the opening view. */
  const selectedShot = computed<CompiledShot | undefined>(() => {
    const { value } = selection
    return value.kind === 'shot' ? compiled.value?.shots.find(({ shot }) => shot.id === value.id) : undefined
  })
  const selectedCaption = computed<Caption | undefined>(() => {
    const { value } = selection
    return value.kind === 'caption' ? journey.value?.captions.find(({ id }) => id === value.id) : undefined
  })
  const selectedLandmark = computed<Landmark | undefined>(() => {
    const { value } = selection
    return value.kind === 'landmark' ? journey.value?.landmarks.find(({ id }) => id === value.id) : undefined
  })
  const selectedNote = computed<Note | undefined>(() => {
    const { value } = selection
    return value.kind === 'note' ? journey.value?.notes.find(({ id }) => id === value.id) : undefined
  })
  const selectedAudio = computed<Audio | undefined>(() => {
    const { value } = selection
    return value.kind === 'audio' ? journey.value?.audio.find(({ id }) => id === value.id) : undefined
  })
  /** The ways between the Earth and the ground, where a sheet is georeferenced. */
  const geo = computed(() => journey.value && groundGeo(journey.value))

  /** @param kept the stored undo steps */
  function open(opened: Journey, kept: Past = []) {
    document.value = opened
    reframe.value = undefined
    opening.value++
    past.value = pastOf(kept, opened)
    future.value = []
    selection.value = { kind: 'journey' }
    labelPlaces.value = NO_PLACES
    crowdedLabels.value = new Set()
    travellerId.value = ''
    refusal.value = ''
    notice.value = undefined
    gesture = undefined
  }

  /**
   * Changes the journey. An edit that would leave it without a film (times that do not fit, a value out of bounds) is refused, with the reason
   * in `refusal`, and nothing is lost. Edits of one gesture, such as a drag, are undone in one step; `endGesture` closes it.
   */
  function edit(change: (journey: Journey) => Journey, partOf?: string): boolean {
    const index = reframe.value
    return editDocument((all) => (index !== undefined && all.reframes[index] ? editReframed(all, index, change) : change(all)), partOf)
  }

  /** An edit of the journey as it is stored, whichever frame is worked on. */
  function editDocument(change: (journey: Journey) => Journey, partOf?: string): boolean {
    const before = document.value
    if (!before) return false
    let after: Journey
    let attempted: Journey | undefined
    if (fixes.value.length > 0) fixes.value = []
    try {
      attempted = change(before)
      if (attempted === before) return true
      after = withOwnLength(attempted)
      checkEdited(before, after)
      compiledOf(shownOf(after))
    } catch (error) {
      if (!(error instanceof JourneyError)) throw error
      refusal.value = error.message
      if (error instanceof TimesError && attempted) fixes.value = fixesOfTimes(attempted, before)
      return false
    }
    if (partOf === undefined || partOf !== gesture) past.value = [...past.value.slice(-MOST_STEPS + 1), before]
    gesture = partOf
    future.value = []
    document.value = after
    refusal.value = ''
    return true
  }

  /** Makes the refused edit after all, with times that fit. */
  function fix({ journey: mended }: TimesFix) {
    endGesture()
    editDocument(() => mended)
    refusal.value = ''
  }

  function endGesture() {
    gesture = undefined
  }

  function undo() {
    const last = past.value.at(-1)
    if (!last || !document.value) return
    future.value = [document.value, ...future.value]
    past.value = past.value.slice(0, -1)
    show(last)
  }

  function redo() {
    const [next, ...rest] = future.value
    if (!next || !document.value) return
    past.value = [...past.value, document.value]
    future.value = rest
    show(next)
  }

  function show(other: Journey) {
    gesture = undefined
    document.value = other
    if (reframe.value !== undefined && !other.reframes[reframe.value]) reframe.value = undefined
    if (selection.value.kind === 'stop' && !selectedStop.value) selection.value = { kind: 'journey' }
    if (selection.value.kind === 'leg' && !selectedLeg.value) selection.value = { kind: 'journey' }
    if (selection.value.kind === 'shot' && selection.value.id !== undefined && !selectedShot.value) selection.value = { kind: 'journey' }
  }

  /** Works on the journey in one of its further frames, or in its own. */
  function workIn(index: number | undefined) {
    gesture = undefined
    reframe.value = index
  }

  /** Selects something, and with a leg or a stop the traveller it belongs to. */
  function select(next: Selection) {
    gesture = undefined
    selection.value = next
    if (!journey.value) return
    if (next.kind === 'leg') travellerId.value = findLeg(journey.value, next.id)?.traveller.id ?? travellerId.value
    if (next.kind === 'stop') {
      const visits = ({ visits: all }: Traveller) => all.some(({ stop }) => stop === next.id)
      if (!traveller.value || !visits(traveller.value)) travellerId.value = journey.value.travellers.find(visits)?.id ?? travellerId.value
    }
  }

  /** Adds a stop or a leg to the selected ones of its kind, or removes it from them. */
  function selectAlso(next: { kind: 'stop' | 'leg'; id: string }) {
    const { value } = selection
    if (value.kind !== next.kind) return select(next)
    const ids = selectedIds.value
    const rest = ids.includes(next.id) ? ids.filter((id) => id !== next.id) : [...ids, next.id]
    const [first, ...also] = rest
    if (first === undefined) return select({ kind: 'journey' })
    selection.value = { kind: value.kind, id: first, also }
  }

  /** Selects a traveller, and clears the selection of anything that belongs to another. */
  function chooseTraveller(id: string) {
    travellerId.value = id
    select({ kind: 'journey' })
  }

  return {
    document,
    reframe,
    journey,
    opening,
    compiled,
    traveller,
    itinerary,
    selection,
    selectedStop,
    selectedVisit,
    selectedLeg,
    selectedIds,
    selectedSheet,
    selectedShot,
    selectedCaption,
    selectedLandmark,
    selectedNote,
    selectedAudio,
    labelPlaces,
    labelsPlaced,
    crowdedLabels,
    geo,
    refusal,
    fixes,
    notice,
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
    keptPast: () => (document.value ? keptPast(past.value, document.value) : []),
    open,
    edit,
    editDocument,
    workIn,
    fix,
    endGesture,
    undo,
    redo,
    select,
    selectAlso,
    chooseTraveller,
  }
})
