import { api } from '../api/client'
import type { ListedProduction } from '@fogbath/contract'

/** All productions, page after page, the newest first. */
export async function allProductions(): Promise<ListedProduction[]> {
  const all: ListedProduction[] = []
  for (;;) {
    const { items, more } = await api.productions(all.at(-1)?.id)
    all.push(...items)
    if (!more || items.length === 0) return all
  }
}
