import type { VehicleId } from '../vehicles/catalogue'

/** Ways of getting from one place to the next, as people write them. */
export interface ModeOfTravel {
  title: string
  /** What is written of it, in small letters: "by train", "fly to". The first one is used where it is written out. */
  words: readonly string[]
  vehicle: VehicleId
  /** How far one usually goes by it between two stops, in km: what is far beyond that is unlikely (common practice, no source). */
  reach: number
}

export const MODES = {
  fly: {
    title: 'Flight',
    words: ['plane', 'fly', 'flight', 'flew', 'flying', 'air', 'aeroplane', 'airplane'],
    vehicle: 'airliner',
    reach: 3000,
  },
  train: { title: 'Train', words: ['train', 'rail', 'railway', 'night train', 'sleeper train', 'sleeper'], vehicle: 'train', reach: 500 },
  ferry: { title: 'Ferry', words: ['ferry', 'boat', 'ship', 'sea', 'cruise'], vehicle: 'ferry', reach: 300 },
  sail: { title: 'Sailing boat', words: ['sailing boat', 'sail', 'sailing', 'yacht', 'sailboat'], vehicle: 'sailboat', reach: 150 },
  drive: {
    title: 'Car',
    words: ['car', 'drive', 'driving', 'drove', 'road', 'road trip', 'taxi', 'hire car', 'rental car'],
    vehicle: 'hatchback',
    reach: 350,
  },
  camper: { title: 'Camper van', words: ['camper van', 'camper', 'van', 'motorhome', 'campervan'], vehicle: 'camper', reach: 350 },
  bus: { title: 'Coach', words: ['bus', 'coach', 'night bus', 'minibus'], vehicle: 'bus', reach: 350 },
  motorbike: { title: 'Motorbike', words: ['motorbike', 'motorcycle'], vehicle: 'motorbike', reach: 300 },
  bike: { title: 'Bicycle', words: ['bike', 'bicycle', 'cycle', 'cycling', 'cycled'], vehicle: 'bicycle', reach: 80 },
  walk: { title: 'On foot', words: ['foot', 'walk', 'walking', 'walked', 'hike', 'hiking', 'hiked', 'trek'], vehicle: 'walker', reach: 25 },
} as const satisfies Record<string, ModeOfTravel>

export type Mode = keyof typeof MODES
export const MODE_IDS = Object.keys(MODES) as [Mode, ...Mode[]]

/** All words and the modes that they mean, the longest first, so that "night train" is found before "train". */
const MODE_WORDS: readonly (readonly [word: string, mode: Mode])[] = MODE_IDS.flatMap((mode) =>
  MODES[mode].words.map((word) => [word, mode] as const),
).sort(([a], [b]) => b.length - a.length)

/** The words, for a regular expression. */
export const MODE_PATTERN = MODE_WORDS.map(([word]) => word.replaceAll(' ', '\\s+')).join('|')
export const modeOf = (word: string): Mode => MODE_WORDS.find(([known]) => known === word.toLowerCase().replaceAll(/\s+/g, ' '))![1]

/** The word alone, in brackets, or with "by". */
const ALONE = new RegExp(`^[(\\[]?(?:(?:by|on|a|an|the|in)\\s+)*(${MODE_PATTERN})[)\\]]?$`, 'iu')

/** The way of getting somewhere that a text says and nothing else. */
export function modeIn(text: string): Mode | undefined {
  const match = ALONE.exec(text)
  return match ? modeOf(match[1]!) : undefined
}
