import { z } from 'zod'
import { lineOfText } from '../journey/values'
import { fontSchema, inkSchema, pinSchema, postcardSchema, textStyleSchema, vehicleSchema } from '../journey/schema'

/** Looks that people keep under a name of their own, to put them on other things and in other journeys. */

/** What a card looks like, without what is on it, where it lies, and how long it stays. */
const cardLookSchema = postcardSchema.pick({
  size: true,
  tilt: true,
  frame: true,
  shadow: true,
  stalk: true,
  paper: true,
  colour: true,
  comes: true,
  goes: true,
  dims: true,
})

/** How letters are set, with what is known of the font of one's own that they are set in, so that a journey without it can take it in. */
const textLookSchema = textStyleSchema.extend({ font: fontSchema.optional() })

const name = lineOfText(60)

export const newStyleSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('ink'), name, look: inkSchema }),
  z.strictObject({ kind: z.literal('text'), name, look: textLookSchema }),
  z.strictObject({ kind: z.literal('pin'), name, look: pinSchema }),
  z.strictObject({ kind: z.literal('card'), name, look: cardLookSchema }),
  z.strictObject({ kind: z.literal('vehicle'), name, look: vehicleSchema }),
])

export type NewStyle = z.output<typeof newStyleSchema>
export type StyleKind = NewStyle['kind']
/** The look of a style of some kind. */
export type LookOf<K extends StyleKind> = Extract<NewStyle, { kind: K }>['look']
export type CardLook = LookOf<'card'>

/** The most styles that are kept. */
export const MOST_STYLES = 300

/** The look of a card, without what is its own. */
export const lookOfCard = (card: z.output<typeof postcardSchema>): CardLook => {
  const { size, tilt, frame, shadow, stalk, paper, colour, comes, goes, dims } = card
  return { size, tilt, frame, shadow, stalk, paper, colour, comes, goes, dims }
}

/** A pin in the look of another; letters in it are its own. */
export const pinLike = (pin: LookOf<'pin'>, look: LookOf<'pin'>): LookOf<'pin'> =>
  look.inside?.kind === 'letters' ? { ...look, inside: pin.inside } : look
