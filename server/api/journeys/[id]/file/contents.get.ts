import { defineEventHandler } from 'h3'
import { FILE_KINDS } from '#core/journey/files'
import { idParameter } from '../../../../http/refuse'
import { packableOf } from '../../../../journey-files/packable'
import { contentsOf } from '../../../../journey-files/pack'
import { database, dataFolder } from '../../../../storage/database'

/** What would be in a journey's file: bytes and number of the files of each kind, without and with its versions, and what is missing. */
export default defineEventHandler((event) => {
  const id = idParameter(event)
  const of = (withVersions: boolean) => {
    const packed = packableOf(database(), id, withVersions)
    const { pieces, missing } = contentsOf(database(), dataFolder(), packed)
    const kinds = FILE_KINDS.map((kind) => {
      const own = pieces.filter((piece) => piece.kind === kind)
      return { kind, count: own.length, bytes: own.reduce((sum, { bytes }) => sum + bytes, 0) }
    })
    return { kinds, versions: packed.versions.length, missing }
  }
  return { plain: of(false), whole: of(true) }
})
