import type { Encoding } from './encoding'
import type { Reach } from './doubt'
import { ENCODINGS, kneeIn } from './shipped'

/** What is known of footage when its encoding is looked for. */
export interface Unsure {
  readonly kind: 'clip' | 'still' | 'sequence'
  readonly float: boolean
  readonly bits: number
  readonly reach: Reach | null
}

/** How likely footage is taken for what it is not, in order; of log encodings one's own stand first. */
const FLOATS = ['linear', 'linear-ap1', 'linear-ap0', 'acescct']
const STILLS = ['srgb', 'bt1886', 'p3']
const CLIPS = ['bt1886', 'srgb', 'bt2020']
const LOGS = ['acescct', 'acescc']
const HIGH = ['pq', 'hlg']

/**
 * The two encodings that footage most likely has, beside the one that it is taken for: by its kind and depth, and by how far
 * its codes go (common practice).
 * @param own encodings of one's own, in the order in which they were made
 */
export function likelyOthers(
  taken: Encoding,
  { kind, float, bits, reach }: Unsure,
  own: readonly Encoding[],
): string[] {
  const logs = [...own.filter((e) => e.refers === 'scene' && e.numbers !== 'light').map((e) => e.id), ...LOGS]
  const screens = [
    ...(kind === 'still' ? STILLS : CLIPS),
    ...own.filter((e) => e.refers === 'display').map((e) => e.id),
  ]
  // Codes that leave room at both ends are those of a log curve; the same order serves where nothing is known.
  const roomy = reach !== null && reach.high < 0.9
  const coded = taken.refers === 'display' || roomy ? [...logs.slice(0, 1), ...screens] : [...screens, ...logs]
  const wide = bits > 8 ? HIGH : []
  const order = float ? FLOATS : [...coded.slice(0, 2), ...wide, ...coded.slice(2), ...FLOATS]
  const known = kneeIn(taken.id)?.of ?? taken.id
  return [...new Set(order)].filter((id) => id !== known && isThere(id, own)).slice(0, 2)
}

const isThere = (id: string, own: readonly Encoding[]): boolean => [...ENCODINGS, ...own].some((e) => e.id === id)
