import type { Journey } from '#core/journey/schema'
import { audioSchema, fontSchema, gradeSchema, inkSchema, landmarkSchema, legSchema, pinSchema, sheetSchema } from '#core/journey/schema'
import { parseJourney } from '#core/journey/parse'
import { postcardSchema } from '#core/journey/postcard-schema'
import { journeyOver, paperSheet } from './journeys'

/** Names of files: SHA-256 as far as anything can tell. */
const fileHashOf = (i: number): string => i.toString(16).padStart(64, 'a')

/** Pictures in the order in which `journeyWithEveryFile` has them. */
export const PICTURES = 13

interface Files {
  /** The hash and the size of each of thirteen pictures. */
  picture: (i: number) => { image: string; width: number; height: number }
  font: unknown
  audio: { file: string; seconds: number }
  lut: string
}

const MADE_UP: Files = {
  picture: (i) => ({ image: fileHashOf(i), width: 400, height: 300 }),
  font: { file: fileHashOf(20), name: 'Own', capital: 700, widths: { a: 500 } },
  audio: { file: fileHashOf(21), seconds: 4 },
  lut: fileHashOf(22),
}

/** A journey that names a file at every place where one can be named, each another one. */
export function journeyWithEveryFile({ picture, font, audio, lut }: Files = MADE_UP): Journey {
  const trip = journeyOver(
    [
      [900, 700],
      [1500, 900],
      [2300, 800],
      [3000, 1500],
    ],
    {},
    20,
  )
  const own = fontSchema.parse(font)
  const stamped = (i: number) => ({ kind: 'stamped', stamp: 'own', picture: picture(i) })
  const [first, second, third] = trip.travellers[0]!.legs
  const legs = [
    { ...first!, ink: inkSchema.parse({ line: stamped(7), planned: { line: stamped(8) } }), vehicle: { kind: 'catalogue', artwork: 'airliner', emblem: { picture: picture(9) } } }, // prettier-ignore
    { ...second!, vehicle: { kind: 'image', picture: picture(10), carries: { kind: 'picture', picture: picture(12) } } },
    { ...third!, vehicle: { kind: 'catalogue', artwork: 'ferry', carries: { kind: 'picture', picture: picture(12) } }, changes: [{ at: 0.5, vehicle: { kind: 'image', picture: picture(11) } }] }, // prettier-ignore
  ].map((leg) => legSchema.parse(leg))
  return parseJourney({
    ...trip,
    sheets: [{ ...paperSheet, ...picture(0) }, sheetSchema.parse({ id: 'tracing', name: 'Tracing', ...picture(1), tracing: true })],
    fonts: [own],
    audio: [audioSchema.parse({ id: 'music', file: audio.file, name: 'Music', seconds: audio.seconds, to: audio.seconds })],
    grade: gradeSchema.parse({ lut: { file: lut, name: 'Cold' } }),
    stops: trip.stops.map((stop, i) => ({
      ...stop,
      ...(i === 0 && { pin: pinSchema.parse({ shape: 'own', picture: picture(3) }) }),
      ...(i === 1 && { postcards: [postcardSchema.parse({ id: 'card', photo: picture(2) })] }),
      ...(i === 2 && { label: { ...stop.label, style: { ...stop.label.style, family: `own-${own.file}` } } }),
    })),
    landmarks: [
      { kind: 'mark', id: 'mark', at: { x: 800, y: 800 }, pin: { shape: 'own', picture: picture(4) } },
      { kind: 'standing', id: 'standing', at: { x: 900, y: 800 }, picture: picture(5), width: 60 },
      { kind: 'lying', id: 'lying', at: { x: 1000, y: 800 }, picture: picture(6), width: 60 },
    ].map((landmark) => landmarkSchema.parse(landmark)),
    travellers: trip.travellers.map((traveller) => ({ ...traveller, legs })),
  })
}
