import type { View } from '../camera/view'
import type { Journey } from '../journey/schema'
import type { CompiledJourney, CompiledTraveller } from './compile'
import type { Frame, FrameItem, InkItem, LabelItem, PinItem, VehicleItem } from './frame'
import { labelAppearanceAt, pinAppearanceAt } from './marks'
import type { Motion } from './motion'
import { inkLengthAt, motionAt } from './motion'

/** The frame of a compiled journey at a time in seconds, held within the film. The same time gives the same frame, however one got there. */
export function frameAt(compiled: CompiledJourney, seconds: number): Frame {
  const { journey, lastTime, travellers } = compiled
  const time = Math.min(Math.max(seconds, 0), lastTime)
  const motions = travellers.map((traveller) => motionAt(traveller, time, lastTime))
  const items: FrameItem[] = ground(journey)
  for (const traveller of travellers) items.push(...inks(traveller, time, lastTime))
  for (const traveller of travellers) items.push(...pins(traveller, time, lastTime))
  travellers.forEach((traveller, i) => items.push(...vehicle(traveller, motions[i])))
  for (const traveller of travellers) items.push(...labels(traveller, time, lastTime))
  return {
    time,
    size: { width: journey.frame.width, height: journey.frame.height },
    scale: compiled.scale,
    reference: compiled.reference,
    view: compiled.view,
    ground: journey.ground,
    items,
    motions,
  }
}

/** A frame as it lies on the table: seen in another view, without what belongs to the lens. */
export const onTable = (frame: Frame, view: View): Frame => ({
  ...frame,
  view,
  items: frame.items.filter((item) => item.kind !== 'edge-shade'),
})

function ground({ sheets }: Journey): FrameItem[] {
  const laid = sheets.map(({ image, width, height, wash }): FrameItem => ({ kind: 'sheet', image, width, height, wash }))
  const shades = sheets.flatMap(({ wash }): FrameItem[] => (wash?.edgeShade ? [{ kind: 'edge-shade', shade: wash.edgeShade }] : []))
  return [...laid, ...shades]
}

function inks(traveller: CompiledTraveller, time: number, lastTime: number): InkItem[] {
  return traveller.legs.flatMap(({ leg, course }, i) => {
    const head = inkLengthAt(traveller, i, time, lastTime)
    return head > 0 ? [{ kind: 'ink', leg: leg.id, course, head, ink: leg.ink } satisfies InkItem] : []
  })
}

function pins({ visits }: CompiledTraveller, time: number, lastTime: number): PinItem[] {
  return visits.flatMap(({ stop, arrive }) => {
    const seen = stop.pin.shape === 'none' ? undefined : pinAppearanceAt(time, arrive, lastTime)
    return seen ? [{ kind: 'pin', stop: stop.id, at: stop.at, pin: stop.pin, ...seen } satisfies PinItem] : []
  })
}

function labels({ visits }: CompiledTraveller, time: number, lastTime: number): LabelItem[] {
  return visits.flatMap(({ stop, arrive, labelPlace: place }) => {
    const { label, name } = stop
    const seen = label.shown && name !== '' ? labelAppearanceAt(time, arrive, lastTime) : undefined
    if (!seen) return []
    return [{ kind: 'label', stop: stop.id, at: stop.at, text: name, label, place, ...seen } satisfies LabelItem]
  })
}

function vehicle(traveller: CompiledTraveller, motion: Motion | undefined): VehicleItem[] {
  const state = motion?.vehicle
  if (!motion || !state) return []
  const { leg } = traveller.legs[state.leg]!
  const { rotation, mirrored, opacity, altitude } = state
  return [{ kind: 'vehicle', leg: leg.id, at: motion.position, vehicle: leg.vehicle!, rotation, mirrored, opacity, altitude }]
}
