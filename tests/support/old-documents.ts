import type { Journey } from '#core/journey/schema'
import { depthSchema, planSchema, soundsSchema } from '#core/journey/schema'

/** A journey as it could be before version 11: no globe, and nothing round it. */
export const withoutVersion11 = (journey: Journey): Journey => ({
  ...journey,
  plan: { ...journey.plan, globe: false },
  depth: { ...journey.depth, sky: depthSchema.parse({}).sky },
  shots: journey.shots.filter(({ kind }) => kind !== 'globe'),
})

/** A document of the present version as version 10 would have written it. */
export function asVersion10(document: unknown): Record<string, unknown> {
  type Fields = Record<string, unknown>
  const { plan, depth, ...rest } = JSON.parse(JSON.stringify(document)) as Fields & { plan: Fields; depth: Fields }
  const { globe, ...planned } = plan
  const { sky, ...deep } = depth
  void [globe, sky]
  return { ...rest, plan: planned, depth: deep, version: 10 }
}

/** A journey as it could be before version 10: the camera has views of one's own alone, and no plan. */
export const withoutVersion10 = (journey: Journey): Journey => ({
  ...withoutVersion11(journey),
  plan: planSchema.parse({}),
  reframes: [],
  depth: depthSchema.parse({}),
  shots: journey.shots.flatMap((shot) => (shot.kind === 'free' ? [{ ...shot, orbit: 0, dolly: null }] : [])),
})

/** A document of the present version as version 9 would have written it. */
export function asVersion9(document: unknown): Record<string, unknown> {
  type Fields = Record<string, unknown>
  const { plan, reframes, depth, shots, ...rest } = JSON.parse(JSON.stringify(document)) as Fields & { shots: Fields[] }
  void [plan, reframes, depth]
  return { ...rest, version: 9, views: shots.map(({ id, at, transition, easing, view }) => ({ id, at, transition, easing, view })) }
}

/** A journey as it could be before version 9: times shared out by length, legs travelled without marks, nothing held, noted or heard. */
export const withoutVersion9 = (journey: Journey): Journey => ({
  ...withoutVersion10(journey),
  share: { by: 'distance', exponent: journey.share.exponent },
  legSeconds: null,
  notes: [],
  audio: [],
  sounds: soundsSchema.parse({}),
  stops: journey.stops.map((stop) => ({ ...stop, postcards: stop.postcards.map((card) => ({ ...card, delay: 0 })) })),
  travellers: journey.travellers.map((traveller) => ({
    ...traveller,
    visits: traveller.visits.map((visit) => ({ ...visit, arriveAt: null, leaveAt: null })),
    legs: traveller.legs.map((leg) => ({
      ...leg,
      paceMarks: [],
      easing: typeof leg.easing === 'object' && 'kind' in leg.easing ? ('gentle' as const) : leg.easing,
    })),
  })),
})

/** A document of the present version as version 8 would have written it. */
export function asVersion8(document: unknown): Record<string, unknown> {
  type Fields = Record<string, unknown>
  const { share, legSeconds, notes, audio, sounds, stops, travellers, ...rest } = asVersion9(document) as Fields & {
    share: { exponent: number }
    stops: (Fields & { postcards: Fields[] })[]
    travellers: (Fields & { visits: Fields[]; legs: Fields[] })[]
  }
  const without = (fields: Fields, ...names: string[]) =>
    Object.fromEntries(Object.entries(fields).filter(([name]) => !names.includes(name)))
  void [legSeconds, notes, audio, sounds]
  return {
    ...rest,
    version: 8,
    shareExponent: share.exponent,
    stops: stops.map((stop) => ({ ...stop, postcards: stop.postcards.map((card) => without(card, 'delay')) })),
    travellers: travellers.map((traveller) => ({
      ...traveller,
      visits: traveller.visits.map((visit) => without(visit, 'arriveAt', 'leaveAt')),
      legs: traveller.legs.map((leg) => without(leg, 'paceMarks')),
    })),
  }
}

/** A journey as it could be before version 8: one postcard at a stop at most, framed as a print, on a side of its pin; vehicles that keep still. */
const withoutVersion8 = (now: Journey): Journey => {
  const journey = withoutVersion9(now)
  return {
    ...journey,
    landmarks: [],
    stops: journey.stops.map((stop) => ({
      ...stop,
      postcards: stop.postcards.slice(0, 1).map((card) => ({ ...card, id: 'card', frame: 'print', comes: 'pop', goes: 'fade' })),
    })),
    travellers: journey.travellers.map((traveller) => ({
      ...traveller,
      legs: traveller.legs.map(({ vehicle, ...leg }) => {
        const { lively, carries, ...still } = vehicle ?? {}
        void [lively, carries]
        return { ...leg, vehicle: vehicle && (still as typeof vehicle) }
      }),
    })),
  }
}

/** A document of the present version as version 7 would have written it. */
function asVersion7(document: unknown): Record<string, unknown> {
  const { stops, travellers, order, colours, landmarks, ...rest } = asVersion8(document) as {
    stops: { pin: Record<string, unknown>; postcards: Card[] }[]
    travellers: { legs: Record<string, unknown>[]; enters: unknown; changes: unknown; leaves: unknown }[]
    order: unknown
    colours: unknown
    landmarks: unknown
  }
  void [order, colours, landmarks]
  return {
    ...rest,
    version: 7,
    stops: stops.map(({ pin: { picture, ...pin }, postcards: [card], ...stop }) => ({
      ...stop,
      pin: (void picture, pin),
      postcard: card
        ? {
            photo: card.photo,
            text: card.text,
            side: card.place.side,
            size: card.size,
            tilt: card.tilt,
            paper: card.paper,
            colour: card.colour,
            stays: card.stays,
          }
        : null,
    })),
    travellers: travellers.map(({ legs, enters, changes, leaves, ...traveller }) => ({
      ...traveller,
      legs: legs.map(({ changes: rides, aside, vehicle, ...leg }) => {
        const { lively, carries, ...still } = (vehicle ?? {}) as Record<string, unknown>
        return (void [rides, aside, lively, carries, enters, changes, leaves], { ...leg, vehicle: vehicle && still })
      }),
    })),
  }
}

interface Card {
  photo: unknown
  text: string
  place: { side?: string }
  size: number
  tilt: number
  paper: string
  colour: string
  stays: unknown
}

/** A journey as it could be before version 7: labels on the right of their pins, no captions, no dates, distances in kilometres. */
export const withoutVersion7 = (now: Journey): Journey => {
  const journey = withoutVersion8(now)
  return {
    ...journey,
    captions: [],
    measures: { unit: 'km', metresPerUnit: null },
    travellers: journey.travellers.map((traveller) => ({
      ...traveller,
      visits: traveller.visits.map((visit) => ({ ...visit, date: null })),
    })),
    stops: journey.stops.map((stop) => ({ ...stop, label: { ...stop.label, place: { kind: 'side', side: 'right' } } })),
  }
}

/** A document of the present version as version 6 would have written it: no captions, no dates, and labels with the fields of their letters on a side. */
export function asVersion6(document: unknown): Record<string, unknown> {
  const { captions, measures, stops, travellers, ...rest } = asVersion7(document) as {
    captions: unknown
    measures: unknown
    stops: { label: Label }[]
    travellers: { visits: { date: unknown }[] }[]
  }
  void [captions, measures]
  return {
    ...rest,
    version: 6,
    stops: stops.map(({ label: { shown, place, style }, ...stop }) => ({
      ...stop,
      label: { shown, side: place.side ?? 'right', size: style.size, colour: style.colour, halo: style.halo.colour },
    })),
    travellers: travellers.map(({ visits, ...traveller }) => ({
      ...traveller,
      visits: visits.map(({ date, ...visit }) => (void date, visit)),
    })),
  }
}

interface Label {
  shown: boolean
  place: { side?: string }
  style: { size: number; colour: string; halo: { colour: string } }
}

/** A document of the present version as version 5 would have written it: its lines had all fields at once, its vehicles no kind, and a break was a gap. */
export function asVersion5(document: unknown): Record<string, unknown> {
  const { travellers, ...rest } = asVersion6(document) as { travellers: { legs: Leg[] }[] }
  return { ...rest, version: 5, travellers: travellers.map((traveller) => ({ ...traveller, legs: traveller.legs.map(oldLeg) })) }
}

interface Leg {
  ink: {
    colour: string
    width: number
    cap: string
    line: { kind: string; dash?: number; space?: number }
    glow: { colour: string; radius: number; strength: number } | null
  }
  vehicle: { kind: string; artwork: string; colour: string; size: number } | null
  course: { kind: string; nodes?: { break?: boolean }[] }
}

function oldLeg({ ink: { colour, width, cap, line, glow }, vehicle, course, ...rest }: Leg): unknown {
  return {
    ...rest,
    ink: {
      colour,
      width,
      cap,
      line: line.kind,
      dash: line.dash ?? 26,
      gap: line.space ?? 18,
      glow: glow && { colour: glow.colour, radius: glow.radius, strength: glow.strength },
    },
    vehicle: vehicle && { artwork: vehicle.artwork, colour: vehicle.colour, size: vehicle.size },
    course: course.nodes
      ? {
          ...course,
          nodes: course.nodes.map(({ break: isBroken, ...node }) => (isBroken === undefined ? node : { ...node, gap: isBroken })),
        }
      : course,
  }
}
