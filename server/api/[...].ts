import { defineEventHandler } from 'h3'
import { refusal } from '../http/refuse'

/** Answers all addresses under /api that no route has, which would otherwise get the application's page. */
export default defineEventHandler(() => {
  throw refusal(404, 'There is nothing at this address.')
})
