import { contrast } from '../colour/contrast'
import type { TextStyle } from '../journey/schema'

/** The least contrast of large letters and what is round them. Source: W3C Web Content Accessibility Guidelines 2.2, success criterion 1.4.3. */
const LEAST = 3

const [PAPER, INK] = ['#fbf6ea', '#14233a'] as const

/** What changes when letters get another colour: a halo that they could not be told from becomes dark round light letters, and light round dark ones. */
export function lettersIn(colour: string, { halo }: Pick<TextStyle, 'halo'>): Pick<TextStyle, 'colour'> & Partial<Pick<TextStyle, 'halo'>> {
  if (!halo || contrast(colour, halo.colour) >= LEAST) return { colour }
  return { colour, halo: { ...halo, colour: contrast(colour, PAPER) > contrast(colour, INK) ? PAPER : INK } }
}
