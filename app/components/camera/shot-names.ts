import type { CameraCheck } from '#core/checks/camera-check'
import type { RateKind } from '#core/camera/comfort'
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

const RATE_NAMES: Readonly<Record<RateKind, string>> = {
  pan: 'The picture moves',
  turn: 'The camera turns',
  zoom: 'The zoom changes',
  tilt: 'The tilt changes',
}

/** A camera problem in a sentence. @param mapWidth pixels of the first map */
export function toldCheck({ kind, from, to, worst, rate, cutBy }: CameraCheck, mapWidth: number | undefined): string {
  const when = to - from < 0.05 ? `at ${from.toFixed(1)} s` : `from ${from.toFixed(1)} to ${to.toFixed(1)} s`
  switch (kind) {
    case 'edge':
      return `The frame extends ${Math.ceil(worst)} px beyond the map ${when}.`
    case 'lost':
      return `What the shot follows is up to ${Math.ceil(worst)} px out of frame ${when}, because the camera is kept on the map.`
    case 'soft': {
      const would = mapWidth === undefined ? '' : ` A map ${Math.ceil((mapWidth * worst) / 100) * 100} px wide would be sharp.`
      return `The map is enlarged ${worst.toFixed(1)}× ${when}.${would}`
    }
    case 'fast':
      return `${RATE_NAMES[rate ?? 'pan']} at ${worst.toFixed(1)}× the comfortable speed ${when}.`
    case 'late':
      return `The camera does not arrive: ${cutBy === 'end' ? 'the film ends' : 'the next shot begins'} ${worst.toFixed(1)} s too early, at ${to.toFixed(1)} s.`
    default:
      return kind satisfies never
  }
}
