import { kindById } from '../baths/kinds'
import { atWork, worksInSpace } from '../line/bath'
import { allBaths } from '../line/complete'
import type { Bath, Recipe } from '../line/recipe'

/** Something of a line that a table of colours cannot hold. */
export interface NotHeld {
  readonly bath: string
  /** What the bath is called. */
  readonly name: string
  /** Its mask, or work on neighbouring pixels. */
  readonly why: 'mask' | 'places'
  /** Whether the bath as a whole falls away; of a process its colours stay, and only its grain, spread or shifts are missing. */
  readonly whole: boolean
}

const reasonOf = (bath: Bath): Pick<NotHeld, 'why' | 'whole'> | null => {
  if (bath.mask) return { why: 'mask', whole: true }
  const { stretch, strand } = kindById(bath.kind)
  // What works inside a strand is named bath by bath.
  if (strand || !worksInSpace(bath)) return null
  return { why: 'places', whole: stretch === 'finish' }
}

/** All of a line that a file of a look cannot hold, in the line's order; empty where it holds everything. */
export const notHeld = (recipe: Recipe): NotHeld[] =>
  allBaths(recipe)
    .filter(atWork)
    .flatMap((bath) => {
      const reason = reasonOf(bath)
      return reason ? [{ bath: bath.id, name: bath.name || kindById(bath.kind).label, ...reason }] : []
    })

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

const WHY = { mask: 'has a mask, which depends on places', places: 'works on neighbouring pixels' } as const

/** One thing in words: "the bath 'Sky' has a mask, which depends on places". */
export const tellNotHeld = ({ name, why, whole }: NotHeld): string =>
  whole ? `the bath '${name}' ${WHY[why]}` : `grain, spread of light and shifts of '${name}' (its colours are there)`
