import type { FilmSettings } from '#core/film/settings'
import { filmPaceSchema, wholeFilm } from '#core/film/settings'
import { existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import Database from 'better-sqlite3'
import sharp from 'sharp'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { rename } from '#core/edits/journey'
import { pointAt } from '#core/geometry/course'
import { compile } from '#core/frame/compile'
import { fontSchema } from '#core/journey/font-schema'
import { audioSchema } from '#core/journey/pace-schema'
import { SHEET, TOWNS } from '#demo/places'
import { lanternIslesRelief } from '#demo/terrain'
import { DEMO_ID, DEMO_IDS, seedDemos } from '#demo/seed'
import { openDatabase } from '../../server/storage/database'
import {
  beginExport,
  exportPaces,
  failInterruptedExports,
  exportOrder,
  finishedExports,
  finishExport,
  insertExport,
  listExports,
  readExport,
} from '../../server/storage/exports'
import {
  deleteJourney,
  insertJourney,
  listJourneys,
  readJourney,
  restoreJourney,
  saveJourney,
  sweepJourneys,
} from '../../server/storage/journeys'
import { deleteFiled, listFiled, sweepFiled } from '../../server/storage/filed'
import { imagePath } from '../../server/storage/image-files'
import { findImage, insertImage } from '../../server/storage/images'
import { MIGRATIONS } from '../../server/storage/migrations'
import { newId } from '../../server/storage/new-id'
import { copyVersions, deleteVersion, insertVersion, listVersions, readVersion } from '../../server/storage/versions'
import { sweepFiles, sweepImages } from '../../server/storage/sweep'
import { asVersion5, withoutVersion7 } from '../support/old-documents'
import { demo } from '../support/journeys'
import { temporaryFolder } from '../support/server'

let folder: string
let db: ReturnType<typeof openDatabase>
beforeEach(() => {
  folder = temporaryFolder()
  db = openDatabase(folder)
})
afterEach(() => {
  db.close()
  rmSync(folder, { recursive: true, force: true })
})

describe('the database', () => {
  it('is in WAL mode, with foreign keys on, at the newest version', () => {
    expect(db.pragma('journal_mode', { simple: true })).toBe('wal')
    expect(db.pragma('foreign_keys', { simple: true })).toBe(1)
    expect(db.pragma('user_version', { simple: true })).toBe(MIGRATIONS.length)
  })

  it('opens again without migrating twice, and refuses one from a newer Zephyrine', () => {
    insertJourney(db, demo(), 'kept')
    db.close()
    db = openDatabase(folder)
    expect(readJourney(db, 'kept')?.journey).toEqual(demo())
    db.pragma(`user_version = ${MIGRATIONS.length + 3}`)
    db.close()
    expect(() => openDatabase(folder)).toThrow(/newer Zephyrine/)
    db = new Database(':memory:')
  })
})

describe('journeys', () => {
  it('are saved over the revision they came from, and only that', () => {
    const { id } = insertJourney(db, demo())
    expect(saveJourney(db, id, 1, rename(demo(), 'Two'))).toEqual({ saved: true, revision: 2 })
    expect(saveJourney(db, id, 1, rename(demo(), 'Late'))).toEqual({ saved: false, revision: 2 })
    expect(saveJourney(db, 'nobody', 1, demo())).toEqual({ saved: false, revision: undefined })
    expect(readJourney(db, id)?.journey.name).toBe('Two')
  })

  it('come back with their steps of undo, unless these belong to an earlier version of the document', () => {
    const { id } = insertJourney(db, demo())
    const past = [[{ path: ['name'], value: 'Before' }]]
    saveJourney(db, id, 1, demo(), past)
    expect(readJourney(db, id)?.past).toEqual(past)
    const { camera } = demo()
    const old = { ...asVersion5(demo()), version: 4, views: undefined, camera: { centre: camera.centre, zoom: camera.zoom } }
    db.prepare('UPDATE journeys SET document = ? WHERE id = ?').run(JSON.stringify(old), id)
    const read = readJourney(db, id)!
    expect(read.past).toEqual([])
    expect(read.journey).toEqual(withoutVersion7(demo()))
  })

  it('that are deleted are out of sight, can be brought back, and are swept away in the end', () => {
    const { id } = insertJourney(db, demo())
    expect(deleteJourney(db, id)).toBe(true)
    expect([deleteJourney(db, id), readJourney(db, id), listJourneys(db)]).toEqual([false, undefined, []])
    sweepJourneys(db, 1000)
    expect(restoreJourney(db, id)).toBe(true)
    expect(listJourneys(db)).toHaveLength(1)
    deleteJourney(db, id)
    sweepJourneys(db, -1000)
    expect(restoreJourney(db, id)).toBe(false)
  })
})

describe('exports', () => {
  const start = (journeyId: string) =>
    insertExport(db, { journeyId, name: 'Film', document: JSON.stringify(demo()), settings: wholeFilm(demo()) })

  it('go from queued to an end', () => {
    const { id: journeyId } = insertJourney(db, demo())
    const { id, state } = start(journeyId)
    expect(state).toBe('queued')
    finishExport(db, id, { state: 'done', bytes: 99, error: null, finishedAt: 5 })
    expect(readExport(db, id)).toMatchObject({ state: 'done', framesDone: 720, bytes: 99, error: null })
    expect(finishedExports(db)).toMatchObject([{ id, format: 'mp4' }])
    expect(exportOrder(db, id).settings).toEqual(wholeFilm(demo()))
  })

  it('that were under way are failed after a stop, and go with their journey', () => {
    const { id: journeyId } = insertJourney(db, demo())
    start(journeyId)
    failInterruptedExports(db)
    expect(listExports(db, journeyId)[0]).toMatchObject({ state: 'failed', error: expect.stringContaining('export again') })
    deleteJourney(db, journeyId)
    sweepJourneys(db, -1000)
    expect(listExports(db, journeyId)).toEqual([])
  })
})

describe('what films took', () => {
  it('is told of those that were finished, from the beginning of the work on', () => {
    const { id: journeyId } = insertJourney(db, demo())
    const make = (settings: FilmSettings) => insertExport(db, { journeyId, name: 'Film', document: JSON.stringify(demo()), settings }).id
    const whole = wholeFilm(demo())
    const [done, failed, waiting] = [make({ ...whole, from: 0, to: 100, width: 640, height: 360 }), make(whole), make(whole)]
    for (const id of [done, failed]) beginExport(db, id)
    const now = Date.now()
    finishExport(db, done, { state: 'done', bytes: 5000, error: null, finishedAt: now + 8000 })
    finishExport(db, failed, { state: 'failed', bytes: null, error: 'No.', finishedAt: now + 9000 })
    finishExport(db, waiting, { state: 'cancelled', bytes: null, error: null, finishedAt: now })
    const paces = exportPaces(db)
    expect(paces).toHaveLength(1)
    expect(filmPaceSchema.parse(paces[0])).toMatchObject({ journey: journeyId, format: 'mp4', pixels: 23_040_000, bytes: 5000 })
    expect(Math.abs(paces[0]!.seconds - 8)).toBeLessThan(0.5)
  })
})

describe('new ids', () => {
  it('are of letters and digits alone, as one that begins with a dash would be taken for an option', () => {
    const ids = Array.from({ length: 5000 }, () => newId())
    expect(ids.every((id) => /^[0-9A-Za-z]{12}$/.test(id))).toBe(true)
    expect(new Set(ids).size).toBe(ids.length)
    expect(insertJourney(db, demo()).id).toMatch(/^[0-9A-Za-z]{12}$/)
  })
})

describe('sweeping the data folder', () => {
  it('takes away half-written and orphaned files, and nothing else', () => {
    for (const name of ['exports', 'images/ab', 'audio', 'fonts']) mkdirSync(join(folder, name), { recursive: true })
    const half = ['images/incoming-x', 'audio/incoming-y.pcm', 'audio/incoming-y.pcm-decoded', `fonts/${'a'.repeat(64)}-zzzzzzzz`]
    const leftOver = ['exports/gone.mp4', 'exports/kept.mov', 'exports/kept2.zip.part', ...half]
    const whole = [`audio/${'b'.repeat(64)}.pcm`, `fonts/${'a'.repeat(64)}`]
    const files = [...leftOver, 'exports/kept.mp4', 'exports/notes.txt', 'images/ab/abcdef', ...whole]
    for (const file of files) writeFileSync(join(folder, file), 'x')
    sweepFiles(folder, [{ id: 'kept', format: 'mp4' }])
    expect(readdirSync(join(folder, 'exports'))).toEqual(['kept.mp4', 'notes.txt'])
    expect(readdirSync(join(folder, 'images/ab'))).toEqual(['abcdef'])
    expect(readdirSync(join(folder, 'images'))).toEqual(['ab'])
    expect(readdirSync(join(folder, 'audio'))).toEqual([`${'b'.repeat(64)}.pcm`])
    expect(readdirSync(join(folder, 'fonts'))).toEqual(['a'.repeat(64)])
  })
})

describe('images', () => {
  it('go when no journey has named them for a while, and not before', () => {
    const insert = (hash: string) =>
      insertImage(db, { hash, format: 'png', width: 9, height: 9, bytes: 9, vector: false, georeference: null, note: null })
    const [used, unused] = ['c'.repeat(64), 'd'.repeat(64)]
    for (const hash of [used, unused]) {
      insert(hash)
      mkdirSync(dirname(imagePath(folder, hash)), { recursive: true })
      writeFileSync(imagePath(folder, hash), 'x')
    }
    insertJourney(db, { ...demo(), sheets: [{ ...demo().sheets[0]!, image: used }] })
    sweepImages(db, folder, 60_000)
    expect(findImage(db, unused)).toBeDefined()
    sweepImages(db, folder, -1000)
    expect(findImage(db, unused)).toBeUndefined()
    expect(existsSync(imagePath(folder, unused))).toBe(false)
    expect(findImage(db, used)).toBeDefined()
    expect(existsSync(imagePath(folder, used))).toBe(true)
  })
})

describe('versions', () => {
  it('are read as they were kept, the last one first, and go with their journey', () => {
    const { id } = insertJourney(db, demo())
    const other = insertJourney(db, demo(), 'other')
    const first = insertVersion(db, id, 'First', demo())
    const second = insertVersion(db, id, 'Second', rename(demo(), 'Changed'))
    expect(listVersions(db, id).map(({ name }) => name)).toEqual(['Second', 'First'])
    expect(readVersion(db, id, second.id)).toEqual(rename(demo(), 'Changed'))
    // That of another journey is not here.
    expect([readVersion(db, other.id, first.id), deleteVersion(db, other.id, first.id)]).toEqual([undefined, false])
    copyVersions(db, id, other.id)
    expect(listVersions(db, other.id).map(({ name }) => name)).toEqual(['Second', 'First'])
    expect(deleteVersion(db, id, first.id)).toBe(true)
    deleteJourney(db, id)
    sweepJourneys(db, -1000)
    expect([listVersions(db, id), listVersions(db, other.id).length]).toEqual([[], 2])
  })

  it('of an earlier form of the document are brought to the present one', () => {
    const { id } = insertJourney(db, demo())
    const { id: version } = insertVersion(db, id, 'Old', demo())
    db.prepare('UPDATE versions SET document = ? WHERE id = ?').run(JSON.stringify(asVersion5(demo())), version)
    expect(readVersion(db, id, version)).toEqual(withoutVersion7(demo()))
  })

  it('keep the images and sounds that only they name, and are bounded in number', () => {
    const image = 'e'.repeat(64)
    insertImage(db, { hash: image, format: 'png', width: 9, height: 9, bytes: 9, vector: false, georeference: null, note: null })
    const { id } = insertJourney(db, demo())
    const named = { ...demo(), sheets: [{ ...demo().sheets[0]!, image }] }
    const { id: version } = insertVersion(db, id, 'With another map', named)
    sweepImages(db, folder, -1000)
    expect(findImage(db, image)).toBeDefined()
    mkdirSync(join(folder, 'audio'), { recursive: true })
    writeFileSync(join(folder, 'audio', `${image}.pcm`), 'four')
    expect(deleteFiled(db, folder, 'audio', image)).toBe('used')
    deleteVersion(db, id, version)
    sweepImages(db, folder, -1000)
    expect(findImage(db, image)).toBeUndefined()
    for (let i = 0; i < 40; i++) insertVersion(db, id, `Version ${i}`, demo())
    expect(() => insertVersion(db, id, 'One more', demo())).toThrow(/At most 40 versions/)
  })
})

describe('sounds and fonts', () => {
  const [music, speech, lost, letters] = ['a', 'b', 'c', 'd'].map((letter) => letter.repeat(64)) as [string, string, string, string]
  const filed = { audio: [`${music}.pcm`, `${speech}.pcm`, `${lost}.pcm`, 'incoming-x'], fonts: [letters] }
  beforeEach(() => {
    for (const [kind, files] of Object.entries(filed)) {
      mkdirSync(join(folder, kind), { recursive: true })
      for (const file of files) writeFileSync(join(folder, kind, file), 'four')
    }
    const piece = (id: string, file: string, name: string) => audioSchema.parse({ id, file, name, seconds: 9, to: 9 })
    const font = fontSchema.parse({ file: letters, name: 'Lettering', capital: 700, widths: { a: 500 } })
    insertJourney(db, { ...demo(), audio: [piece('m', music, 'Tide.wav')], fonts: [font] })
    insertJourney(db, { ...demo(), audio: [piece('s', speech, 'Words.mp3')] }, 'deleted')
    deleteJourney(db, 'deleted')
  })

  it('are listed with the name that a journey has for them, and whether any has, also one that can be restored', () => {
    expect(listFiled(db, folder, 'audio')).toEqual([
      { hash: music, bytes: 4, name: 'Tide.wav', isUsed: true },
      { hash: speech, bytes: 4, name: 'Words.mp3', isUsed: true },
      { hash: lost, bytes: 4, name: null, isUsed: false },
    ])
    expect(listFiled(db, folder, 'fonts')).toEqual([{ hash: letters, bytes: 4, name: 'Lettering', isUsed: true }])
  })

  it('are deleted only where nothing has them', () => {
    expect(deleteFiled(db, folder, 'audio', music)).toBe('used')
    expect(deleteFiled(db, folder, 'audio', speech)).toBe('used')
    expect(deleteFiled(db, folder, 'fonts', music)).toBe('missing')
    expect(deleteFiled(db, folder, 'audio', lost)).toBeUndefined()
    expect(deleteFiled(db, folder, 'audio', lost)).toBe('missing')
    expect(readdirSync(join(folder, 'audio'))).toEqual([`${music}.pcm`, `${speech}.pcm`, 'incoming-x'])
  })

  it('are swept once they have been unused for long enough', () => {
    sweepFiled(db, folder, 'audio', 60_000)
    expect(readdirSync(join(folder, 'audio'))).toHaveLength(4)
    sweepFiled(db, folder, 'audio', -1000)
    expect(readdirSync(join(folder, 'audio'))).toEqual([`${music}.pcm`, `${speech}.pcm`])
    sweepFiled(db, folder, 'fonts', -1000)
    expect(readdirSync(join(folder, 'fonts'))).toEqual([letters])
  })
})

describe('the demo', () => {
  it('is seeded once, and left alone after it was changed or deleted', async () => {
    await seedDemos(db, folder, ['demo'])
    const { journey, revision } = readJourney(db, DEMO_ID)!
    expect(journey.stops).toHaveLength(5)
    expect(journey.seconds).toBeGreaterThanOrEqual(20)
    expect(journey.seconds).toBeLessThanOrEqual(25)
    saveJourney(db, DEMO_ID, revision, rename(journey, 'My isles'))
    await seedDemos(db, folder, ['demo'])
    expect(readJourney(db, DEMO_ID)?.journey.name).toBe('My isles')
    deleteJourney(db, DEMO_ID)
    await seedDemos(db, folder, ['demo'])
    expect(listJourneys(db)).toEqual([])
  })

  it('is one of three, all of which are listed, the first one first', async () => {
    await seedDemos(db, folder)
    expect(listJourneys(db).map(({ id }) => id)).toEqual([...DEMO_IDS])
    await seedDemos(db, folder)
    expect(listJourneys(db)).toHaveLength(3)
  })

  it('has a sheet at least 6000 px wide, under 4 MB, of the size that its places are drawn for', async () => {
    const { size } = await import('node:fs').then(({ statSync }) => statSync('demo/lantern-isles.webp'))
    expect(size).toBeLessThan(4e6)
    const { width, height } = await sharp('demo/lantern-isles.webp').metadata()
    expect({ width, height }).toEqual(SHEET)
    expect(width).toBeGreaterThanOrEqual(6000)
  })

  it('has its towns, railway and road on land, and rows over water', () => {
    const relief = lanternIslesRelief()
    for (const [name, { at }] of Object.entries(TOWNS)) expect(relief(at.x, at.y), name).toBeGreaterThan(0)
    const legs = compile(demo()).travellers[0]!.legs
    const onLand = (leg: number) => {
      const { course } = legs[leg]!
      const places = Array.from({ length: 200 }, (_, i) => pointAt(course, (course.length * i) / 199))
      return places.filter((p) => relief(p.x, p.y) > 0).length / 200
    }
    expect(onLand(0)).toBe(1)
    expect(onLand(1)).toBeGreaterThan(0.97)
    expect(onLand(2)).toBeLessThan(0.2)
  })
})
