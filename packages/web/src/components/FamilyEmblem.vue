<script setup lang="ts">
import type { Family } from '@fogbath/core/baths'

/** The small drawing of a family of baths; the only sign is its shape. */
defineProps<{ family: Family }>()
</script>

<template>
  <svg viewBox="0 0 16 16" width="14" height="14" aria-hidden="true">
    <path
      v-for="(mark, i) in family.emblem"
      :key="i"
      :d="mark.path"
      :fill="mark.width ? 'none' : 'currentColor'"
      :stroke="mark.width ? 'currentColor' : 'none'"
      :stroke-width="mark.width"
    />
  </svg>
</template>
