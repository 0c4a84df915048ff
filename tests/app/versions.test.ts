/** The store of versions: what it asks of the server, and what becomes of the journey. */
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { rename } from '#core/edits/journey'
import type { Journey } from '#core/journey/schema'
import { useEditor } from '~/stores/editor'
import { useVersions } from '~/stores/versions'
import { demo } from '../support/journeys'

interface Kept {
  id: string
  name: string
  createdAt: number
  journey: Journey
}
let kept: Kept[]
let refuses: string | undefined

/** A server that keeps versions in a list. */
function answer(path: string, { method = 'GET', body }: RequestInit = {}) {
  if (refuses) return new Response(JSON.stringify({ message: refuses }), { status: 422 })
  const found = /^\/api\/journeys\/j1\/versions(?:\/(.+))?$/.exec(path)
  if (!found) return new Response('{}', { status: 404 })
  const entry = kept.find(({ id }) => id === found[1])
  if (method === 'POST') {
    const { name, journey } = JSON.parse(body as string) as Kept
    kept = [{ id: `v${kept.length + 1}${name.length}`, name, createdAt: 5, journey }, ...kept]
    return Response.json({ ...kept[0], journey: undefined })
  }
  if (method === 'DELETE') {
    kept = kept.filter((other) => other !== entry)
    return new Response('')
  }
  return Response.json(entry ? { journey: entry.journey } : kept.map(({ id, name, createdAt }) => ({ id, name, createdAt })))
}

/** A worker that finds no places for any label. */
class NoWorker {
  onmessage: ((event: { data: unknown }) => void) | null = null
  postMessage({ call, order }: { call: number; order: { labels?: unknown[] } }) {
    queueMicrotask(() =>
      this.onmessage?.({ data: { call, is: 'done', reply: { chosen: (order.labels ?? []).map(() => 0), crowded: [] } } }),
    )
  }
  terminate() {
    this.onmessage = null
  }
}

beforeEach(() => {
  setActivePinia(createPinia())
  kept = []
  refuses = undefined
  vi.stubGlobal('fetch', (path: string, options?: RequestInit) => Promise.resolve(answer(path, options)))
  vi.stubGlobal('Worker', NoWorker)
})
afterEach(() => vi.unstubAllGlobals())

async function opened() {
  const editor = useEditor()
  editor.open(demo())
  const versions = useVersions()
  versions.open('j1')
  await versions.load()
  return { editor, versions }
}

describe('versions', () => {
  it('are kept as the journey is, the last one first, under names that none has yet', async () => {
    const { editor, versions } = await opened()
    expect(versions.versions).toEqual([])
    expect(versions.nextName).toBe('Version 1')
    await versions.keep('Version 2')
    editor.edit((journey) => rename(journey, 'Another'))
    await versions.keep('Before the client')
    expect(versions.versions!.map(({ name }) => name)).toEqual(['Before the client', 'Version 2'])
    expect(kept.map(({ journey }) => journey.name)).toEqual(['Another', demo().name])
    expect(versions.nextName).toBe('Version 3')
  })

  it('are gone back to in one step of undo', async () => {
    const { editor, versions } = await opened()
    await versions.keep('First')
    editor.edit((journey) => rename(journey, 'Another'))
    editor.select({ kind: 'stop', id: 'lampwick' })
    await versions.goBackTo(versions.versions![0]!)
    expect(editor.journey!.name).toBe(demo().name)
    expect(editor.notice!.text).toBe('The journey is “First” again.')
    editor.undo()
    expect(editor.journey!.name).toBe('Another')
    editor.redo()
    expect(editor.journey!.name).toBe(demo().name)
  })

  it('are compared as they were, whatever has been done since', async () => {
    const { editor, versions } = await opened()
    await versions.keep('First')
    editor.edit((journey) => ({ ...journey, seconds: 30 }))
    await versions.compare(versions.versions![0]!)
    expect(versions.failure).toBe('')
    expect(versions.compared!.compiled.journey.seconds).toBe(demo().seconds)
    versions.open('j1')
    expect(versions.compared).toBeUndefined()
  })

  it('are deleted, unless one thinks better of it', async () => {
    const { editor, versions } = await opened()
    await versions.keep('First')
    await versions.remove(versions.versions![0]!)
    expect(kept).toEqual([])
    expect(versions.versions).toEqual([])
    editor.notice!.action!.run()
    await vi.waitFor(() => expect(versions.versions!.map(({ name }) => name)).toEqual(['First']))
    expect(kept[0]!.journey.name).toBe(demo().name)
  })

  it('that cannot be kept say why, and nothing has changed', async () => {
    const { versions } = await opened()
    refuses = 'At most 40 versions of a journey are kept: delete one first.'
    expect(await versions.keep('One more')).toBeUndefined()
    expect(versions.failure).toBe(refuses)
    expect(versions.versions).toEqual([])
  })
})
