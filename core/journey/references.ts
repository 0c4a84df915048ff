import type { z } from 'zod'
import type { FamilyName } from '../type/families'
import { isOwnFamily, ownFamily } from '../type/families'
import type { JourneyBody } from './body-schema'
import type { Shot } from './shot-schema'
import { subjectsOf } from './shot-schema'
import type { Moment, Span } from './values'

/** Whether what a journey names is in it, and no two things have one id. */
export function checkReferences(journey: JourneyBody, context: z.RefinementCtx): void {
  const complain = (path: PropertyKey[], message: string) => context.addIssue({ code: 'custom', path, message })
  const known = new Set<string>()
  journey.stops.forEach((stop, i) => {
    if (known.has(stop.id)) complain(['stops', i, 'id'], `is "${stop.id}", which another stop has already`)
    known.add(stop.id)
  })
  const uniqueIds = (
    list: readonly { id: string }[],
    field: 'sheets' | 'areas' | 'networks' | 'travellers' | 'shots' | 'captions' | 'landmarks' | 'notes' | 'audio',
    what: string,
  ) => {
    const seen = new Set<string>()
    list.forEach((entry, i) => {
      if (seen.has(entry.id)) complain([field, i, 'id'], `is "${entry.id}", which another ${what} has already`)
      seen.add(entry.id)
    })
  }
  uniqueIds(journey.sheets, 'sheets', 'sheet')
  uniqueIds(journey.areas, 'areas', 'area')
  uniqueIds(journey.networks, 'networks', 'network')
  uniqueIds(journey.travellers, 'travellers', 'traveller')
  uniqueIds(journey.shots, 'shots', 'shot')
  uniqueIds(journey.captions, 'captions', 'caption')
  uniqueIds(journey.landmarks, 'landmarks', 'landmark')
  uniqueIds(journey.notes, 'notes', 'note')
  uniqueIds(journey.audio, 'audio', 'piece of sound')
  journey.landmarks.forEach(({ id }, i) => {
    if (known.has(id)) complain(['landmarks', i, 'id'], `is "${id}", which a stop has already`)
  })
  const checkMoment = (moment: Moment | undefined, path: PropertyKey[]) => {
    if (moment && 'stop' in moment && !journey.travellers.some(({ visits }) => visits.some((visit) => visit.stop === moment.stop)))
      complain([...path, 'stop'], `names the stop "${moment.stop}", which nobody visits`)
  }
  const legs = new Set(journey.travellers.flatMap((traveller) => traveller.legs.map(({ id }) => id)))
  const travellers = new Set(journey.travellers.map(({ id }) => id))
  const checkShot = (shot: Shot, path: PropertyKey[]) => {
    for (const subject of subjectsOf(shot)) {
      const at = [...path, ...subject.path]
      switch (subject.kind) {
        case 'stop':
          checkMoment({ at: 'arrival', stop: subject.id, offset: 0 }, at.slice(0, -1))
          break
        case 'leg':
          if (!legs.has(subject.id)) complain(at, `names the leg "${subject.id}", which is not in the journey`)
          break
        case 'traveller':
          if (!travellers.has(subject.id)) complain(at, `names the traveller "${subject.id}", who is not in the journey`)
          break
        default:
          subject.kind satisfies never
      }
    }
  }
  const checkSpan = (shown: Span | null, path: PropertyKey[]) => {
    for (const end of ['from', 'to'] as const) checkMoment(shown?.[end], [...path, 'shown', end])
  }
  journey.shots.forEach((shot, i) => {
    checkMoment(shot.at, ['shots', i, 'at'])
    checkShot(shot, ['shots', i])
  })
  const focus = journey.depth.softFocus?.on
  if (focus?.kind === 'stop') checkMoment({ at: 'arrival', stop: focus.stop, offset: 0 }, ['depth', 'softFocus', 'on'])
  journey.notes.forEach(({ at }, i) => checkMoment(at, ['notes', i, 'at']))
  journey.sheets.forEach((sheet, i) => {
    checkSpan(sheet.shown, ['sheets', i])
    const { crop } = sheet
    if (crop && !(crop.left < crop.right && crop.right <= sheet.width && crop.top < crop.bottom && crop.bottom <= sheet.height))
      complain(['sheets', i, 'crop'], 'is not a part of the sheet')
  })
  journey.areas.forEach((area, i) => checkSpan(area.shown, ['areas', i]))
  journey.landmarks.forEach(({ shown }, i) => checkSpan(shown, ['landmarks', i]))
  journey.captions.forEach(({ shown, content }, i) => {
    checkSpan(shown, ['captions', i])
    if ('traveller' in content && content.traveller !== null && !journey.travellers.some(({ id }) => id === content.traveller))
      complain(['captions', i, 'content', 'traveller'], `names the traveller "${content.traveller}", who is not in the journey`)
  })
  const fonts = new Set<string>(journey.fonts.map(({ file }) => ownFamily(file)))
  const checkFont = ({ family }: { family: FamilyName }, path: PropertyKey[]) => {
    if (isOwnFamily(family) && !fonts.has(family))
      complain([...path, 'style', 'family'], 'names a font that is not with the journey: add its file first')
  }
  journey.stops.forEach(({ label }, i) => checkFont(label.style, ['stops', i, 'label']))
  journey.landmarks.forEach((landmark, i) => landmark.kind === 'mark' && checkFont(landmark.label.style, ['landmarks', i, 'label']))
  journey.captions.forEach(({ style }, i) => checkFont(style, ['captions', i]))
  const legIds = new Set<string>()
  journey.travellers.forEach((traveller, t) => {
    const path = ['travellers', t]
    traveller.visits.forEach((visit, i) => {
      if (!known.has(visit.stop)) complain([...path, 'visits', i, 'stop'], `names the stop "${visit.stop}", which is not in the journey`)
    })
    const wanted = Math.max(0, traveller.visits.length - 1)
    if (traveller.legs.length !== wanted) {
      complain([...path, 'legs'], `has ${traveller.legs.length} legs, but ${traveller.visits.length} visits need ${wanted}`)
    }
    traveller.legs.forEach((leg, i) => {
      if (legIds.has(leg.id)) complain([...path, 'legs', i, 'id'], `is "${leg.id}", which another leg has already`)
      legIds.add(leg.id)
    })
  })
}
