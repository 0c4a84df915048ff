import sharp from 'sharp'
import type { CleanSvg } from '#core/formats/clean-svg'
import { penScale } from '#core/sheet/pen'
import { TILE, tileGrid, tileSize } from '#core/sheet/pyramid'
import { drawMapBlock } from '../maps/draw'
import type { Rectangle } from './drawing'
import { drawSvg } from './drawing'
import type { DrawJob } from './job'
import { blockSide } from './job'
import { drawPdf } from './pdf'
import { encodeTile } from './pyramid'
import { openTileFile } from './tile-file'

/** Draws the block of tiles around a tile into the tile file. */
export async function drawTiles({ tiles, original, width, height, level, column, row, pen }: DrawJob): Promise<void> {
  const image = { width, height }
  const { columns, rows } = tileGrid(image, level)
  const opened = openTileFile(tiles)
  const isMap = opened.isMap()
  const side = blockSide(isMap)
  const first = { column: side * Math.floor(column / side), row: side * Math.floor(row / side) }
  const last = { column: Math.min(columns, first.column + side) - 1, row: Math.min(rows, first.row + side) - 1 }
  const corner = tileSize(image, { level, ...last })
  const size = { width: (last.column - first.column) * TILE + corner.width, height: (last.row - first.row) * TILE + corner.height }
  const step = 2 ** level
  const region: Rectangle = {
    x: first.column * TILE * step,
    y: first.row * TILE * step,
    width: size.width * step,
    height: size.height * step,
  }
  const drawing = opened.drawing()
  const pixels = isMap
    ? await drawMapBlock(drawing!, { left: region.x, top: region.y, step, ...size }, penScale(pen))
    : drawing
      ? await drawSvg(JSON.parse(drawing) as CleanSvg, image, region, size)
      : await drawPdf(original, image, region, size)
  const block = sharp(pixels.data, { raw: { width: pixels.width, height: pixels.height, channels: 4 } })
  const cut: Promise<{ column: number; row: number; data: Buffer }>[] = []
  for (let r = first.row; r <= last.row; r++) {
    for (let c = first.column; c <= last.column; c++) {
      const part = tileSize(image, { level, column: c, row: r })
      const place = { left: (c - first.column) * TILE, top: (r - first.row) * TILE, ...part }
      cut.push(encodeTile(block.clone().extract(place), 'png').then((data) => ({ column: c, row: r, data })))
    }
  }
  const encoded = await Promise.all(cut)
  const file = openTileFile(tiles)
  file.inTransaction(() => {
    for (const { data, ...address } of encoded) {
      if (isMap) file.putDrawn(pen, { level, ...address }, data)
      else file.put({ level, ...address }, data)
    }
  })
}
