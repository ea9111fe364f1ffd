<script setup lang="ts">
import { refOf } from '../api/encodings'
import { refThrottled } from '@vueuse/core'
import { computed, toRef } from 'vue'
import type { Render } from '@fogbath/contract'
import type { Wanted } from '../workers/protocol'
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
  const { mediumId, reading, encoding, preparation, recipe, after } = props.render
  const order = { encoding: refOf(encoding), preparation, recipe, after }
  return { source: { type: 'shot', mediumId, reading }, frame: shown.value, width: 320, order }
})
</script>

<template><SmallStill :wanted="wanted" :name="`Frame ${shown} of ${render.label}`" /></template>
