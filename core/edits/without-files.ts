import { produce } from 'immer'
import { fileOf, isOwnFamily } from '../type/families'
import type { FileKind } from '../journey/files'
import { inksOf, textStylesOf } from '../journey/lookup'
import type { Ink, Journey, Pin, VehicleChoice } from '../journey/schema'
import { removeAudio } from './pace/audio'
import { removeLandmark } from './marks/landmarks'
import { removeSheet } from './ground/sheets'

/** What letters are set in whose font is gone. */
const STAND_IN_FAMILY = 'alegreya'

/**
 * A journey without the files that are gone, so that the rest of it can be opened: sheets, pictures beside the way, vehicles and sounds that were nothing
 * else are taken out; cards, pins, lines and letters become what they are without a picture or font of one's own.
 */
export function withoutFiles(journey: Journey, isGone: (kind: FileKind, hash: string) => boolean): Journey {
  const isImageGone = ({ image }: { image: string }) => isGone('images', image)
  const sheets = journey.sheets.filter(isImageGone)
  const pictures = journey.landmarks.filter((landmark) => landmark.kind !== 'mark' && isImageGone(landmark.picture))
  const sounds = journey.audio.filter(({ file }) => isGone('audio', file))
  const left = sounds.reduce(
    (so, { id }) => removeAudio(so, id),
    pictures.reduce(
      (so, { id }) => removeLandmark(so, id),
      sheets.reduce((so, { id }) => removeSheet(so, id), journey),
    ),
  )
  return produce(left, (draft) => {
    for (const marked of [...draft.stops, ...draft.landmarks]) if ('pin' in marked) plainPin(marked.pin, isImageGone)
    for (const { postcards } of draft.stops) for (const card of postcards) if (card.photo && isImageGone(card.photo)) card.photo = null
    for (const leg of draft.travellers.flatMap(({ legs }) => legs)) {
      for (const ink of inksOf(leg)) plainInk(ink, isImageGone)
      leg.changes = leg.changes.filter(({ vehicle }) => !isPictureGone(vehicle, isImageGone))
      if (isPictureGone(leg.vehicle, isImageGone)) leg.vehicle = null
      for (const vehicle of [leg.vehicle, ...leg.changes.map((change) => change.vehicle)]) if (vehicle) plainVehicle(vehicle, isImageGone)
    }
    if (draft.grade?.lut && isGone('luts', draft.grade.lut.file)) draft.grade.lut = null
    draft.fonts = draft.fonts.filter(({ file }) => !isGone('fonts', file))
    for (const style of textStylesOf(draft))
      if (isOwnFamily(style.family) && isGone('fonts', fileOf(style.family))) style.family = STAND_IN_FAMILY
  })
}

type IsGone = (picture: { image: string }) => boolean

function plainPin(pin: Pin, isGone: IsGone): void {
  if (!pin.picture || !isGone(pin.picture)) return
  pin.picture = null
  if (pin.shape === 'own') pin.shape = 'lantern'
}

function plainInk(ink: Ink, isGone: IsGone): void {
  for (const line of ink.planned ? [ink.line, ink.planned.line] : [ink.line]) {
    if (line.kind !== 'stamped' || !line.picture || !isGone(line.picture)) continue
    line.picture = null
    if (line.stamp === 'own') line.stamp = 'chevron'
  }
}

const isPictureGone = (vehicle: VehicleChoice | null, isGone: IsGone): boolean => vehicle?.kind === 'image' && isGone(vehicle.picture)

function plainVehicle(vehicle: VehicleChoice, isGone: IsGone): void {
  if (vehicle.kind === 'catalogue' && vehicle.emblem && isGone(vehicle.emblem.picture)) delete vehicle.emblem
  if (vehicle.carries?.kind === 'picture' && isGone(vehicle.carries.picture)) delete vehicle.carries
}
