import { defineEventHandler } from 'h3'
import { idParameter, noVersion, orRefuse } from '../../../../http/refuse'
import { database } from '../../../../storage/database'
import { readVersion } from '../../../../storage/versions'

export default defineEventHandler((event) => {
  const journey = orRefuse(() => readVersion(database(), idParameter(event), idParameter(event, 'version')))
  if (!journey) throw noVersion()
  return { journey }
})
