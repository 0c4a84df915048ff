import type { Point } from '../../geometry/point'
import type { Journey, Label, Pin, TextStyle } from '../../journey/schema'
import { editLandmark } from './landmarks'
import { editStop } from './stops'

export interface MarkPatch {
  name?: string
  at?: Point
  pin?: Partial<Pin>
  label?: Partial<Omit<Label, 'style'>> & { style?: Partial<TextStyle> }
}

/** Changes the given fields of a pin and a label, whosever they are. */
export function editMark(journey: Journey, id: string, patch: MarkPatch): Journey {
  const landmark = journey.landmarks.find((known) => known.id === id)
  if (landmark?.kind !== 'mark') return editStop(journey, id, patch)
  const { pin, label, ...rest } = patch
  const { style, ...labelled } = label ?? {}
  return editLandmark(journey, id, {
    ...rest,
    pin: { ...landmark.pin, ...pin },
    label: { ...landmark.label, ...labelled, style: { ...landmark.label.style, ...style } },
  })
}
