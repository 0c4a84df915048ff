import type { CaptionContent, CaptionKind, Corner, DistanceUnit } from '#core/journey/schema'

/** A new caption of each kind. */
export const newContent = (kind: CaptionKind, name: string): CaptionContent => {
  switch (kind) {
    case 'title':
      return { kind, text: name, second: '' }
    case 'height':
      return { kind, traveller: null, unit: 'm' }
    case 'distance':
    case 'date':
    case 'day':
    case 'leg':
    case 'place':
      return { kind, traveller: null }
    case 'scale-bar':
    case 'north-arrow':
      return { kind }
    default:
      return kind satisfies never
  }
}

export const UNIT_CHOICES = [
  { value: 'km', title: 'Kilometres' },
  { value: 'mi', title: 'Miles' },
  { value: 'nmi', title: 'Nautical' },
] as const satisfies readonly { value: DistanceUnit; title: string }[]

/** The places of captions, as they lie in the frame. */
export const CORNER_GRID: readonly Corner[] = [
  'top-left',
  'top',
  'top-right',
  'left',
  'middle',
  'right',
  'bottom-left',
  'bottom',
  'bottom-right',
]
