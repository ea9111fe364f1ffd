<script setup lang="ts">
import { MOST_LETTERS } from '@fogbath/core/line'
import { NButton, NInput } from 'naive-ui'
import { ref, watch } from 'vue'
import { tagsIn, type Texts } from '../stores/shelf'

/** What is written about a recipe on the shelf: name, sentence, tags, who made it, notes. */
const props = defineProps<{ action: string; busy: boolean; texts: Texts }>()
const emit = defineEmits<{ done: [texts: Texts] }>()

const written = ref({ ...props.texts, tags: '' })
watch(
  () => props.texts,
  (now) => (written.value = { ...now, tags: now.tags.join(', ') }),
  { immediate: true },
)
function finish(): void {
  const { name, sentence, maker, notes, tags } = written.value
  if (!name.trim()) return
  emit('done', { name: name.trim(), sentence: sentence.trim(), maker: maker.trim(), notes, tags: tagsIn(tags) })
}
const named = (name: string) => ({ 'aria-label': name })
</script>

<template>
  <form @submit.prevent="finish">
    <label
      >Name<NInput
        v-model:value="written.name"
        placeholder=""
        :maxlength="MOST_LETTERS.recipe"
        :input-props="named('Name of the recipe')"
    /></label>
    <label
      >One sentence<NInput
        v-model:value="written.sentence"
        placeholder=""
        :maxlength="MOST_LETTERS.sentence"
        :input-props="named('What is to be seen, in one sentence')"
    /></label>
    <div class="pair">
      <label
        >Tags, with commas between<NInput v-model:value="written.tags" placeholder="" :input-props="named('Tags')"
      /></label>
      <label
        >Made by<NInput
          v-model:value="written.maker"
          placeholder=""
          :maxlength="MOST_LETTERS.maker"
          :input-props="named('Made by')"
      /></label>
    </div>
    <label
      >Notes<NInput
        v-model:value="written.notes"
        type="textarea"
        placeholder=""
        :maxlength="MOST_LETTERS.notes"
        :autosize="{ minRows: 2, maxRows: 6 }"
        :input-props="named('Notes')"
    /></label>
    <NButton type="primary" attr-type="submit" :disabled="!written.name.trim() || busy">{{ action }}</NButton>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  justify-items: start;
}
label {
  display: grid;
  gap: 3px;
  width: 100%;
}
.pair {
  display: grid;
  gap: 10px;
  grid-template-columns: 1fr 1fr;
  width: 100%;
}
</style>
