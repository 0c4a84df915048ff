/** What an image file may have: bytes, pixels, and pixels on one side. */
export const IMAGE_LIMITS = { bytes: 512 * 1024 * 1024, pixels: 150_000_000, side: 32_000 } as const

/** What to say of a file that is larger. */
export const tooManyBytes = (name: string): string =>
  `“${name}” is larger than ${IMAGE_LIMITS.bytes / 1024 ** 2} MiB: save it as JPEG or WebP, or scale it down.`
