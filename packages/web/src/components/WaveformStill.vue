<script setup lang="ts">
import type { Wanted } from '../workers/protocol'
import BitmapStill from './BitmapStill.vue'
import { stillEngine } from './still'

/** The waveform of one frame, small. */
defineProps<{ wanted: Wanted; name: string }>()
const SIZE = [320, 100] as const
</script>

<template>
  <BitmapStill :wanted="wanted" :name="name" :make="(w) => stillEngine().waveform(w, SIZE)" shape="16 / 5" />
</template>
