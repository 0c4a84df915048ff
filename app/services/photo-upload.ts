import type { Photo } from '#core/journey/schema'
import { ApiError, followImport, uploadImage } from './api'
import { MOST_PHOTO_BYTES } from './photo-places'

/** Extensions of photos that can be shown, and of those from which at least the place can be read. */
export const SHOWN_PHOTOS = ['.jpg', '.jpeg', '.png', '.webp', '.avif', '.tif', '.tiff']
export const PLACED_PHOTOS = [...SHOWN_PHOTOS, '.heic', '.heif']

const endsIn = ({ name }: Pick<File, 'name'>, endings: readonly string[]) => endings.some((ending) => name.toLowerCase().endsWith(ending))

export const isPhotoFile = (file: Pick<File, 'name'>): boolean => endsIn(file, PLACED_PHOTOS)

/**
 * Uploads a photo to the server, which cuts it into tiles.
 * @param onProgress is told the share that is done
 * @returns the photo, or a sentence if it cannot be shown
 */
export async function uploadPhoto(file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<Photo | string> {
  if (!endsIn(file, SHOWN_PHOTOS)) return `“${file.name}” cannot be shown: save it as JPEG, PNG, WebP, AVIF or TIFF.`
  if (file.size > MOST_PHOTO_BYTES) return `“${file.name}” is larger than ${MOST_PHOTO_BYTES / 1024 ** 2} MiB: save it smaller.`
  // Uploading and cutting take about the same time.
  const half = (from: number) => (share: number) => onProgress(from + share / 2)
  try {
    const id = await uploadImage(file, half(0), signal)
    const { hash, width, height, vector } = await followImport(id, half(0.5), signal)
    return { image: hash, width, height, vector }
  } catch (error) {
    if (error instanceof ApiError) return error.message
    throw error
  }
}
