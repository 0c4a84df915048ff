import { createHash } from 'node:crypto'
import type { H3Event } from 'h3'
import { getRequestHeader, setResponseHeaders } from 'h3'
import { refusal } from './refuse'

const LOCAL = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/

/** A header that a page of another site cannot set without asking first, which is refused: for programs, as they send no Origin. */
const OWN_HEADER = 'x-zephyrine'

/**
 * Lets only pages of this server and local programs talk to it: other sites in the same browser, and foreign host names that resolve to this
 * address, may not.
 * @throws an error response
 */
export function admit(event: H3Event): void {
  const host = getRequestHeader(event, 'host') ?? ''
  if (!LOCAL.test(host)) throw refusal(403, 'Zephyrine answers only at localhost and 127.0.0.1.')
  const origin = getRequestHeader(event, 'origin')
  if (origin !== undefined && origin !== `http://${host}`) throw refusal(403, 'Only Zephyrine’s own pages may use its server.')
  const changes = event.method !== 'GET' && event.method !== 'HEAD'
  if (changes && origin === undefined && getRequestHeader(event, OWN_HEADER) === undefined)
    throw refusal(403, `A program that changes something must send the header ${OWN_HEADER}.`)
}

/**
 * Content-Security-Policy of all answers. Styles may stand in the page, as Vuetify writes its theme there; scripts may not, but for those given by their
 * hashes. Source: W3C Content Security Policy Level 3.
 */
const policy = (scripts: readonly string[]): string =>
  [
    "default-src 'none'",
    `script-src 'self' 'wasm-unsafe-eval'${scripts.map((hash) => ` '${hash}'`).join('')}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')

/** Headers of every answer. Source: OWASP ASVS 4.0.3, V14.4 (HTTP security headers), and the Fetch and HTML standards for the last two. */
export function protect(event: H3Event): void {
  setResponseHeaders(event, {
    'content-security-policy': policy([]),
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-resource-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
  })
}

/** The policy of a page, with the hashes of the scripts that stand in it. */
export function policyOfPage(html: string): string {
  const inline = [...html.matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(([, text]) => text!)
  return policy(inline.map((text) => `sha256-${createHash('sha256').update(text).digest('base64')}`))
}
