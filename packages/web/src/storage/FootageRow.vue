<script setup lang="ts">
import { NSelect } from 'naive-ui'
import { ref } from 'vue'
import TimeAgo from '../components/TimeAgo.vue'
import { sizeWords } from './bytes'

/** A piece of footage that lies on the server: known again by its picture, put into a production, fetched or removed. */
defineProps<{
  name: string
  bytes: number
  time: string
  /** What the time is that of. */
  when: string
  picture: string | null
  file: string | null
  /** Where it can be put; none where it can only be fetched. */
  productions: readonly { value: number; label: string }[]
}>()
const emit = defineEmits<{ take: [production: number]; remove: [] }>()
const chosen = ref<number | null>(null)
const blank = ref(false)
</script>

<template>
  <li>
    <span class="still">
      <img v-if="picture && !blank" :src="picture" alt="" loading="lazy" @error="blank = true" />
      <span v-else class="quiet">no picture</span>
    </span>
    <span class="what">
      <b>{{ name }}</b>
      <span class="quiet"><span class="mono">{{ sizeWords(bytes) }}</span>, {{ when }} <TimeAgo :time="time" /></span>
      <slot />
    </span>
    <span class="do">
      <NSelect
        v-if="productions.length"
        v-model:value="chosen"
        size="small"
        :options="[...productions]"
        placeholder="put into …"
        :aria-label="`Production for ${name}`"
        @update:value="(id: number) => emit('take', id)"
      />
      <a v-if="file" class="word" :href="file" download :aria-label="`Save ${name}`">save</a>
      <button class="word" type="button" :aria-label="`Remove ${name}`" @click="emit('remove')">remove</button>
    </span>
  </li>
</template>

<style scoped>
li {
  align-items: center;
  border-bottom: 1px solid var(--line);
  display: grid;
  gap: 16px;
  grid-template-columns: 120px 1fr auto;
  padding: 7px 0;
}
.still {
  align-items: center;
  aspect-ratio: 16 / 9;
  background: var(--raised);
  display: flex;
  font-size: 13px;
  justify-content: center;
}
img {
  height: 100%;
  object-fit: contain;
  width: 100%;
}
.what {
  display: flex;
  flex-direction: column;
  overflow-wrap: anywhere;
}
.do {
  align-items: center;
  display: flex;
  gap: 12px;
}
.do .n-select {
  width: 190px;
}
a {
  text-decoration: none;
}
</style>
