/** A journey document before it is checked. */
type Raw = Record<string, unknown>

/** Entry k brings a document of version k + 1 to the next. Only what those versions could hold is dealt with; what is wrong with it is found later. */
const MIGRATIONS: readonly ((document: Raw) => Raw)[] = [
  // Version 2: several sheets, each with an id; more than a colour to the ground.
  ({ ground, sheets, ...rest }) => ({
    ...rest,
    ...(ground === undefined ? {} : { ground: typeof ground === 'string' ? { colour: ground } : ground }),
    ...(sheets === undefined ? {} : { sheets: Array.isArray(sheets) ? sheets.map(withId) : sheets }),
  }),
  // Version 3: drawn courses may have gaps, stops may have postcards; neither can be in a document of version 2.
  (document) => document,
]

const withId = (sheet: unknown): unknown => (typeof sheet === 'object' && sheet !== null ? { id: 'sheet', ...sheet } : sheet)

/** Brings a document of an earlier version to the present one. */
export function migrate(document: Raw, from: number): Raw {
  return { ...MIGRATIONS.slice(from - 1).reduce((doc, step) => step(doc), document), version: MIGRATIONS.length + 1 }
}
