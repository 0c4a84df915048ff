import { contrast } from '../colour/contrast'
import { hexOf, rgbOf } from '../colour/srgb'
import type { Sheet, Wash } from '../journey/schema'
import { washPixels } from '../sheet/wash'
import type { EarthName } from './earth-names'
import { STYLE_SHEETS } from './map-styles'

/** Letters, and a rim round them that keeps them apart from the map. */
export interface NameColours {
  letters: string
  rim: string
}

const [PAPER, INK] = ['#fbf6ea', '#14233a'] as const

/** The colours of names on a map: one's own, those of a generated map's style as it is washed, else light letters with a dark rim, which can be read on most imagery. */
export function nameColours(own: string | null, { drawn, wash }: Pick<Sheet, 'drawn' | 'wash'>): Record<EarthName['kind'], NameColours> {
  if (own !== null) {
    const colours = { letters: own, rim: contrast(own, PAPER) > contrast(own, INK) ? PAPER : INK }
    return { country: colours, sea: colours }
  }
  if (!drawn) {
    const colours = { letters: PAPER, rim: INK }
    return { country: colours, sea: colours }
  }
  const { names } = STYLE_SHEETS[drawn.style]
  const washed = ([letters, rim]: readonly [string, string]) => ({ letters: washedColour(letters, wash), rim: washedColour(rim, wash) })
  return { country: washed(names.land), sea: washed(names.sea) }
}

function washedColour(colour: string, wash: Wash | null): string {
  if (!wash) return colour
  const pixel = Uint8ClampedArray.of(...rgbOf(colour), 255)
  washPixels(pixel, wash)
  return hexOf([pixel[0]!, pixel[1]!, pixel[2]!])
}
