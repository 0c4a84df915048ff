import equal from 'fast-deep-equal'
import type { Ink } from '../journey/schema'
import type { InkStyle } from './ink-styles'

/** The ink of a style; of one that has no colour of its own, in the colour that the line has now. */
export const inkInStyle = ({ ink, keepsColour }: InkStyle, { colour }: Pick<Ink, 'colour'>): Ink => (keepsColour ? { ...ink, colour } : ink)

/** Whether a line is in a style, as it is. */
export const isInStyle = (ink: Ink, style: InkStyle): boolean => equal(ink, inkInStyle(style, ink))
