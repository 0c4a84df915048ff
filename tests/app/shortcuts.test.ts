import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { addShot, setPlan } from '#core/edits/camera/shots'
import { editLeg } from '#core/edits/lines/legs'
import { addCaption } from '#core/edits/marks/captions'
import { shotSchema } from '#core/journey/schema'
import { useShortcuts } from '~/composables/use-shortcuts'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import { demo } from '../support/journeys'

let scope: ReturnType<typeof effectScope>
const actions = { showKeys: vi.fn(), findPlace: vi.fn(), isBlocked: vi.fn(() => false) }
beforeEach(() => {
  setActivePinia(createPinia())
  document.body.innerHTML = ''
  vi.clearAllMocks()
  actions.isBlocked.mockReturnValue(false)
  useEditor().open(demo())
  useStage().reset()
  scope = effectScope()
  scope.run(() => useShortcuts(actions))
})
afterEach(() => scope.stop())

/** Presses a key. @returns whether the application has taken it */
function press(key: string, options: KeyboardEventInit = {}, target: EventTarget = document.body): boolean {
  return !target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...options }))
}

describe('keys', () => {
  it('step, play and jump', () => {
    const playback = usePlayback()
    expect(press('.')).toBe(true)
    press('>', { shiftKey: true })
    expect(playback.frame).toBe(11)
    press(',')
    expect(playback.frame).toBe(10)
    press('End')
    expect(playback.frame).toBe(playback.frames - 1)
    press('Home')
    expect(playback.frame).toBe(0)
    press(' ')
    expect(playback.playing).toBe(true)
  })

  it('undo and redo', () => {
    const editor = useEditor()
    editor.edit((j) => ({ ...j, name: 'Another' }))
    press('z', { ctrlKey: true })
    expect(editor.journey!.name).not.toBe('Another')
    press('Z', { metaKey: true, shiftKey: true })
    expect(editor.journey!.name).toBe('Another')
  })

  it.each([
    ['a list to choose from', { inputMode: 'none' }, true],
    ['a switch', { type: 'checkbox' }, true],
    ['a field of text', { type: 'text' }, false],
  ])('undo while %s has the focus only where it has no text of its own', (_what, of, undoes) => {
    const field = Object.assign(document.createElement('input'), of)
    document.body.append(field)
    useEditor().edit((j) => ({ ...j, name: 'Another' }))
    expect(press('z', { ctrlKey: true }, field)).toBe(undoes)
    expect(useEditor().journey!.name !== 'Another').toBe(undoes)
    // A letter chooses from a list, and is typed into a field.
    expect(press('l', {}, field)).toBe('type' in of && of.type === 'checkbox')
    expect(press(' ', {}, field)).toBe(false)
  })

  it('belong to a field that has the focus, and to nobody while a dialog is open', () => {
    const field = document.createElement('input')
    document.body.append(field)
    expect(press('l', {}, field)).toBe(false)
    expect(usePlayback().looping).toBe(false)
    actions.isBlocked.mockReturnValue(true)
    expect(press('l')).toBe(false)
    actions.isBlocked.mockReturnValue(false)
    expect(press('l')).toBe(true)
    expect(usePlayback().looping).toBe(true)
    expect(press('q')).toBe(false)
  })

  it('move the selected stop by a pixel of the film, with Shift by ten, and undo that in one step', () => {
    const editor = useEditor()
    const [stop] = editor.journey!.stops
    expect(press('ArrowRight')).toBe(false)
    editor.select({ kind: 'stop', id: stop!.id })
    press('ArrowRight')
    press('ArrowRight', { shiftKey: true })
    const moved = editor.journey!.stops[0]!.at.x - stop!.at.x
    // The view has the whole sheet of 6400 px in a frame of 1920.
    expect(moved).toBeCloseTo((11 * 6400) / 1920, 6)
    editor.undo()
    expect(editor.journey!.stops[0]!.at).toEqual(stop!.at)
  })

  it('copy the look of a leg and paste it onto others, with Shift its timing; a stop does not take it', () => {
    const editor = useEditor()
    const legs = () => editor.journey!.travellers[0]!.legs
    expect(press('c', { ctrlKey: true })).toBe(false)
    editor.select({ kind: 'leg', id: legs()[1]!.id })
    const { ink } = legs()[1]!
    editor.edit((j) => editLeg(j, legs()[1]!.id, { easing: 'linear' }))
    expect(press('c', { ctrlKey: true })).toBe(true)
    editor.select({ kind: 'stop', id: 'lampwick' })
    expect(press('v', { ctrlKey: true })).toBe(false)
    editor.select({ kind: 'leg', id: legs()[0]!.id, also: [legs()[2]!.id] })
    expect(legs()[0]!.ink).not.toEqual(ink)
    press('v', { ctrlKey: true })
    expect([legs()[0]!.ink, legs()[2]!.ink]).toEqual([ink, ink])
    expect(legs()[0]!.easing).not.toBe('linear')
    press('V', { ctrlKey: true, shiftKey: true })
    expect(legs()[2]!.easing).toBe('linear')
    editor.undo()
    editor.undo()
    expect(legs()[0]!.ink).not.toEqual(ink)
  })

  it('delete a stop, a title and a shot, and nothing where nothing is selected', () => {
    const editor = useEditor()
    expect(press('Delete')).toBe(false)
    editor.select({ kind: 'stop', id: 'lampwick' })
    press('Delete')
    expect(editor.journey!.stops.some(({ id }) => id === 'lampwick')).toBe(false)
    expect(editor.selection).toEqual({ kind: 'journey' })
    editor.edit((j) => addCaption(j, 'title', { kind: 'title', text: 'Title', second: '' }))
    editor.edit((j) => addShot(j, shotSchema.parse({ id: 'own', kind: 'overview', at: { at: 'start', offset: 2 } })))
    editor.select({ kind: 'caption', id: 'title' })
    press('Backspace')
    expect(editor.journey!.captions.some(({ id }) => id === 'title')).toBe(false)
    editor.select({ kind: 'shot', id: 'own' })
    press('Delete')
    expect(editor.journey!.shots.some(({ id }) => id === 'own')).toBe(false)
  })

  it('leave a selection alone while Escape closes a menu over it', () => {
    const editor = useEditor()
    editor.select({ kind: 'stop', id: editor.journey!.stops[0]!.id })
    const menu = document.createElement('div')
    menu.className = 'v-overlay v-overlay--active v-menu'
    document.body.append(menu)
    press('Escape')
    expect(editor.selection.kind).toBe('stop')
    menu.className = 'v-overlay v-overlay--active v-tooltip'
    press('Escape')
    expect(editor.selection.kind).toBe('journey')
  })

  it('lay a tool down where one is: on the table, until the film is played', () => {
    const [editor, stage] = [useEditor(), useStage()]
    editor.edit((journey) => setPlan(journey, 'calm'))
    press('s')
    expect([stage.mode, stage.isLaying]).toEqual(['table', true])
    press('Escape')
    expect([stage.mode, stage.tool]).toEqual(['table', 'select'])
    press(' ')
    expect(stage.mode).toBe('lens')
    // Whoever lays the map on the table by hand keeps it there.
    press(' ')
    press('t')
    press(' ')
    expect(stage.mode).toBe('table')
  })

  it('take up tools, and Escape lays them down first, then the selection', () => {
    const [editor, stage] = [useEditor(), useStage()]
    editor.select({ kind: 'stop', id: 'lampwick' })
    press('s')
    expect(stage.tool).toBe('stop')
    press('Escape')
    expect([stage.tool, editor.selection.kind]).toEqual(['select', 'stop'])
    press('Escape')
    expect(editor.selection.kind).toBe('journey')
    for (const [key, tool] of [
      ['d', 'draw'],
      ['f', 'freehand'],
      ['p', 'follow'],
    ] as const) {
      press(key)
      expect(stage.tool).toBe(tool)
    }
    press('t')
    expect(stage.mode).toBe('table')
    press('?')
    press('/')
    expect([actions.showKeys.mock.calls.length, actions.findPlace.mock.calls.length]).toEqual([1, 1])
  })
})
