import { config } from 'zod'
import { defineNuxtPlugin } from '#imports'

/** Zod would try to compile its checks with `new Function`, which the page's policy forbids. Named so that it comes first. */
export default defineNuxtPlugin(() => {
  config({ jitless: true })
})
