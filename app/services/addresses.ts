import type { TileAddress } from '#core/sheet/pyramid'

/** The address of a tile of an image. */
export const tileAddress = (hash: string, { level, column, row }: TileAddress) => `/api/images/${hash}/tiles/${level}/${column}/${row}`
