import { geodesicDistance } from '../geo/geodesic'
import { greatest } from '../geometry/extremes'
import type { LonLat } from '../geo/lon-lat'
import type { Mode } from './modes'
import { MODES } from './modes'

/** A place that may be meant by a name. */
interface Candidate extends LonLat {
  country: string
  population: number
  /** Whether it is called so, and not only nearly so. */
  isExact: boolean
  /** Whether it is its main name that was written, and not a former one or one in another language. */
  isMainName: boolean
}

/** What is known of a place of the trip: its candidates, or none, and how one gets there from the place before. */
export interface Choosing {
  candidates: readonly Candidate[]
  by: Mode | null
}

export interface Choice {
  /** The number of the candidate that fits the others best; undefined where there is none. */
  chosen: number | undefined
  /** Whether another one would fit nearly as well, or the name is only similar. */
  isUncertain: boolean
  /** The candidates from the likeliest to the least likely. */
  order: readonly number[]
}

/**
 * Costs, as logarithms of how unlikely something is; weights by trying them on written trips (`tests/server/written-trips.test.ts`).
 * A place with ten times as many inhabitants is so much likelier to be meant; a journey that goes so many times as far as one usually does that way is unlikely.
 */
const PER_TENFOLD = 1
const PER_DISTANCE = 1.15
const OTHER_COUNTRY = 0.35
const NOT_EXACT = 2.5
const OTHER_NAME = 0.5
/** Of several places of one name the largest is the one that people think of. */
const LARGEST_OF_NAME = 0.5

/** Beyond some way one flies, and an ocean more or less makes a trip no less likely. */
const FARTHEST = 2.3

/** How far one usually goes where it is not said how, in km, and the shortest that counts. */
const USUAL_REACH = 700
const NEAR = 20
/** What another choice must cost more for the best one to be certain. */
const CERTAIN = 0.8
/** Flights that are no longer than this are unlikely. */
const SHORT_FLIGHT = 80

/** How unlikely it is that each of the candidates for a name is meant, whatever the other names are. */
function ownCosts(candidates: readonly Candidate[]): number[] {
  const largest = greatest(candidates.map(({ population, isExact, isMainName }) => (isExact && isMainName ? population : 0)))
  return candidates.map(({ population, isExact, isMainName }) => {
    const isKnownByIt = isExact && isMainName && population > 0 && population === largest
    return -PER_TENFOLD * Math.log10(population + 30) + (isExact ? 0 : NOT_EXACT) + (isMainName ? 0 : OTHER_NAME) - (isKnownByIt ? LARGEST_OF_NAME : 0) // prettier-ignore
  })
}

/** How unlikely it is that one goes from one to the other, that way. */
function wayCost(a: Candidate, b: Candidate, by: Mode | null): number {
  const km = Math.max(NEAR, geodesicDistance(a, b) / 1000)
  const reach = by === null ? USUAL_REACH : MODES[by].reach
  const far = Math.min(FARTHEST, PER_DISTANCE * Math.log2(1 + km / reach))
  const tooShort = by === 'fly' && km < SHORT_FLIGHT ? 1 : 0
  return far + tooShort + (a.country === b.country ? 0 : OTHER_COUNTRY)
}

/**
 * Chooses the places of a trip together: of several of one name the one that fits its neighbours, by their sizes, the ways between them and their countries. The
 * cheapest run through all is found by dynamic programming (A. Viterbi, Error bounds for convolutional codes, 1967), and for each candidate what the cheapest
 * run through it costs, from both ends.
 */
export function chooseTogether(places: readonly Choosing[]): Choice[] {
  // A place that nobody knows is passed over: its neighbours are each other's.
  const known = places.flatMap((place, i) => (place.candidates.length > 0 ? [i] : []))
  const steps = known.map((i) => places[i]!)
  const own = steps.map(({ candidates }) => ownCosts(candidates))
  const between = (k: number) => {
    // Where places were passed over it is not known how one got there.
    const by = known[k]! === known[k - 1]! + 1 ? steps[k]!.by : null
    return steps[k - 1]!.candidates.map((a) => steps[k]!.candidates.map((b) => wayCost(a, b, by)))
  }
  const ways = steps.map((_, k) => (k === 0 ? [] : between(k)))
  const ahead: number[][] = []
  own.forEach((costs, k) => {
    ahead[k] = costs.map((cost, j) => cost + (k === 0 ? 0 : leastOf(ahead[k - 1]!.map((before, i) => before + ways[k]![i]![j]!))))
  })
  const behind: number[][] = []
  for (let k = own.length - 1; k >= 0; k--)
    behind[k] = own[k]!.map((_, i) =>
      k === own.length - 1 ? 0 : leastOf(own[k + 1]!.map((cost, j) => ways[k + 1]![i]![j]! + cost + behind[k + 1]![j]!)),
    )
  const choices: Choice[] = places.map(() => ({ chosen: undefined, isUncertain: true, order: [] }))
  known.forEach((i, k) => {
    const through = ahead[k]!.map((cost, j) => cost + behind[k]![j]!)
    const order = through.map((_, j) => j).sort((a, b) => through[a]! - through[b]!)
    const [best, second] = order as [number, number?]
    const isClose = second !== undefined && through[second]! - through[best]! < CERTAIN
    choices[i] = { chosen: best, isUncertain: isClose || !steps[k]!.candidates[best]!.isExact, order }
  })
  return choices
}

const leastOf = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity)
