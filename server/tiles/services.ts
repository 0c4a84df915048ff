import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { JourneyError } from '#core/error'
import type { Described } from '#core/tiles/described'
import type { Glimpse } from '#core/tiles/order'
import { checkAddress, hostOf, withoutKey } from '#core/tiles/template'
import type { Answer } from '../sheets/job'
import { JobLine } from '../sheets/job-line'
import { keepKey, keyFor } from './keys'

/** What is asked of services while one is chosen, in a process that is kept for a while. It may take long, as services make us wait. In milliseconds. */
const line = new JobLine(150_000, 60_000)

/** The file of answers that may be used again. */
export function cacheIn(folder: string): string {
  mkdirSync(folder, { recursive: true })
  return join(folder, 'service-answers.sqlite')
}

/** An answer of the process, or in a sentence why there is none: what a service sends may crash it. */
async function asked(order: Parameters<JobLine['do']>[0], urgency: number, address: string, signal: AbortSignal): Promise<Answer> {
  try {
    return await line.do(order, urgency, signal)
  } catch (error) {
    if (signal.aborted || error instanceof JourneyError) throw error
    throw new JourneyError(`What ${hostOf(address)} sends cannot be read, or takes too long or too much memory.`, { cause: error })
  }
}

/**
 * Finds out what there is at an address.
 * @param key given with the address or apart from it; kept for the service's host, and used again there
 * @throws JourneyError that says what is wrong
 */
export async function describeService(
  folder: string,
  typed: string,
  key: string | undefined,
  signal: AbortSignal,
): Promise<Described & { hasKey: boolean }> {
  const bare = withoutKey(typed.trim())
  checkAddress(bare.address)
  const given = key?.trim() || bare.key
  if (given !== undefined) {
    if (given.length > 500) throw new JourneyError('The key is longer than keys are: copy it anew.')
    await keepKey(folder, bare.address, given)
  }
  const known = given ?? keyFor(folder, bare.address)
  const answer = await asked({ do: 'describe', address: bare.address, key: known, cache: cacheIn(folder) }, 1, bare.address, signal)
  const { described } = answer as Extract<Answer, { is: 'described' }>
  // A service may name addresses on other hosts, with the same key.
  if (known !== undefined)
    for (const address of new Set(described.maps.map(({ service }) => service.address)))
      if (address.includes('{key}') && keyFor(folder, address) === undefined) await keepKey(folder, address, known)
  return { ...described, hasKey: known !== undefined }
}

/** A small picture of a part of a service's map. Only the one asked for last with the same purpose is of use: the signal ends the others. */
export async function glimpseService(folder: string, glimpse: Glimpse, signal: AbortSignal): Promise<Extract<Answer, { is: 'glimpsed' }>> {
  const key = keyFor(folder, glimpse.service.address)
  const order = { do: 'glimpse' as const, glimpse, key, cache: cacheIn(folder) }
  const answer = await asked(order, glimpse.level === null ? 0 : 1, glimpse.service.address, signal)
  return answer as Extract<Answer, { is: 'glimpsed' }>
}
