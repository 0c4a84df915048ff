import { defineEventHandler } from 'h3'
import { dataFolder } from '../../storage/database'
import { listBrokenOff } from '../../tiles/take-sheet'

/** The sheets of tiles whose taking was broken off, the last first: they go on where their order is given again. */
export default defineEventHandler(() => listBrokenOff(dataFolder()))
