import { useEventListener } from '@vueuse/core'
import { moveNodes, removeNodes } from '#core/journey/course-edits'
import { editStop } from '#core/journey/edits'
import { removeStop } from '#core/journey/trip-edits'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'

const ARROWS: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

/** Whether a key belongs to a field that is being typed in, or moves the slider that has the focus. */
function isTaken({ target, key }: KeyboardEvent): boolean {
  if (!(target instanceof HTMLElement)) return false
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

  /** Whether there is something that the arrow keys move and Delete takes away: a stop, or nodes of a leg. */
  const hasTarget = () => editor.selectedStop !== undefined || (editor.selectedLeg !== undefined && stage.nodes.size > 0)

  function nudge(dx: number, dy: number) {
    const { selectedStop: stop, selectedLeg: leg } = editor
    const k = 1 / (stage.view.zoom * (editor.compiled?.scale ?? 1))
    const by = { x: dx * k, y: dy * k }
    if (stop) editor.edit((journey) => editStop(journey, stop.id, { at: { x: stop.at.x + by.x, y: stop.at.y + by.y } }), `nudge ${stop.id}`)
    else if (leg) editor.edit((journey) => moveNodes(journey, leg.id, stage.nodes, by), `nudge ${leg.id}`)
  }

  function removeSelected() {
    const { selectedStop: stop, selectedLeg: leg } = editor
    if (stop && editor.edit((journey) => removeStop(journey, stop.id, editor.traveller!.id))) editor.select({ kind: 'journey' })
    else if (leg && editor.edit((journey) => removeNodes(journey, leg.id, stage.nodes))) stage.nodes = new Set()
  }

  function backOut() {
    if (stage.tool !== 'select') stage.setTool('select')
    else editor.select({ kind: 'journey' })
  }

  /** What a key does; undefined for one that means nothing here. */
  function actionFor(event: KeyboardEvent): (() => void) | undefined {
    if (event.ctrlKey || event.metaKey) {
      if (event.key.toLowerCase() === 'z') return event.shiftKey ? editor.redo : editor.undo
      return event.key.toLowerCase() === 'y' ? editor.redo : undefined
    }
    if (event.altKey) return undefined
    const arrow = ARROWS[event.key]
    const ten = event.shiftKey ? 10 : 1
    if (arrow) return hasTarget() ? () => nudge(arrow[0] * ten, arrow[1] * ten) : undefined
    switch (event.key) {
      case ' ':
        return isPressable(event.target) ? undefined : playback.toggle
      case ',':
      case '<':
        return () => playback.step(-ten)
      case '.':
      case '>':
        return () => playback.step(ten)
      case 'Home':
        return playback.rewind
      case 'End':
        return () => playback.goTo(playback.frames - 1)
      case 'Escape':
        return backOut
      case 'Delete':
      case 'Backspace':
        return hasTarget() ? removeSelected : undefined
      case '?':
        return actions.showKeys
      case '/':
        return actions.findPlace
    }
    switch (event.key.toLowerCase()) {
      case 'l':
        return () => (playback.looping = !playback.looping)
      case 't':
        return stage.toggleMode
      case 's':
        return () => stage.toggleTool('stop')
      case 'd':
        return () => stage.toggleTool('draw')
      case 'f':
        return () => stage.toggleTool('freehand')
      case 'p':
        return () => stage.toggleTool('follow')
    }
    return undefined
  }

  useEventListener(window, 'keydown', (event) => {
    if (actions.isBlocked() || isTaken(event)) return
    const action = actionFor(event)
    if (!action) return
    event.preventDefault()
    action()
  })
}
