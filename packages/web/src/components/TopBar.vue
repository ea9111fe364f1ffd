<script setup lang="ts">
import { Moon, Sun } from '@vicons/tabler'
import { useLookStore } from '../stores/look'
import { unsaved } from '../stores/unsaved'
import IconButton from './IconButton.vue'

const look = useLookStore()
</script>

<template>
  <header class="bar">
    <RouterLink to="/" class="mark" aria-label="Fog Bath, productions">fog<span>/</span>bath</RouterLink>
    <slot />
    <span v-if="!$slots['right'] && unsaved" class="warn" role="status">Not saved yet: {{ unsaved }}</span>
    <nav class="right" aria-label="Places">
      <slot name="right" />
      <RouterLink v-if="!$slots['right']" class="word" to="/shelf">Shelf</RouterLink>
      <RouterLink class="word" to="/dispatch">Dispatch</RouterLink>
      <RouterLink v-if="!$slots['right']" class="word" to="/storage">Storage</RouterLink>
      <IconButton
        :icon="look.theme === 'dark' ? Sun : Moon"
        :name="look.theme === 'dark' ? 'Light interface' : 'Dark interface'"
        @click="look.theme = look.theme === 'dark' ? 'light' : 'dark'"
      />
    </nav>
  </header>
</template>

<style scoped>
.bar {
  align-items: center;
  background: var(--ground);
  border-bottom: 1px solid var(--line);
  display: flex;
  gap: 14px;
  height: 44px;
  padding: 0 14px;
  white-space: nowrap;
}
.mark {
  color: var(--text);
  font-size: 17px;
  font-weight: 600;
  text-decoration: none;
}
.mark span {
  color: var(--accent);
}
.right {
  align-items: center;
  display: flex;
  gap: 14px;
  margin-left: auto;
}
a.word {
  text-decoration: none;
}
</style>
