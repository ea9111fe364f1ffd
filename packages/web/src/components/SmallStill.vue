<script setup lang="ts">
import type { Wanted } from '../workers/protocol'
import BitmapStill from './BitmapStill.vue'
import { stillEngine } from './still'

/** One frame, small. */
defineProps<{ wanted: Wanted; name: string }>()
</script>

<template>
  <BitmapStill :wanted="wanted" :name="name" :make="(w) => stillEngine().thumbnail(w)" shape="16 / 9" />
</template>
