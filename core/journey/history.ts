import { z } from 'zod'
import { JourneyError } from '../error'
import { checkEdited } from './parse'
import type { Journey } from './schema'

/**
 * Differences between versions of a journey, so that undo survives closing it. Only the parts that two versions do not share are compared.
 */

const key = z.union([z.string().max(40), z.int().min(0)])
const path = z.array(key).max(12)

/** A part with a new value (or none, if it is left out), or a stretch of a list replaced by other entries. */
const changeSchema = z.union([
  z.strictObject({ path, at: z.int().min(0), removed: z.int().min(0), entries: z.array(z.unknown()) }),
  z.strictObject({ path, value: z.unknown().optional() }),
])
export type Change = z.output<typeof changeSchema>

/** The stored past of a journey: from its present state back, step by step. */
export const PAST_LIMITS = { steps: 60, changesInStep: 5000, letters: 500_000 } as const
export const pastSchema = z.array(z.array(changeSchema).max(PAST_LIMITS.changesInStep)).max(PAST_LIMITS.steps)
export type Past = z.output<typeof pastSchema>

type Keys = (string | number)[]

/** The changes that turn `before` into `after`. Parts that the two share are skipped. */
export function changesBetween(before: unknown, after: unknown, at: Keys = []): Change[] {
  if (before === after) return []
  if (Array.isArray(before) && Array.isArray(after)) return changesInList(before, after, at)
  if (isPlain(before) && isPlain(after)) {
    const keys = new Set([...Object.keys(before), ...Object.keys(after)])
    return [...keys].flatMap((name) =>
      name in after ? changesBetween(before[name], after[name], [...at, name]) : [{ path: [...at, name] } satisfies Change],
    )
  }
  return [{ path: at, value: after }]
}

const isPlain = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value)

function changesInList(before: readonly unknown[], after: readonly unknown[], at: Keys): Change[] {
  const shorter = Math.min(before.length, after.length)
  let first = 0
  while (first < shorter && before[first] === after[first]) first++
  let last = 0
  while (last < shorter - first && before[before.length - 1 - last] === after[after.length - 1 - last]) last++
  const stretch: Change = { path: at, at: first, removed: before.length - first - last, entries: after.slice(first, after.length - last) }
  if (before.length !== after.length) return [stretch]
  const apart = before.slice(first, before.length - last).flatMap((entry, i) => changesBetween(entry, after[first + i], [...at, first + i]))
  // A long list of points that have all moved is shorter as a list.
  const isMany = apart.length > MANY && apart.length >= stretch.entries.length
  return isMany && lettersOf([stretch]) < lettersOf(apart) ? [stretch] : apart
}

const MANY = 16
const lettersOf = (changes: readonly Change[]) => JSON.stringify(changes).length

/** A value with changes applied; untouched parts are shared. @throws JourneyError if the changes do not fit the value */
export const changed = (value: unknown, changes: readonly Change[]): unknown =>
  changes.reduce((v, change) => withChange(v, change, 0), value)

function withChange(value: unknown, change: Change, depth: number): unknown {
  const name = change.path[depth]
  if (name === undefined) {
    if (!('entries' in change)) return change.value
    if (!Array.isArray(value) || change.at + change.removed > value.length) throw misfit()
    return [...value.slice(0, change.at), ...change.entries, ...value.slice(change.at + change.removed)]
  }
  if (Array.isArray(value) && typeof name === 'number' && name < value.length)
    return value.with(name, withChange(value[name], change, depth + 1))
  if (!isPlain(value) || typeof name !== 'string' || name === '__proto__') throw misfit()
  const isLast = depth === change.path.length - 1
  if (isLast && !('entries' in change) && !('value' in change))
    return Object.fromEntries(Object.entries(value).filter(([other]) => other !== name))
  return { ...value, [name]: withChange(value[name], change, depth + 1) }
}

const misfit = () => new JourneyError('The steps that were kept do not belong to this journey.')

const steps = new WeakMap<Journey, { next: Journey; changes: Change[]; letters: number }>()

/** The past of a journey for storing, the last step first. Steps that were stored before are not compared again. */
export function keptPast(past: readonly Journey[], present: Journey): Past {
  const kept: Past = []
  let letters = 0
  let next = present
  for (const before of [...past].reverse()) {
    const known = steps.get(before)
    const step = known?.next === next ? known : written(before, next)
    letters += step.letters
    const isTooLarge = step.changes.length > PAST_LIMITS.changesInStep || letters > PAST_LIMITS.letters
    if (kept.length === PAST_LIMITS.steps || isTooLarge) break
    kept.push(step.changes)
    next = before
  }
  return kept
}

function written(before: Journey, next: Journey) {
  const changes = changesBetween(next, before)
  const step = { next, changes, letters: lettersOf(changes) }
  steps.set(before, step)
  return step
}

/** The versions in a stored past, the earliest first, as far back as they are valid journeys. */
export function pastOf(kept: Past, present: Journey): Journey[] {
  const past: Journey[] = []
  let next = present
  for (const changes of kept) {
    try {
      const before = changed(next, changes) as Journey
      checkEdited(before)
      past.unshift(before)
      next = before
    } catch (error) {
      if (error instanceof JourneyError) break
      throw error
    }
  }
  return past
}
