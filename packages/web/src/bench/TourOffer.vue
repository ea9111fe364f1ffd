<script setup lang="ts">
import { useLookStore } from '../stores/look'

/** Offers the tour until it was taken or declined; after that the sheet of keys has it. */
const look = useLookStore()
async function begin(): Promise<void> {
  look.toured = true
  const { startTour } = await import('./tour')
  startTour()
}
</script>

<template>
  <section v-if="!look.toured" class="offer" aria-label="Tour">
    <p>New here? Five stops show how the film runs.</p>
    <button class="word" type="button" @click="begin">show me</button>
    <button class="word" type="button" @click="look.toured = true">no, thanks</button>
  </section>
</template>

<style scoped>
.offer {
  align-items: center;
  border-top: 1px solid var(--line);
  display: flex;
  gap: 14px;
  margin: 0 14px;
  padding: 6px 0;
}
.offer p {
  flex: 1;
}
</style>
