import { clamp } from '../geometry/clamp'
import type { Size } from '../geometry/size'
import type { ViewTrack } from '../camera/view-track'
import type { Box } from '../geometry/box'
import type { Course } from '../geometry/course'
import type {
  Area,
  Caption,
  Journey,
  LandmarkMark,
  Leg,
  Postcard,
  Sheet,
  Shot,
  LyingPicture,
  Note,
  StandingPicture,
  Stop,
  Traveller,
  ValueMark,
  VehicleChange,
  VehicleChoice,
} from '../journey/schema'
import type { Vehicle } from '../dress/vehicle'
import type { EasingFunction } from '../pace/easing'
import type { Run } from './heading'
import type { LabelLayout } from '../marks/label-layout'
import type { CardTimes } from '../marks/card-times'
import type { Ruler } from './metres'
import type { CompiledSpan } from './span'
import type { Turning } from './turning'
import type { ValueTracks } from './values'

/** A journey made ready to be asked for any moment; plain data and functions, all times in seconds. */
export interface CompiledJourney {
  journey: Journey
  /** Number of frames, N; the last one shows `lastTime`. */
  frames: number
  lastTime: number
  /** Output pixels per reference pixel. */
  scale: number
  reference: Size
  /** The camera's views: see viewAt. */
  views: ViewTrack
  /** The shots that they come from, in the order of the film. */
  shots: CompiledShot[]
  travellers: CompiledTraveller[]
  /** The stops that are seen in the film, and the marks beside the way. */
  marks: CompiledMark[]
  /** The pictures that stand on the ground, and those that lie on it, as sheets. */
  standing: { picture: StandingPicture; shown: CompiledSpan }[]
  lying: { landmark: LyingPicture; sheet: Sheet; shown: CompiledSpan }[]
  /** The sheets and areas of the film, and when they are shown; tracing sheets are not among them. */
  sheets: { sheet: Sheet; shown: CompiledSpan }[]
  areas: { area: Area; shown: CompiledSpan }[]
  captions: CompiledCaption[]
  /** The values that change over time. */
  values: ValueTracks
  /** Their marks, and when they begin; it may be outside the film. */
  valueMarks: { mark: ValueMark; time: number }[]
  /** Notes, which are not in the film, and when they are. */
  notes: { note: Note; time: number }[]
}

/** A shot and when it is in force: the camera leaves for it, is there, and leaves for the next, in seconds. */
export interface CompiledShot {
  shot: Shot
  /** Whether it comes from the journey's plan, and not from the document. */
  isPlanned: boolean
  start: number
  end: number
  until: number
}

/** What has a pin and a label. */
export type Marked = Pick<Stop | LandmarkMark, 'id' | 'name' | 'at' | 'pin' | 'label'>

/** A title or readout, when it is shown, and what its distances are measured by, if that is known. */
export interface CompiledCaption {
  caption: Caption
  shown: CompiledSpan
  ruler: Ruler | undefined
}

export interface CompiledTraveller {
  traveller: Traveller
  visits: CompiledVisit[]
  legs: CompiledLeg[]
}

export interface CompiledVisit {
  stop: Stop
  arrive: number
  leave: number
  /** The day of arrival, as year-month-day, if it is known. */
  date: string | null
}

/** A label set and placed, when it begins to appear, and in how many parts it does. */
export interface CompiledLabel extends LabelLayout {
  from: number
  parts: number
}

/** A stop that is seen in the film, with the first arrival at it, or a mark beside the way. */
export interface CompiledMark {
  stop: Marked
  isStop: boolean
  /** When it is reached and left; of a mark beside the way, when it comes and is gone, or -Infinity and Infinity. */
  arrive: number
  leave: number
  date: string | null
  /** When it is seen at all; a mark beside the way fades when its time is over. */
  shown: CompiledSpan
  /** The number of a stop in the order of arrival, from 1; 0 of others. */
  number: number
  /** Undefined where no name is shown. */
  label: CompiledLabel | undefined
  /** Its cards that have anything on them, in the order in which they are shown. */
  postcards: CompiledPostcard[]
}

export interface CompiledPostcard extends CardTimes {
  postcard: Postcard
  /** What the vehicles cover about its stop that rest there while it is seen, in reference pixels. */
  clearOf: Box
}

export interface CompiledLeg extends TimedLeg {
  /** The zoom half-way through its time: the pattern of its ink, which is measured on the ground, looks as it should at this one. */
  patternZoom: number
  rides: Ride[]
}

/** A part of a leg that one vehicle travels: the first one from its beginning, others from a mark on. */
export interface TimedRide {
  /** As the journey names it, and ready to be placed and painted. */
  choice: VehicleChoice | null
  vehicle: Vehicle | null
  /** The length of the course at which it begins, and when that is reached. */
  from: number
  at: number
  how: VehicleChange['how']
  /** How long that takes; undefined for the usual. */
  seconds: number | undefined
  /** Which of the leg's changes it begins with; null for the vehicle with which the leg begins. */
  change: number | null
}

export interface Ride extends TimedRide {
  /** How the vehicle turns here and on neighbouring parts that it also travels. */
  stretch: Stretch
}

/** Consecutive legs that look as if one vehicle travels them, and how it turns on them and at their stops. */
export interface Stretch {
  /** Direction of the vehicle in radians, 0 to the right, clockwise positive. */
  heading: Turning
  /** How far the nose of a vehicle seen from the side points down, in radians, and whether it faces left. */
  lean: Turning
  left(t: number): boolean
}

/** A leg's course, and how and when it is travelled. */
export interface TimedLeg {
  leg: Leg
  /** At least one, from the first to the last. */
  rides: TimedRide[]
  course: Course
  depart: number
  arrive: number
  progress: EasingFunction
  /** The run this leg is part of, and where on it the leg begins. */
  run: Run
  runOffset: number
}

/** The part of a leg that is travelled at a length of its course. */
export const rideAt = <R extends TimedRide>({ rides }: { rides: readonly R[] }, s: number): R =>
  rides.findLast(({ from }) => from <= s) ?? rides[0]!

/** Length travelled on a leg at time t, within 0..its course's length. */
export function lengthAt(
  { course, depart, arrive, progress }: Pick<TimedLeg, 'course' | 'depart' | 'arrive' | 'progress'>,
  t: number,
): number {
  if (t >= arrive) return course.length
  // An easing may swing beyond its ends; the traveller waits there.
  return t <= depart ? 0 : course.length * clamp(progress((t - depart) / (arrive - depart)), 0, 1)
}

/** When a length of a leg's course is reached, to a fraction of a frame. */
export function timeAt(leg: Pick<TimedLeg, 'course' | 'depart' | 'arrive' | 'progress'>, s: number): number {
  let [low, high] = [leg.depart, leg.arrive]
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2
    if (lengthAt(leg, middle) < s) low = middle
    else high = middle
  }
  return high
}
