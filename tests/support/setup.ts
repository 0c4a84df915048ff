import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import { DEMO_IDS, seedDemos } from '#demo/seed'
import { mapDataMade } from '../../server/maps/data'
import { places } from '../../server/places/places'
import { openDatabase } from '../../server/storage/database'
import { launchServer } from './browser'
import { serveCopyOf } from './server'

declare module 'vitest' {
  interface ProvidedContext {
    /** A data folder with all demos in it, which servers get copies of: to cut its map into tiles takes seconds. */
    template: string
    /** Where the browser listens that all files share, and the server that those share which only look. Of the browser tests alone. */
    browser: string
    shared: { address: string; folder: string }
  }
}

/** Before the tests of a project: what they share is made once. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'zephyrine-template-'))
  const template = join(folder, 'data')
  const db = openDatabase(template)
  // What maps are drawn from, too: each server that finds none would begin to make it.
  await Promise.all([seedDemos(db, template, DEMO_IDS), mapDataMade()])
  ;(await places()).close()
  db.close()
  project.provide('template', template)
  const ends: (() => Promise<void>)[] = []
  if (project.name === 'browser') {
    const [browser, server] = await Promise.all([launchServer(), serveCopyOf(template, ['demo'])])
    project.provide('browser', browser.wsEndpoint())
    project.provide('shared', { address: server.address, folder: server.folder })
    ends.push(
      () => browser.close(),
      () => server.stop(),
    )
  }
  return async () => {
    await Promise.all(ends.map((end) => end()))
    rmSync(folder, { recursive: true, force: true })
  }
}
