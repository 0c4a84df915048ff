/** Redraws the Lantern Isles sheet: `npm run demo:sheet`. The picture is kept beside this file, so that the demo starts at once. */
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { createCanvas, ImageData } from '@napi-rs/canvas'
import sharp from 'sharp'
import { paintFeatures } from './paint-features'
import { paintTerrain } from './paint-terrain'
import { SHEET } from './places'
import { lanternIslesRelief } from './terrain'

const OUT = join(process.cwd(), 'demo/lantern-isles.webp')

const relief = lanternIslesRelief()
const { width, height } = SHEET
const terrain = await sharp(paintTerrain(relief), { raw: { width, height, channels: 3 } })
  .ensureAlpha()
  .raw()
  .toBuffer()
const canvas = createCanvas(width, height)
const context = canvas.getContext('2d')
context.putImageData(new ImageData(new Uint8ClampedArray(terrain), width, height), 0, 0)
paintFeatures(context, relief)
const file = await sharp(canvas.data(), { raw: { width, height, channels: 4 } })
  .removeAlpha()
  .webp({ quality: 86, effort: 5 })
  .toBuffer()
await writeFile(OUT, file)
console.log(`${width} x ${height} pixels, ${(file.length / 2 ** 20).toFixed(2)} MiB`)
