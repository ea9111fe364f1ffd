<script setup lang="ts">
import { QuestionMark } from '@vicons/tabler'
import { ref } from 'vue'
import { wordsOf } from '../stores/errors'
import { docsPage } from './docs'
import IconButton from './IconButton.vue'
import SheetDialog from './SheetDialog.vue'

/** Opens the page of the documentation about what it stands beside. */
const props = defineProps<{ page: string; name: string; title?: string }>()
const show = ref(false)
const html = ref('')

async function open(): Promise<void> {
  show.value = true
  html.value = await docsPage(props.page).catch((error: unknown) => `<p>${wordsOf(error)}</p>`)
}
</script>

<template>
  <span class="help">
    <IconButton :icon="QuestionMark" :name="name" :title="title ?? name" @click="open" />
    <SheetDialog v-model:show="show" :title="name" :width="760">
      <!-- eslint-disable-next-line vue/no-v-html -- our own pages, which the program brings -->
      <div class="docs" v-html="html" />
    </SheetDialog>
  </span>
</template>

<style scoped>
.docs {
  line-height: 1.5;
  max-height: 70vh;
  overflow: auto;
}
.docs :deep(h1),
.docs :deep(h2) {
  font-size: 16px;
  margin: 12px 0 4px;
}
.docs :deep(p),
.docs :deep(ul) {
  margin: 0 0 8px;
}
.docs :deep(table) {
  border-collapse: collapse;
}
.docs :deep(th),
.docs :deep(td) {
  border-bottom: 1px solid var(--line);
  padding: 3px 12px 3px 0;
  text-align: left;
  vertical-align: top;
}
.docs :deep(code) {
  white-space: nowrap;
  font-family: 'Spline Sans Mono', monospace;
  font-size: 13px;
}
</style>
