import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick } from 'vue'
import { rename } from '#core/edits/journey'
import type { Journey } from '#core/journey/schema'
import { useAutosave } from '~/composables/use-autosave'
import * as api from '~/services/api'
import { useEditor } from '~/stores/editor'
import { demo } from '../support/journeys'

vi.mock('~/services/api', async (original) => ({ ...(await original<typeof api>()), saveJourney: vi.fn(), readJourney: vi.fn() }))
const save = vi.mocked(api.saveJourney)
const read = vi.mocked(api.readJourney)

let scope: ReturnType<typeof effectScope>
beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  scope = effectScope()
  save.mockReset().mockImplementation((_id, revision) => Promise.resolve({ revision: revision + 1 } as api.JourneyRecord))
  read.mockReset()
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
})

function opened() {
  const editor = useEditor()
  const journey = demo()
  editor.open(journey)
  const autosave = scope.run(() => useAutosave('id', { journey, revision: 7 }))!
  return { editor, autosave, journey }
}
const settle = async (ms: number) => {
  await nextTick()
  await vi.advanceTimersByTimeAsync(ms)
}
const failing = (status: number) => () => Promise.reject(new api.ApiError('No.', status))

describe('saving by itself', () => {
  it('waits until editing rests, and then saves once, on top of the revision before', async () => {
    const { editor, autosave } = opened()
    for (const name of ['A', 'Ab', 'Abc']) {
      editor.edit((j) => rename(j, name))
      await settle(300)
    }
    expect(save).not.toHaveBeenCalled()
    expect(autosave.state.value).toBe('unsaved')
    await settle(400)
    expect(save).toHaveBeenCalledTimes(1)
    expect(save.mock.calls[0]!.slice(0, 3)).toEqual(['id', 7, editor.document])
    expect([autosave.state.value, autosave.isSafe.value]).toEqual(['saved', true])
    editor.edit((j) => rename(j, 'Next'))
    await settle(700)
    expect(save.mock.calls[1]![1]).toBe(8)
  })

  it('has nothing to save where undo leads back to what is stored', async () => {
    const { editor, autosave } = opened()
    editor.edit((j) => rename(j, 'Gone again'))
    editor.undo()
    await settle(700)
    expect(save).not.toHaveBeenCalled()
    expect(autosave.state.value).toBe('saved')
  })

  it('saves what was changed while a save was under way', async () => {
    const { editor, autosave } = opened()
    let answer!: (record: api.JourneyRecord) => void
    save.mockImplementationOnce(() => new Promise((resolve) => (answer = resolve)))
    editor.edit((j) => rename(j, 'First'))
    await settle(700)
    expect(autosave.state.value).toBe('saving')
    editor.edit((j) => rename(j, 'Second'))
    await settle(700)
    expect(save).toHaveBeenCalledTimes(1)
    answer({ revision: 8 } as api.JourneyRecord)
    await settle(0)
    expect(save.mock.calls.map(([, revision, journey]) => [revision, journey.name])).toEqual([
      [7, 'First'],
      [8, 'Second'],
    ])
    expect(autosave.state.value).toBe('saved')
  })

  it('tries again after 2, 4, 8 seconds where the server does not answer, and says what is wrong', async () => {
    const { editor, autosave } = opened()
    save.mockImplementation(failing(0))
    editor.edit((j) => rename(j, 'Kept'))
    await settle(600)
    expect([autosave.state.value, autosave.problem.value]).toEqual(['failed', 'No.'])
    for (const [seconds, calls] of [
      [2, 2],
      [4, 3],
      [8, 4],
    ] as const) {
      await settle(seconds * 1000 - 1)
      expect(save).toHaveBeenCalledTimes(calls - 1)
      await settle(1)
      expect(save).toHaveBeenCalledTimes(calls)
    }
    save.mockImplementation((_id, revision) => Promise.resolve({ revision: revision + 1 } as api.JourneyRecord))
    await autosave.flush()
    expect([autosave.state.value, autosave.problem.value]).toEqual(['saved', ''])
  })

  it('does not try again what the server refuses for good', async () => {
    const { editor, autosave } = opened()
    save.mockImplementation(failing(400))
    editor.edit((j) => rename(j, 'Refused'))
    await settle(700)
    await settle(120_000)
    expect(save).toHaveBeenCalledTimes(1)
    expect(autosave.state.value).toBe('failed')
  })

  it('stops at a conflict, and goes on from what is chosen', async () => {
    const { editor, autosave } = opened()
    save.mockImplementationOnce(failing(409))
    editor.edit((j) => rename(j, 'Mine'))
    await settle(700)
    expect(autosave.state.value).toBe('conflict')
    editor.edit((j) => rename(j, 'Mine still'))
    await settle(700)
    expect(save).toHaveBeenCalledTimes(1)
    await autosave.overwrite(12)
    expect(save.mock.calls[1]!.slice(1, 3)).toEqual([12, editor.document])
    expect(autosave.state.value).toBe('saved')
  })

  it('takes the other version in a conflict as a step that can be undone', async () => {
    const { editor, autosave } = opened()
    save.mockImplementationOnce(failing(409))
    editor.edit((j) => rename(j, 'Mine'))
    await settle(700)
    const other: Journey = { ...demo(), name: 'Theirs' }
    autosave.take({ journey: other, revision: 12 })
    expect([editor.journey!.name, autosave.state.value]).toEqual(['Theirs', 'saved'])
    await nextTick()
    editor.undo()
    expect(editor.journey!.name).toBe('Mine')
    await settle(700)
    expect(save.mock.calls[1]![1]).toBe(12)
  })

  it('knows its own save again whose answer was lost', async () => {
    const { editor, autosave } = opened()
    save.mockImplementationOnce(failing(0)).mockImplementationOnce(failing(409))
    editor.edit((j) => rename(j, 'Arrived'))
    await settle(700)
    read.mockResolvedValue({ journey: structuredClone(editor.document!), revision: 8 } as api.JourneyRecord)
    await settle(2100)
    expect(autosave.state.value).toBe('saved')
    editor.edit((j) => rename(j, 'Later'))
    await settle(700)
    expect(save.mock.calls.at(-1)![1]).toBe(8)
  })

  it('never saves another journey in the place of its own', async () => {
    const { editor } = opened()
    editor.edit((j) => rename(j, 'Old'))
    editor.open({ ...demo(), name: 'Another' })
    await settle(2000)
    expect(save).not.toHaveBeenCalled()
  })
})
