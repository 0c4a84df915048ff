import type { ComputedRef } from 'vue'
import { computed, ref } from 'vue'
import { findLeg } from '#core/journey/lookup'
import type { Audio, Caption, Journey, Landmark, Leg, Note, Sheet, Stop, Traveller, ValueMark } from '#core/journey/schema'
import type { CompiledJourney, CompiledShot } from '#core/trips/compiled'
import type { Selection } from './selectable'
import { isThere } from './selectable'

/** What is selected of a journey, and the traveller that is worked on. */
export function useSelecting(journey: ComputedRef<Journey | undefined>, compiled: ComputedRef<CompiledJourney | undefined>) {
  const selection = ref<Selection>({ kind: 'journey' })
  /** The traveller that was chosen last. */
  const travellerId = ref('')
  /** The traveller that is worked on: the one chosen last, or the first one; and its compiled trip. */
  const traveller = computed(
    () => journey.value && (journey.value.travellers.find(({ id }) => id === travellerId.value) ?? journey.value.travellers[0]!),
  )
  const itinerary = computed(() => compiled.value?.travellers.find((trip) => trip.traveller === traveller.value))

  /** What is selected, if it is of a kind and still there. */
  const selected = <K extends Selection['kind'], Found>(
    kind: K,
    find: (selection: Extract<Selection, { kind: K }>, journey: Journey) => Found | undefined,
  ): ComputedRef<Found | undefined> =>
    computed(() =>
      selection.value.kind === kind && journey.value ? find(selection.value as Extract<Selection, { kind: K }>, journey.value) : undefined,
    )

  const selectedStop = selected('stop', ({ id }, { stops }): Stop | undefined => stops.find((stop) => stop.id === id))
  /** The index in the itinerary of the visit selected with its stop; undefined if only the stop was, or the traveller does not visit it. */
  const selectedVisit = selected('stop', ({ id, visit }) =>
    visit !== undefined && traveller.value?.visits[visit]?.stop === id ? visit : undefined,
  )
  const selectedLeg = selected('leg', ({ id }, of): Leg | undefined => findLeg(of, id)?.leg)
  /** The sheet shown in the details: the chosen one, or the lowest. */
  const selectedSheet = selected('sheet', ({ id }, { sheets }): Sheet | undefined => sheets.find((sheet) => sheet.id === id) ?? sheets[0])
  /** The selected shot, which may be one of the plan; undefined for the opening view. */
  const selectedShot = selected('shot', ({ id }): CompiledShot | undefined => compiled.value?.shots.find(({ shot }) => shot.id === id))
  const selectedCaption = selected('caption', ({ id }, { captions }): Caption | undefined => captions.find((caption) => caption.id === id))
  const selectedLandmark = selected('landmark', ({ id }, { landmarks }): Landmark | undefined =>
    landmarks.find((landmark) => landmark.id === id),
  )
  const selectedNote = selected('note', ({ id }, { notes }): Note | undefined => notes.find((note) => note.id === id))
  const selectedValue = selected('value', ({ id }, { valueMarks }): ValueMark | undefined => valueMarks.find((mark) => mark.id === id))
  const selectedAudio = selected('audio', ({ id }, { audio }): Audio | undefined => audio.find((piece) => piece.id === id))

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

  /** Selects something, and with a leg or a stop the traveller it belongs to. */
  function select(next: Selection) {
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

  /** Lets go of what is no longer there. */
  function letGo() {
    if (journey.value && compiled.value && !isThere(selection.value, journey.value, compiled.value)) select({ kind: 'journey' })
  }

  function forgetSelection() {
    selection.value = { kind: 'journey' }
    travellerId.value = ''
  }

  return {
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
    selectedValue,
    selectedAudio,
    select,
    selectAlso,
    chooseTraveller,
    letGo,
    forgetSelection,
  }
}
