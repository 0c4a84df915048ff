import { GREATEST_PITCH } from '#core/camera/view'
import type { ChaseShot, Shot, ShotOf } from '#core/journey/schema'
import type { FieldSpec } from '~/components/fields/field-list'

/** The fields of shots in the details, apart from the zoom, which is told against the map. */

const tilt = { key: 'pitch', label: 'Pitch', as: 'number', min: 0, max: GREATEST_PITCH, step: 1, precision: 1, unit: '°' } as const

export const AIM_FIELDS: readonly FieldSpec<{ bearing: number; pitch: number }>[] = [
  { key: 'bearing', label: 'Bearing', as: 'number', min: -180, max: 180, step: 1, precision: 1, unit: '°' },
  tilt,
]

/** How a chase follows. */
export const CHASE_FIELDS: readonly FieldSpec<ChaseShot>[] = [
  { key: 'smoothing', label: 'Smoothness', as: 'number', min: 0, max: 4, step: 0.1, precision: 1, unit: 's' },
  { key: 'lead', label: 'Room ahead', as: 'percent' },
  { key: 'bySpeed', label: 'Draws back', as: 'percent' },
  { key: 'turns', label: 'Turns with the road', as: 'switch' },
]

/** How the globe turns. */
export const GLOBE_FIELDS: readonly FieldSpec<ShotOf<'globe'>>[] = [
  { key: 'spin', label: 'Spins', as: 'number', min: -90, max: 90, step: 1, precision: 1, unit: '°/s' },
]

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
const by: FieldSpec<DollyFields> = { key: 'amount', label: 'By', as: 'number', min: 0, max: 2, step: 0.05, precision: 2 }

export const dollyFields = (of: Shot['dolly']): readonly FieldSpec<DollyFields>[] => (of ? [dolly, by] : [dolly])

export const MOTION_TITLES = {
  linear: 'Even',
  'ease-in': 'Starts slowly',
  'ease-out': 'Ends slowly',
  'ease-in-out': 'Slow at both ends',
} as const
