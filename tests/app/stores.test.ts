import { flatView } from '#core/camera/view'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { editLeg } from '#core/edits/lines/legs'
import { editStop } from '#core/edits/marks/stops'
import { rename, setFrame } from '#core/edits/journey'
import { setSeconds } from '#core/edits/pace/film-length'
import { setLayover } from '#core/edits/pace/pace'
import { addStop } from '#core/edits/trips/visits'
import { removeStop } from '#core/edits/trips/trips'
import { addShot } from '#core/edits/camera/shots'
import { addCaption } from '#core/edits/marks/captions'
import { addLandmark, newMark } from '#core/edits/marks/landmarks'
import { addAudio } from '#core/edits/pace/audio'
import { addValueMark } from '#core/edits/pace/values'
import { addNote } from '#core/edits/pace/notes'
import { addTraveller } from '#core/edits/trips/travellers'
import type { Journey } from '#core/journey/schema'
import { shotSchema, valueMarkSchema } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import type { SelectionKind } from '~/stores/editor/selectable'
import { isThere, SELECTABLE } from '~/stores/editor/selectable'
import { usePlayback } from '~/stores/playback'
import { useStage } from '~/stores/stage'
import { demo, journeyOver } from '../support/journeys'

beforeEach(() => setActivePinia(createPinia()))

describe('the editor', () => {
  it('undoes and redoes every edit, to the identical journey', () => {
    const editor = useEditor()
    editor.open(demo())
    const states = [editor.journey!]
    const edits = [
      () => editor.edit((j) => rename(j, 'Another')),
      () => editor.edit((j) => editStop(j, 'lampwick', { at: { x: 3300, y: 1900 } })),
      () => editor.edit((j) => removeStop(j, 'oarsend', 'traveller')),
      () => editor.edit((j) => setFrame(j, { width: 1080, height: 1920, rate: '25/1' })),
      () => editor.edit((j) => addStop(j, { x: 10, y: 10 }, { stop: 'new', leg: 'way' }, { traveller: 'traveller' })),
    ]
    for (const edit of edits) {
      expect(edit()).toBe(true)
      states.push(editor.journey!)
    }
    for (const state of states.slice(0, -1).reverse()) {
      editor.undo()
      expect(editor.journey).toBe(state)
    }
    expect(editor.canUndo).toBe(false)
    for (const state of states.slice(1)) {
      editor.redo()
      expect(editor.journey).toBe(state)
    }
    expect(editor.canRedo).toBe(false)
  })

  it('undoes a gesture in one step, and the next gesture in another', () => {
    const editor = useEditor()
    editor.open(demo())
    const before = editor.journey
    for (const x of [900, 910, 920]) editor.edit((j) => editStop(j, 'harrowmere', { at: { x, y: 1120 } }), 'drag')
    editor.endGesture()
    const between = editor.journey
    for (const x of [930, 940]) editor.edit((j) => editStop(j, 'harrowmere', { at: { x, y: 1120 } }), 'drag')
    editor.undo()
    expect(editor.journey).toBe(between)
    editor.undo()
    expect(editor.journey).toBe(before)
  })

  it('refuses what would leave no film, says why, and keeps past and future', () => {
    const editor = useEditor()
    editor.open(demo())
    editor.edit((j) => rename(j, 'Another'))
    editor.undo()
    const before = editor.journey
    expect(editor.edit((j) => setSeconds(j, 3))).toBe(false)
    expect(editor.refusal).toContain('need at least')
    expect(editor.journey).toBe(before)
    expect(editor.canRedo).toBe(true)
    expect(editor.edit((j) => setSeconds(j, 99999))).toBe(false)
    expect(editor.refusal).toContain('seconds')
    expect(editor.edit((j) => setSeconds(j, 30))).toBe(true)
    expect(editor.refusal).toBe('')
  })

  it('forgets the future at a new edit', () => {
    const editor = useEditor()
    editor.open(demo())
    editor.edit((j) => rename(j, 'One'))
    editor.undo()
    editor.edit((j) => rename(j, 'Two'))
    expect(editor.canRedo).toBe(false)
  })

  it('lets go of a selected stop that undo takes away', () => {
    const editor = useEditor()
    editor.open(journeyOver([[0, 0]]))
    editor.edit((j) => addStop(j, { x: 50, y: 50 }, { stop: 'b', leg: 'ab' }, { traveller: 'traveller' }))
    editor.select({ kind: 'stop', id: 'b' })
    expect(editor.selectedStop?.id).toBe('b')
    editor.undo()
    expect(editor.selection).toEqual({ kind: 'journey' })
    editor.redo()
    editor.select({ kind: 'leg', id: 'ab' })
    expect(editor.selectedLeg?.id).toBe('ab')
    editor.undo()
    expect(editor.selection).toEqual({ kind: 'journey' })
  })

  it('lets go of anything selected that undo takes away, whatever it is', () => {
    const editor = useEditor()
    const adding: Record<Exclude<SelectionKind, 'journey' | 'sheet' | 'stop' | 'leg'>, (journey: Journey) => Journey> = {
      caption: (j) => addCaption(j, 'new', { kind: 'title', text: 'Title', second: '' }),
      landmark: (j) => addLandmark(j, newMark(j, 'new', { x: 1, y: 1 }, 'Mill', true)),
      note: (j) => addNote(j, { id: 'new', at: { at: 'start', offset: 1 }, text: 'Note' }),
      value: (j) => addValueMark(j, valueMarkSchema.parse({ value: 'map-dim', id: 'new', to: 0.5, at: { at: 'start', offset: 1 } })),
      audio: (j) => addAudio(j, 'new', { name: 'Song', file: 'a'.repeat(64), seconds: 20 }),
      shot: (j) => addShot(j, shotSchema.parse({ id: 'new', kind: 'overview', at: { at: 'start', offset: 2 } })),
    }
    for (const [kind, add] of Object.entries(adding) as [keyof typeof adding, (typeof adding)['note']][]) {
      editor.open(demo())
      expect(editor.edit(add), editor.refusal).toBe(true)
      editor.select({ kind, id: 'new' })
      expect(isThere(editor.selection, editor.journey!, editor.compiled!), kind).toBe(true)
      editor.undo()
      expect(editor.selection, kind).toEqual({ kind: 'journey' })
      editor.redo()
      editor.edit((j) => SELECTABLE[kind].remove!(j, 'new'))
      expect(isThere({ kind, id: 'new' }, editor.journey!, editor.compiled!), kind).toBe(false)
    }
  })

  it('offers no fix of a refused edit once something else has been done', () => {
    const editor = useEditor()
    editor.open(demo())
    editor.edit((j) => rename(j, 'Another'))
    expect(editor.edit((j) => setSeconds(j, 3))).toBe(false)
    expect(editor.fixes.length).toBeGreaterThan(0)
    editor.undo()
    expect([editor.refusal, editor.fixes]).toEqual(['', []])
    editor.redo()
    expect(editor.edit((j) => setSeconds(j, 3))).toBe(false)
    const fix = editor.fixes[0]!
    editor.fix(fix)
    expect(editor.journey!.name).toBe('Another')
    expect([editor.refusal, editor.fixes]).toEqual(['', []])
    editor.undo()
    expect(editor.journey!.seconds).toBe(demo().seconds)
  })

  it('selects several of a kind, and the traveller that they belong to', () => {
    const editor = useEditor()
    editor.open(addTraveller(demo(), 'second'))
    editor.chooseTraveller('second')
    expect(editor.traveller!.id).toBe('second')
    editor.select({ kind: 'stop', id: 'lampwick' })
    expect(editor.traveller!.id).toBe(demo().travellers[0]!.id)
    editor.selectAlso({ kind: 'stop', id: 'harrowmere' })
    editor.selectAlso({ kind: 'stop', id: 'gone' })
    expect(editor.selectedIds).toEqual(['lampwick', 'harrowmere'])
    editor.selectAlso({ kind: 'stop', id: 'lampwick' })
    expect(editor.selection).toMatchObject({ kind: 'stop', id: 'harrowmere' })
    editor.selectAlso({ kind: 'leg', id: 'seaplane' })
    expect(editor.selection).toEqual({ kind: 'leg', id: 'seaplane' })
    editor.selectAlso({ kind: 'leg', id: 'seaplane' })
    expect(editor.selection).toEqual({ kind: 'journey' })
  })

  it('ends a gesture where something else is selected', () => {
    const editor = useEditor()
    editor.open(demo())
    const before = editor.journey
    editor.edit((j) => rename(j, 'One'), 'typing')
    editor.select({ kind: 'sheet' })
    editor.edit((j) => rename(j, 'Two'), 'typing')
    editor.undo()
    expect(editor.journey!.name).toBe('One')
    editor.undo()
    expect(editor.journey).toBe(before)
  })

  it('starts anew with another journey', () => {
    const editor = useEditor()
    editor.open(demo())
    editor.edit((j) => editLeg(j, 'seaplane', { travel: 3 }))
    editor.select({ kind: 'leg', id: 'seaplane' })
    editor.open(journeyOver([]))
    expect([editor.canUndo, editor.selection.kind, editor.refusal]).toEqual([false, 'journey', ''])
  })

  it('keeps three hundred steps', () => {
    const editor = useEditor()
    editor.open(demo())
    for (let i = 0; i < 320; i++) editor.edit((j) => rename(j, `Name ${i}`))
    let steps = 0
    while (editor.canUndo) {
      editor.undo()
      steps++
    }
    expect(steps).toBe(300)
    expect(editor.journey!.name).toBe('Name 19')
  })
})

describe('playback', () => {
  it('keeps time on a slow machine by leaving frames out, and says so', () => {
    const playback = opened(20)
    playback.speed = 2
    playback.toggle()
    // Eight pictures in two seconds of a film of 30 frames a second, at twice its speed.
    for (let i = 0; i < 8; i++) playback.advance(0.25)
    expect(playback.frame).toBe(120)
    expect(playback.late).toEqual({ shown: 4, due: 60 })
    // Fast enough again, it says nothing.
    for (let i = 0; i < 240; i++) playback.advance(1 / 60)
    expect(playback.late).toBeUndefined()
  })

  it('plays a range over and over, and never beyond it', () => {
    const playback = opened(20)
    playback.setRange('from', 60)
    playback.setRange('to', 89)
    playback.toggle()
    expect(playback.frame).toBe(60)
    const seen = Array.from({ length: 50 }, () => (playback.advance(1 / 15), playback.frame))
    expect([Math.min(...seen), Math.max(...seen)]).toEqual([60, 88])
    expect(playback.playing).toBe(true)
    playback.setRange('from', 95)
    expect(playback.range).toEqual({ from: 95, to: 599 })
  })

  function opened(seconds: number) {
    useEditor().open(
      journeyOver(
        [
          [0, 0],
          [900, 0],
        ],
        {},
        seconds,
      ),
    )
    return usePlayback()
  }

  it('runs in whole frames and loses none, however unevenly time passes', () => {
    const playback = opened(20)
    for (let i = 0; i < 137; i++) playback.advance(i % 2 === 0 ? 0.013 : 0.0203)
    const passed = 69 * 0.013 + 68 * 0.0203
    expect(playback.frame).toBe(Math.floor(passed * 30 + 1e-9))
  })

  it('stops at the last frame, and starts over from there', () => {
    const playback = opened(4)
    playback.toggle()
    playback.advance(100)
    expect([playback.frame, playback.playing, playback.code]).toEqual([119, false, '00:00:03:29'])
    playback.toggle()
    expect([playback.frame, playback.playing]).toEqual([0, true])
  })

  it('loops to where it would have come', () => {
    const playback = opened(4)
    playback.looping = true
    playback.goTo(110)
    playback.toggle()
    playback.advance(0.5)
    expect([playback.frame, playback.playing]).toEqual([5, true])
  })

  it('steps, scrubs, and stays within the film', () => {
    const playback = opened(4)
    playback.step(-5)
    expect(playback.frame).toBe(0)
    playback.goToTime(2.0)
    expect(playback.frame).toBe(60)
    playback.goToTime(99)
    expect(playback.frame).toBe(119)
    playback.rewind()
    expect(playback.time).toBe(0)
  })

  it('follows when the film is made shorter or slower', () => {
    const playback = opened(10)
    playback.goTo(299)
    useEditor().edit((j) => setSeconds(j, 6))
    expect(playback.frame).toBe(179)
    useEditor().edit((j) => setFrame(setLayover(j, 0, 0.2, 'traveller'), { ...j.frame, rate: '24/1' }))
    expect([playback.frame, playback.frames]).toEqual([143, 144])
  })
})

describe('the stage', () => {
  it('shows the camera’s view through the lens and the whole sheet on the table', () => {
    const editor = useEditor()
    const stage = useStage()
    editor.open(demo())
    stage.reset()
    expect(stage.view).toBe(editor.journey!.camera)
    stage.toggleMode()
    expect(stage.view.zoom).toBeCloseTo(0.27, 6)
    stage.tableView = flatView({ x: 1, y: 2 }, 3)
    expect(stage.view.zoom).toBe(3)
    stage.setMode('lens')
    expect(stage.view).toBe(editor.journey!.camera)
  })
})
