import { defineEventHandler } from 'h3'
import { idParameter } from '../../../http/refuse'
import { database } from '../../../storage/database'
import { listExports } from '../../../storage/exports'

export default defineEventHandler((event) => listExports(database(), idParameter(event)))
