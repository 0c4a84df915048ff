import { defineEventHandler } from 'h3'
import { database } from '../../storage/database'
import { exportPaces } from '../../storage/exports'

/** What the last films took that were made on this machine, to tell what the next one will. */
export default defineEventHandler(() => exportPaces(database()))
