import type { Db } from './database'

export interface ImageRecord {
  hash: string
  format: 'png' | 'jpeg' | 'webp'
  width: number
  height: number
  bytes: number
}

export const findImage = (db: Db, hash: string): ImageRecord | undefined =>
  db.prepare('SELECT hash, format, width, height, bytes FROM images WHERE hash = ?').get(hash) as ImageRecord | undefined

export function insertImage(db: Db, image: ImageRecord): void {
  db.prepare(
    'INSERT OR IGNORE INTO images (hash, format, width, height, bytes, created_at) VALUES (@hash, @format, @width, @height, @bytes, @now)',
  ).run({
    ...image,
    now: Date.now(),
  })
}
