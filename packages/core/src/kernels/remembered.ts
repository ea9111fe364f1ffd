/**
 * A function whose last results are kept under their arguments, written as JSON; what was asked for longest ago goes first.
 * @param most results that are kept
 */
export function remembered<A extends readonly unknown[], V>(
  most: number,
  make: (...given: A) => V,
): (...given: A) => V {
  const known = new Map<string, V>()
  return (...given) => {
    const key = JSON.stringify(given)
    const value = known.get(key) ?? make(...given)
    known.delete(key)
    known.set(key, value)
    if (known.size > most) known.delete(known.keys().next().value!)
    return value
  }
}
