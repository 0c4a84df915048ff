/** The least of some values, however many; Infinity of none. Spread into `Math.min`, a hundred thousand of them overflow the stack. */
export function least(values: Iterable<number>): number {
  let found = Infinity
  for (const value of values) found = Math.min(found, value)
  return found
}

/** The greatest of some values, however many; -Infinity of none. */
export function greatest(values: Iterable<number>): number {
  let found = -Infinity
  for (const value of values) found = Math.max(found, value)
  return found
}

/** Adds values to the end of a list, however many. */
export function append<T>(list: T[], values: Iterable<T>): void {
  for (const value of values) list.push(value)
}
