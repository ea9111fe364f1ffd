<script setup lang="ts">
import { useMessage } from 'naive-ui'
import { ref, watch } from 'vue'
import type { useCompare } from './useCompare'

/** Asks for a reference picture as soon as one is to be compared with. */
const props = defineProps<{ comparing: ReturnType<typeof useCompare> }>()
const message = useMessage()
const input = ref<HTMLInputElement | null>(null)
watch(props.comparing.against, (now) => now === 'reference' && input.value?.click())

async function bring(e: Event): Promise<void> {
  const field = e.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  await props.comparing.keep('reference', file).catch(() => {
    message.error(`${file.name} is not a picture that can be shown here.`)
    // eslint-disable-next-line vue/no-mutating-props -- a ref that is handed on, not a value
    props.comparing.against.value = 'footage'
  })
}
</script>

<template><input ref="input" type="file" accept="image/*" hidden data-test="reference" @change="bring" /></template>
