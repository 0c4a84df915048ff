import type { VehicleId } from './catalogue'
import type { Choice } from './vehicle'

/** How fast each vehicle travels on average, in km/h: round figures, common practice, no source. */
const SPEEDS: Readonly<Record<VehicleId, number>> = {
  car: 80,
  hatchback: 80,
  camper: 70,
  jeep: 60,
  lorry: 70,
  bus: 60,
  'coach-above': 80,
  'three-wheeler': 30,
  motorbike: 80,
  scooter: 40,
  bicycle: 18,
  walker: 5,
  train: 120,
  'steam-engine': 60,
  tram: 20,
  'railcar-above': 80,
  ferry: 35,
  'cruise-ship': 40,
  sailboat: 10,
  'yacht-above': 12,
  motorboat: 45,
  rowboat: 5,
  kayak: 5,
  seaplane: 220,
  airliner: 850,
  'jet-side': 850,
  helicopter: 220,
  balloon: 20,
}

/** Of a picture of one's own, or where nothing is seen to travel. */
const USUAL_SPEED = 60

/** How fast a vehicle travels, in km/h: as its maker said, or as such vehicles do. */
export const speedOf = (choice: Choice | null): number =>
  choice?.speed ?? (choice?.kind === 'catalogue' ? SPEEDS[choice.artwork] : USUAL_SPEED)
