import { mkdirSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { setPlan } from '#core/edits/camera/shots'
import { wholeFilm } from '#core/film/settings'
import { JOURNEY_FILE_ENDING } from '#core/formats/journey-file'
import { DEFAULT_FRAME } from '#core/journey/create'
import type { FrameFormat, Journey, MapStyle, Sheet } from '#core/journey/schema'
import { inStyle } from '#core/maps/map-styles'
import { writeRecipe } from '#core/maps/recipe'
import type { TripPlace } from '#core/writing/make-journey'
import { journeyOfTrip, mapOfTrip, sheetOfMap } from '#core/writing/make-journey'
import { readTrip } from '#core/writing/read-trip'
import { tripPlaces } from '#core/writing/trip-places'
import { MOST_TRIP_TEXT, whyUnread } from '#core/writing/written-trip'
import { renderFilm } from '#render/film'
import { writeJourneyFile } from '../../server/journey-files/pack'
import { places as listOfPlaces } from '../../server/places/places'
import { resolveTrip } from '../../server/places/resolve'
import type { Place } from '../../server/places/search'
import { importSheetFile } from '../../server/sheets/import-sheet'
import { dataFolder, openDatabase } from '../../server/storage/database'
import { newId } from '../../server/storage/new-id'
import type { Output } from '../command'
import { UsageError } from '../command'
import type { TripOptions } from './trip-options'

/** Makes the journey and the film, and prints a line of JSON for each; what was chosen or not understood is told on stderr. */
export async function makeTrip(options: TripOptions, output: Output): Promise<void> {
  const places = await lookUp(textOf(options), output)
  if (places.length < 2) throw new UsageError('A trip has two places at least: fewer were found in what is written.')
  const frame: FrameFormat = { ...DEFAULT_FRAME, ...options.size }
  // A document that is kept needs its map where journeys have theirs; a journey file has it in it.
  const isWhole = options.journeyOut?.endsWith(JOURNEY_FILE_ENDING)
  const scratch = options.journeyOut === undefined || isWhole ? mkdtempSync(join(tmpdir(), 'zephyrine-trip-')) : undefined
  const folder = scratch ?? dataFolder()
  try {
    const sheet = await mapIn(folder, places, frame, options.style)
    const made = journeyOfTrip(places, sheet, frame)
    const journey = options.plan === undefined ? made : setPlan(made, options.plan)
    const say = (result: object) => output.result(`${JSON.stringify(result)}\n`)
    if (options.journeyOut !== undefined) {
      if (isWhole) await packTo(folder, journey, options.journeyOut)
      else writeFileSync(options.journeyOut, JSON.stringify(journey, null, 2))
      say({ journey: journey.name, stops: journey.stops.length, seconds: journey.seconds, out: options.journeyOut })
    }
    if (!options.film) return
    const { out, format } = options.film
    const { frames } = await renderFilm({ folder, journey, out, settings: { ...wholeFilm(journey), format } })
    say({ frames, fps: frame.rate, width: frame.width, height: frame.height, bytes: statSync(out).size, out })
  } finally {
    if (scratch !== undefined) rmSync(scratch, { recursive: true, force: true })
  }
}

async function packTo(folder: string, journey: Journey, out: string): Promise<void> {
  const db = openDatabase(folder)
  try {
    await writeJourneyFile(db, folder, { id: newId(), journey, versions: [] }, out)
  } finally {
    db.close()
  }
}

function textOf({ written }: TripOptions): string {
  if ('text' in written) return written.text.slice(0, MOST_TRIP_TEXT)
  try {
    return readFileSync(written.file, 'utf8').slice(0, MOST_TRIP_TEXT)
  } catch {
    throw new UsageError(`The file ${written.file} cannot be read: check the path.`)
  }
}

const titleOf = ({ known, region, country }: Place): string => [known, region, country].filter(Boolean).join(', ')

/** The places that are written, chosen together. */
async function lookUp(text: string, output: Output): Promise<TripPlace[]> {
  const { places, unread } = readTrip(text)
  for (const entry of unread) output.complain(whyUnread(entry))
  const list = await listOfPlaces()
  try {
    const resolved = resolveTrip(places, list)
    for (const { name, at, options, isUncertain } of resolved) {
      if (at !== null) continue
      if (options.length === 0) output.complain(`“${name}” was not found and is left out.`)
      else if (isUncertain) output.complain(`“${name}” is taken for ${titleOf(options[0]!)}, which is not certain.`)
    }
    const found = resolved.map(({ from, name, at, options }, i) => {
      const said = places[from]!
      return { name, said, at, option: options[0], by: resolved[i - 1]?.from === from ? null : said.by }
    })
    return tripPlaces(found, new Date().getFullYear())
  } finally {
    list.close()
  }
}

/** Draws the map of the trip and takes it into a data folder. */
async function mapIn(folder: string, places: readonly TripPlace[], frame: FrameFormat, style: MapStyle): Promise<Sheet> {
  const whole = mapOfTrip(
    places.map(({ place }) => place),
    frame,
  )
  const map = inStyle(whole, style)
  mkdirSync(folder, { recursive: true })
  const db = openDatabase(folder)
  try {
    const { image } = await importSheetFile(db, folder, 'generated map.json', Readable.from([Buffer.from(writeRecipe(map))]))
    return sheetOfMap(map, image.hash)
  } finally {
    db.close()
  }
}
