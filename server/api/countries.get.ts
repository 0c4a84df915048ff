import { defineEventHandler } from 'h3'
import { listCountries } from '../maps/world'

/** The countries that a map can be drawn of, or that can be lit on one. */
export default defineEventHandler(() => listCountries())
