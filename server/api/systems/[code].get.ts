import { defineEventHandler, getRouterParam } from 'h3'
import { orRefuse, refusal } from '../../http/refuse'
import { planeOfEpsg } from '../../sheets/coordinate-systems'

/** A coordinate system by its EPSG number. */
export default defineEventHandler((event) => {
  const code = getRouterParam(event, 'code') ?? ''
  if (!/^\d{1,6}$/.test(code)) throw refusal(404, 'Coordinate systems are asked for by their number, such as 2056.')
  return orRefuse(() => planeOfEpsg(Number(code)))
})
