import { removeShot } from '#core/edits/camera/shots'
import { removeCaption } from '#core/edits/marks/captions'
import { removeLandmark } from '#core/edits/marks/landmarks'
import { removeAudio } from '#core/edits/pace/audio'
import { removeNote } from '#core/edits/pace/notes'
import { removeValueMark } from '#core/edits/pace/values'
import { findLeg } from '#core/journey/lookup'
import type { Journey } from '#core/journey/schema'
import type { CompiledJourney } from '#core/trips/compiled'

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
  /** A mark at which a value changes. */
  | { kind: 'value'; id: string }
  /** A piece of music or speech. */
  | { kind: 'audio'; id: string }

export type SelectionKind = Selection['kind']

interface Selectable<S extends Selection> {
  /** The name of its tab. */
  title: string
  /** Whether what is selected is still there: undo may have taken it away. */
  isThere(selection: S, journey: Journey, compiled: CompiledJourney): boolean
  /** The journey without it, for the Delete key; stops, and nodes of legs, have ways of their own. */
  remove?(journey: Journey, id: string): Journey
}

type Listed = 'captions' | 'landmarks' | 'notes' | 'valueMarks' | 'audio' | 'stops'
const isIn =
  (list: Listed) =>
  ({ id }: { id: string }, journey: Journey): boolean =>
    journey[list].some((entry) => entry.id === id)

/** What can be selected, kind by kind. */
export const SELECTABLE: { readonly [K in SelectionKind]: Selectable<Extract<Selection, { kind: K }>> } = {
  journey: { title: 'Journey', isThere: () => true },
  sheet: { title: 'Sheet', isThere: () => true },
  shot: {
    title: 'Shot',
    isThere: ({ id }, _journey, { shots }) => id === undefined || shots.some(({ shot }) => shot.id === id),
    remove: removeShot,
  },
  stop: { title: 'Stop', isThere: isIn('stops') },
  leg: { title: 'Leg', isThere: ({ id }, journey) => findLeg(journey, id) !== undefined },
  caption: { title: 'Caption', isThere: isIn('captions'), remove: removeCaption },
  landmark: { title: 'Landmark', isThere: isIn('landmarks'), remove: removeLandmark },
  note: { title: 'Note', isThere: isIn('notes'), remove: removeNote },
  value: { title: 'Change', isThere: isIn('valueMarks'), remove: removeValueMark },
  audio: { title: 'Sound', isThere: isIn('audio'), remove: removeAudio },
}

export const isThere = <K extends SelectionKind>(
  selection: Extract<Selection, { kind: K }>,
  journey: Journey,
  compiled: CompiledJourney,
): boolean => (SELECTABLE[selection.kind as K] as Selectable<Extract<Selection, { kind: K }>>).isThere(selection, journey, compiled)
