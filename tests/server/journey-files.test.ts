/**
 * Journeys as files: nothing is lost on the way there and back, programs that are not ours can unpack them, and what is damaged or hostile is told in a sentence
 * and harms nothing. ZIP: APPNOTE.TXT 6.3.10 of PKWARE, of which the places that are changed here are from memory.
 */
import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { createWriteStream, existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import fc from 'fast-check'
import { unzipSync, zipSync } from 'fflate'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { JourneyError } from '#core/error'
import { rename } from '#core/edits/journey'
import type { Journey } from '#core/journey/schema'
import { wavHeader } from '#core/sound/pcm'
import { addAudio } from '../../server/audio/add-audio'
import { addFont } from '../../server/fonts/add-font'
import { openJourneyFile, putInPlaceOf } from '../../server/journey-files/open-file'
import type { Packable } from '../../server/journey-files/pack'
import { contentsOf, packJourney } from '../../server/journey-files/pack'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { closeTileFiles } from '../../server/sheets/tile-file'
import { audioPath } from '../../server/storage/audio-files'
import type { Db } from '../../server/storage/database'
import { openDatabase } from '../../server/storage/database'
import { imagePath } from '../../server/storage/image-files'
import { insertJourney, listJourneys, readJourney } from '../../server/storage/journeys'
import { lutPath } from '../../server/storage/lut-files'
import { takeIn } from '../../server/storage/take-in'
import { listVersions, readVersion } from '../../server/storage/versions'
import { journeyWithEveryFile, PICTURES } from '../support/every-file'
import { COLD_CUBE } from '../support/luts'
import { demo } from '../support/journeys'
import { asVersion5, asVersion9, asVersion10, withoutVersion7, withoutVersion9, withoutVersion10 } from '../support/old-documents'
import { temporaryFolder } from '../support/server'
import { clickTrack } from '../support/sounds'

interface Home {
  folder: string
  db: Db
}
const homes: Home[] = []
function newHome(): Home {
  const folder = temporaryFolder()
  homes.push({ folder, db: openDatabase(folder) })
  return homes.at(-1)!
}
afterAll(() => {
  closeTileFiles()
  for (const { folder, db } of homes) {
    db.close()
    rmSync(folder, { recursive: true, force: true })
  }
})

/** A sound as a WAV file with one channel: it is kept with two. */
function clicks(): Buffer {
  const samples = clickTrack({ tempo: 120, seconds: 2 })
  const bytes = Buffer.alloc(2 * samples.length)
  samples.forEach((sample, i) => bytes.writeInt16LE(Math.round(20_000 * sample), 2 * i))
  return Buffer.concat([wavHeader(samples.length, 1, 48_000), bytes])
}

let home: Home
let journey: Journey
/** The journey's file, without versions. */
let packed: Buffer

beforeAll(async () => {
  home = newHome()
  const { db, folder } = home
  const pictures = await Promise.all(
    Array.from({ length: PICTURES }, async (_, i) => {
      const png = await sharp({ create: { width: 40 + i, height: 30, channels: 3, background: { r: 9 * i, g: 90, b: 120 } } }).png().toBuffer() // prettier-ignore
      return (await importSheetFile(db, folder, `${i}.png`, Readable.from([png]))).image
    }),
  )
  const font = await addFont(folder, readFileSync('node_modules/@fontsource/jura/files/jura-latin-400-normal.woff'), 'jura.woff')
  const audio = await addAudio(folder, Readable.from([clicks()]), 'clicks.wav', new AbortController().signal)
  const { hash } = await takeIn((of) => lutPath(folder, of), Buffer.from(COLD_CUBE), 'cold.cube', 'lut')
  journey = journeyWithEveryFile({
    picture: (i) => ({ image: pictures[i]!.hash, width: pictures[i]!.width, height: pictures[i]!.height }),
    font,
    audio,
    lut: hash,
  })
  packed = await pack(home, { id: 'first', journey, versions: [] })
})

async function pack({ db, folder }: Home, what: Packable): Promise<Buffer> {
  const { stream, bytes } = await packJourney(db, folder, what)
  const path = join(folder, 'out.zephyrine')
  await pipeline(stream, createWriteStream(path))
  const file = readFileSync(path)
  // As many as were said before.
  expect(file.length).toBe(bytes)
  return file
}

/** Opens a file in a data folder. */
async function open({ db, folder }: Home, file: Uint8Array, name = 'trip.zephyrine') {
  const path = join(folder, 'incoming')
  writeFileSync(path, file)
  const opened = await openJourneyFile(db, folder, { path, name }, { onProgress: () => {}, signal: new AbortController().signal })
  expect(existsSync(path)).toBe(false)
  return { ...opened, journey: readJourney(db, opened.id)!.journey }
}
const refused = (of: Home, file: Uint8Array, name?: string) =>
  open(of, file, name).then(
    () => 'opened',
    (error: unknown) => {
      if (!(error instanceof JourneyError)) throw error
      return error.message
    },
  )
/** The file with other entries. */
const repacked = (change: (entries: Record<string, Uint8Array>) => void): Uint8Array => {
  const entries = unzipSync(packed)
  change(entries)
  return zipSync(entries, { level: 0 })
}

describe('a journey file', () => {
  it('is a ZIP file that other programs unpack, with each file by its SHA-256', () => {
    const list = execFileSync('python3', ['-c', 'import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; print("\\n".join(z.namelist()))', join(home.folder, 'out.zephyrine')], { encoding: 'utf8' }).trim().split('\n') // prettier-ignore
    expect(list.slice(0, 3)).toEqual(['about.json', 'journey.json', 'LICENCES.md'])
    expect(list).toHaveLength(3 + PICTURES + 3)
    const entries = unzipSync(packed)
    for (const [name, bytes] of Object.entries(entries)) {
      const [, hash] = /^(?:images|fonts|luts)\/([0-9a-f]{64})/.exec(name) ?? []
      if (hash) expect(createHash('sha256').update(bytes).digest('hex')).toBe(hash)
    }
    expect(Buffer.from(entries['LICENCES.md']!).toString()).toMatch(/Music/)
    expect(JSON.parse(Buffer.from(entries['journey.json']!).toString())).toEqual(JSON.parse(JSON.stringify(journey)))
  })

  it('comes back as it was where its files are here, and elsewhere with the same files', async () => {
    const before = readdirSync(join(home.folder, 'images'))
    expect((await open(home, packed)).journey).toEqual(journey)
    expect(readdirSync(join(home.folder, 'images'))).toEqual(before)

    const other = newHome()
    const there = await open(other, packed)
    expect(there.missing).toEqual([])
    // Sound is packed decoded, and is known by the hash of that elsewhere; nothing else differs.
    expect({ ...there.journey, audio: [] }).toEqual({ ...journey, audio: [] })
    const [sound] = there.journey.audio
    expect({ ...sound, file: '' }).toEqual({ ...journey.audio[0], file: '' })
    const [was, is] = [audioPath(home.folder, journey.audio[0]!.file), audioPath(other.folder, sound!.file)].map((path) =>
      readFileSync(path),
    )
    expect(is!.equals(was!)).toBe(true)
    for (const { image } of journey.sheets) expect(readFileSync(imagePath(other.folder, image)).equals(readFileSync(imagePath(home.folder, image)))).toBe(true) // prettier-ignore
    // From there on it is the same wherever it goes.
    const third = newHome()
    expect((await open(third, await pack(other, { id: there.id, journey: there.journey, versions: [] }))).journey).toEqual(there.journey)
  })

  it('has the versions that were kept, with the files that only they name', async () => {
    const versions = [
      { name: 'As it was', createdAt: 1_700_000_000_000, journey },
      { name: 'Before', createdAt: 1_600_000_000_000, journey: rename(journey, 'Earlier') },
    ]
    const bare = { ...journey, sheets: [], audio: [], valueMarks: [] }
    const other = newHome()
    const { id, journey: there } = await open(other, await pack(home, { id: 'first', journey: bare, versions }))
    expect(there).toEqual(bare)
    const kept = listVersions(other.db, id)
    expect(kept.map(({ name, createdAt }) => [name, createdAt])).toEqual([
      ['As it was', 1_700_000_000_000],
      ['Before', 1_600_000_000_000],
    ])
    const back = readVersion(other.db, id, kept[1]!.id)!
    expect({ ...back, audio: [] }).toEqual({ ...rename(journey, 'Earlier'), audio: [] })
    expect(contentsOf(other.db, other.folder, { journey: back, versions: [] }).missing).toEqual([])
  })

  it('is known by where it was saved, and takes that one’s place, which is kept as a version', async () => {
    const { db } = home
    const mine = insertJourney(db, journey)
    const later = rename(journey, 'A day later')
    const opened = await open(home, await pack(home, { id: mine.id, journey: later, versions: [] }))
    expect(opened.sameAs).toEqual({ id: mine.id, name: journey.name })
    expect(putInPlaceOf(db, mine.id, opened.id)).toBe(true)
    expect(readJourney(db, mine.id)!.journey.name).toBe('A day later')
    expect(readJourney(db, opened.id)).toBeUndefined()
    const [version] = listVersions(db, mine.id)
    expect(readVersion(db, mine.id, version!.id)).toEqual(journey)
    expect((await open(newHome(), packed)).sameAs).toBeNull()
  })

  it('may be a document alone, also of an earlier version', async () => {
    const { sheets, stops, ...rest } = demo()
    const plain: Journey = { ...rest, sheets: [], valueMarks: [], stops: stops.map((stop) => ({ ...stop, postcards: [] })) }
    void sheets
    const other = newHome()
    for (const [document, same] of [
      [plain, plain],
      [asVersion10(withoutVersion10(plain)), withoutVersion10(plain)],
      [asVersion9(withoutVersion10(plain)), withoutVersion10(plain)],
      [asVersion5(withoutVersion7(withoutVersion9(plain))), undefined],
    ] as const) {
      const { journey: read, missing } = await open(other, Buffer.from(JSON.stringify(document)), 'trip.json')
      expect(missing).toEqual([])
      if (same) expect(read).toEqual(same)
    }
  })
})

describe('a damaged or hostile journey file', () => {
  it('opens without what is missing, which is listed', async () => {
    const file = repacked((entries) => {
      for (const name of Object.keys(entries))
        if (/^(audio|fonts)\//.test(name) || name.includes(journey.sheets[0]!.image)) delete entries[name]
    })
    const other = newHome()
    const { journey: left, missing } = await open(other, file)
    expect(missing).toEqual([
      `The picture of the sheet “${journey.sheets[0]!.name}” is not here: import it again.`,
      expect.stringMatching(/^The font “Jura.*” is not here/),
      'The sound “Music” is not here: add its file again.',
    ])
    expect(left.sheets.map(({ id }) => id)).toEqual(['tracing'])
    expect(left.stops.map(({ name }) => name)).toEqual(journey.stops.map(({ name }) => name))
  })

  it('has no file taken for another one, whose content is not what it is named by', async () => {
    const other = newHome()
    const lut = journey.grade!.lut!.file
    const { missing } = await open(other, repacked((entries) => (entries[`luts/${lut}.cube`] = Buffer.from(COLD_CUBE.replace('.7 .4', '.6 .4'))))) // prettier-ignore
    expect(missing).toEqual(['The LUT “Cold” is not here: add its file again.'])
    expect(existsSync(lutPath(other.folder, lut))).toBe(false)
  })

  it('is refused with a sentence, and leaves nothing behind', async () => {
    const other = newHome()
    const text = (value: unknown) => Buffer.from(JSON.stringify(value))
    const with_ = (name: string, bytes: Uint8Array) => repacked((entries) => (entries[name] = bytes))
    const about = { format: 'zephyrine-file', version: 1, journeyVersion: 1, journey: 'first' }
    expect(await refused(other, Buffer.from('no file at all'))).toMatch(/is no journey file: it is neither a ZIP file nor JSON/)
    expect(await refused(other, Buffer.from('{"a": 1}'), 'x.json')).toMatch(/^This is not a journey/)
    expect(await refused(other, zipSync({ 'a.txt': Buffer.from('a') }))).toMatch(/there is no about\.json in it/)
    expect(
      await refused(
        other,
        repacked((entries) => delete entries['journey.json']),
      ),
    ).toMatch(/there is no journey\.json in it/)
    expect(await refused(other, with_('about.json', text({ ...about, version: 2 })))).toMatch(/saved by a newer Zephyrine/)
    expect(await refused(other, with_('about.json', text({ ...about, journeyVersion: 99 })))).toMatch(/its journey has version 99/)
    expect(await refused(other, with_('journey.json', text({ ...journey, seconds: -1 })))).toMatch(/seconds/)
    expect(await refused(other, with_('journey.json', Buffer.from('{')))).toMatch(/journey\.json in it is not JSON/)
    expect(await refused(other, with_('versions/1.json', text({ name: '' })))).toMatch(/is no version of a journey/)
    expect(await refused(other, packed.subarray(0, packed.length / 2))).toMatch(/no journey file that can be read/)
    const crowd = Object.fromEntries(Array.from({ length: 4001 }, (_, i) => [`junk/${i}`, new Uint8Array(1)]))
    expect(await refused(other, zipSync(crowd, { level: 0 }))).toMatch(/4001 entries/)
    expect(listJourneys(other.db)).toEqual([])
    expect(readdirSync(other.folder).filter((name) => !name.startsWith('zephyrine.sqlite'))).toEqual([])
  })

  it('does not unpack to more than it says, or than there may be', async () => {
    const other = newHome()
    // 100 MiB of spaces, which pack to 100 KB.
    const bomb = zipSync({ 'about.json': Buffer.alloc(100 * 1024 ** 2, 32) })
    expect(bomb.length).toBeLessThan(200_000)
    expect(await refused(other, bomb)).toMatch(/would unpack to 100 MiB/)
    // The same, said to be a byte: in the list at the end and before the entry.
    const lying = Buffer.from(bomb)
    for (const [signature, at] of [
      [0x04034b50, 22],
      [0x02014b50, 24],
    ] as const) {
      const start = lying.indexOf(Buffer.from(Uint32Array.of(signature).buffer))
      lying.writeUInt32LE(1, start + at)
    }
    expect(await refused(other, lying)).toMatch(/about\.json in it cannot be read \(too many bytes/)
  })

  it('writes nothing where its entries would lead', async () => {
    const other = newHome()
    const above = readdirSync(dirname(other.folder)).sort()
    for (const name of [
      '../evil.txt',
      '/tmp/evil.txt',
      'images/../../evil.txt',
      'C:\\evil.txt',
      `images/${'a'.repeat(64)}/../../../evil`,
    ]) {
      const said = await refused(
        other,
        repacked((entries) => (entries[name] = Buffer.from('evil'))),
      )
      expect(said).toMatch(/opened|invalid relative path|absolute path/)
    }
    expect(readdirSync(dirname(other.folder)).sort()).toEqual(above)
    expect(existsSync('/tmp/evil.txt')).toBe(false)
  })

  it('that was changed anywhere is opened, or refused with one sentence', { timeout: 300_000 }, async () => {
    // Most of the bytes are pictures; what matters stands in the documents and in the list at the end.
    const small = zipSync(Object.fromEntries(Object.entries(unzipSync(packed)).filter(([name]) => !/^(images|fonts|audio)\//.test(name))))
    const before = readdirSync(dirname(home.folder)).sort()
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(small.length - 1), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 6 }),
        fc.option(fc.nat(small.length - 1), { freq: 8 }),
        async (changes, cut) => {
          const file = Buffer.from(small)
          for (const [at, value] of changes) file[at] = value
          const said = await refused(home, cut === null ? file : file.subarray(0, cut))
          expect(said).toMatch(/^opened$|^[“A-Z][^\n]*\.$/)
        },
      ),
      { numRuns: 120 },
    )
    expect(readdirSync(dirname(home.folder)).sort()).toEqual(before)
  })
})
