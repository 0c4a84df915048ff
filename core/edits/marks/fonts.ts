import { textStylesOf } from '../../journey/lookup'
import type { Journey, OwnFont } from '../../journey/schema'
import { LIMITS } from '../../journey/schema'
import { JourneyError } from '../../error'
import { ownFamily } from '../../type/families'

/** Changes to the fonts of a journey: pure functions, journey in, journey out, as in journey.ts. */

/** Adds a font of one's own, if the journey does not have it yet; those that no text is set in any more are left out. @throws JourneyError if there are too many */
export function addFont(journey: Journey, font: OwnFont): Journey {
  if (journey.fonts.some(({ file }) => file === font.file)) return journey
  const used = new Set<string>(textStylesOf(journey).map(({ family }) => family))
  const kept = journey.fonts.filter(({ file }) => used.has(ownFamily(file)))
  if (kept.length >= LIMITS.fonts)
    throw new JourneyError(`A journey has at most ${LIMITS.fonts} fonts of its own: set texts in fewer of them.`)
  return { ...journey, fonts: [...kept, font] }
}
