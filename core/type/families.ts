/**
 * The typefaces that letters in the film are set in. All have Latin, Greek and Cyrillic letters, and come from @fontsource, a package each, in one file
 * for each weight and script.
 */
export const FAMILY_IDS = [
  'alegreya',
  'alegreya-sans',
  'sofia-sans-extra-condensed',
  'roboto-slab',
  'comfortaa',
  'jura',
  'playpen-sans',
  'oi',
] as const

export type FamilyId = (typeof FAMILY_IDS)[number]

/** A typeface from a font file of one's own, named by the SHA-256 of that file. */
export type OwnFamily = `own-${string}`
export type FamilyName = FamilyId | OwnFamily

export const ownFamily = (file: string): OwnFamily => `own-${file}`
export const isOwnFamily = (family: FamilyName): family is OwnFamily => family.startsWith('own-')
/** The SHA-256 of the file of a typeface of one's own. */
export const fileOf = (family: OwnFamily): string => family.slice('own-'.length)

export interface Family {
  name: string
  /** The weights that ship, from the lightest. */
  weights: readonly number[]
  /** The scripts that its files are for. */
  scripts: readonly Script[]
  /** What is added to its word space, in letter sizes: some have one as narrow as a thin space, and a quarter is usual (common practice, no source). */
  wordSpace: number
}

export type Script = 'latin' | 'latin-ext' | 'greek' | 'cyrillic' | 'vietnamese'

const ALL: readonly Script[] = ['latin', 'latin-ext', 'greek', 'cyrillic', 'vietnamese']
const MOST: readonly Script[] = ['latin', 'latin-ext', 'greek', 'cyrillic']

export const FAMILIES: Readonly<Record<FamilyId, Family>> = {
  alegreya: { name: 'Alegreya', weights: [400, 500, 700, 900], scripts: ALL, wordSpace: 0.08 },
  'alegreya-sans': { name: 'Alegreya Sans', weights: [400, 500, 700, 900], scripts: ALL, wordSpace: 0.06 },
  'sofia-sans-extra-condensed': { name: 'Sofia Condensed', weights: [400, 600, 800], scripts: MOST, wordSpace: 0.02 },
  'roboto-slab': { name: 'Roboto Slab', weights: [400, 700, 900], scripts: ALL, wordSpace: 0 },
  comfortaa: { name: 'Comfortaa', weights: [400, 700], scripts: ALL, wordSpace: 0 },
  jura: { name: 'Jura', weights: [400, 700], scripts: ALL, wordSpace: 0 },
  'playpen-sans': { name: 'Playpen', weights: [400, 600, 800], scripts: ALL, wordSpace: 0 },
  oi: { name: 'Oi', weights: [400], scripts: ALL, wordSpace: 0 },
}

/** A font file has one weight, and its word space is taken to be right. */
const OWN_FAMILY: Family = { name: 'A font of your own', weights: [400], scripts: [], wordSpace: 0 }

export const familyOf = (family: FamilyName): Family => (isOwnFamily(family) ? OWN_FAMILY : FAMILIES[family])

/** The weight of a family that is nearest to one asked for; of two equally near, the lighter. */
export function weightOf(family: FamilyName, asked: number): number {
  return familyOf(family).weights.reduce((best, weight) => (Math.abs(weight - asked) < Math.abs(best - asked) ? weight : best))
}
