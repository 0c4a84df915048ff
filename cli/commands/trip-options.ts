import { parseArgs } from 'node:util'
import type { Temperament } from '#core/camera/temperament'
import type { FilmFormatId } from '#core/film/formats'
import type { Size } from '#core/geometry/size'
import type { MapStyle } from '#core/journey/schema'
import { MAP_STYLES } from '#core/journey/sheet-schema'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'
import { oneOf } from './map-options'
import { filmFormatOf, sizeOf, temperamentOf } from './render-options'

export interface TripOptions {
  /** The trip itself, or the path of a file with it. */
  written: { text: string } | { file: string }
  film: { out: string; format: FilmFormatId } | undefined
  /** Where the journey is written. */
  journeyOut: string | undefined
  size: Size | undefined
  plan: Temperament | undefined
  /** Of the map. */
  style: MapStyle
}

function read(args: readonly string[]): TripOptions {
  const option = { type: 'string' } as const
  let values
  try {
    ;({ values } = parseArgs({
      args: [...args],
      options: {
        text: option,
        file: option,
        out: option,
        'journey-out': option,
        size: option,
        plan: option,
        style: { type: 'string', default: 'atlas' },
      },
    }))
  } catch (error) {
    throw parseFault(error)
  }
  const { text, file, out, size, plan, style, 'journey-out': journeyOut } = values
  if ((text === undefined) === (file === undefined))
    throw new UsageError('The trip is missing: give it as --text or in a --file, one of the two.')
  if (out === undefined && journeyOut === undefined)
    throw new UsageError('--out is missing: say where the film is to be written, or with --journey-out the journey.')
  return {
    written: text === undefined ? { file: file! } : { text },
    film: out === undefined ? undefined : { out, format: filmFormatOf(undefined, out) },
    journeyOut,
    size: size === undefined ? undefined : sizeOf(size),
    plan: plan === undefined ? undefined : temperamentOf(plan),
    style: oneOf('--style', style, MAP_STYLES),
  }
}

/** Makes a journey, and a film, of a trip in a few words. */
export const tripOptions: CommandOptions<TripOptions> = {
  usage: `npm run trip -- --text "Lisbon - Madrid - Marrakesh"|--file trip.txt|trip.csv [--out FILE] [--journey-out FILE] [--size 1280x720] [--plan calm|lively|steady]
  [--style ${MAP_STYLES.join('|')}]`,
  read,
}
