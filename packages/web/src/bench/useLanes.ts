import { fieldsOf, kindById } from '@fogbath/core/baths'
import type { Lane } from '@fogbath/core/keys'
import { computed } from 'vue'
import { useBenchStore } from '../stores/bench'
import { PART_NAMES } from './maskNames'

interface Field {
  readonly title: string
  readonly unit?: string
  readonly minimum?: number
  readonly maximum?: number
}

/** A lane that can be worked on, and what it is of. */
export interface ShownLane extends Field {
  readonly id: string
  readonly lane: Lane
  /** @param key names what is dragged; null takes the lane away */
  readonly set: (lane: Lane | null, key?: string) => void
}

const PERCENT = { unit: '%', minimum: 0, maximum: 100 } as const

/** Lanes of the chosen bath and of what is chosen in it, and that of the look. */
export function useLanes() {
  const bench = useBenchStore()
  return computed<ShownLane[]>(() => {
    const { bath, part: index, recipe } = bench
    const lanes: ShownLane[] = []
    const part = index === null ? undefined : bath?.mask?.parts[index]
    if (part?.moves)
      lanes.push({
        id: `part ${index}`,
        title: `${PART_NAMES[part.type]} of the mask`,
        lane: part.moves,
        set: (lane, key) => bench.setPartLane(index!, lane, key),
      })
    const fields = bath ? fieldsOf<Field>(kindById(bath.kind).schema) : {}
    for (const [name, lane] of Object.entries(bath?.keys ?? {})) {
      const field = name === 'strength' ? { title: 'Strength of the bath', ...PERCENT } : fields[name]
      if (field) lanes.push({ ...field, id: name, lane, set: (next, key) => bench.setLane(name, next, key) })
    }
    const look = recipe.keys?.['strength']
    if (look) lanes.push({ id: 'look', title: 'Strength of the look', ...PERCENT, lane: look, set: bench.setLookLane })
    return lanes
  })
}
