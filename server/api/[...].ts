import { defineEventHandler } from 'h3'
import { refusal } from '../http/refuse'

/** Whatever no other route answers. Without this one the application's page would come back. */
export default defineEventHandler(() => {
  throw refusal(404, 'There is nothing at this address.')
})
