// Named so that it comes before all that makes schemas.
import '~/services/zod-without-eval'
import { defineNuxtPlugin } from '#imports'

export default defineNuxtPlugin(() => {})
