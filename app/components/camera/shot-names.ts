import { nameOfTraveller } from '#core/edits/trips/travellers'
import { findLeg, nameOfStop } from '#core/journey/lookup'
import type { Journey, Shot, ShotKind, ShotSubject } from '#core/journey/schema'
import { SHOT_KINDS, subjectsOf } from '#core/journey/schema'
import type { Temperament } from '#core/camera/temperament'

/** The camera in words, as the strip, the details and the journey tell it. */

/** The kinds of shot, as one chooses among them. */
export const SHOT_CHOICES = Object.entries(SHOT_KINDS).map(([value, { title }]) => ({ value: value as ShotKind, title }))

/** How the camera films by itself, or that it does not: the name, and what it does. */
export const PLANS: readonly { value: Temperament | 'none'; title: string; about: string }[] = [
  { value: 'steady', title: 'Steady', about: 'One view of the whole trip.' },
  { value: 'calm', title: 'Calm', about: 'Opens and closes on the whole trip, and follows the traveller slowly in between.' },
  { value: 'lively', title: 'Lively', about: 'Close to the traveller and tilted, with a new angle on each leg.' },
  { value: 'none', title: 'None', about: 'Only the shots you add.' },
]

/** What a shot is called: its kind, and what it is of where that is something of its own. */
export function nameOfShot(journey: Journey, shot: Shot): string {
  const kind = SHOT_KINDS[shot.kind].title
  const of = subjectsOf(shot)
    .map((subject) => nameOfSubject(journey, subject))
    .filter(Boolean)
    .join(', ')
  return of === '' ? kind : `${kind}: ${of}`
}

function nameOfSubject(journey: Journey, { kind, id }: ShotSubject): string {
  switch (kind) {
    case 'stop':
      return nameOfStop(journey.stops.find((stop) => stop.id === id) ?? { name: '' })
    case 'leg':
      return nameOfLeg(journey, id)
    case 'traveller': {
      const found = journey.travellers.find((traveller) => traveller.id === id)
      return found ? nameOfTraveller(journey, found) : ''
    }
    default:
      return kind satisfies never
  }
}

/** A leg by its two stops; nothing where it is not in the journey. */
export function nameOfLeg(journey: Journey, id: string): string {
  const found = findLeg(journey, id)
  if (!found) return ''
  const stopAt = (i: number) => nameOfStop(journey.stops.find((stop) => stop.id === found.traveller.visits[i]?.stop) ?? { name: '' })
  return `${stopAt(found.index)} to ${stopAt(found.index + 1)}`
}
