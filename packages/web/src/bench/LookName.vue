<script setup lang="ts">
import { computed } from 'vue'
import { useBenchStore } from '../stores/bench'
import { useShelfStore } from '../stores/shelf'

/** The recipe that the look is linked to, its version, and whether the look has become another. */
const bench = useBenchStore()
const shelf = useShelfStore()
const origin = computed(() => shelf.originOf(bench.recipe))
const version = computed(() => (origin.value ? `, version ${origin.value.number}` : ''))
const title = computed(() => shelf.titleOf(bench.recipe))
const changed = computed(() => title.value !== bench.recipe.name)
const means = computed(() =>
  changed.value
    ? `The look has become another than ${bench.recipe.name}${version.value}, here only; “keep as recipe” makes it a ${origin.value ? 'new version' : 'recipe'}`
    : 'The look, which goes from shot to shot; what stands before and behind it stays with the shot',
)
</script>

<template>
  <span class="look" :title="means"
    >{{ bench.recipe.name }}{{ version }}<template v-if="changed">, changed</template></span
  >
</template>

<style scoped>
.look {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
