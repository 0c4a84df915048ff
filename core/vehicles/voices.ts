import type { VehicleId } from './catalogue'
import type { Choice } from './vehicle'

/** What is heard of a vehicle: an engine, that engine in the air, oars, wheels on rails, or a bell at the start. */
export type Voice = 'engine' | 'aircraft' | 'oars' | 'rails' | 'bell' | 'none'

const VOICES: Readonly<Record<VehicleId, Voice>> = {
  car: 'engine',
  hatchback: 'engine',
  camper: 'engine',
  jeep: 'engine',
  lorry: 'engine',
  bus: 'engine',
  'coach-above': 'engine',
  'three-wheeler': 'engine',
  motorbike: 'engine',
  scooter: 'engine',
  bicycle: 'bell',
  walker: 'none',
  train: 'rails',
  'steam-engine': 'rails',
  tram: 'rails',
  'railcar-above': 'rails',
  ferry: 'engine',
  'cruise-ship': 'engine',
  sailboat: 'none',
  'yacht-above': 'none',
  motorboat: 'engine',
  rowboat: 'oars',
  kayak: 'oars',
  seaplane: 'aircraft',
  airliner: 'aircraft',
  'jet-side': 'aircraft',
  helicopter: 'aircraft',
  balloon: 'none',
}

/** What is heard of a vehicle; of a picture of one's own nothing. */
export const voiceOf = (choice: Choice | null): Voice => (choice?.kind === 'catalogue' ? VOICES[choice.artwork] : 'none')
