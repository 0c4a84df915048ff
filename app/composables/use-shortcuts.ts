import { useEventListener } from '@vueuse/core'
import { editStop, removeStop } from '#core/journey/edits'
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

  function nudge(dx: number, dy: number) {
    const stop = editor.selectedStop
    if (!stop) return
    const k = 1 / (stage.view.zoom * (editor.compiled?.scale ?? 1))
    editor.edit((journey) => editStop(journey, stop.id, { at: { x: stop.at.x + dx * k, y: stop.at.y + dy * k } }), `nudge ${stop.id}`)
  }

  function removeSelected() {
    const stop = editor.selectedStop
    if (stop && editor.edit((journey) => removeStop(journey, stop.id))) editor.select({ kind: 'journey' })
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
    if (arrow) return editor.selectedStop ? () => nudge(arrow[0] * ten, arrow[1] * ten) : undefined
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
        return editor.selectedStop ? removeSelected : undefined
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
        return () => stage.toggleTool()
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
