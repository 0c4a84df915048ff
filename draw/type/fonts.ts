import type { Script } from '#core/type/families'
import { FAMILIES, familyOf, fileOf, isOwnFamily, weightOf } from '#core/type/families'
import type { FamilyId, FamilyName } from '#core/type/families'
import type { Face } from '#core/type/measure'
import { HOUSE_FACE } from '#core/type/measure'

/**
 * The typefaces of the film. Each comes in parts by script, and each part is registered under a family name of its own on both sides, so that browser and
 * server pick the same glyphs from the same files.
 */
export interface FontPart {
  /** The name under which it is registered. */
  registered: string
  /** The package of @fontsource that it is in, and its file name within that package's folder `files`; of a font of one's own, its typeface and the SHA-256 of its file. */
  family: FamilyName
  file: string
}

const nameOf = (family: FamilyId, weight: number, script: Script): string => `Zephyrine ${family} ${weight} ${script}`

/** The files of a face: one for each script. */
export function fontParts({ family, weight: asked }: Pick<Face, 'family' | 'weight'>): FontPart[] {
  if (isOwnFamily(family)) return [{ registered: `Zephyrine ${family}`, family, file: fileOf(family) }]
  const weight = weightOf(family, asked)
  return FAMILIES[family].scripts.map((script) => ({
    registered: nameOf(family, weight, script),
    family,
    file: `${family}-${script}-${weight}-normal.woff2`,
  }))
}

const stacks = new Map<string, string>()

function stackOf({ family, weight: asked }: Face): string {
  const weight = weightOf(family, asked)
  const key = `${family} ${weight}`
  const known = stacks.get(key)
  if (known !== undefined) return known
  const names = fontParts({ family, weight }).map(({ registered }) => registered)
  // A letter that the face has not is taken from the house's.
  const others = family === HOUSE_FACE.family ? [] : fontParts(HOUSE_FACE).map(({ registered }) => registered)
  const stack = [...names, ...others].map((name) => `"${name}"`).join(', ')
  stacks.set(key, stack)
  return stack
}

/** Sets letters of the given size, in the canvas's units. */
export function setFont(context: CanvasRenderingContext2D, size: number, face: Face = HOUSE_FACE): void {
  context.font = `${size}px ${stackOf(face)}, serif`
  context.wordSpacing = `${size * familyOf(face.family).wordSpace}px`
  context.letterSpacing = `${size * face.spacing}px`
}
