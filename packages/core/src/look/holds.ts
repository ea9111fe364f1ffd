import { kindById } from '../baths/kinds'
import { atWork, worksInSpace } from '../line/bath'
import { allBaths } from '../line/complete'
import type { Bath, Recipe } from '../line/recipe'

/** Something of a line that a table of colours cannot hold. */
export interface NotHeld {
  readonly bath: string
  /** What the bath is called. */
  readonly name: string
  /** Its mask, work on neighbouring pixels, or that it changes over the shot. */
  readonly why: 'mask' | 'places' | 'time'
  /** Whether the bath as a whole falls away; of a process its colours stay, and only its grain, spread or shifts are missing. */
  readonly whole: boolean
}

const reasonOf = (bath: Bath): Pick<NotHeld, 'why' | 'whole'> | null => {
  if (bath.mask) return { why: 'mask', whole: true }
  const { stretch, strand } = kindById(bath.kind)
  if (bath.keys) return { why: 'time', whole: false }
  // What works inside a strand is named bath by bath.
  if (strand || !worksInSpace(bath)) return null
  return { why: 'places', whole: stretch === 'finish' }
}

/** All of a line that a file of a look cannot hold, in the line's order; empty where it holds everything. */
export const notHeld = (recipe: Recipe): NotHeld[] => [
  ...allBaths(recipe)
    .filter((bath) => atWork(bath) || (bath.in && bath.keys !== undefined))
    .flatMap((bath) => {
      const reason = reasonOf(bath)
      return reason ? [{ bath: bath.id, name: bath.name || kindById(bath.kind).label, ...reason }] : []
    }),
  ...(recipe.keys ? [{ bath: '', name: recipe.name, why: 'time', whole: false } as const] : []),
]

/** The line without the baths that fall away as wholes. */
export function withoutNotHeld(recipe: Recipe): Recipe {
  const gone = new Set(notHeld(recipe).flatMap(({ bath, whole }) => (whole ? [bath] : [])))
  const kept = (baths: readonly Bath[]): Bath[] =>
    baths
      .filter(({ id }) => !gone.has(id))
      .map((bath) => {
        const inner = bath.settings['baths']
        return kindById(bath.kind).strand
          ? { ...bath, settings: { ...bath.settings, baths: kept(inner as readonly Bath[]) } }
          : bath
      })
  return { ...recipe, baths: kept(recipe.baths) }
}

const WHY = {
  mask: 'has a mask, which depends on places',
  places: 'works on neighbouring pixels',
  time: 'changes over the shot',
} as const

/** One thing in words: "the bath 'Sky' has a mask, which depends on places". */
export const tellNotHeld = ({ name, why, whole }: NotHeld): string =>
  why === 'time'
    ? `how '${name}' changes over the shot (it is taken as it is set beside its keys)`
    : whole
      ? `the bath '${name}' ${WHY[why]}`
      : `grain, spread of light and shifts of '${name}' (its colours are there)`
