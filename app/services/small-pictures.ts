import type { Rgba } from '#core/picture/cut-out'
import { ApiError } from './api'

/** The longer side to which pictures that are shown small are brought, in pixels: twice what they take up in the largest film. */
const MOST_SIDE = 1200

/** The largest file of such a picture. */
const MOST_BYTES = 64 * 1024 ** 2

/**
 * Decodes a picture that is shown small, the first one of an animation; a drawing is drawn.
 * @throws ApiError if it is too large, or no picture that the browser knows
 */
export async function decodePicture(file: File): Promise<Rgba> {
  if (file.size > MOST_BYTES) throw new ApiError(`“${file.name}” is larger than ${MOST_BYTES / 1024 ** 2} MiB: save it smaller.`, 0)
  const address = URL.createObjectURL(file)
  try {
    const image = new Image()
    image.src = address
    await image.decode()
    // A drawing without a size of its own has none here.
    const [width, height] = [image.naturalWidth || MOST_SIDE, image.naturalHeight || MOST_SIDE]
    const isDrawing = file.type === 'image/svg+xml'
    const k = isDrawing ? MOST_SIDE / Math.max(width, height) : Math.min(1, MOST_SIDE / Math.max(width, height))
    const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * k)), Math.max(1, Math.round(height * k)))
    const context = canvas.getContext('2d')!
    context.imageSmoothingQuality = 'high'
    context.drawImage(image, 0, 0, canvas.width, canvas.height)
    return { width: canvas.width, height: canvas.height, pixels: context.getImageData(0, 0, canvas.width, canvas.height).data }
  } catch {
    throw new ApiError(`“${file.name}” cannot be read as a picture: save it as PNG, WebP, SVG or AVIF.`, 0)
  } finally {
    URL.revokeObjectURL(address)
  }
}

/** A picture as a PNG file. */
export async function encodePicture(picture: Rgba, name: string): Promise<File> {
  const blob = await canvasOf(picture).convertToBlob({ type: 'image/png' })
  return new File([blob], `${name.replace(/\.\w+$/, '')}.png`, { type: 'image/png' })
}

export function canvasOf({ width, height, pixels }: Rgba): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height)
  canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(pixels), width, height), 0, 0)
  return canvas
}
