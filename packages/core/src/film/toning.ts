import { TONED, type TonerName } from '../spectra/dyes'

/** One toning bath: how far it goes, 0..100 per cent. */
export interface ToningBath {
  readonly toner: TonerName
  readonly completeness: number
}

/** Gold lies on the grains and leaves some of their silver, however long it works (from memory). */
const GOLD_REACH = 0.6

/**
 * Silver that a bath converts out of what is left at a place, both as density. Which tones it takes first is its
 * nature (common practice): sulphide after a partial bleach exhausts the light areas and reaches only so far into the
 * dense ones; selenium takes the dense ones first; gold, iron blue and copper take the same share everywhere, gold never all.
 * @param left silver still there, >= 0
 */
export function converted({ toner, completeness }: ToningBath, left: number): number {
  const share = Math.min(1, Math.max(0, completeness / 100))
  if (toner === 'gold') return left * share * GOLD_REACH
  if (share >= 1) return left
  if (share <= 0 || left <= 0) return 0
  if (toner === 'sulphide') {
    // A bleach of limited strength: at most `reach` of density, the first of it completely.
    const reach = (0.9 * share) / (1 - share)
    // expm1, and never more than there is: near completion `reach` is so large that 1 - exp(-x) has no digits left.
    return Math.min(left, -reach * Math.expm1(-left / reach))
  }
  if (toner === 'selenium') return left * (1 - (1 - share) ** (left / 0.5))
  return left * share
}

/** Whether a gold bath comes after sulphide: it turns that as well. */
export const gilds = (baths: readonly ToningBath[]): boolean => {
  const first = baths.findIndex((b) => b.toner === 'sulphide')
  return first >= 0 && baths.slice(first).some((b) => b.toner === 'gold')
}

/**
 * A silver density through toning baths in order. Each takes a share of the silver that is still there; gold besides turns
 * its share of the sulphide before it (common practice).
 * @returns silver left, what each bath converted, and where {@link gilds} holds the sulphide that gold has turned; together
 * they are the silver that was there
 */
export function tone(density: number, baths: readonly ToningBath[]): number[] {
  let left = Math.max(0, density)
  let gilded = 0
  const taken: number[] = []
  for (const bath of baths) {
    const amount = converted(bath, left)
    left -= amount
    if (bath.toner === 'gold')
      baths.slice(0, taken.length).forEach((before, i) => {
        if (before.toner !== 'sulphide') return
        const turned = (taken[i]! * bath.completeness) / 100
        taken[i]! -= turned
        gilded += turned
      })
    taken.push(amount)
  }
  return gilds(baths) ? [left, ...taken, gilded] : [left, ...taken]
}

export const TONERS = Object.keys(TONED) as TonerName[]
