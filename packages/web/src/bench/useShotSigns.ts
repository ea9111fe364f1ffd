import { SHIPPED_RECIPES, lookTitle } from '@fogbath/core/recipes'
import { Check, Pencil } from '@vicons/tabler'
import { computed, type Component } from 'vue'
import type { Shot, Trial } from '@fogbath/contract'
import { useBenchStore } from '../stores/bench'

interface Sign {
  readonly icon: Component | null
  readonly title: string
}

/** What a shot carries, in words: a shipped recipe as it is, a changed one, or a line of its own. */
function signOf({ name }: Shot, { recipe }: Trial): Sign {
  const shipped = SHIPPED_RECIPES.find((r) => r.id === recipe.id)
  if (!shipped) return { icon: null, title: `${name} carries ${recipe.name}, a line of its own` }
  return lookTitle(recipe) === recipe.name
    ? { icon: Check, title: `${name} carries the recipe ${recipe.name} as shipped` }
    : { icon: Pencil, title: `${name} carries the recipe ${lookTitle(recipe)}` }
}

/** What the production's shots carry; of the one on the bench as it is now. */
export function useShotSigns() {
  const bench = useBenchStore()
  const trialOf = (s: Shot): Trial =>
    s.id === bench.shot?.id && bench.trial
      ? { ...bench.trial, recipe: bench.recipe, after: bench.after }
      : bench.currentTrial(s)

  /** By shot; the same map while nothing in it has changed, so that a dragged setting draws no rail anew. */
  const signs = computed<ReadonlyMap<number, Sign>>((before) => {
    const now = new Map(bench.shots.map((s) => [s.id, signOf(s, trialOf(s))]))
    // The words tell all that the icon does.
    const changed = before?.size !== now.size || [...now].some(([id, { title }]) => before.get(id)?.title !== title)
    return changed ? now : before
  })
  return { trialOf, signs }
}
