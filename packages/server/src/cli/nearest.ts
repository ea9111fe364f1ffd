import { closest, distance } from 'fastest-levenshtein'

/** The one of some names that was probably meant; null where none is near. */
export function nearest(name: string, names: readonly string[]): string | null {
  if (names.length === 0) return null
  const found = closest(name.toLowerCase(), names)
  return distance(name.toLowerCase(), found) <= Math.max(2, Math.floor(found.length / 3)) ? found : null
}
