<script setup lang="ts">
import { refThrottled } from '@vueuse/core'
import { computed, toRef } from 'vue'
import type { Render } from '../api/types'
import type { Wanted } from '../workers/side'
import SmallStill from './SmallStill.vue'

/** How often a running render shows another frame, ms: each has to be decoded for it. */
const PACE_MS = 1500

/** A frame of a render as it is being written. */
const props = defineProps<{ render: Render; frame: number }>()
const shown = refThrottled(
  toRef(() => props.frame),
  PACE_MS,
)
const wanted = computed<Wanted>(() => {
  const { mediumId, encoding, recipe, trims } = props.render
  const source = { type: 'shot' as const, mediumId, encoding }
  return { source, frame: shown.value, width: 320, recipe, trims }
})
</script>

<template><SmallStill :wanted="wanted" :name="`Frame ${shown} of ${render.label}`" /></template>
