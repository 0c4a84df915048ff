import { defineEventHandler } from 'h3'
import { MOST_CUBE_BYTES } from '#core/colour/cube'
import { namedFile, orRefuseLater } from '../../http/refuse'
import { dataFolder } from '../../storage/database'
import { lutPath } from '../../storage/lut-files'
import { takeIn } from '../../storage/take-in'

/** What a LUT is called: its file's name, without its ending. */
const titleOf = (name: string): string => name.replace(/\.cube$/i, '').trim().slice(0, 80) || 'LUT' // prettier-ignore

/** Keeps a .cube file from the request's body, `name` being its file name. */
export default defineEventHandler(async (event) => {
  const { name, file } = await namedFile(event, MOST_CUBE_BYTES, 'LUT')
  const { hash } = await orRefuseLater(takeIn((of) => lutPath(dataFolder(), of), file, name, 'lut'))
  return { file: hash, name: titleOf(name) }
})
