import type { ChangingValue, ValueMark } from '#core/journey/schema'

/** What has the values that a section of the details lists: those of a leg and its traveller, of a stop or a mark beside the way, or of a sheet and the map. */
export interface ValueOwners {
  leg?: string
  traveller?: string
  stop?: string
  sheet?: string
}

/** A change on offer: what has the value, what it goes to at first, and the most that a slider gives. */
interface ValueChoice {
  owner: 'leg' | 'traveller' | 'stop' | 'sheet' | null
  /** Before any change; a colour has the one that is set. */
  initial: number | null
  to: number | string
  usual: readonly [number, number]
}

export const VALUE_CHOICES: Readonly<Record<ChangingValue, ValueChoice>> = {
  'line-width': { owner: 'leg', initial: 1, to: 2, usual: [0, 4] },
  'line-opacity': { owner: 'leg', initial: 1, to: 0.3, usual: [0, 1] },
  'line-light': { owner: 'leg', initial: 1, to: 0.2, usual: [0, 2] },
  'line-colour': { owner: 'leg', initial: null, to: '#c9962b', usual: [0, 1] },
  'vehicle-size': { owner: 'traveller', initial: 1, to: 1.5, usual: [0, 3] },
  'pin-size': { owner: 'stop', initial: 1, to: 1.5, usual: [0, 3] },
  'name-size': { owner: 'stop', initial: 1, to: 1.5, usual: [0, 3] },
  'sheet-opacity': { owner: 'sheet', initial: 1, to: 0.5, usual: [0, 1] },
  wash: { owner: 'sheet', initial: 1, to: 0, usual: [0, 1] },
  'edge-shade': { owner: 'sheet', initial: 1, to: 0, usual: [0, 1] },
  'map-dim': { owner: null, initial: 0, to: 0.5, usual: [0, 1] },
}

/** Whether a mark is of one of these. */
export function isOf(mark: ValueMark, owners: ValueOwners): boolean {
  const { owner } = VALUE_CHOICES[mark.value]
  if (owner === null) return owners.sheet !== undefined
  return owners[owner] !== undefined && owner in mark && mark[owner as keyof ValueMark] === owners[owner]
}
