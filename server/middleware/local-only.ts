import { defineEventHandler, getRequestHeader } from 'h3'
import { refusal } from '../http/refuse'

const LOCAL = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/

/** Only pages of this server may talk to it: other sites in the same browser, and foreign host names that resolve to this address, may not. */
export default defineEventHandler((event) => {
  const host = getRequestHeader(event, 'host') ?? ''
  if (!LOCAL.test(host)) throw refusal(403, 'Zephyrine answers only at localhost and 127.0.0.1.')
  const origin = getRequestHeader(event, 'origin')
  if (origin !== undefined && origin !== `http://${host}`) throw refusal(403, 'Only Zephyrine’s own pages may use its server.')
})
