import { greatest } from '../geometry/extremes'
import { inksOf, nameOfStop } from '../journey/lookup'
import { creditsOf } from '../sheet/credits'
import type { CompiledJourney } from '../trips/compiled'
import type { Finding } from './finding'

/** What is wrong with a journey however its frames look. */

/** The thinnest line, in pixels of the film: a thinner one flickers as it moves, and is lost where the film is compressed (common practice, no source). */
const THINNEST = 1.5

export const checkJourney = (compiled: CompiledJourney): Finding[] => [
  ...thinLines(compiled),
  ...sharedNames(compiled),
  ...daysBackwards(compiled),
  ...unlicensed(compiled),
]

function thinLines({ journey, travellers, reference }: CompiledJourney): Finding[] {
  const scale = journey.frame.width / reference.width
  return travellers
    .filter(({ traveller }) => traveller.shown)
    .flatMap(({ legs }) =>
      legs.flatMap(({ leg, depart }): Finding[] => {
        const seen = inksOf(leg).filter(({ line }) => line.kind !== 'hidden')
        const widest = greatest(seen.map(({ width }) => width)) * scale
        if (seen.length === 0 || widest >= THINNEST) return []
        const text = `A line is ${widest.toFixed(1)} px wide in the film: below ${THINNEST} px it flickers as it moves.`
        return [{ check: 'thin', subject: { kind: 'leg', id: leg.id }, text, at: depart, lack: THINNEST / widest }]
      }),
    )
}

/** A place that is visited again is one stop: two of one name may be two places, or one that was made twice. */
function sharedNames({ journey, travellers }: CompiledJourney): Finding[] {
  const first = new Set<string>()
  return journey.stops.flatMap(({ id, name, label }): Finding[] => {
    const known = name.trim().toLowerCase()
    if (known === '' || !label.shown) return []
    if (!first.has(known)) {
      first.add(known)
      return []
    }
    const visit = travellers.flatMap(({ visits }) => visits).find(({ stop }) => stop.id === id)
    const text = `Two stops are called “${name}”: if they are one place, let the trip visit it again.`
    return [{ check: 'one-name', subject: { kind: 'stop', id }, text, at: visit?.arrive ?? null, lack: 1 }]
  })
}

function daysBackwards({ travellers }: CompiledJourney): Finding[] {
  return travellers.flatMap(({ traveller, visits }) => {
    let latest: { date: string; name: string } | undefined
    return traveller.visits.flatMap(({ date }, i): Finding[] => {
      const visit = visits[i]
      if (!date || !visit) return []
      const { stop, arrive } = visit
      const before = latest
      if (!before || date >= before.date) {
        latest = { date, name: nameOfStop(stop) }
        return []
      }
      const text = `“${nameOfStop(stop)}” has the date ${date}, and “${before.name}”, which comes before it, has ${before.date}.`
      return [{ check: 'dates', subject: { kind: 'stop', id: stop.id }, text, at: arrive, lack: 1 }]
    })
  })
}

/** Maps in the film of which nobody has noted whether they may be shown. */
function unlicensed({ journey }: CompiledJourney): Finding[] {
  const without = new Set(
    creditsOf(journey)
      .filter(({ isUnlicensed }) => isUnlicensed)
      .map(({ what }) => what),
  )
  return journey.sheets
    .filter(({ name, tracing }) => !tracing && without.has(name))
    .map(({ id, name }): Finding => {
      const text = `The map “${name}” has no licence noted: see whether you may show it, and whom to credit.`
      return { check: 'licence', subject: { kind: 'sheet', id }, text, at: null, lack: 1 }
    })
}
