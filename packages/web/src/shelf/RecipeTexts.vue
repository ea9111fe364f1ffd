<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'

/** Name, sentence and tags of a recipe on the shelf. */
defineProps<{ action: string; busy: boolean }>()
const name = defineModel<string>('name', { required: true })
const sentence = defineModel<string>('sentence', { required: true })
const tags = defineModel<string>('tags', { required: true })
const emit = defineEmits<{ done: [] }>()
</script>

<template>
  <form @submit.prevent="name.trim() && emit('done')">
    <label
      >Name<NInput
        v-model:value="name"
        placeholder=""
        maxlength="80"
        :input-props="{ 'aria-label': 'Name of the recipe' }"
    /></label>
    <label
      >One sentence<NInput
        v-model:value="sentence"
        placeholder=""
        maxlength="300"
        :input-props="{ 'aria-label': 'What is to be seen, in one sentence' }"
    /></label>
    <label
      >Tags, with commas between<NInput v-model:value="tags" placeholder="" :input-props="{ 'aria-label': 'Tags' }"
    /></label>
    <NButton type="primary" attr-type="submit" :disabled="!name.trim() || busy">{{ action }}</NButton>
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
</style>
