import { defineEventHandler } from 'h3'

/** The address of the tile service of the Lantern Isles that `npm run demo` starts; null where the server was started without it. */
export default defineEventHandler(() => ({ address: process.env.ZEPHYRINE_STAND_IN ?? null }))
