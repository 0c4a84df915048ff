import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import sharp from 'sharp'
import type { EarthPicture, EarthSurface } from '#core/maps/map-raster'
import type { EarthGrid } from '#core/maps/relief'
import { shadeGrid } from '#core/maps/relief'

/** Pictures of the whole Earth by NASA (public domain), as the package three-globe carries them among its examples. */
const folder = () => join(dirname(createRequire(join(process.cwd(), 'package.json')).resolve('three-globe')), '../example/img')

const PICTURES = { day: 'earth-blue-marble.jpg', night: 'earth-night.jpg' } as const

/** Reads the picture of the Earth by day or by night. */
export async function readEarthPicture(of: keyof typeof PICTURES): Promise<EarthPicture> {
  const { data, info } = await sharp(join(folder(), PICTURES[of])).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, rgb: data }
}

/**
 * Metres to a step of grey in the picture of heights. The package does not say: measured at Lhasa (3650 m, grey 187), La Paz (3640 m, 190), Denver (1600 m, 86)
 * and Madrid (650 m, 37), whose heights are from memory.
 */
const METRES_OF_GREY = 19.3

/** Reads heights, and the depths of the sea as far as the picture by day tells them: the deeper the darker. */
export async function readEarthSurface(): Promise<EarthSurface> {
  const read = async (name: string, width?: number) => {
    const picture = sharp(join(folder(), name)).removeAlpha()
    return (width ? picture.resize(width) : picture).raw().toBuffer({ resolveWithObject: true })
  }
  const [heights, day] = await Promise.all([read('earth-topology.png'), read(PICTURES.day, 2048)])
  const height = gridOf(heights, ([grey]) => METRES_OF_GREY * grey)
  return { height, shade: shadeGrid(height), depth: gridOf(day, depthOf) }
}

type Read = { data: Buffer; info: { width: number; height: number; channels: number } }

function gridOf(
  { data, info: { width, height, channels } }: Read,
  valueOf: (pixel: readonly [number, number, number]) => number,
): EarthGrid {
  const values = new Float32Array(width * height)
  for (let i = 0; i < values.length; i++) {
    const at = channels * i
    values[i] = valueOf([data[at]!, data[at + Math.min(1, channels - 1)]!, data[at + Math.min(2, channels - 1)]!])
  }
  return { width, height, values }
}

/** Blue in the picture by day, 0..255, where the sea is deepest and where it is shallow. */
const DEEP = 25
const SHALLOW = 130

function depthOf([red, green, blue]: readonly [number, number, number]): number {
  const isLand = red > blue || red + green > 1.6 * blue
  return isLand ? 0 : Math.min(1, Math.max(0, (SHALLOW - blue) / (SHALLOW - DEEP)))
}
