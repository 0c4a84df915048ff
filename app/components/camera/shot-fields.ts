import { boundsOf } from '#core/journey/bounds'
import type { Shot, ShotKind, ShotOf } from '#core/journey/schema'
import { shotSchema } from '#core/journey/schema'
import type { FieldSpec } from '~/components/fields/field-list'

/** The fields of shots in the details, apart from the zoom, which is told against the map. */

export const AIM_FIELDS: readonly FieldSpec<{ bearing: number; pitch: number }>[] = [
  { key: 'bearing', label: 'Bearing', as: 'number', ...boundsOf(shotSchema, 'bearing'), precision: 1, unit: '°' },
  { key: 'pitch', label: 'Pitch', as: 'number', ...boundsOf(shotSchema, 'pitch'), precision: 1, unit: '°' },
]

/** How a kind of shot is edited, apart from what most have: what its subject is called, what stands for none, and fields of its own. */
export interface KindFields<S> {
  of?: string
  none?: string
  own?: readonly FieldSpec<S>[]
}

export const SHOT_FIELDS: { readonly [K in ShotKind]: KindFields<ShotOf<K>> } = {
  overview: {},
  globe: {
    of: 'In front',
    none: 'The whole trip',
    own: [{ key: 'spin', label: 'Spins', as: 'number', ...boundsOf(shotSchema, 'spin'), precision: 1, unit: '°/s' }],
  },
  leg: { of: 'Of' },
  chase: {
    of: 'Follows',
    own: [
      { key: 'smoothing', label: 'Smoothness', as: 'number', ...boundsOf(shotSchema, 'smoothing'), step: 0.1, precision: 1, unit: 's' },
      { key: 'lead', label: 'Room ahead', as: 'percent' },
      { key: 'bySpeed', label: 'Draws back', as: 'percent' },
      { key: 'turns', label: 'Turns with the road', as: 'switch' },
    ],
  },
  'close-up': { of: 'Of' },
  free: {},
}

/** A dolly as fields; still is none. */
export interface DollyFields {
  kind: NonNullable<Shot['dolly']>['kind'] | 'still'
  amount: number
}

const dolly: FieldSpec<DollyFields> = {
  key: 'kind',
  label: 'Moves',
  as: 'choice',
  choices: [
    { value: 'still', title: 'Still' },
    { value: 'rise', title: 'Rises' },
    { value: 'descend', title: 'Descends' },
    { value: 'level-out', title: 'Levels' },
  ],
}
const by: FieldSpec<DollyFields> = {
  key: 'amount',
  label: 'By',
  as: 'number',
  ...boundsOf(shotSchema, 'dolly.amount'),
  step: 0.05,
  precision: 2,
}

export const dollyFields = (of: Shot['dolly']): readonly FieldSpec<DollyFields>[] => (of ? [dolly, by] : [dolly])

export const MOTION_TITLES = {
  linear: 'Even',
  'ease-in': 'Starts slowly',
  'ease-out': 'Ends slowly',
  'ease-in-out': 'Slow at both ends',
} as const
