/** The least and the greatest value on a slider; others, within the document's bounds, are typed. */
export type Range = readonly [number, number]

/** One field of an object in the details: which of its values it shows, and how it is set. */
export type FieldSpec<T> = { key: keyof T & string; label: string } & (
  | { as: 'colour' }
  /** A share, of 0..1 where nothing else is said, shown in percent. */
  | { as: 'percent'; min?: number; max?: number }
  /** `min` and `max` are those of the document (`boundsOf`); the slider spans `usual` where it is given. */
  | { as: 'number'; min: number; max: number; usual?: Range; step?: number; precision?: number; unit?: string }
  | { as: 'choice'; choices: readonly { value: string; title: string }[] }
  | { as: 'switch' }
)
