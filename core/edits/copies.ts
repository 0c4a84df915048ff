import { z } from 'zod'
import { produce } from 'immer'
import { findLeg } from '../journey/lookup'
import type { Journey, Shot, Stop } from '../journey/schema'
import { fontSchema, labelSchema, legSchema, LIMITS, pinSchema, postcardSchema, shotSchema, visitSchema } from '../journey/schema'
import { ownFamily } from '../type/families'
import { putShot } from './camera/shots'
import { editLeg } from './lines/legs'
import { addFont } from './marks/fonts'
import { inLookOf } from './marks/stops'

/**
 * What is copied of a leg, a stop or a shot, to be pasted onto others of its kind, also in another journey: its look and its timing, without what it is of, where it
 * lies, and what is written on it.
 */

const legLook = legSchema.pick({ ink: true, over: true, vehicle: true, changes: true })
const legTiming = legSchema.pick({ travel: true, easing: true, paceMarks: true })

/** Fields that only some kinds of shot have; those that both have are pasted. */
const shotLook = z.strictObject({
  bearing: z.number(),
  pitch: z.number(),
  shift: z.strictObject({ x: z.number(), y: z.number() }),
  fill: z.number(),
  zoom: z.number(),
  orbit: z.number(),
  dolly: z.object({ kind: z.string(), amount: z.number() }).nullable(),
  spin: z.number(),
  bySpeed: z.number(),
  lead: z.number(),
  turns: z.boolean(),
  smoothing: z.number(),
})
const LOOK_OF_SHOT = Object.keys(shotLook.shape) as (keyof typeof shotLook.shape)[]

export const copiedSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('leg'), look: legLook, timing: legTiming }),
  z.strictObject({
    kind: z.literal('stop'),
    look: z.strictObject({ pin: pinSchema, label: labelSchema, card: postcardSchema.nullable() }),
    /** Of the visit that was selected; null where none was. */
    timing: visitSchema.pick({ layover: true }).nullable(),
    /** Those of one's own that it is set in. */
    fonts: z.array(fontSchema).max(LIMITS.fonts),
  }),
  z.strictObject({
    kind: z.literal('shot'),
    look: shotLook.partial(),
    timing: z.strictObject({ transition: z.number(), easing: z.string() }),
  }),
])
export type Copied = z.output<typeof copiedSchema>

/** What of it is pasted. */
export type Pasted = 'look' | 'timing' | 'both'

export function copyLeg(journey: Journey, id: string): Copied | undefined {
  const leg = findLeg(journey, id)?.leg
  return leg && { kind: 'leg', look: legLook.strip().parse(leg), timing: legTiming.strip().parse(leg) }
}

/** @param visit the visit whose layover is copied, by traveller and its number in the itinerary */
export function copyStop(journey: Journey, id: string, visit?: { traveller: string; index: number }): Copied | undefined {
  const stop = journey.stops.find((entry) => entry.id === id)
  if (!stop) return undefined
  const { pin, label, postcards } = stop
  const layover = journey.travellers.find((who) => who.id === visit?.traveller)?.visits[visit!.index]?.layover
  return {
    kind: 'stop',
    look: { pin, label, card: postcards[0] ?? null },
    timing: layover === undefined ? null : { layover },
    fonts: journey.fonts.filter(({ file }) => label.style.family === ownFamily(file)),
  }
}

export function copyShot(shot: Shot): Copied {
  const fields: Record<string, unknown> = shot.kind === 'free' ? { ...shot, ...shot.view } : shot
  const look = Object.fromEntries(LOOK_OF_SHOT.filter((field) => field in fields).map((field) => [field, fields[field]]))
  return { kind: 'shot', look: shotLook.partial().parse(look), timing: { transition: shot.transition, easing: shot.easing } }
}

/**
 * Pastes what was copied onto things of its kind.
 * @param onto their ids; of shots the shots themselves, as those of a plan are not in the journey
 * @throws JourneyError if there are too many fonts
 */
export function paste(
  journey: Journey,
  copied: Copied,
  onto: { ids: readonly string[]; shot?: Shot; visit?: { traveller: string; index: number } },
  what: Pasted,
): Journey {
  const [look, timing] = [what !== 'timing', what !== 'look']
  switch (copied.kind) {
    case 'leg':
      return onto.ids.reduce((j, id) => editLeg(j, id, { ...(look && copied.look), ...(timing && copied.timing) }), journey)
    case 'stop': {
      const ids = new Set(onto.ids)
      const dressed = look
        ? produce(copied.fonts.reduce(addFont, journey), (draft) => {
            draft.stops = draft.stops.map((stop) => (ids.has(stop.id) ? inLookOf(stop as Stop, copied.look) : stop))
          })
        : journey
      const { visit } = onto
      if (!timing || !copied.timing) return dressed
      const { layover } = copied.timing
      return produce(dressed, (draft) => {
        for (const { id, visits } of draft.travellers)
          visits.forEach((entry, index) => {
            const isMeant = visit && onto.ids.length === 1 ? visit.traveller === id && visit.index === index : ids.has(entry.stop)
            if (isMeant) entry.layover = layover
          })
      })
    }
    case 'shot':
      return onto.shot ? putShot(journey, pastedShot(onto.shot, copied, look, timing)) : journey
    default:
      return copied satisfies never
  }
}

/** A shot with those fields of another that both have, held within the bounds of its own kind. */
function pastedShot(shot: Shot, copied: Extract<Copied, { kind: 'shot' }>, look: boolean, timing: boolean): Shot {
  const own = (of: object) => Object.fromEntries(Object.entries(copied.look).filter(([field]) => field in of))
  const view = shot.kind === 'free' ? { view: { ...shot.view, ...own(shot.view) } } : {}
  const changed = { ...shot, ...(look && { ...own(shot), ...view }), ...(timing && copied.timing) }
  const { success, data } = shotSchema.safeParse(changed)
  return success ? data : shot
}
