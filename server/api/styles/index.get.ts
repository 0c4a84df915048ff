import { defineEventHandler } from 'h3'
import { database } from '../../storage/database'
import { listStyles } from '../../storage/styles'

export default defineEventHandler(() => listStyles(database()))
