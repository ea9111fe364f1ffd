<script setup lang="ts">
import { refThrottled } from '@vueuse/core'
import { computed, toRef } from 'vue'
import type { Render } from '@fogbath/contract'
import { workedOut } from './renders'
import SmallStill from '../components/SmallStill.vue'

/** How often a running render shows another frame, ms: each has to be decoded for it. */
const PACE_MS = 1500

/** A frame of a render as it is being written. */
const props = defineProps<{ render: Render; frame: number }>()
const shown = refThrottled(
  toRef(() => props.frame),
  PACE_MS,
)
const wanted = computed(() => workedOut(props.render, shown.value, 320))
</script>

<template><SmallStill :wanted="wanted" :name="`Frame ${shown} of ${render.label}`" /></template>
