/**
 * A function whose result is remembered for each object that it is called with, as long as the object is in use: what is made of an unchanged part of a
 * journey is made once.
 * @param make makes the result of an object, and of further values that it depends on; where one of these is another (by ===) it is made anew
 */
export function remembered<Key extends object, Basis extends readonly unknown[], Result>(
  make: (key: Key, ...basis: Basis) => Result,
): (key: Key, ...basis: Basis) => Result {
  const known = new WeakMap<Key, { basis: Basis; result: Result }>()
  // Called by map and the like it gets an index too, which means nothing to it.
  const meant = make.length - 1
  return (key, ...given) => {
    const basis = given.slice(0, meant) as unknown as Basis
    const last = known.get(key)
    if (last && basis.every((value, i) => value === last.basis[i])) return last.result
    const result = make(key, ...basis)
    known.set(key, { basis, result })
    return result
  }
}
