import type { Look } from '~/stores/own-picture'

/** The views from which a picture may show a vehicle. */
export const VIEWS = [
  { value: 'side', title: 'From the side' },
  { value: 'above', title: 'From above' },
  { value: 'upright', title: 'Never turns' },
] as const satisfies readonly { value: Look['view']; title: string }[]
