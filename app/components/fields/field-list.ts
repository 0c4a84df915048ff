/** One field of an object in the details: which of its values it shows, and how it is set. */
export type FieldSpec<T> = { key: keyof T & string; label: string } & (
  | { as: 'colour' }
  /** A share of 0..1, shown in percent. */
  | { as: 'percent' }
  | { as: 'number'; min: number; max: number; step?: number; precision?: number; unit?: string }
  | { as: 'choice'; choices: readonly { value: string; title: string }[] }
  | { as: 'switch' }
)
