import type { Traveller, VehicleChange } from '#core/journey/schema'
import type { Voice } from '#core/vehicles/artwork'
import type { Look } from '~/stores/own-picture'

/** The views from which a picture may show a vehicle. */
export const VIEWS = [
  { value: 'side', title: 'From the side' },
  { value: 'above', title: 'From above' },
  { value: 'upright', title: 'Never turns' },
] as const satisfies readonly { value: Look['view']; title: string }[]

/** What a picture of one's own may sound like. */
export const VOICE_CHOICES = [
  { value: 'engine', title: 'Engine' },
  { value: 'aircraft', title: 'Aircraft' },
  { value: 'oars', title: 'Oars' },
  { value: 'rails', title: 'Wheels on rails' },
  { value: 'bell', title: 'Bicycle bell' },
  { value: 'none', title: 'Nothing' },
] as const satisfies readonly { value: Voice; title: string }[]

/** How a vehicle takes over from another. */
export const CHANGE_STYLES = [
  { value: 'fade', title: 'Fades' },
  { value: 'pop', title: 'Pops up' },
  { value: 'cut', title: 'At once' },
] as const satisfies readonly { value: VehicleChange['how']; title: string }[]

/** How the first vehicle of a trip comes, and how the last one leaves. */
export const ENTERS = [
  { value: 'none', title: 'At once' },
  { value: 'fade', title: 'Fades in' },
  { value: 'pop', title: 'Pops up' },
] as const satisfies readonly { value: Traveller['enters']; title: string }[]
export const LEAVES = [
  { value: 'fade', title: 'Fades out' },
  { value: 'shrink', title: 'Shrinks' },
  { value: 'none', title: 'At once' },
] as const satisfies readonly { value: Traveller['leaves']; title: string }[]
