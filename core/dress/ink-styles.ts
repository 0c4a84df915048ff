import type { z } from 'zod'
import type { Ink } from '../journey/schema'
import { inkSchema } from '../journey/schema'

/** A ready-made look of a line. */
export interface InkStyle {
  id: string
  name: string
  ink: Ink
  /** Whether a line keeps its colour when it is given this look, as the style has none of its own. */
  keepsColour: boolean
}

const style = (id: string, name: string, ink: z.input<typeof inkSchema>): InkStyle => ({
  id,
  name,
  ink: inkSchema.parse(ink),
  keepsColour: ink.colour === undefined,
})

export const INK_STYLES: readonly InkStyle[] = [
  style('plain', 'Plain', { width: 9 }),
  style('atlas', 'Atlas', { width: 8, casing: { colour: '#fbf6ea', width: 4 }, shadow: { opacity: 0.35, blur: 5, offset: 4 } }),
  style('dashes', 'Dashes', { width: 8, line: { kind: 'dashed', dash: 28, space: 18, fitted: true } }),
  style('dots', 'Dots', { width: 12, line: { kind: 'dotted', space: 13, fitted: true }, comes: 'popping' }),
  style('railway', 'Railway', { colour: '#14233a', width: 22, line: { kind: 'railway', space: 14 } }),
  style('highway', 'Highway', {
    colour: '#c9962b',
    width: 16,
    line: { kind: 'double', between: 0.3 },
    casing: { colour: '#14233a', width: 3 },
  }),
  style('chevrons', 'Chevrons', { width: 9, line: { kind: 'stamped', stamp: 'chevron', space: 9, fitted: true }, march: 60 }),
  style('footprints', 'Footprints', {
    colour: '#5a3d22',
    width: 11,
    line: { kind: 'stamped', stamp: 'footprints', space: 12, fitted: true },
    comes: 'piece-by-piece',
  }),
  style('lantern', 'Lantern light', { colour: '#ffb84d', width: 6, glow: { colour: '#ffa126', radius: 34, strength: 1 } }),
  style('comet', 'Comet', {
    colour: '#8fd8ff',
    width: 9,
    taper: 500,
    wake: 700,
    glow: { colour: '#3f9cff', radius: 30, strength: 0.95 },
    leader: { shape: 'dot', colour: '#ffffff', size: 16 },
  }),
  style('signal', 'Signal', {
    colour: '#1c8f86',
    width: 7,
    glow: { colour: '#39e0c2', radius: 26, strength: 0.85, breathes: true, spark: true },
  }),
  style('sunset', 'Sunset', { colour: '#f2b134', gradient: ['#d8412f', '#5b2a6b'], width: 11, casing: { colour: '#fbf6ea', width: 3 } }),
  style('pencil', 'Pencil', { colour: '#2b3347', width: 8, hand: 'pencil' }),
  style('brush', 'Brush', { width: 20, hand: 'brush', taper: 140 }),
  style('chalk', 'Chalk', { colour: '#f4efe2', width: 16, hand: 'chalk' }),
  style('expedition', 'Expedition', {
    colour: '#8f2a1c',
    width: 8,
    line: { kind: 'dashed', dash: 30, space: 20 },
    hand: 'brush',
    arrow: { shape: 'barbed', at: 'head', size: 4.2 },
    planned: { colour: '#3b2a1a', width: 4, opacity: 0.4, line: { kind: 'dotted', space: 12 } },
  }),
]
