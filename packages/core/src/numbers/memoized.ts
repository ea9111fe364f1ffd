import { Recent } from './recent'

/**
 * A function whose last results are kept under their arguments, written as JSON.
 * @param most results that are kept
 */
export function memoized<A extends readonly unknown[], V>(most: number, make: (...given: A) => V): (...given: A) => V {
  const known = new Recent<V>(most)
  return (...given) => known.get(JSON.stringify(given), () => make(...given))
}
