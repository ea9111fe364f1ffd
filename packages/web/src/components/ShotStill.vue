<script setup lang="ts">
import type { Recipe } from '@fogbath/core'
import { computed } from 'vue'
import type { Shot } from '../api/types'
import { sourceOf } from '../bench/source'
import type { Wanted } from '../workers/side'
import { NOTHING } from '../workers/treat'
import SmallStill from './SmallStill.vue'

/** The telling frame of a shot: untreated, or with a line on it. */
const props = defineProps<{ shot: Shot; width: number; recipe?: Recipe | undefined }>()
const wanted = computed<Wanted>(() => {
  const { still, trims } = props.shot
  return { source: sourceOf(props.shot), frame: still, width: props.width, recipe: props.recipe ?? NOTHING, trims }
})
</script>

<template><SmallStill :wanted="wanted" :name="`${shot.name}, ${recipe ? recipe.name : 'untreated'}`" /></template>
