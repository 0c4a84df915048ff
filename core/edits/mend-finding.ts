import { findLeg } from '../journey/lookup'
import { editLeg } from './lines/legs'
import { editCaption } from './marks/captions'
import { editLandmark } from './marks/landmarks'
import { editPostcard } from './marks/postcards'
import { editStop } from './marks/stops'
import { setLayover } from './pace/pace'
import type { Journey, Postcard } from '../journey/schema'
import type { CompiledJourney } from '../trips/compiled'
import type { Finding } from '../checks/finding'

/** A change that mends a finding: the words on its button, and the journey with it. */
export interface Mend {
  title: string
  run: (journey: Journey) => Journey
}

/** What mends a finding; undefined where no one change does. */
export function mendOf({ check, subject, lack }: Finding, compiled: CompiledJourney): Mend | undefined {
  switch (check) {
    case 'small':
      return { title: 'Larger letters', run: (journey) => enlarged(journey, subject, lack) }
    case 'brief':
      if (canLast(compiled.journey, subject)) return { title: 'Show it longer', run: (journey) => longer(journey, subject, lack) }
      return isLastStop(compiled, subject) ? { title: 'Hold the end', run: (journey) => heldAtEnd(journey, compiled, lack) } : undefined
    case 'end':
      return { title: 'Hold the end', run: (journey) => heldAtEnd(journey, compiled, lack) }
    case 'thin':
      return { title: 'Wider line', run: (journey) => widened(journey, subject.id, lack) }
    case 'unseen':
    case 'near-edge':
    case 'one-name':
    case 'dates':
    case 'licence':
      return undefined
    default:
      return check satisfies never
  }
}

/** Sizes are whole, and never just too small for rounding. */
const sizeOf = (size: number, times: number): number => Math.min(400, Math.ceil(size * times))

function enlarged(journey: Journey, { kind, id }: Finding['subject'], times: number): Journey {
  if (kind === 'caption') {
    const caption = journey.captions.find((each) => each.id === id)
    return caption ? editCaption(journey, id, { style: { size: sizeOf(caption.style.size, times) } }) : journey
  }
  if (kind === 'stop') {
    const stop = journey.stops.find((each) => each.id === id)
    return stop ? editStop(journey, id, { label: { style: { size: sizeOf(stop.label.style.size, times) } } }) : journey
  }
  const mark = journey.landmarks.find((each) => each.id === id)
  if (mark?.kind !== 'mark') return journey
  const { label } = mark
  return editLandmark(journey, id, { label: { ...label, style: { ...label.style, size: sizeOf(label.style.size, times) } } })
}

function widened(journey: Journey, id: string, times: number): Journey {
  const leg = findLeg(journey, id)?.leg
  return leg ? editLeg(journey, id, { ink: { ...leg.ink, width: Math.min(100, tenths(leg.ink.width * times)) } }) : journey
}

/** Whether it has a time of its own: a name is seen as long as the camera is there, and a card that shares a rest as long as that is. */
function canLast(journey: Journey, subject: Finding['subject']): boolean {
  if (subject.kind === 'caption') return (journey.captions.find(({ id }) => id === subject.id)?.shown ?? null) !== null
  return subject.kind === 'card' && typeof cardOf(journey, subject)?.stays === 'number'
}

const cardOf = (journey: Journey, { stop, id }: { stop: string; id: string }): Postcard | undefined =>
  journey.stops.find((each) => each.id === stop)?.postcards.find((card) => card.id === id)

function longer(journey: Journey, subject: Finding['subject'], seconds: number): Journey {
  if (subject.kind === 'card') {
    const card = cardOf(journey, subject)
    return card && typeof card.stays === 'number'
      ? editPostcard(journey, subject.stop, subject.id, { stays: tenths(card.stays + seconds) })
      : journey
  }
  const shown = journey.captions.find(({ id }) => id === subject.id)?.shown
  return shown
    ? editCaption(journey, subject.id, { shown: { ...shown, to: { ...shown.to, offset: tenths(shown.to.offset + seconds) } } })
    : journey
}

const tenths = (seconds: number): number => Math.ceil(10 * seconds) / 10

const isLastStop = ({ travellers }: CompiledJourney, { kind, id }: Finding['subject']): boolean =>
  kind === 'stop' && travellers.some(({ traveller, visits }) => traveller.shown && visits.at(-1)?.stop.id === id)

/** The last visits of those that arrive too late rest for as long as it takes. */
function heldAtEnd(journey: Journey, { travellers, lastTime }: CompiledJourney, lack: number): Journey {
  return travellers.reduce((so, { traveller, visits }) => {
    const last = visits.at(-1)
    const rest = last && lastTime - last.arrive
    return rest === undefined || !traveller.shown ? so : setLayover(so, visits.length - 1, tenths(Math.max(rest, 0) + lack), traveller.id)
  }, journey)
}
