import { foldName } from './fold'

/** Qualifiers after a place name that say which one is meant: "Paris, Texas", "Cambridge, UK". */

/** Country names are recognised in these languages, besides English. */
const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'pt', 'nl', 'sv', 'pl', 'cs', 'tr', 'ru', 'uk', 'el', 'ar', 'he', 'hi', 'zh', 'ja', 'ko']

/** Common names of countries that are none of the above. */
const ALIASES: Record<string, readonly string[]> = {
  GB: ['uk', 'great britain', 'britain'],
  US: ['usa', 'us', 'america', 'united states of america'],
  AE: ['uae'],
  NL: ['holland'],
  CZ: ['czech republic'],
  CI: ['ivory coast'],
  KR: ['korea'],
  MM: ['burma'],
  TR: ['turkey'],
  SZ: ['swaziland'],
  MK: ['macedonia'],
}

/**
 * Abbreviations of states and provinces for which the list of places has other codes: those of Canada Post and Australia Post. Those of the United States
 * and of the parts of the United Kingdom are the list's own codes.
 */
const REGION_ABBREVIATIONS: Record<string, string> = {
  'CA ab': 'alberta',
  'CA bc': 'british columbia',
  'CA mb': 'manitoba',
  'CA nb': 'new brunswick',
  'CA nl': 'newfoundland and labrador',
  'CA ns': 'nova scotia',
  'CA nt': 'northwest territories',
  'CA nu': 'nunavut',
  'CA on': 'ontario',
  'CA pe': 'prince edward island',
  'CA qc': 'quebec',
  'CA sk': 'saskatchewan',
  'CA yt': 'yukon',
  'AU act': 'australian capital territory',
  'AU nsw': 'new south wales',
  'AU nt': 'northern territory',
  'AU qld': 'queensland',
  'AU sa': 'south australia',
  'AU tas': 'tasmania',
  'AU vic': 'victoria',
  'AU wa': 'western australia',
}

const inEnglish = new Intl.DisplayNames(['en'], { type: 'region' })
export const countryName = (code: string): string => inEnglish.of(code) ?? code

const known = new Map<string, string[]>()

/** All names of a country, folded. */
function countryNames(code: string): string[] {
  const names =
    known.get(code) ??
    [
      ...LANGUAGES.map((language) => foldName(new Intl.DisplayNames([language], { type: 'region' }).of(code) ?? '')),
      ...(ALIASES[code] ?? []),
      code.toLowerCase(),
    ].filter((name) => name !== '')
  known.set(code, names)
  return names
}

/** The country and region of a place. */
export interface Whereabouts {
  /** ISO 3166-1, two letters. */
  country: string
  /** State or province, and the list's code for it. */
  region: string
  code: string
}

/** The shortest beginning of a name that counts as a match. */
const FEWEST = 3

const agrees = (name: string, typed: string): boolean => name === typed || (typed.length >= FEWEST && name.startsWith(typed))

/** Whether a place matches all the qualifiers, which are folded. */
export const liesIn = ({ country, region, code }: Whereabouts, qualifiers: readonly string[]): boolean =>
  qualifiers.every((typed) => {
    if (countryNames(country).some((name) => agrees(name, typed))) return true
    const folded = foldName(region)
    return agrees(folded, typed) || code.toLowerCase() === typed || REGION_ABBREVIATIONS[`${country} ${typed}`] === folded
  })
