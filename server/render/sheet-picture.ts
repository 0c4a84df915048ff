import { existsSync } from 'node:fs'
import sharp from 'sharp'
import type { CompiledJourney } from '#core/frame/compile'
import { toGround } from '#core/camera/view'
import { JourneyError } from '#core/journey/error'
import type { Wash } from '#core/journey/schema'
import { levelFor, levelSize, levelsOf } from '#core/sheet/levels'
import { IMAGE_LIMITS } from '#core/sheet/limits'
import type { SheetPicture } from '#draw/studio'
import { imagePath, levelPath } from '../storage/image-files'
import { createServerSurface } from './studio'

/**
 * Loads, for each sheet of a journey, the part that its view shows, from the smallest copy that still has a pixel for each output pixel.
 * @throws JourneyError if a sheet's picture is not in the data folder
 */
export async function loadSheetPictures(folder: string, compiled: CompiledJourney, scale: number): Promise<Map<string, SheetPicture>> {
  const pictures = new Map<string, SheetPicture>()
  for (const sheet of compiled.journey.sheets) {
    if (!existsSync(imagePath(folder, sheet.image))) {
      throw new JourneyError(`The picture of the sheet “${sheet.name}” is missing in ${folder}: import it again.`)
    }
    const picture = await loadPart(folder, sheet.image, sheet, compiled, scale)
    if (picture) pictures.set(sheet.image, picture)
  }
  return pictures
}

async function loadPart(
  folder: string,
  hash: string,
  size: { width: number; height: number; wash: Wash | null },
  { view, reference }: CompiledJourney,
  scale: number,
): Promise<SheetPicture | undefined> {
  const level = levelFor(levelsOf(size), 1 / (view.zoom * scale)) ?? 0
  const path = level === 0 ? imagePath(folder, hash) : levelPath(folder, hash, level)
  const pixels = levelSize(size, level)
  const [kx, ky] = [pixels.width / size.width, pixels.height / size.height]
  // Some pixels more than the frame shows, so that smoothing and blur at its edge see what lies beyond.
  const margin = 8 + Math.ceil(3 * (size.wash?.blur ?? 0) * kx)
  const from = toGround(view, reference, { x: 0, y: 0 })
  const to = toGround(view, reference, { x: reference.width, y: reference.height })
  const left = Math.max(0, Math.floor(from.x * kx) - margin)
  const top = Math.max(0, Math.floor(from.y * ky) - margin)
  const width = Math.min(pixels.width, Math.ceil(to.x * kx) + margin) - left
  const height = Math.min(pixels.height, Math.ceil(to.y * ky) + margin) - top
  if (width <= 0 || height <= 0) return undefined

  let picture = sharp(path, { limitInputPixels: IMAGE_LIMITS.pixels })
  if (level === 0) picture = picture.autoOrient().toColourspace('srgb')
  const raw = await picture.extract({ left, top, width, height }).ensureAlpha().raw().toBuffer()
  const surface = createServerSurface(width, height)
  const data = surface.context.createImageData(width, height)
  data.data.set(raw)
  surface.context.putImageData(data, 0, 0)
  return { image: surface.image, pixels: { width, height }, x: left / kx, y: top / ky, width: width / kx, height: height / ky }
}
