import type { Georeference } from '#core/journey/schema'
import { georeferenceSchema } from '#core/journey/sheet-schema'
import type { SheetFormat } from '#core/sheet/limits'
import type { Db } from './database'

export interface ImageRecord {
  /** SHA-256 of the original file, in hexadecimal. */
  hash: string
  format: SheetFormat
  /** Size in pixels; of vector images in nominal ones. */
  width: number
  height: number
  /** Bytes of the original file. */
  bytes: number
  vector: boolean
  /** How the image lies on the Earth, if its file says so. */
  georeference: Georeference | null
  /** Why the georeference in its file cannot be used. */
  note: string | null
}

type Row = Omit<ImageRecord, 'vector' | 'georeference'> & { vector: number; georeference: string | null }

const COLUMNS = 'hash, format, width, height, bytes, vector, georeference, note'

const fromRow = ({ vector, georeference, ...rest }: Row): ImageRecord => ({
  ...rest,
  vector: vector === 1,
  georeference: georeference === null ? null : georeferenceSchema.parse(JSON.parse(georeference)),
})

export function findImage(db: Db, hash: string): ImageRecord | undefined {
  const row = db.prepare(`SELECT ${COLUMNS} FROM images WHERE hash = ?`).get(hash) as Row | undefined
  return row && fromRow(row)
}

export const listImages = (db: Db): ImageRecord[] => (db.prepare(`SELECT ${COLUMNS} FROM images`).all() as Row[]).map(fromRow)

/** Images older than an age in milliseconds that no journey, restorable journey, version or export uses. */
export const unusedImages = (db: Db, age: number): string[] =>
  db
    .prepare(
      `SELECT hash FROM images WHERE created_at <= ?
         AND NOT EXISTS (SELECT 1 FROM journeys WHERE instr(document, images.hash) > 0)
         AND NOT EXISTS (SELECT 1 FROM versions WHERE instr(document, images.hash) > 0)
         AND NOT EXISTS (SELECT 1 FROM styles WHERE instr(look, images.hash) > 0)
         AND NOT EXISTS (SELECT 1 FROM exports WHERE state IN ('queued', 'running') AND instr(document, images.hash) > 0)`,
    )
    .pluck()
    .all(Date.now() - age) as string[]

export const deleteImage = (db: Db, hash: string): void => {
  db.prepare('DELETE FROM images WHERE hash = ?').run(hash)
}

export function insertImage(db: Db, { vector, georeference, ...image }: ImageRecord): void {
  db.prepare(
    `INSERT OR IGNORE INTO images (hash, format, width, height, bytes, vector, georeference, note, created_at)
     VALUES (@hash, @format, @width, @height, @bytes, @vector, @georeference, @note, @now)`,
  ).run({ ...image, vector: vector ? 1 : 0, georeference: georeference && JSON.stringify(georeference), now: Date.now() })
}
