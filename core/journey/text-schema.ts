import { z } from 'zod'
import { FAMILY_IDS } from '../type/families'
import { colour, lasting, unit } from './values'

/** How letters in the film are set: those of labels, titles and readouts. */
export const textStyleSchema = z.strictObject({
  /** One of those that ship, or a font of the journey, by the SHA-256 of its file. */
  family: z
    .union([z.enum(FAMILY_IDS), z.templateLiteral(['own-', z.string().regex(/^[0-9a-f]{64}$/)])], {
      error: 'must be the name of a typeface, or own- and the SHA-256 of a font file',
    })
    .default('alegreya'),
  /** From 100 to 900; the family's nearest is used. */
  weight: z.int().min(100).max(900).default(700),
  /** Letter size in rpx. */
  size: z.number().min(8).max(300).default(44),
  /** What is added between letters, in letter sizes. */
  spacing: z.number().min(-0.1).max(1).default(0),
  case: z.enum(['as-written', 'capitals', 'small-letters']).default('as-written'),
  colour: colour.default('#14233a'),
  /** A light or dark rim round the letters; its width to either side in letter sizes. */
  halo: z
    .strictObject({ colour: colour.default('#fbf6ea'), width: z.number().min(0.01).max(0.4).default(0.1) })
    .nullable()
    .prefault({}),
  /** What the letters stand on. */
  plate: z
    .strictObject({
      shape: z.enum(['box', 'rounded', 'pill', 'banner', 'underline']).default('rounded'),
      colour: colour.default('#fbf6ea'),
      opacity: unit.default(0.92),
    })
    .nullable()
    .default(null),
  /** A soft shadow under letters or plate, 0 to 1; none at 0. */
  shadow: unit.default(0),
})

/** How a text comes into the picture: in which way, and whether whole or in parts, one after another. */
export const appearsSchema = z.strictObject({
  style: z.enum(['pop', 'fade', 'rise', 'wipe', 'none']).default('pop'),
  by: z.enum(['whole', 'word', 'letter']).default('whole'),
  /** How long each part takes, in seconds. */
  seconds: lasting,
  /** By how many seconds each part is later than the one before; missing, even a long text comes soon. */
  apart: z.number().min(0).max(2).optional(),
})

export type TextStyle = z.output<typeof textStyleSchema>
export type Plate = NonNullable<TextStyle['plate']>
export type Appears = z.output<typeof appearsSchema>
