import type { MapStyle } from '../journey/schema'

/** The satellite imagery of the whole Earth that a style of generated maps is made of; undefined of those that are drawn. */
export const imageryOf = (style: MapStyle): 'day' | 'night' | undefined => (style === 'day' || style === 'night' ? style : undefined)

/** Pixels that this imagery has all round the Earth. */
export const IMAGERY_PIXELS = 4096
