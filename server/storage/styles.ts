import { newId } from './new-id'
import type { NewStyle } from '#core/dress/own-styles'
import { MOST_STYLES, newStyleSchema } from '#core/dress/own-styles'
import { JourneyError } from '#core/error'
import type { Db } from './database'

export type OwnStyle = NewStyle & { id: string }

interface Row {
  id: string
  kind: string
  name: string
  look: string
}

/** The styles that people have kept, by name; one that this version cannot read is left out. */
export function listStyles(db: Db): OwnStyle[] {
  const rows = db.prepare('SELECT id, kind, name, look FROM styles ORDER BY name COLLATE NOCASE, created_at').all() as Row[]
  return rows.flatMap(({ id, kind, name, look }) => {
    const style = newStyleSchema.safeParse({ kind, name, look: JSON.parse(look) })
    return style.success ? [{ ...style.data, id }] : []
  })
}

/** Keeps a style. @throws JourneyError if there is one of that kind and name already, or there are too many */
export function insertStyle(db: Db, style: NewStyle): OwnStyle {
  const { kind, name, look } = style
  if (db.prepare('SELECT 1 FROM styles WHERE kind = ? AND name = ? COLLATE NOCASE').get(kind, name))
    throw new JourneyError(`There is a style called “${name}” already: choose another name, or take that one away first.`)
  const count = db.prepare('SELECT count(*) FROM styles').pluck().get() as number
  if (count >= MOST_STYLES) throw new JourneyError(`At most ${MOST_STYLES} styles are kept: take one away first.`)
  const id = newId()
  db.prepare('INSERT INTO styles (id, kind, name, look, created_at) VALUES (?, ?, ?, ?, ?)').run(
    id,
    kind,
    name,
    JSON.stringify(look),
    Date.now(),
  )
  return { ...style, id }
}

/** @returns whether there was such a style */
export const deleteStyle = (db: Db, id: string): boolean => db.prepare('DELETE FROM styles WHERE id = ?').run(id).changes > 0
