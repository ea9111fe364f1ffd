<script setup lang="ts">
import { Archive, ArrowBackUp, Pencil, Star, StarOff } from '@vicons/tabler'
import { useIntersectionObserver } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Shot } from '../api/types'
import IconButton from '../components/IconButton.vue'
import ShotStill from '../components/ShotStill.vue'
import type { ShelfEntry } from './entries'

/** A recipe on a shot's frame, drawn once it has come into view; what can be done with one's own stands below. */
const props = defineProps<{ entry: ShelfEntry; shot: Shot | undefined }>()
const emit = defineEmits<{ favourite: []; rename: []; archive: [] }>()
const root = ref<HTMLElement | null>(null)
const seen = ref(false)
useIntersectionObserver(root, ([entry]) => (seen.value ||= entry?.isIntersecting ?? false), { rootMargin: '120px' })
const kept = computed(() => props.entry.kept)
</script>

<template>
  <article ref="root" :data-recipe="entry.key" :aria-label="entry.name">
    <ShotStill v-if="seen && shot" :shot="shot" :width="384" :recipe="{ ...entry.recipe, name: entry.name }" />
    <div v-else class="blank" />
    <h3>{{ entry.name }}</h3>
    <p class="quiet">{{ entry.sentence }}</p>
    <template v-if="kept">
      <p v-if="kept.tags.length" class="quiet">{{ kept.tags.join(' · ') }}</p>
      <div class="do">
        <details>
          <summary class="word">version {{ kept.latest }}</summary>
          <ol reversed>
            <li v-for="v in kept.versions" :key="v.number">
              {{ v.changes.length ? v.changes.join('; ') : 'as it was first kept' }}
            </li>
          </ol>
        </details>
        <IconButton
          :icon="kept.favourite ? StarOff : Star"
          :name="kept.favourite ? `${kept.name}: no favourite any more` : `${kept.name}: favourite`"
          :title="kept.favourite ? 'No favourite any more' : 'Favourite: stands first'"
          :pressed="kept.favourite"
          @click="emit('favourite')"
        />
        <IconButton :icon="Pencil" :name="`Rename ${kept.name}`" title="Name, sentence, tags" @click="emit('rename')" />
        <IconButton
          :icon="kept.archived ? ArrowBackUp : Archive"
          :name="kept.archived ? `Restore ${kept.name}` : `Archive ${kept.name}`"
          :title="kept.archived ? 'Back on the shelf' : 'Off the shelf; it can be restored'"
          @click="emit('archive')"
        />
      </div>
    </template>
  </article>
</template>

<style scoped>
article {
  min-width: 0;
}
.blank {
  aspect-ratio: 16 / 9;
  background: var(--raised);
}
h3 {
  font-size: 14px;
  margin: 5px 0 1px;
}
p {
  font-size: 13px;
  line-height: 1.25;
  margin: 0 0 2px;
}
.do {
  align-items: start;
  display: flex;
  gap: 4px;
}
details {
  flex: 1;
  font-size: 13px;
}
summary {
  cursor: pointer;
}
ol {
  margin: 4px 0;
  padding-left: 22px;
}
</style>
