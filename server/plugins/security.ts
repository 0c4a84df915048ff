import { eventHandler, setResponseHeader } from 'h3'
import { admit, policyOfPage, protect } from '../http/security'

/** Stands before everything else, static files included, which are answered before any middleware. */
export default defineNitroPlugin(({ h3App, hooks }) => {
  const { handler } = h3App
  h3App.handler = eventHandler((event) => {
    protect(event)
    admit(event)
    return handler(event)
  })
  hooks.hook('render:response', (response, { event }) => {
    if (typeof response.body === 'string') setResponseHeader(event, 'content-security-policy', policyOfPage(response.body))
  })
})
