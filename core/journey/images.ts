import { inksOf } from './lookup'
import type { Journey, Photo, Sheet } from './schema'

/** An image that a journey shows, and what to tell people if it is missing. */
interface ShownImage {
  image: Pick<Sheet | Photo, 'image' | 'width' | 'height' | 'vector'>
  missing: string
}

/** All images of a journey: those of its sheets, postcards, pins, landmarks and vehicles. */
export function imagesOf({ sheets, stops, landmarks, travellers }: Journey): ShownImage[] {
  const pins = [...stops, ...landmarks].flatMap((place) => ('pin' in place ? [place.pin] : []))
  const vehicles = travellers.flatMap(({ legs }) =>
    legs.flatMap(({ vehicle, changes }) => [vehicle, ...changes.map((change) => change.vehicle)].flatMap((choice) => choice ?? [])),
  )
  const lines = travellers.flatMap(({ legs }) =>
    legs.flatMap((leg) => inksOf(leg).flatMap((ink) => (ink.planned ? [ink.line, ink.planned.line] : [ink.line]))),
  )
  return [
    ...sheets.map((sheet) => ({ image: sheet, missing: `The picture of the sheet “${sheet.name}” is not here: import it again.` })),
    ...stops.flatMap(({ name, postcards }) =>
      postcards.flatMap(({ photo }) =>
        photo ? [{ image: photo, missing: `A photo at the stop “${name}” is not here: choose it again.` }] : [],
      ),
    ),
    ...pins.flatMap(({ picture }) => (picture ? [{ image: picture, missing: 'The picture of a pin is not here: choose it again.' }] : [])),
    ...landmarks.flatMap((landmark) =>
      landmark.kind === 'mark'
        ? []
        : [{ image: landmark.picture, missing: `The picture “${landmark.name}” beside the way is not here: choose it again.` }],
    ),
    ...lines.flatMap((line) =>
      line.kind === 'stamped' && line.picture
        ? [{ image: line.picture, missing: 'The picture of a line’s marks is not here: choose it again.' }]
        : [],
    ),
    ...vehicles.flatMap((vehicle) => [
      ...(vehicle.kind === 'catalogue' && vehicle.emblem
        ? [{ image: vehicle.emblem.picture, missing: 'The emblem of a vehicle is not here: choose it again.' }]
        : []),
      ...(vehicle.kind === 'image' ? [{ image: vehicle.picture, missing: 'The picture of a vehicle is not here: choose it again.' }] : []),
      ...(vehicle.carries?.kind === 'picture'
        ? [{ image: vehicle.carries.picture, missing: 'A picture that a vehicle carries is not here: choose it again.' }]
        : []),
    ]),
  ]
}
