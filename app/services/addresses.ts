import type { TileAddress } from '#core/sheet/pyramid'

/** The address of a tile of an image. @param pen how wide the lines of a generated map are drawn */
export const tileAddress = (hash: string, { level, column, row }: TileAddress, pen?: number) =>
  `/api/images/${hash}/tiles/${level}/${column}/${row}${pen === undefined ? '' : `?pen=${pen}`}`
