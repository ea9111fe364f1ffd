<script setup lang="ts">
import { useMessage } from 'naive-ui'
import { watch } from 'vue'
import { reported } from '../stores/errors'

/** Says what went wrong out of sight; see stores/errors.ts. The same text again within a second is said once. */
const message = useMessage()
let last = { text: '', at: 0 }
watch(reported, (now) => {
  if (!now || (now.text === last.text && Date.now() - last.at < 1000)) return
  last = { text: now.text, at: Date.now() }
  message.error(now.text, { duration: 8000, closable: true })
})
</script>

<template><slot /></template>
