import type { Caption, CaptionContent, Corner, Journey, Measures, TextStyle } from '../../journey/schema'
import { captionSchema } from '../../journey/schema'

/** Changes to titles and readouts: pure functions, journey in, journey out, as in journey.ts. */

export type CaptionPatch = Partial<Omit<Caption, 'id' | 'style'>> & { style?: Partial<TextStyle> }

/** Where each kind stands at first, how large its letters are, and the word over it. */
const FIRST: Readonly<Record<CaptionContent['kind'], { corner: Corner; size: number; heading: string }>> = {
  title: { corner: 'middle', size: 120, heading: '' },
  distance: { corner: 'bottom-left', size: 60, heading: 'Distance' },
  date: { corner: 'top-left', size: 44, heading: '' },
  day: { corner: 'top-left', size: 60, heading: '' },
  height: { corner: 'bottom-left', size: 60, heading: 'Height' },
  leg: { corner: 'top', size: 48, heading: '' },
  place: { corner: 'top', size: 56, heading: 'Now at' },
  'scale-bar': { corner: 'bottom-right', size: 36, heading: '' },
  'north-arrow': { corner: 'top-right', size: 40, heading: '' },
}

/** A title is there for the first seconds; all else is there all the time. */
const TITLE_SECONDS = 3

/** Adds a caption, in the letters of the last one of the journey or of its labels. */
export function addCaption(journey: Journey, id: string, content: CaptionContent): Journey {
  const { corner, size, heading } = FIRST[content.kind]
  const model = journey.captions.at(-1)?.style ?? journey.stops[0]?.label.style
  const isTitle = content.kind === 'title'
  const span = { from: { at: 'start', offset: 0 }, to: { at: 'start', offset: Math.min(TITLE_SECONDS, journey.seconds / 3) }, fade: 0.5 }
  const caption = captionSchema.parse({
    id,
    content,
    corner,
    heading,
    style: { ...model, size },
    appears: { style: isTitle ? 'rise' : 'fade', by: isTitle ? 'word' : 'whole' },
    shown: isTitle ? span : null,
  })
  return { ...journey, captions: [...journey.captions, caption] }
}

/** Changes the given fields of a caption. */
export const editCaption = (journey: Journey, id: string, { style, ...patch }: CaptionPatch): Journey => ({
  ...journey,
  captions: journey.captions.map((caption) =>
    caption.id === id ? { ...caption, ...patch, style: style ? { ...caption.style, ...style } : caption.style } : caption,
  ),
})

export const removeCaption = (journey: Journey, id: string): Journey => ({
  ...journey,
  captions: journey.captions.filter((caption) => caption.id !== id),
})

/** Moves a caption to another place in the order. */
export function moveCaption(journey: Journey, from: number, to: number): Journey {
  const captions = [...journey.captions]
  const [moved] = captions.splice(from, 1)
  if (!moved || to < 0 || to > captions.length) return journey
  captions.splice(to, 0, moved)
  return { ...journey, captions }
}

export const setMeasures = (journey: Journey, patch: Partial<Measures>): Journey => ({
  ...journey,
  measures: { ...journey.measures, ...patch },
})
