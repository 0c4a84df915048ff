/** Paints all ready-made looks, of lines, postcards and the whole journey, into one picture: `npm run styles -- --out FILE`. */
import { parseArgs } from 'node:util'
import type { Canvas } from '@napi-rs/canvas'
import { createCanvas } from '@napi-rs/canvas'
import sharp from 'sharp'
import { INK_STYLES } from '#core/dress/ink-styles'
import { JOURNEY_LOOKS } from '#core/dress/looks'
import { editLeg } from '#core/edits/lines/legs'
import { dressJourney } from '#core/edits/looks'
import { setCamera } from '#core/edits/camera/shots'
import { editStop } from '#core/edits/marks/stops'
import { addStop } from '#core/edits/trips/visits'
import { createJourney } from '#core/journey/create'
import type { CardFrame, Ink, Journey } from '#core/journey/schema'
import { CARD_FRAMES, inkSchema, postcardSchema } from '#core/journey/schema'
import { freshDemo } from '#demo/seed'
import type { Surface } from '#draw/studio'
import { paintStill } from '#render/still'

const { values } = parseArgs({
  options: { out: { type: 'string', default: 'docs/screenshots/styles.png' }, pitch: { type: 'string', default: '0' } },
})

const CELL = { width: 640, height: 360 }
const COLUMNS = 4
const CAPTION = 34

/** A winding leg in the middle of the frame, over ground that is pale on the left and dark on the right. */
function sample(ink: Ink): Journey {
  let journey = createJourney('Styles', { width: 1920, height: 1080, rate: '30/1' }, 10)
  journey = {
    ...journey,
    ground: { ...journey.ground, colour: '#f3ecdb' },
    areas: [
      {
        id: 'night',
        name: 'Night',
        rings: [[960, -5000, 9000, -5000, 9000, 9000, 960, 9000]],
        fill: { colour: '#0d1626', opacity: 1 },
        outline: { colour: '#0d1626', width: 0.5 },
        shown: null,
      },
    ],
  }
  for (const [i, at] of [
    { x: 720, y: 620 },
    { x: 1210, y: 455 },
  ].entries())
    journey = addStop(journey, at, { stop: `s${i}`, leg: `l${i}` }, { traveller: 'traveller' })
  for (const { id } of journey.stops)
    journey = editStop(journey, id, { pin: { shape: 'bead', size: 40, colour: ink.colour }, label: { shown: false } })
  const course = {
    kind: 'drawn' as const,
    leave: { x: 100, y: -180 },
    nodes: [{ at: { x: 950, y: 570 }, kind: 'smooth' as const, before: { x: -80, y: 80 }, after: { x: 90, y: -90 } }],
    arrive: { x: -120, y: 130 },
  }
  journey = editLeg(journey, 'l1', { course, ink, vehicle: null, easing: 'linear' })
  return setCamera(journey, { ...journey.camera, pitch: Number(values.pitch), zoom: Number(values.pitch) > 0 ? 0.9 : 1 })
}

interface Cell {
  name: string
  paint: () => Promise<Surface>
  /** The part of the frame that is shown; the whole one where nothing is said. */
  part?: { x: number; y: number; width: number; height: number }
}

const { journey, folder } = await freshDemo()
/** A photo and a text in a frame, side by side over the demo's map. */
function carded(frame: CardFrame): Journey {
  const { photo } = journey.stops.find(({ postcards }) => postcards.length > 0)!.postcards[0]!
  const at = { x: 3200, y: 1800 }
  const card = (id: string, x: number, fields: object) =>
    postcardSchema.parse({ id, frame, place: { kind: 'free', x, y: 0 }, size: 270, stays: 'end', ...fields })
  const cards = [
    card('photo', -150, { photo, text: 'Emberlight at dusk', tilt: -3 }),
    card('text', 160, { text: 'Rowed across before breakfast', tilt: 2 }),
  ]
  const view = { centre: at, zoom: 0.5, bearing: 0, pitch: 0 }
  const [stop] = journey.stops
  const alone: Journey = { ...journey, camera: view, shots: [], captions: [], landmarks: [] }
  return {
    ...alone,
    stops: alone.stops.map((known) => ({
      ...known,
      pin: { ...known.pin, shape: 'none' },
      label: { ...known.label, shown: false },
      ...(known === stop ? { at, postcards: cards } : { postcards: [] }),
    })),
    travellers: alone.travellers.map((traveller) => ({
      ...traveller,
      legs: traveller.legs.map((leg) => ({ ...leg, ink: inkSchema.parse({ line: { kind: 'hidden' } }), vehicle: null })),
    })),
  }
}

const cells: Cell[] = [
  ...INK_STYLES.map(({ name, ink }) => ({
    name,
    paint: () => paintStill('/nowhere', sample(ink), 7.4),
    part: { x: (1920 - CELL.width) / 2, y: (1080 - CELL.height) / 2, ...CELL },
  })),
  ...CARD_FRAMES.map((frame) => ({
    name: `Postcard: ${frame}`,
    paint: () => paintStill(folder, carded(frame), 99),
    part: { x: (1920 - CELL.width) / 2, y: (1080 - CELL.height) / 2, ...CELL },
  })),
  ...JOURNEY_LOOKS.map((look) => ({
    name: look.name,
    paint: () => paintStill(folder, dressJourney(journey, look), 0.63 * journey.seconds),
  })),
]
const sheet = createCanvas(COLUMNS * CELL.width, Math.ceil(cells.length / COLUMNS) * (CELL.height + CAPTION))
const context = sheet.getContext('2d')
context.fillStyle = '#fdf8ec'
context.fillRect(0, 0, sheet.width, sheet.height)
for (const [i, { name, paint, part }] of cells.entries()) {
  const [x, y] = [(i % COLUMNS) * CELL.width, Math.floor(i / COLUMNS) * (CELL.height + CAPTION)]
  const still = await paint()
  const from = part ?? { x: 0, y: 0, width: still.width, height: still.height }
  context.drawImage(still.image as unknown as Canvas, from.x, from.y, from.width, from.height, x, y, CELL.width, CELL.height)
  context.fillStyle = '#14233a'
  context.font = '600 22px "Source Sans 3", sans-serif'
  context.fillText(name, x + 12, y + CELL.height + 25)
}
await sharp(sheet.toBuffer('image/png')).png({ palette: true, quality: 90, effort: 9 }).toFile(values.out)
