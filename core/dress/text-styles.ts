import type { z } from 'zod'
import type { TextStyle } from '../journey/schema'
import { textStyleSchema } from '../journey/schema'

/** A ready-made look of letters. Their size is kept when it is put on. */
export interface TextLook {
  id: string
  name: string
  style: TextStyle
}

const look = (id: string, name: string, style: z.input<typeof textStyleSchema>): TextLook => ({
  id,
  name,
  style: textStyleSchema.parse(style),
})

export const TEXT_LOOKS: readonly TextLook[] = [
  look('chart', 'Chart', {}),
  look('lamplight', 'Lamplight', { colour: '#fdf3d8', halo: { colour: '#0a1426' } }),
  look('note-card', 'Note card', { family: 'alegreya-sans', halo: null, plate: { shape: 'rounded' }, shadow: 0.5 }),
  look('harbour', 'Harbour board', {
    family: 'sofia-sans-extra-condensed',
    weight: 800,
    case: 'capitals',
    spacing: 0.06,
    colour: '#fbf6ea',
    halo: null,
    plate: { shape: 'box', colour: '#27406b', opacity: 1 },
  }),
  look('ticket', 'Ticket', {
    family: 'sofia-sans-extra-condensed',
    weight: 600,
    case: 'capitals',
    spacing: 0.12,
    colour: '#14233a',
    halo: { colour: '#fbf6ea', width: 0.12 },
  }),
  look('stamp', 'Stamp', {
    family: 'roboto-slab',
    weight: 700,
    case: 'capitals',
    spacing: 0.04,
    colour: '#a8371f',
    halo: { colour: '#fbf6ea', width: 0.11 },
  }),
  look('pebble', 'Pebble', { family: 'comfortaa', colour: '#fbf6ea', halo: null, plate: { shape: 'pill', colour: '#17646b', opacity: 1 } }),
  look('chartroom', 'Chart room', {
    family: 'jura',
    case: 'capitals',
    spacing: 0.14,
    colour: '#d7efff',
    halo: { colour: '#10233f', width: 0.12 },
  }),
  look('notebook', 'Notebook', {
    family: 'playpen-sans',
    weight: 600,
    colour: '#3b2413',
    halo: { colour: '#f8efda', width: 0.09 },
    plate: { shape: 'underline', colour: '#c9962b', opacity: 1 },
  }),
  look('ribbon', 'Ribbon', { halo: null, plate: { shape: 'banner', colour: '#c9962b', opacity: 1 }, shadow: 0.4 }),
  look('playbill', 'Playbill', { family: 'oi', colour: '#d8412f', halo: { colour: '#fbf6ea', width: 0.08 } }),
  look('whisper', 'Whisper', { family: 'alegreya-sans', weight: 500, colour: '#ffffff', halo: null, shadow: 1 }),
]
