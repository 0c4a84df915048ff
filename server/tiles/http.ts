import { JourneyError } from '#core/error'
import { hidingKey, hostOf } from '#core/tiles/template'

/** Requests to services, with all that comes back bounded: redirects, bytes and time. */

/** What we call ourselves, so that a service can tell who asks. */
const AGENT = 'Zephyrine/0.1 (route films; desktop)'

const MOST_REDIRECTS = 3

/** The longest that one answer may take, in milliseconds. */
const MOST_TIME = 30_000

export interface Response {
  status: number
  /** Names in small letters. */
  headers: Record<string, string>
  body: Buffer
}

export interface Request {
  headers?: Record<string, string>
  /** The most bytes of an answer that are read. */
  most: number
  key: string | undefined
  signal: AbortSignal
}

/** Names and addresses of this machine and of private networks, to which no service of the open network may lead on. Source: RFC 6890. */
const PRIVATE = /^(localhost|.*\.local(host)?|0\.|10\.|127\.|169\.254\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|\[(::|f[cd]|fe80|::ffff:).*)/i

/**
 * Asks for what is at an address. Redirects are followed by hand, as each must lead to http or https.
 * @throws JourneyError if the address leads elsewhere, or the answer is too large; NoAnswer if there is none
 */
export async function ask(address: string, { headers = {}, most, key, signal }: Request): Promise<Response> {
  const within = AbortSignal.any([signal, AbortSignal.timeout(MOST_TIME)])
  let url = new URL(address)
  for (let redirects = 0; ; redirects++) {
    const response = await fetch(url, {
      headers: { 'user-agent': AGENT, accept: '*/*', ...headers },
      redirect: 'manual',
      signal: within,
    }).catch((error: unknown) => {
      signal.throwIfAborted()
      throw new NoAnswer(reasonOf(error, within), { cause: error })
    })
    const to = response.headers.get('location')
    if (response.status < 300 || response.status >= 400 || response.status === 304 || to === null) {
      const body = await bodyOf(response, most, within).catch((error: unknown) => {
        signal.throwIfAborted()
        throw error instanceof JourneyError ? error : new NoAnswer(reasonOf(error, within), { cause: error })
      })
      return { status: response.status, headers: Object.fromEntries(response.headers), body }
    }
    await response.body?.cancel()
    if (redirects === MOST_REDIRECTS)
      throw new JourneyError(`${hostOf(address)} leads on from address to address: more than ${MOST_REDIRECTS} times.`)
    url = redirected(url, to, key)
  }
}

/** There was no answer at all, or it broke off: worth another try. */
export class NoAnswer extends Error {}

function reasonOf(error: unknown, within: AbortSignal): string {
  if (within.aborted) return `it took longer than ${MOST_TIME / 1000} seconds`
  const { code } = ((error as Error).cause ?? error) as { code?: string }
  switch (code) {
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return 'its name is not known on the network'
    case 'ECONNREFUSED':
      return 'nothing listens there'
    default:
      return /^(CERT|ERR_TLS|DEPTH_ZERO|SELF_SIGNED|UNABLE_TO)/.test(code ?? '')
        ? 'its certificate cannot be trusted'
        : 'the connection broke off'
  }
}

/** @throws JourneyError if a redirect leads to where none may */
export function redirected(from: URL, to: string, key: string | undefined): URL {
  const refuse = (why: string): never => {
    throw new JourneyError(`${from.host} leads on to “${hidingKey(to, key).slice(0, 120)}”, ${why}.`)
  }
  let url: URL
  try {
    url = new URL(to, from)
  } catch {
    return refuse('which is not an address')
  }
  if (url.protocol !== 'http:' && url.protocol !== 'https:') return refuse('which is neither http nor https')
  if (from.protocol === 'https:' && url.protocol === 'http:') return refuse('which is not encrypted any more')
  if (PRIVATE.test(url.hostname) && !PRIVATE.test(from.hostname)) return refuse('which is in a private network')
  return url
}

async function bodyOf(response: globalThis.Response, most: number, signal: AbortSignal): Promise<Buffer> {
  if (!response.body) return Buffer.alloc(0)
  const chunks: Uint8Array[] = []
  let bytes = 0
  // Leaving the loop closes the connection, so that an answer without an end costs nothing more.
  for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
    signal.throwIfAborted()
    bytes += chunk.length
    if (bytes > most)
      throw new JourneyError(
        `${new URL(response.url).host} sends more than the ${Math.round(most / 1024)} KiB that such an answer may have.`,
      )
    chunks.push(chunk)
  }
  return Buffer.concat(chunks)
}
