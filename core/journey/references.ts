import type { z } from 'zod'
import type { FamilyName } from '../type/families'
import { isOwnFamily, ownFamily } from '../type/families'
import type { JourneyBody } from './body-schema'
import { markedOf } from './lookup'
import type { Shot } from './shot-schema'
import { subjectsOf } from './shot-schema'
import { ownerOf } from './value-schema'
import type { Moment, Span } from './values'

type Complain = (path: PropertyKey[], message: string) => void
type Check = (journey: JourneyBody, complain: Complain) => void

/** Whether what a journey names is in it, and no two things have one id. */
export function checkReferences(journey: JourneyBody, context: z.RefinementCtx): void {
  const complain: Complain = (path, message) => context.addIssue({ code: 'custom', path, message })
  for (const check of [checkIds, checkTrips, checkMoments, checkShots, checkValueMarks, checkCaptions, checkCrops, checkFonts])
    check(journey, complain)
}

/** What the things of each list are called. */
const LISTS = {
  stops: 'stop',
  sheets: 'sheet',
  areas: 'area',
  networks: 'network',
  travellers: 'traveller',
  shots: 'shot',
  captions: 'caption',
  landmarks: 'landmark',
  notes: 'note',
  valueMarks: 'value mark',
  audio: 'piece of sound',
} as const satisfies Partial<Record<keyof JourneyBody, string>>

const checkIds: Check = (journey, complain) => {
  for (const [field, what] of Object.entries(LISTS) as [keyof typeof LISTS, string][]) {
    const seen = new Set<string>()
    journey[field].forEach(({ id }, i) => {
      if (seen.has(id)) complain([field, i, 'id'], `is "${id}", which another ${what} has already`)
      seen.add(id)
    })
  }
  const stops = new Set(journey.stops.map(({ id }) => id))
  journey.landmarks.forEach(({ id }, i) => {
    if (stops.has(id)) complain(['landmarks', i, 'id'], `is "${id}", which a stop has already`)
  })
}

const checkTrips: Check = ({ stops, travellers }, complain) => {
  const known = new Set(stops.map(({ id }) => id))
  const legIds = new Set<string>()
  travellers.forEach(({ visits, legs }, t) => {
    const path = ['travellers', t]
    visits.forEach(({ stop }, i) => {
      if (!known.has(stop)) complain([...path, 'visits', i, 'stop'], `names the stop "${stop}", which is not in the journey`)
    })
    const wanted = Math.max(0, visits.length - 1)
    if (legs.length !== wanted) complain([...path, 'legs'], `has ${legs.length} legs, but ${visits.length} visits need ${wanted}`)
    legs.forEach(({ id }, i) => {
      if (legIds.has(id)) complain([...path, 'legs', i, 'id'], `is "${id}", which another leg has already`)
      legIds.add(id)
    })
  })
}

const visitedStops = ({ travellers }: JourneyBody) => new Set(travellers.flatMap(({ visits }) => visits.map(({ stop }) => stop)))

const checkMoments: Check = (journey, complain) => {
  const visited = visitedStops(journey)
  const checkMoment = (moment: Moment, path: PropertyKey[]) => {
    if ('stop' in moment && !visited.has(moment.stop)) complain([...path, 'stop'], `names the stop "${moment.stop}", which nobody visits`)
  }
  const checkSpan = (shown: Span | null, path: PropertyKey[]) => {
    for (const end of ['from', 'to'] as const) if (shown) checkMoment(shown[end], [...path, 'shown', end])
  }
  for (const field of ['sheets', 'areas', 'landmarks', 'captions'] as const)
    journey[field].forEach(({ shown }, i) => checkSpan(shown, [field, i]))
  for (const field of ['shots', 'notes', 'valueMarks'] as const) journey[field].forEach(({ at }, i) => checkMoment(at, [field, i, 'at']))
}

const checkShots: Check = (journey, complain) => {
  const left = {
    stop: { ids: visitedStops(journey), why: 'which nobody visits' },
    leg: { ids: new Set(journey.travellers.flatMap(({ legs }) => legs.map(({ id }) => id))), why: 'which is not in the journey' },
    traveller: { ids: new Set(journey.travellers.map(({ id }) => id)), why: 'who is not in the journey' },
  }
  const checkShot = (shot: Shot, path: PropertyKey[]) => {
    for (const { kind, id, path: where } of subjectsOf(shot))
      if (!left[kind].ids.has(id)) complain([...path, ...where], `names the ${kind} "${id}", ${left[kind].why}`)
  }
  journey.shots.forEach((shot, i) => checkShot(shot, ['shots', i]))
  const focus = journey.depth.softFocus?.on
  if (focus?.kind === 'stop' && !left.stop.ids.has(focus.stop))
    complain(['depth', 'softFocus', 'on', 'stop'], `names the stop "${focus.stop}", ${left.stop.why}`)
}

const checkValueMarks: Check = (journey, complain) => {
  const { valueMarks, travellers, sheets } = journey
  const known = {
    leg: new Set(travellers.flatMap(({ legs }) => legs.map(({ id }) => id))),
    traveller: new Set(travellers.map(({ id }) => id)),
    stop: new Set(markedOf(journey).map(({ id }) => id)),
    sheet: new Set(sheets.map(({ id }) => id)),
  }
  valueMarks.forEach((mark, i) => {
    const owner = ownerOf(mark)
    if (owner && !known[owner.kind].has(owner.id))
      complain(['valueMarks', i, owner.kind], `names the ${owner.kind} "${owner.id}", which is not in the journey`)
  })
}

const checkCaptions: Check = ({ captions, travellers }, complain) =>
  captions.forEach(({ content }, i) => {
    if ('traveller' in content && content.traveller !== null && !travellers.some(({ id }) => id === content.traveller))
      complain(['captions', i, 'content', 'traveller'], `names the traveller "${content.traveller}", who is not in the journey`)
  })

const checkCrops: Check = ({ sheets }, complain) =>
  sheets.forEach(({ crop, width, height }, i) => {
    if (crop && !(crop.left < crop.right && crop.right <= width && crop.top < crop.bottom && crop.bottom <= height))
      complain(['sheets', i, 'crop'], 'is not a part of the sheet')
  })

const checkFonts: Check = ({ fonts, stops, landmarks, captions }, complain) => {
  const known = new Set<string>(fonts.map(({ file }) => ownFamily(file)))
  const checkFont = ({ family }: { family: FamilyName }, path: PropertyKey[]) => {
    if (isOwnFamily(family) && !known.has(family))
      complain([...path, 'style', 'family'], 'names a font that is not with the journey: add its file first')
  }
  stops.forEach(({ label }, i) => checkFont(label.style, ['stops', i, 'label']))
  landmarks.forEach((landmark, i) => landmark.kind === 'mark' && checkFont(landmark.label.style, ['landmarks', i, 'label']))
  captions.forEach(({ style }, i) => checkFont(style, ['captions', i]))
}
