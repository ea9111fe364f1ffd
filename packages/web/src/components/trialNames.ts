import type { Trial } from '@fogbath/contract'

/** The first letter that no trial of a shot has yet. */
export function nextTrialName(trials: readonly Trial[]): string {
  const taken = new Set(trials.map((t) => t.name))
  const letters = Array.from({ length: 26 }, (_, i) => String.fromCharCode(65 + i))
  return letters.find((n) => !taken.has(n)) ?? `${taken.size + 1}`
}
