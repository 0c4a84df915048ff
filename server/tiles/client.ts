import { setTimeout as wait } from 'node:timers/promises'
import PQueue from 'p-queue'
import { JourneyError } from '#core/error'
import { hostOf, withKey } from '#core/tiles/template'
import type { AnswerCache } from './answer-cache'
import type { Response } from './http'
import { ask, NoAnswer } from './http'

/** At most so many requests of ours are under way at a time. */
const AT_ONCE = 4

/** How often a tile is asked for before it is given up, and how long we wait at most when a service says so, in milliseconds. */
const TRIES = 3
const MOST_PATIENCE = 120_000

/** The first wait where the service does not say how long; each further one is twice as long. In milliseconds. */
const FIRST_WAIT = 300

/** After so many failures in a row the service is given up. */
const MOST_FAILURES = 24

/** The body of an answer, or that there is nothing at the address. */
type Found = { body: Buffer } | 'nothing'

/** Something could not be had although it was asked for several times. Says what the service answered. */
export class NotHad extends Error {}

export interface Client {
  /**
   * What is at an address, in which `{key}` stands for the key. It waits for its turn, waits as a service says that has too much to do, and asks again.
   * @throws NotHad; JourneyError if the service refuses, or nothing has come for a long time
   */
  get(address: string, most: number, headers?: Record<string, string>): Promise<Found>
}

/** Asks a service with good manners: a few requests at a time, none again that need not be, and waiting where it is told to. */
export function createClient(key: string | undefined, cache: AnswerCache | undefined, signal: AbortSignal): Client {
  const queue = new PQueue({ concurrency: AT_ONCE })
  /** While a service has too much to do, all our requests wait. */
  let notBefore = 0
  let failures = 0

  /** Some services repeat the key in what they say: such answers are not kept, as it must be nowhere but in its own file. */
  function holdsKey({ body, headers }: Response): boolean {
    if (!key) return false
    const forms = [key, encodeURIComponent(key)]
    return forms.some((form) => body.includes(form) || JSON.stringify(headers).includes(form))
  }

  async function once(address: string, most: number, headers: Record<string, string>): Promise<Response> {
    // Answers to a part of a file are a matter of their reader.
    const known = headers.range === undefined ? cache?.find(address) : undefined
    if (known?.isFresh) return known.response
    const response = await ask(address, { headers: { ...headers, ...known?.headers }, most, key, signal })
    if (known && response.status === 304) return cache!.confirm(address, known, response)
    if (response.status === 200 && !holdsKey(response)) cache?.keep(address, response)
    return response
  }

  /** A while before something is tried again; none after the last time. */
  const rest = (attempt: number) => (attempt < TRIES - 1 ? wait(FIRST_WAIT * 2 ** attempt, undefined, { signal }) : undefined)

  async function patiently(address: string, most: number, headers: Record<string, string>): Promise<Found> {
    let reason = ''
    for (let attempt = 0; attempt < TRIES; attempt++) {
      while (notBefore > Date.now()) await wait(notBefore - Date.now(), undefined, { signal })
      let response: Response
      try {
        response = await once(address, most, headers)
      } catch (error) {
        if (!(error instanceof NoAnswer)) throw error
        reason = error.message
        await rest(attempt)
        continue
      }
      const { status } = response
      if (status === 200 || status === 206) {
        failures = 0
        return { body: response.body }
      }
      if (status === 204 || status === 404 || status === 410) {
        failures = 0
        return 'nothing'
      }
      if (status === 401 || status === 403)
        throw new JourneyError(
          `${hostOf(address)} refuses (${status}): ${key ? 'check the key, and' : 'it may want a key; check'} whether your account may use these tiles.`,
        )
      reason = `it answers ${status}`
      if (status === 429 || status === 503) {
        notBefore = Math.max(notBefore, Date.now() + patienceFor(response.headers['retry-after'], attempt))
        // Being told to wait is no failure of this tile, unless it goes on for ever.
        if (attempt === TRIES - 1 && notBefore - Date.now() < MOST_PATIENCE && failures++ < MOST_FAILURES) attempt--
      } else if (status >= 500) await rest(attempt)
      else break
    }
    if (++failures >= MOST_FAILURES)
      throw new JourneyError(`${hostOf(address)} has stopped answering: ${reason}. Try again later; what has come is kept.`)
    throw new NotHad(`${hostOf(address)} does not answer as it should: ${reason}.`)
  }

  return {
    get: (address, most, headers = {}) => queue.add(() => patiently(withKey(address, key), most, headers)),
  }
}

/** How long a service wants us to wait, in milliseconds. Source: RFC 9110, section 10.2.3: seconds, or a date. */
function patienceFor(retryAfter: string | undefined, attempt: number): number {
  const seconds = Number(retryAfter)
  const asked = retryAfter === undefined ? NaN : Number.isFinite(seconds) ? 1000 * seconds : Date.parse(retryAfter) - Date.now()
  const patience = Number.isFinite(asked) ? asked : FIRST_WAIT * 2 ** attempt
  return Math.min(MOST_PATIENCE, Math.max(0, patience))
}
