<script setup lang="ts">
import { asNewLine } from '@fogbath/core/line'
import { NDropdown } from 'naive-ui'
import { computed } from 'vue'
import type { Shot } from '@fogbath/contract'
import { report } from '../stores/errors'
import { useBenchStore } from '../stores/bench'
import { useShelfStore } from '../stores/shelf'

/** Says that the recipe on the line has become a newer version, and takes it over where one wishes; what shots add around it stays. */
const bench = useBenchStore()
const shelf = useShelfStore()

/** The recipe, where the line carries an older version of it. */
const newer = computed(() => {
  const origin = shelf.originOf(bench.recipe)
  return origin && origin.number < origin.row.latest ? origin.row : null
})
/** Other shots of the production that carry an older version as well. */
const others = computed(() =>
  bench.shots.filter((s) => {
    const origin = s.id === bench.shot?.id ? null : shelf.originOf(bench.currentTrial(s).recipe)
    return origin?.row.id === newer.value?.id && origin!.number < origin!.row.latest
  }),
)
const chosen = computed(() => others.value.filter((s) => bench.markedShots.includes(s.id)))
const count = (shots: readonly Shot[]): string => `${shots.length} ${shots.length === 1 ? 'other shot' : 'other shots'}`
const options = computed(() => [
  { key: 'this', label: 'On this shot' },
  ...(chosen.value.length ? [{ key: 'chosen', label: `On this and the ${count(chosen.value)} chosen` }] : []),
  ...(others.value.length ? [{ key: 'all', label: `On this and ${count(others.value)} with an older version` }] : []),
])

async function take(where: string): Promise<void> {
  const { recipe } = newer.value!
  const targets = where === 'all' ? others.value : where === 'chosen' ? chosen.value : []
  if (targets.length === 0) return bench.change(asNewLine(recipe))
  // One step of undo for all of them.
  await bench.putOn([bench.shot!, ...targets], () => asNewLine(recipe)).catch(report)
}
</script>

<template>
  <NDropdown v-if="newer" trigger="click" :options="options" @select="take">
    <button
      class="word"
      type="button"
      :title="`${newer.name} is at version ${newer.latest}: ${newer.versions[0]?.changes.join('; ')}. What the shot adds around the look stays; undo brings the look back.`"
    >
      newer version there
    </button>
  </NDropdown>
</template>
