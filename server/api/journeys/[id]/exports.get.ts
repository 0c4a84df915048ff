import { defineEventHandler } from 'h3'
import { exportsOf } from '../../../exports/queue'
import { idParameter } from '../../../http/refuse'

export default defineEventHandler((event) => exportsOf(idParameter(event)))
