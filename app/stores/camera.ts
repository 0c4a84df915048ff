import { clamp } from '#core/geometry/clamp'
import { nanoid } from 'nanoid'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { projectionAt, viewAt } from '#core/camera/view-track'
import type { View } from '#core/camera/view'
import { GREATEST_PITCH, GREATEST_ZOOM, LEAST_ZOOM } from '#core/camera/view'
import { wrapDegrees } from '#core/geometry/angle'
import { addView, editView, momentAt, setCamera } from '#core/edits/views'
import { useEditor } from './editor'
import { usePlayback } from './playback'

/** How long the camera takes to a new view, in seconds. */
const TRANSITION = 2

/** The camera at the play position: the view in force there, and how it is changed. */
export const useCamera = defineStore('camera', () => {
  const editor = useEditor()
  const playback = usePlayback()

  /** What the film shows at the play position. */
  const view = computed<View>(() => viewAt(editor.compiled!, playback.time))
  const projection = computed(() => projectionAt(editor.compiled!, playback.time))

  /** The move to the view at a moment that is in force at the play position; undefined during the opening view. */
  const move = computed(() => editor.compiled?.views.moves.findLast(({ start }) => start <= playback.time + 1e-9))

  /** The view of the document that is in force: where a move is under way, the one it leads to. */
  const asked = computed(() => editor.journey!.views.find(({ id }) => id === move.value?.id)?.view ?? editor.journey!.camera)

  /** Goes to the end of a move that is under way, so that the view it leads to can be seen. */
  function arrive() {
    if (move.value && playback.time < move.value.end) playback.goToTime(move.value.end)
  }

  /** Changes the view in force, in the document. */
  function look(change: (view: View) => View, gesture?: string): boolean {
    arrive()
    const id = move.value?.id
    const next = bounded(change(asked.value))
    return editor.edit((journey) => (id === undefined ? setCamera(journey, next) : editView(journey, id, { view: next })), gesture)
  }

  /** The moment that ties a time of the film, in seconds, to the trip. */
  const momentOf = (time: number) =>
    momentAt(
      time,
      editor
        .compiled!.marks.filter(({ isStop }) => isStop)
        .map(({ stop, arrive: reached, leave }) => ({ stop: stop.id, arrive: reached, leave })),
    )

  /** Keeps what is seen at the play position from there on, as a view of its own, which is selected; the camera gets there just in time. */
  function keep() {
    if (playback.time === 0) return editor.select({ kind: 'view' })
    const id = nanoid(10)
    const transition = Math.min(TRANSITION, playback.time)
    const at = momentOf(playback.time - transition)
    if (editor.edit((journey) => addView(journey, { id, at, transition, easing: 'ease-in-out', view: view.value })))
      editor.select({ kind: 'view', id })
  }

  return { view, projection, move, look, momentOf, keep }
})

const bounded = (view: View): View => ({
  centre: view.centre,
  zoom: clamp(view.zoom, LEAST_ZOOM, GREATEST_ZOOM),
  bearing: wrapDegrees(view.bearing),
  pitch: clamp(view.pitch, 0, GREATEST_PITCH),
})
