<script setup lang="ts">
import { useTimeAgoIntl } from '@vueuse/core'
import { computed } from 'vue'

/** A time in the reader's own words, such as '2 minutes ago'; the exact one in the tooltip. */
const props = defineProps<{ time: string }>()
const ago = useTimeAgoIntl(() => new Date(props.time))
const exact = computed(() => new Date(props.time).toLocaleString())
</script>

<template>
  <time :datetime="time" :title="exact">{{ ago }}</time>
</template>
