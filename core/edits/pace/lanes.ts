import { clamp } from '../../geometry/clamp'
import type { CompiledJourney } from '../../trips/compiled'
import { lengthAt } from '../../trips/compiled'
import type { CompiledSpan } from '../../trips/span'
import { pinStart, USUAL_PIN_COMING } from '../../marks/pins'
import { findLeg, nameOfCaption, nameOfStop, nameOfValueMark } from '../../journey/lookup'
import type { Journey, Moment, Span } from '../../journey/schema'
import { editCaption } from '../marks/captions'
import { editLandmark } from '../marks/landmarks'
import { editLeg } from '../lines/legs'
import { editPostcard } from '../marks/postcards'
import { editArea, editSheet } from '../ground/sheets'
import { editStop } from '../marks/stops'
import { editValueMark } from './values'
import { MOST_WITHIN } from '../../journey/schema'

/** What appears and leaves in a film, in lanes under the trip: as bars that can be moved, and stay tied to what they were tied to. */

export const LANES = ['pins', 'cards', 'titles', 'landmarks', 'maps', 'areas', 'vehicles', 'values'] as const
export type LaneKind = (typeof LANES)[number]

export interface LaneBar {
  /** Unique in its lane. */
  id: string
  lane: LaneKind
  name: string
  /** In seconds, within the film. */
  from: number
  to: number
  /** Which of its ends can be moved on their own; the whole bar always can. */
  ends: { from: boolean; to: boolean }
  target: LaneTarget
}

/** What a bar stands for. */
type LaneTarget =
  | { kind: 'stop'; id: string }
  | { kind: 'postcard'; stop: string; id: string }
  | { kind: 'caption'; id: string }
  | { kind: 'landmark'; id: string }
  | { kind: 'sheet'; id: string }
  | { kind: 'area'; id: string }
  | { kind: 'change'; leg: string; index: number }
  | { kind: 'value'; id: string }

/** The bars of all lanes, in the order in which things come. */
export function laneBars(compiled: CompiledJourney): LaneBar[] {
  const { lastTime, marks, sheets, areas, captions, travellers, valueMarks } = compiled
  const within = (time: number) => clamp(time, 0, lastTime)
  const pictures = [...compiled.standing.map(({ picture, shown }) => ({ landmark: picture, shown })), ...compiled.lying]
  const spanned = (lane: LaneKind, name: string, { from, to }: CompiledSpan, target: LaneTarget & { id: string }): LaneBar => ({
    id: target.id,
    lane,
    name,
    from: within(from),
    to: within(to),
    ends: { from: true, to: true },
    target,
  })
  const bars = [
    ...marks
      .filter(({ isStop }) => isStop)
      .flatMap(({ stop, arrive, postcards }): LaneBar[] => [
        {
          id: stop.id,
          lane: 'pins',
          name: nameOfStop(stop),
          from: within(pinStart(arrive, stop.pin, lastTime)),
          to: within(pinStart(arrive, stop.pin, lastTime) + (stop.pin.comesIn ?? USUAL_PIN_COMING)),
          ends: { from: false, to: false },
          target: { kind: 'stop', id: stop.id },
        },
        ...postcards.map(({ postcard, from, to }): LaneBar => ({
          id: `${stop.id} ${postcard.id}`,
          lane: 'cards',
          name: postcard.text.trim() || `Photo at ${nameOfStop(stop)}`,
          from: within(from),
          to: within(to),
          ends: { from: true, to: true },
          target: { kind: 'postcard', stop: stop.id, id: postcard.id },
        })),
      ]),
    ...captions.map(({ caption, shown }) => spanned('titles', nameOfCaption(caption), shown, { kind: 'caption', id: caption.id })),
    ...marks
      .filter(({ isStop }) => !isStop)
      .map(({ stop, shown }) => spanned('landmarks', stop.name || 'Mark', shown, { kind: 'landmark', id: stop.id })),
    ...pictures.map(({ landmark, shown }) =>
      spanned('landmarks', landmark.name || 'Picture', shown, { kind: 'landmark', id: landmark.id }),
    ),
    ...sheets.map(({ sheet, shown }) => spanned('maps', sheet.name, shown, { kind: 'sheet', id: sheet.id })),
    ...areas.map(({ area, shown }) => spanned('areas', area.name, shown, { kind: 'area', id: area.id })),
    ...travellers.flatMap(({ traveller, legs }) =>
      (traveller.shown ? legs : []).flatMap(({ leg, rides, arrive }) =>
        rides.flatMap((ride, i): LaneBar[] =>
          ride.change === null
            ? []
            : [
                {
                  id: `${leg.id} ${ride.change}`,
                  lane: 'vehicles',
                  name: ride.choice === null ? 'No vehicle' : 'Vehicle takes over',
                  from: within(ride.at),
                  to: within(rides[i + 1]?.at ?? arrive),
                  ends: { from: true, to: false },
                  target: { kind: 'change', leg: leg.id, index: ride.change },
                },
              ],
        ),
      ),
    ),
    ...valueMarks.map(({ mark, time }): LaneBar => ({
      id: mark.id,
      lane: 'values',
      name: nameOfValueMark(mark),
      from: within(time),
      to: within(time + mark.within),
      ends: { from: false, to: true },
      target: { kind: 'value', id: mark.id },
    })),
  ]
  return bars.sort((a, b) => LANES.indexOf(a.lane) - LANES.indexOf(b.lane) || a.from - b.from)
}

/** Which part of a bar is moved. */
export type BarPart = 'whole' | 'from' | 'to'

const rounded = (seconds: number): number => Math.round(seconds * 1000) / 1000

/**
 * The journey with a bar moved, or one of its ends. What it is tied to stays the same: an arrival, a departure, the film's start or end.
 * @param by seconds; what would leave the bounds of its field is held there
 */
export function moveBar(
  journey: Journey,
  compiled: CompiledJourney,
  { target, from, to }: Pick<LaneBar, 'target' | 'from' | 'to'>,
  part: BarPart,
  by: number,
): Journey {
  const spanned = (shown: Span | null) => movedSpan(shown, compiled.lastTime, part, by)
  switch (target.kind) {
    case 'stop': {
      const stop = journey.stops.find(({ id }) => id === target.id)
      return stop ? editStop(journey, target.id, { pin: { delay: bounded(stop.pin.delay + by) } }) : journey
    }
    case 'postcard': {
      const card = journey.stops.find(({ id }) => id === target.stop)?.postcards.find(({ id }) => id === target.id)
      if (!card) return journey
      const delay = part === 'to' ? card.delay : bounded(card.delay + by)
      const stays = part === 'whole' ? card.stays : Math.max(0.5, rounded(to - from + (part === 'to' ? by : -by)))
      return editPostcard(journey, target.stop, target.id, { delay, stays })
    }
    case 'caption': {
      const caption = journey.captions.find(({ id }) => id === target.id)
      return caption ? editCaption(journey, target.id, { shown: spanned(caption.shown) }) : journey
    }
    case 'landmark': {
      const landmark = journey.landmarks.find(({ id }) => id === target.id)
      return landmark ? editLandmark(journey, target.id, { shown: spanned(landmark.shown) }) : journey
    }
    case 'sheet': {
      const sheet = journey.sheets.find(({ id }) => id === target.id)
      return sheet ? editSheet(journey, target.id, { shown: spanned(sheet.shown) }) : journey
    }
    case 'area': {
      const area = journey.areas.find(({ id }) => id === target.id)
      return area ? editArea(journey, target.id, { shown: spanned(area.shown) }) : journey
    }
    case 'change':
      return movedChange(journey, compiled, target, from + by)
    case 'value': {
      const mark = journey.valueMarks.find(({ id }) => id === target.id)
      if (!mark) return journey
      if (part === 'to') return editValueMark(journey, mark.id, { within: clamp(rounded(to - from + by), 0, MOST_WITHIN) })
      return editValueMark(journey, mark.id, { at: movedMoment(mark.at, compiled.lastTime, by) })
    }
    default:
      return target satisfies never
  }
}

const bounded = (delay: number): number => clamp(rounded(delay), -30, 30)

/** A span of something that was there all the time begins at the film's start and ends at its end. */
function movedSpan(shown: Span | null, lastTime: number, part: BarPart, by: number): Span {
  const { from, to, fade } = shown ?? { from: { at: 'start', offset: 0 }, to: { at: 'end', offset: 0 }, fade: 0.6 }
  const moved = (moment: Moment) => movedMoment(moment, lastTime, by)
  return { from: part === 'to' ? from : moved(from), to: part === 'from' ? to : moved(to), fade }
}

const movedMoment = (moment: Moment, lastTime: number, by: number): Moment => ({
  ...moment,
  offset: clamp(rounded(moment.offset + by), -lastTime - 1, lastTime + 1),
})

/** A change of the vehicle takes place where the traveller is at that time. */
function movedChange(
  journey: Journey,
  { travellers }: CompiledJourney,
  { leg: id, index }: { leg: string; index: number },
  time: number,
): Journey {
  const compiled = travellers.flatMap(({ legs }) => legs).find(({ leg }) => leg.id === id)
  const leg = findLeg(journey, id)?.leg
  if (!compiled || !leg?.changes[index] || compiled.course.length === 0) return journey
  const at = clamp(rounded(lengthAt(compiled, time) / compiled.course.length), 0.001, 0.999)
  return editLeg(journey, id, { changes: leg.changes.map((change, i) => (i === index ? { ...change, at } : change)) })
}
