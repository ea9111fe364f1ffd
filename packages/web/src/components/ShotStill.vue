<script setup lang="ts">
import { type Recipe } from '@fogbath/core/line'
import { NOTHING } from '@fogbath/core/line'
import { computed } from 'vue'
import type { Shot } from '@fogbath/contract'
import { frameOrder } from '../workers/order'
import type { Wanted } from '../workers/protocol'
import SmallStill from './SmallStill.vue'

/** The telling frame of a shot: untreated, or with a line on it. */
const props = defineProps<{ shot: Shot; width: number; recipe?: Recipe | undefined }>()
const wanted = computed<Wanted>(() => ({
  ...frameOrder(props.shot, { recipe: props.recipe ?? NOTHING, after: [] }),
  width: props.width,
}))
</script>

<template>
  <SmallStill
    v-if="shot.medium.state === 'here'"
    :wanted="wanted"
    :name="`${shot.name}, ${recipe ? recipe.name : 'untreated'}`"
  />
  <span v-else class="gone warn">footage {{ shot.medium.state }}</span>
</template>

<style scoped>
.gone {
  align-items: center;
  aspect-ratio: 16 / 9;
  background: var(--raised);
  display: flex;
  justify-content: center;
}
</style>
