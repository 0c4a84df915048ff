import { config } from 'zod'

/** Zod would try to compile its checks with `new Function`, which the page's policy forbids. To be imported before anything that makes a schema. */
config({ jitless: true })
