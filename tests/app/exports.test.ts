import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { wholeFilm } from '#core/film/settings'
import * as api from '~/services/api'
import { useEditor } from '~/stores/editor'
import { useExports } from '~/stores/exports'
import { demo } from '../support/journeys'

vi.mock('~/services/api', async (original) => ({
  ...(await original<typeof api>()),
  listExports: vi.fn(),
  listPaces: vi.fn(),
  startExport: vi.fn(),
  watchExport: vi.fn(),
}))
const [list, start, watch] = [vi.mocked(api.listExports), vi.mocked(api.startExport), vi.mocked(api.watchExport)]

const record = (id: string, patch: Partial<api.ExportRecord> = {}): api.ExportRecord => ({
  id,
  name: id,
  format: 'mp4',
  state: 'queued',
  framesDone: 0,
  framesTotal: 100,
  bytes: null,
  error: null,
  createdAt: 0,
  finishedAt: null,
  ...patch,
})

let report: (record: api.ExportRecord) => void
const stop = vi.fn()
beforeEach(() => {
  setActivePinia(createPinia())
  vi.resetAllMocks()
  vi.mocked(api.listPaces).mockResolvedValue([])
  start.mockImplementation((_journey, _settings, name) => Promise.resolve(record(name)))
  watch.mockImplementation((_id, listener) => {
    report = listener
    return stop
  })
  useEditor().open(demo())
})
const films = (...names: string[]) => names.map((name) => ({ name, settings: wholeFilm(demo()) }))

describe('an export', () => {
  it('is followed from the order to its end, and a word says that it is done', async () => {
    const store = useExports()
    await store.start('j', films('one'))
    expect([store.running, store.share]).toEqual([true, 0])
    report(record('one', { state: 'running', framesDone: 25 }))
    expect(store.share).toBe(0.25)
    report(record('one', { state: 'done', framesDone: 100 }))
    expect(store.running).toBe(false)
    expect(useEditor().notice!.text).toMatch(/ready/)
  })

  it('says why it failed, and nothing while its dialog is open', async () => {
    const store = useExports()
    await store.start('j', films('one'))
    store.isWatched = true
    report(record('one', { state: 'failed', error: 'The disk is full.' }))
    expect(useEditor().notice).toBeUndefined()
    store.isWatched = false
    report(record('one', { state: 'failed', error: 'The disk is full.' }))
    expect(useEditor().notice!.text).toContain('The disk is full.')
  })

  it('goes on to the next of several shapes, and speaks up only after the last', async () => {
    const store = useExports()
    await store.start('j', films('wide', 'upright'))
    expect(store.waiting).toBe(1)
    list.mockResolvedValue([record('upright', { state: 'running' }), record('wide', { state: 'done' })])
    report(record('wide', { state: 'done' }))
    await vi.waitFor(() => expect(store.current!.id).toBe('upright'))
    expect([store.waiting, useEditor().notice]).toEqual([0, undefined])
    report(record('upright', { state: 'done' }))
    expect(useEditor().notice!.text).toMatch(/ready/)
  })

  it('is found again where the page was opened anew, and let go with the journey', async () => {
    const store = useExports()
    list.mockResolvedValue([record('runs', { state: 'running' }), record('old', { state: 'done' }), record('lost', { state: 'failed' })])
    await store.refresh('j')
    expect([store.current!.id, store.earlier.map(({ id }) => id)]).toEqual(['runs', ['old']])
    store.reset()
    expect(stop).toHaveBeenCalled()
    expect([store.current, store.earlier]).toEqual([undefined, []])
  })
})
