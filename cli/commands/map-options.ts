import { parseArgs } from 'node:util'
import type { DrawnMap } from '#core/journey/schema'
import { drawnMapSchema, MAP_STYLES } from '#core/journey/sheet-schema'
import type { CommandOptions } from '../command'
import { parseFault, UsageError } from '../command'
import { joined, regionIn } from './region'

export interface MapOptions {
  map: DrawnMap
  /** Pixels of the picture. */
  width: number
  height: number
  out: string
}

const PROJECTIONS = drawnMapSchema.shape.projection.options
const ENDINGS = ['.png', '.webp', '.jpg']

/** The longest side of a picture in pixels. */
const MOST = 16_384

function read(args: readonly string[]): MapOptions {
  let values
  try {
    ;({ values } = parseArgs({
      args: joined(args, '--region'),
      options: {
        region: { type: 'string' },
        style: { type: 'string', default: 'atlas' },
        projection: { type: 'string', default: 'conic' },
        size: { type: 'string', default: '3840x2160' },
        'without-borders': { type: 'boolean', default: false },
        'without-rivers': { type: 'boolean', default: false },
        towns: { type: 'boolean', default: false },
        degrees: { type: 'boolean', default: false },
        scale: { type: 'boolean', default: false },
        out: { type: 'string' },
      },
    }))
  } catch (error) {
    throw parseFault(error)
  }
  const { region, out } = values
  if (region === undefined) throw new UsageError('--region is missing: west, south, east and north in degrees, like -12,35,32,61.')
  if (out === undefined || !ENDINGS.some((ending) => out.endsWith(ending)))
    throw new UsageError(`--out is missing: a file that ends in ${ENDINGS.join(', ')}.`)
  const [, width, height] = (/^(\d+)x(\d+)$/.exec(values.size) ?? []).map(Number)
  if (!width || !height || Math.max(width, height) > MOST)
    throw new UsageError(`--size should be width and height in pixels, up to ${MOST}, like 3840x2160, not “${values.size}”.`)
  const { success, data } = drawnMapSchema.safeParse({
    region: regionIn(region),
    projection: oneOf('--projection', values.projection, PROJECTIONS),
    style: oneOf('--style', values.style, MAP_STYLES),
    borders: !values['without-borders'],
    rivers: !values['without-rivers'],
    towns: values.towns,
    graticule: values.degrees,
    scaleBar: values.scale,
    aspect: width / height,
  })
  if (!success) throw new UsageError('--size should be at most five times as wide as high, or as high as wide.')
  return { map: data, width, height, out }
}

export function oneOf<T extends string>(option: string, value: string, choices: readonly T[]): T {
  const found = choices.find((choice) => choice === value)
  if (!found) throw new UsageError(`${option} should be one of ${choices.join(', ')}, not “${value}”.`)
  return found
}

/** Draws a generated map as a picture. */
export const mapOptions: CommandOptions<MapOptions> = {
  usage: `npm run map -- --region W,S,E,N --out FILE.png|.webp|.jpg [--style ${MAP_STYLES.join('|')}] [--projection ${PROJECTIONS.join('|')}]
                 [--size 3840x2160] [--towns] [--degrees] [--scale] [--without-borders] [--without-rivers]`,
  read,
}
