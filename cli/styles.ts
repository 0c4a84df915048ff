/** Paints all ready-made looks of a line into one picture: `npm run styles -- --out FILE`. */
import { parseArgs } from 'node:util'
import type { Canvas } from '@napi-rs/canvas'
import { createCanvas } from '@napi-rs/canvas'
import { writeFileSync } from 'node:fs'
import { INK_STYLES } from '#core/dress/ink-styles'
import { editLeg } from '#core/edits/legs'
import { setCamera } from '#core/edits/views'
import { editStop } from '#core/edits/stops'
import { addStop } from '#core/edits/visits'
import { createJourney } from '#core/journey/create'
import type { Ink, Journey } from '#core/journey/schema'
import { paintStill } from '#render/still'

const { values } = parseArgs({
  options: { out: { type: 'string', default: 'docs/screenshots/ink-styles.png' }, pitch: { type: 'string', default: '0' } },
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

const rows = Math.ceil(INK_STYLES.length / COLUMNS)
const sheet = createCanvas(COLUMNS * CELL.width, rows * (CELL.height + CAPTION))
const context = sheet.getContext('2d')
context.fillStyle = '#fdf8ec'
context.fillRect(0, 0, sheet.width, sheet.height)
for (const [i, { name, ink }] of INK_STYLES.entries()) {
  const [x, y] = [(i % COLUMNS) * CELL.width, Math.floor(i / COLUMNS) * (CELL.height + CAPTION)]
  const still = await paintStill('/nowhere', sample(ink), 7.4)
  const { width, height } = CELL
  context.drawImage(still.image as unknown as Canvas, (1920 - width) / 2, (1080 - height) / 2, width, height, x, y, width, height)
  context.fillStyle = '#14233a'
  context.font = '600 22px "Source Sans 3", sans-serif'
  context.fillText(name, x + 12, y + CELL.height + 25)
}
writeFileSync(values.out, sheet.toBuffer('image/png'))
