import { FAMILIES, FAMILY_IDS, familyOf, weightOf } from '#core/type/families'
import type { FamilyName } from '#core/type/families'
import { boundsOf } from '#core/journey/bounds'
import type { Appears, Plate, TextStyle } from '#core/journey/schema'
import { textStyleSchema } from '#core/journey/schema'
import type { FieldSpec } from '~/components/fields/field-list'

export const FAMILY_CHOICES = FAMILY_IDS.map((value) => ({ value, title: FAMILIES[value].name }))

const WEIGHT_NAMES: Readonly<Record<number, string>> = {
  400: 'Regular',
  500: 'Medium',
  600: 'Semi-bold',
  700: 'Bold',
  800: 'Extra bold',
  900: 'Black',
}

/** The weights of a typeface. */
export const weightChoices = (family: FamilyName) =>
  familyOf(family).weights.map((weight) => ({ value: String(weight), title: WEIGHT_NAMES[weight]! }))

export const HALO_FIELDS: readonly FieldSpec<NonNullable<TextStyle['halo']>>[] = [
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'width', label: 'Width', as: 'number', ...boundsOf(textStyleSchema, 'halo.width'), step: 0.01, precision: 2, unit: '×' },
]

export const PLATE_FIELDS: readonly FieldSpec<Plate>[] = [
  {
    key: 'shape',
    label: 'Shape',
    as: 'choice',
    choices: [
      { value: 'box', title: 'Box' },
      { value: 'rounded', title: 'Rounded' },
      { value: 'pill', title: 'Pill' },
      { value: 'banner', title: 'Banner' },
      { value: 'underline', title: 'Line' },
    ],
  },
  { key: 'colour', label: 'Colour', as: 'colour' },
  { key: 'opacity', label: 'Opacity', as: 'percent' },
]

export const CASES = [
  { value: 'as-written', title: 'As written' },
  { value: 'capitals', title: 'CAPITALS' },
  { value: 'small-letters', title: 'small' },
] as const satisfies readonly { value: TextStyle['case']; title: string }[]

export const APPEARS_STYLES = [
  { value: 'pop', title: 'Pop' },
  { value: 'fade', title: 'Fade' },
  { value: 'rise', title: 'Rise' },
  { value: 'wipe', title: 'Wipe' },
  { value: 'none', title: 'Cut' },
] as const satisfies readonly { value: Appears['style']; title: string }[]

export const APPEARS_BY = [
  { value: 'whole', title: 'Whole' },
  { value: 'word', title: 'By word' },
  { value: 'letter', title: 'By letter' },
] as const satisfies readonly { value: Appears['by']; title: string }[]

/** What is set of letters besides their typeface, size and colour. */
export function noteOf({ halo, plate, spacing, case: as, shadow }: TextStyle): string {
  const words = [
    halo && 'halo',
    plate && (plate.shape === 'underline' ? 'underline' : plate.shape),
    as !== 'as-written' && (as === 'capitals' ? 'capitals' : 'small letters'),
    spacing !== 0 && 'spaced',
    shadow > 0 && 'shadow',
  ]
  return words.filter(Boolean).join(', ') || 'none'
}

/** A style in another typeface, at the nearest weight that this has. */
export const inFamily = ({ weight }: Pick<TextStyle, 'weight'>, family: FamilyName): Partial<TextStyle> => ({
  family,
  weight: weightOf(family, weight),
})
