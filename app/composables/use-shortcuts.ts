import { useEventListener } from '@vueuse/core'
import { tapBeat } from '#core/edits/pace/beats'
import { moveNodes, removeNodes } from '#core/edits/lines/courses'
import { editLandmark } from '#core/edits/marks/landmarks'
import type { Point } from '#core/geometry/point'
import { add, subtract } from '#core/geometry/point'
import { moveTogether } from '#core/edits/trips/together'
import type { Journey, Leg } from '#core/journey/schema'
import { removeStop, removeVisit } from '#core/edits/trips/trips'
import { draggedBy, stageSpace } from '~/components/stage/stage-space'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { SELECTABLE } from '~/stores/editor/selectable'
import { usePlayback } from '~/stores/playback'
import { useCopies } from '~/composables/use-copies'
import { useNotes } from '~/composables/use-notes'
import { useStage } from '~/stores/stage'
import { useVersions } from '~/stores/versions'

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

/** Switches, lists to choose from and the like: they have no text of their own that could be undone. */
const TEXTLESS = 'input:is([type="checkbox"], [type="radio"], [type="range"], [type="color"], [inputmode="none"])'

/** Whether a key belongs to the text field or slider that has the focus. */
function isTaken({ target, key, ctrlKey, metaKey }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (target.matches(TEXTLESS) && (ctrlKey || metaKey)) return false
  // Nobody types into a switch, which keeps the focus once it is clicked.
  if (target.matches('input[type="checkbox"]') && key.length === 1 && key !== ' ') return false
  if (target.isContentEditable || target.matches('input, textarea, select, [role="combobox"]')) return true
  return target.matches('[role="slider"]') && (key in ARROWS || ['Home', 'End', 'PageUp', 'PageDown'].includes(key))
}

const isPressable = (target: EventTarget | null): boolean =>
  target instanceof Element && target.matches('button, a, [role="button"], [role="radio"]')

/** The editor's keys; the sheet of shortcuts lists them. */
export function useShortcuts(actions: { showKeys: () => void; findPlace: () => void; isBlocked: () => boolean }) {
  const editor = useEditor()
  const playback = usePlayback()
  const stage = useStage()
  const camera = useCamera()
  const versions = useVersions()
  const notes = useNotes()
  const copies = useCopies()

  /** Whether the focused element was focused by a click, not by keyboard. `:focus-visible` does not tell: it matches in both cases once a key is pressed. */
  let isClicked = false
  let isPointing = false
  useEventListener(window, 'pointerdown', () => (isPointing = true), { capture: true })
  /** Whether a menu or the like lies over the editor, before it is closed by the key that is pressed. */
  let isCovered = false
  useEventListener(
    window,
    'keydown',
    () => {
      isPointing = false
      isCovered = document.querySelector('.v-overlay--active:not(.v-tooltip, .v-snackbar)') !== null
    },
    { capture: true },
  )
  useEventListener(window, 'focusin', () => (isClicked = isPointing))

  /** Whether something is selected that the arrow keys move and Delete removes: a stop, a landmark, or nodes of a leg. */
  const hasTarget = () =>
    editor.selectedStop !== undefined || editor.selectedLandmark !== undefined || (editor.selectedLeg !== undefined && stage.nodes.size > 0)

  const nodeChosen = (leg: Leg | undefined): Point | undefined => {
    const [first] = stage.nodes
    return leg?.course.kind === 'drawn' && first !== undefined ? leg.course.nodes[first]?.at : undefined
  }

  function nudge(dx: number, dy: number) {
    const { selectedStop: stop, selectedLandmark: landmark, selectedLeg: leg } = editor
    const target = stop?.at ?? landmark?.at ?? nodeChosen(leg)
    if (!target) return
    // One pixel of the film in the direction that is seen.
    const space = stageSpace(stage.view, stage.reference, editor.compiled?.scale ?? 1)
    const by = subtract(draggedBy(space, target, { x: dx, y: dy }), target)
    if (stop) editor.edit((journey) => moveTogether(journey, editor.selectedIds, (p) => add(p, by)), `nudge ${stop.id}`)
    else if (landmark) editor.edit((journey) => editLandmark(journey, landmark.id, { at: add(landmark.at, by) }), `nudge ${landmark.id}`)
    else if (leg) editor.edit((journey) => moveNodes(journey, leg.id, stage.nodes, by), `nudge ${leg.id}`)
  }

  /** The journey without the visit selected in the itinerary, or without all visits of a stop selected on the map. */
  const withoutSelected = (journey: Journey, stop: string): Journey => {
    const { selectedVisit: visit, traveller } = editor
    return visit === undefined ? removeStop(journey, stop, traveller!.id) : removeVisit(journey, visit, traveller!.id)
  }

  const withoutStop = (journey: Journey, stop: string): Journey => removeStop(journey, stop, editor.traveller!.id)

  /** The id of something selected that the Delete key removes as a whole, such as a shot or a title. */
  const removable = (): string | undefined => {
    const { selection } = editor
    return SELECTABLE[selection.kind].remove && 'id' in selection ? selection.id : undefined
  }

  function removeSelected() {
    const { selectedStop: stop, selectedLeg: leg, selectedIds: all, selection } = editor
    const id = removable()
    const removes = (change: (journey: Journey) => Journey) => {
      if (editor.edit(change)) editor.select({ kind: 'journey' })
    }
    if (stop) removes((journey) => (all.length > 1 ? all.reduce(withoutStop, journey) : withoutSelected(journey, stop.id)))
    else if (leg) {
      if (editor.edit((journey) => removeNodes(journey, leg.id, stage.nodes))) stage.nodes = new Set()
    } else if (id !== undefined) removes((journey) => SELECTABLE[selection.kind].remove!(journey, id))
  }

  function selectAllStops() {
    const [id, ...also] = editor.traveller!.visits.map(({ stop }) => stop)
    if (id !== undefined) editor.select({ kind: 'stop', id, also: [...new Set(also)].filter((other) => other !== id) })
  }

  function tapAlong() {
    const { selectedAudio: piece } = editor
    if (piece) editor.edit((journey) => tapBeat(journey, piece.id, playback.time))
  }

  function play() {
    // A button that keeps the focus would be pressed as well.
    if (document.activeElement instanceof HTMLElement && document.activeElement !== document.body) document.activeElement.blur()
    stage.showFilm()
    playback.toggle()
  }

  function backOut() {
    if (stage.tool !== 'select') stage.layDown()
    else if (versions.compared) versions.compared = undefined
    else editor.select({ kind: 'journey' })
  }

  /** The action of a key; undefined if it has none. */
  function actionFor(event: KeyboardEvent): (() => void) | undefined {
    if (event.ctrlKey || event.metaKey) {
      if (event.key.toLowerCase() === 'z') return event.shiftKey ? editor.redo : editor.undo
      if (event.key.toLowerCase() === 'a') return editor.journey?.stops.length ? selectAllStops : undefined
      if (event.key.toLowerCase() === 'c') return copies.kind.value && getSelection()?.isCollapsed !== false ? copies.copy : undefined
      if (event.key.toLowerCase() === 'v')
        return copies.canPaste.value ? () => copies.pasteOnto(event.shiftKey ? 'timing' : 'look') : undefined
      return event.key.toLowerCase() === 'y' ? editor.redo : undefined
    }
    if (event.altKey) return undefined
    const arrow = ARROWS[event.key]
    const ten = event.shiftKey ? 10 : 1
    if (arrow) return hasTarget() ? () => nudge(arrow[0] * ten, arrow[1] * ten) : undefined
    switch (event.key) {
      case ' ':
        // An element that was only clicked has the focus as well, but is not meant.
        return isPressable(event.target) && !isClicked ? undefined : play
      case ',':
      case '<':
        return () => playback.step(-ten)
      case '.':
      case '>':
        return () => playback.step(ten)
      case 'PageUp':
        return () => playback.goToStop(-1)
      case 'PageDown':
        return () => playback.goToStop(1)
      case 'Home':
        return playback.rewind
      case 'End':
        return () => playback.goTo(playback.frames - 1)
      case 'Escape':
        return backOut
      case 'Delete':
      case 'Backspace':
        return hasTarget() || removable() !== undefined ? removeSelected : undefined
      case '?':
        return actions.showKeys
      case '/':
        return actions.findPlace
    }
    switch (event.key.toLowerCase()) {
      case 'v':
        return camera.keep
      case 'b':
        return editor.selectedAudio ? tapAlong : undefined
      case 'n':
        return notes.add
      case '[':
        return () => playback.setRange('from')
      case ']':
        return () => playback.setRange('to')
      case 'l':
        return () => (playback.looping = !playback.looping)
      case 't':
        return stage.toggleMode
      case 's':
        return () => stage.setTool('stop')
      case 'd':
        return () => stage.setTool('draw')
      case 'f':
        return () => stage.setTool('freehand')
      case 'p':
        return () => stage.setTool('follow')
    }
    return undefined
  }

  useEventListener(window, 'keydown', (event) => {
    if (actions.isBlocked() || isTaken(event) || (event.key === 'Escape' && isCovered)) return
    const action = actionFor(event)
    if (!action) return
    event.preventDefault()
    action()
  })
}
