/** What it costs to paint frames. */
import { createReadStream, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import { referenceSize } from '#core/camera/view'
import { setDepth } from '#core/edits/journey'
import { pixelFormatOf } from '#core/film/formats'
import { frameBytes } from '#core/film/pixel-format'
import { wholeFilm } from '#core/film/settings'
import { compile } from '#core/frame/compile'
import { frameAt } from '#core/frame/frame-at'
import { createJourney } from '#core/journey/create'
import type { Journey, Sheet } from '#core/journey/schema'
import { depthSchema, drawnMapSchema, sheetSchema, shotSchema } from '#core/journey/schema'
import { writeRecipe } from '#core/maps/recipe'
import { frameTime } from '#core/pace/rate'
import { fillingView } from '#core/sheet/framing'
import { stillDemo } from '#demo/journey'
import { createPainter } from '#draw/painter'
import { renderFilm } from '#render/film'
import { createFilmPainter } from '#render/film-painter'
import { createServerStudio, createServerSurface } from '#render/studio'
import { mapDataMade } from '../../../server/maps/data'
import { importSheetFile } from '../../../server/sheets/import-sheet'
import { closeTileFiles } from '../../../server/sheets/tile-file'
import { openDatabase } from '../../../server/storage/database'
import { line, median, now } from './measure'
import { dressedAndPlain, moving } from './trips'

/** The frames that are measured: the end of a layover, a leg with a glow, a change of vehicles, the start of a dashed leg. */
export const FROM = 15

export const COUNT = 300

export function measureFrameAt(journey: Journey, what: string, target: string): void {
  const compiled = compile(journey)
  const runs = 20
  const start = now()
  for (let run = 0; run < runs; run++) for (let k = 0; k < compiled.frames; k++) frameAt(compiled, frameTime(k, journey.frame.rate))
  line(`frameAt, ${what}`, `${((now() - start) / (runs * compiled.frames)).toFixed(4)} ms`, target)
}

/** Paints frames as a painter's thread does, `count` of them from one on, in the pixels that an MP4 is made of. */
export async function paintAlone(
  folder: string,
  journey: Journey,
  count: number,
  from = FROM,
): Promise<{ frames: Uint8Array[]; ms: number }> {
  const pixels = pixelFormatOf(wholeFilm(journey))
  const painter = createFilmPainter(folder, compile(journey), { pixels, shows: 'all' })
  const whole = [{ x: 0, y: 0, width: journey.frame.width, height: journey.frame.height }]
  const frames: Uint8Array[] = []
  // The first frame of all reads its tiles.
  await painter.paint(from)
  let ms = 0
  for (let k = from; k < from + count; k++) {
    const start = now()
    await painter.paint(k)
    ms += now() - start
    const frame = new Uint8Array(frameBytes(pixels, journey.frame))
    painter.picture.copyTo(frame, whole)
    frames.push(frame)
  }
  return { frames, ms }
}

/** What a frame costs that is looked at from aside, against one that is looked at from above, while the camera moves. */
export async function measureTilt(folder: string, journey: Journey): Promise<void> {
  const [flat, tilted, soft]: [number[], number[], number[]] = [[], [], []]
  const inFocus = setDepth(moving(journey, 45), depthSchema.parse({ softFocus: { strength: 1 }, haze: {} }))
  for (let turn = 0; turn < 3; turn++) {
    flat.push((await paintAlone(folder, moving(journey, 0), 60)).ms)
    tilted.push((await paintAlone(folder, moving(journey, 45), 60)).ms)
    soft.push((await paintAlone(folder, inFocus, 60)).ms)
  }
  line('a frame, moving', `${(median(flat) / 60).toFixed(1)} ms`)
  line('a frame, moving at pitch 45', `${(median(tilted) / 60).toFixed(1)} ms`)
  line('a frame at pitch 45 / a flat one', (median(tilted) / median(flat)).toFixed(2), 'target: at most 1.8')
  line('one with soft focus and haze / a flat one', (median(soft) / median(flat)).toFixed(2), 'target: at most 2.5')
}

/** What a frame of the globe costs, whole and half flattened, against one of the flat map, while the camera moves over a drawn map of the world. */
export async function measureGlobe(): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const db = openDatabase(scratch)
  try {
    const map = drawnMapSchema.parse({
      region: { west: -180, east: 180, south: -70, north: 80 },
      projection: 'mercator',
      style: 'atlas',
      borders: true,
      graticule: true,
      aspect: 1.5,
    })
    await mapDataMade()
    const { image } = await importSheetFile(db, scratch, 'world.json', Readable.from([Buffer.from(writeRecipe(map))]))
    const { hash, width, height, vector, georeference } = image
    const sheet = sheetSchema.parse({ id: 'world', name: 'World', image: hash, width, height, vector, georeference, drawn: map })
    const shot = (fields: object) => shotSchema.parse({ easing: 'linear', ...fields })
    const globe = shot({ kind: 'globe', id: 'globe', at: { at: 'start', offset: 0 }, transition: 0, spin: 15, fill: 1.5 })
    const whole = createJourney('World', undefined, 20)
    const film = { ...whole, sheets: [sheet], camera: { ...fillingView(sheet, referenceSize(whole.frame)), pitch: 20 } }
    const onto = shot({ kind: 'free', id: 'flat', at: { at: 'start', offset: 1 }, transition: 14, view: { ...film.camera, bearing: 20 } })
    const films = [{ ...film, shots: [{ ...onto, at: { at: 'start' as const, offset: 0 } }] }, { ...film, shots: [globe] }, { ...film, shots: [globe, onto] }] // prettier-ignore
    const costs = films.map(() => [] as number[])
    for (let turn = 0; turn < 3; turn++)
      for (const [i, one] of films.entries()) costs[i]!.push((await paintAlone(scratch, one, 30, 290)).ms)
    const [flat, round, half] = costs.map((list) => median(list) / 30)
    line('a frame, a tilted map of the world', `${flat!.toFixed(1)} ms`)
    line('a frame, the globe', `${round!.toFixed(1)} ms`)
    line('a frame, the globe half flattened', `${half!.toFixed(1)} ms`)
    line('the globe / a tilted map', (round! / flat!).toFixed(2))
  } finally {
    db.close()
    rmSync(scratch, { recursive: true, force: true })
  }
}

/**
 * What the dress of a film costs, against the plain one, where the camera moves as it does in the demo and where it rests: glow, gradient, ink by hand,
 * eight labels and a postcard.
 */
export async function measureDress(folder: string, demo: Journey): Promise<void> {
  for (const [what, journey, target] of [
    ['as the demo moves', demo, 'target: at most 1.6'],
    ['the camera at rest', stillDemo(demo), ''],
  ] as const) {
    const trips = dressedAndPlain(journey)
    const [dressed, plain]: [number[], number[]] = [[], []]
    for (let turn = 0; turn < 3; turn++)
      for (const [i, list] of [dressed, plain].entries()) list.push((await paintAlone(folder, trips[i]!, 300)).ms)
    line(`a frame, plain, ${what}`, `${(median(plain) / 300).toFixed(1)} ms`)
    line(`a frame, dressed, ${what}`, `${(median(dressed) / 300).toFixed(1)} ms`)
    line(`a dressed frame / a plain one, ${what}`, (median(dressed) / median(plain)).toFixed(2), target)
  }
}

/**
 * The same film over a sheet of 384 megapixels and over one of 6, filling the frame and four times closer: painted from scratch for each frame, tiles
 * and all, as under a moving camera; and the whole export. Also what taking in the large one costs.
 */
export async function measureSheetSize(journey: Journey): Promise<void> {
  const scratch = mkdtempSync(join(tmpdir(), 'zephyrine-bench-'))
  const db = openDatabase(scratch)
  try {
    const made: { name: string; sheet: Sheet }[] = []
    for (const [name, width, height] of [
      ['384 MP', 24_000, 16_000],
      ['6 MP', 3000, 2000],
    ] as const) {
      const path = join(scratch, `${width}.png`)
      await sharp('demo/lantern-isles.webp')
        .resize(width, height, { fit: 'fill', kernel: 'linear' })
        .png({ compressionLevel: 2 })
        .toFile(path)
      const start = now()
      const { image, peakMiB } = await importSheetFile(db, scratch, `${width}.png`, createReadStream(path))
      line(`taking in ${name}`, `${((now() - start) / 1000).toFixed(1)} s`, `peak ${peakMiB} MiB; target: under 1536 MiB`)
      made.push({ name, sheet: sheetSchema.parse({ id: 'bench', name, image: image.hash, width, height }) })
    }
    for (const closer of [1, 4]) {
      const costs = made.map(({ sheet }) => {
        const filling = fillingView(sheet, referenceSize(journey.frame))
        return {
          film: { ...journey, sheets: [sheet], camera: { ...filling, zoom: filling.zoom * closer } },
          fresh: [] as number[],
          whole: [] as number[],
        }
      })
      // Alternating, so that a slow spell of the machine affects both.
      for (let turn = 0; turn < 3; turn++) {
        for (const { film, fresh, whole } of costs) {
          fresh.push(await paintAfresh(scratch, film))
          const start = now()
          await renderFilm({
            folder: scratch,
            journey: film,
            out: join(scratch, 'film.mp4'),
            settings: { ...wholeFilm(film), from: FROM, to: FROM + 60 },
          })
          whole.push(now() - start)
        }
      }
      const ratio = (pick: (cost: (typeof costs)[number]) => number[]) => (median(pick(costs[0]!)) / median(pick(costs[1]!))).toFixed(2)
      const where = closer === 1 ? 'filling the frame' : `${closer} times closer`
      // At close range the small sheet is magnified from few pixels, so there is less of it to read.
      const target = 'target: at most 1.3'
      line(
        `384 MP / 6 MP, painted afresh, ${where}`,
        ratio((cost) => cost.fresh),
        closer === 1 ? target : '',
      )
      line(
        `384 MP / 6 MP, whole export, ${where}`,
        ratio((cost) => cost.whole),
        target,
      )
    }
  } finally {
    db.close()
    closeTileFiles()
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** The mean time, in milliseconds, of a frame painted from scratch, with its tiles read. */
async function paintAfresh(folder: string, journey: Journey): Promise<number> {
  const compiled = compile(journey)
  const surface = createServerSurface(journey.frame.width, journey.frame.height)
  const count = 8
  const start = now()
  for (let k = 0; k < count; k++) {
    const studio = createServerStudio(folder)
    const frame = frameAt(compiled, frameTime(FROM + k, journey.frame.rate))
    await studio.prepare(frame, compiled.scale)
    createPainter(studio).paint(frame, surface.context, compiled.scale)
    surface.pixels()
  }
  return (now() - start) / count
}
