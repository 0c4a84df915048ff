import { z } from 'zod'
import { NAMED_CURVES } from '../pace/easing'
import { colour, id, momentSchema, unit } from './values'

/** Values that change over time: marks, from each of which on a value goes to another one. */

const CURVES = Object.keys(NAMED_CURVES) as [keyof typeof NAMED_CURVES, ...(keyof typeof NAMED_CURVES)[]]

/** The longest that a value may take to change, in seconds. */
export const MOST_WITHIN = 60

const when = {
  id,
  at: momentSchema,
  /** How long it takes, in seconds; 0 is at once. */
  within: z.number().min(0).max(MOST_WITHIN).default(1),
  easing: z.enum(CURVES).default('ease-in-out'),
}

/** `to` is a share of the value that is set, which it has before its first mark; a colour; or of how much the map is dimmed, the share itself, 0 at first. */
export const valueMarkSchema = z.discriminatedUnion('value', [
  z.strictObject({ value: z.literal('line-width'), leg: id, to: z.number().min(0).max(10), ...when }),
  z.strictObject({ value: z.literal('line-opacity'), leg: id, to: unit, ...when }),
  z.strictObject({ value: z.literal('line-light'), leg: id, to: z.number().min(0).max(4), ...when }),
  z.strictObject({ value: z.literal('line-colour'), leg: id, to: colour, ...when }),
  z.strictObject({ value: z.literal('vehicle-size'), traveller: id, to: z.number().min(0).max(5), ...when }),
  z.strictObject({ value: z.literal('pin-size'), stop: id, to: z.number().min(0).max(5), ...when }),
  z.strictObject({ value: z.literal('name-size'), stop: id, to: z.number().min(0).max(5), ...when }),
  z.strictObject({ value: z.literal('sheet-opacity'), sheet: id, to: unit, ...when }),
  z.strictObject({ value: z.literal('wash'), sheet: id, to: unit, ...when }),
  z.strictObject({ value: z.literal('edge-shade'), sheet: id, to: unit, ...when }),
  z.strictObject({ value: z.literal('map-dim'), to: unit, ...when }),
])

export type ValueMark = z.output<typeof valueMarkSchema>
export type ChangingValue = ValueMark['value']

/** What has the value of a mark; undefined where that is the journey. A stop may also be a mark beside the way. */
export function ownerOf(mark: ValueMark): { kind: 'leg' | 'traveller' | 'stop' | 'sheet'; id: string } | undefined {
  if ('leg' in mark) return { kind: 'leg', id: mark.leg }
  if ('traveller' in mark) return { kind: 'traveller', id: mark.traveller }
  if ('stop' in mark) return { kind: 'stop', id: mark.stop }
  return 'sheet' in mark ? { kind: 'sheet', id: mark.sheet } : undefined
}
