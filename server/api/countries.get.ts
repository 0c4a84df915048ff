import { defineEventHandler } from 'h3'
import { listCountries } from '../maps/world'

/** The countries that can be drawn as a map, or highlighted on one. */
export default defineEventHandler(() => listCountries())
