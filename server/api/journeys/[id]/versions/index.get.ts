import { defineEventHandler } from 'h3'
import { idParameter } from '../../../../http/refuse'
import { database } from '../../../../storage/database'
import { listVersions } from '../../../../storage/versions'

export default defineEventHandler((event) => listVersions(database(), idParameter(event)))
