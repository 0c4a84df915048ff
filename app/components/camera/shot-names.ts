import type { CameraCheck } from '#core/checks/camera-check'
import type { RateKind } from '#core/camera/comfort'
import { nameOfTraveller } from '#core/edits/trips/travellers'
import { findLeg, nameOfStop } from '#core/journey/lookup'
import type { Journey, Shot, ShotKind } from '#core/journey/schema'
import type { Temperament } from '#core/camera/temperament'

/** The camera in words, as the strip, the details and the journey tell it. */

export const KIND_NAMES: Readonly<Record<ShotKind, string>> = {
  overview: 'Overview',
  globe: 'Globe',
  leg: 'Leg view',
  chase: 'Chase',
  'close-up': 'Close-up',
  free: 'Free',
}

export const TEMPERAMENT_NAMES: Readonly<Record<Temperament, string>> = { calm: 'Calm', lively: 'Lively', steady: 'Steady' }

/** What a shot is called: its kind, and what it is of where that is something of its own. */
export function nameOfShot(journey: Journey, shot: Shot): string {
  const kind = KIND_NAMES[shot.kind]
  const of = subjectOf(journey, shot)
  return of === '' ? kind : `${kind}: ${of}`
}

function subjectOf(journey: Journey, shot: Shot): string {
  const stopName = (id: string | undefined) => nameOfStop(journey.stops.find((stop) => stop.id === id) ?? { name: '' })
  switch (shot.kind) {
    case 'free':
    case 'overview':
      return ''
    case 'globe':
      return shot.stop === null ? '' : stopName(shot.stop)
    case 'close-up':
      return stopName(shot.stop)
    case 'leg': {
      const found = findLeg(journey, shot.leg)
      const { visits } = found?.traveller ?? { visits: [] }
      return found ? `${stopName(visits[found.index]?.stop)} to ${stopName(visits[found.index + 1]?.stop)}` : ''
    }
    case 'chase':
      return journey.travellers
        .filter(({ id }) => shot.travellers.includes(id))
        .map((traveller) => nameOfTraveller(journey, traveller))
        .join(', ')
    default:
      return shot satisfies never
  }
}

const RATE_NAMES: Readonly<Record<RateKind, string>> = {
  pan: 'The picture moves',
  turn: 'The camera turns',
  zoom: 'The zoom changes',
  tilt: 'The tilt changes',
}

/** A camera problem in a sentence. @param mapWidth pixels of the first map */
export function toldCheck({ kind, from, to, worst, rate }: CameraCheck, mapWidth: number | undefined): string {
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
    default:
      return kind satisfies never
  }
}
