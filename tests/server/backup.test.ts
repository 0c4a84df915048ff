/** A backup: made while the data is worked on, brought up to date, and restored. */
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO_ID, seedDemos } from '#demo/seed'
import { rename } from '#core/edits/journey'
import { backUp, restore } from '../../server/storage/backup'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { readTile } from '../../server/sheets/tiles'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { lockFolder } from '../../server/storage/folder-lock'
import { insertJourney, listJourneys, readJourney, saveJourney } from '../../server/storage/journeys'
import { temporaryFolder } from '../support/server'

let folder: string
let db: Db
const others: string[] = []
const newFolder = () => others[others.push(temporaryFolder()) - 1]!

beforeAll(async () => {
  folder = newFolder()
  db = openDatabase(folder)
  await seedDemos(db, folder)
  writeFileSync(join(folder, 'service-keys.json'), '{"tiles.example":"secret"}')
  mkdirSync(join(folder, 'exports'))
  writeFileSync(join(folder, 'exports', 'film.mp4'), 'a film')
  writeFileSync(join(folder, 'exports', 'other.mp4.part'), 'half a film')
})
afterAll(() => {
  closeTileFiles()
  db.close()
  for (const path of others) rmSync(path, { recursive: true, force: true })
})

describe('a backup', () => {
  it('has all journeys and their files, made while the database is open and written to, and no keys', async () => {
    const out = newFolder()
    const saving = setInterval(() => {
      const { revision, journey } = readJourney(db, DEMO_ID)!
      saveJourney(db, DEMO_ID, revision, rename(journey, `Saved ${revision}`))
    }, 1)
    const done = await backUp(folder, out).finally(() => clearInterval(saving))
    expect(done.journeys).toBe(3)
    expect(readdirSync(out).sort()).toEqual(['audio', 'backup.json', 'exports', 'fonts', 'images', 'luts', 'zephyrine.sqlite'].filter((name) => existsSync(join(out, name)))) // prettier-ignore
    expect(readdirSync(join(out, 'exports'))).toEqual(['film.mp4'])
    const copy = openDatabase(out)
    expect(copy.pragma('integrity_check', { simple: true })).toBe('ok')
    expect(listJourneys(copy).map(({ id }) => id).sort()).toEqual(listJourneys(db).map(({ id }) => id).sort()) // prettier-ignore
    const sheet = readJourney(copy, DEMO_ID)!.journey.sheets[0]!
    copy.close()
    const address = { level: 0, column: 0, row: 0 }
    expect(Buffer.from((await readTile(out, sheet, address))!).equals(Buffer.from((await readTile(folder, sheet, address))!))).toBe(true)
  })

  it('is brought up to date: only what is new is copied', async () => {
    const out = newFolder()
    const first = await backUp(folder, out)
    expect(first).toMatchObject({ kept: 0 })
    insertJourney(db, rename(readJourney(db, 'walk')!.journey, 'New'))
    writeFileSync(join(folder, 'exports', 'second.mp4'), 'another film')
    const second = await backUp(folder, out)
    expect(second).toMatchObject({ journeys: first.journeys + 1, copied: 1, kept: first.copied })
  })

  it('is restored into a folder without journeys, and only there', async () => {
    const [out, back] = [newFolder(), newFolder()]
    const { journeys, copied } = await backUp(folder, out)
    // A folder on which a server was started once.
    openDatabase(back).close()
    expect(await restore(out, back)).toMatchObject({ journeys, copied })
    const restored = openDatabase(back)
    for (const { id } of listJourneys(db)) expect(readJourney(restored, id)!.journey).toEqual(readJourney(db, id)!.journey)
    restored.close()
    expect(readFileSync(join(back, 'exports', 'film.mp4'), 'utf8')).toBe('a film')
    await expect(restore(out, back)).rejects.toThrow(/There are journeys in .* already/)
    const used = newFolder()
    const release = lockFolder(used, 'http://127.0.0.1:1/')
    // SQLite's locks hold within a process, too.
    await expect(restore(out, used)).rejects.toThrow(/running on the data folder/)
    release()
  })

  it('goes nowhere where it could do harm', async () => {
    const other = newFolder()
    writeFileSync(join(other, 'mine.txt'), 'mine')
    await expect(backUp(folder, other)).rejects.toThrow(/has other files in it/)
    await expect(backUp(folder, folder)).rejects.toThrow(/in the data folder itself/)
    await expect(backUp(folder, join(folder, 'copy'))).rejects.toThrow(/in the data folder itself/)
    await expect(backUp(join(folder, 'nothing'), newFolder())).rejects.toThrow(/There is no data/)
    await expect(restore(other, newFolder())).rejects.toThrow(/is no backup/)
    expect(readdirSync(other)).toEqual(['mine.txt'])
  })
})
