<script setup lang="ts">
import SheetDialog from '../components/SheetDialog.vue'
import { useLookStore } from '../stores/look'
import { KEYS } from './keys'

const show = defineModel<boolean>('show', { required: true })
const look = useLookStore()
async function tour(): Promise<void> {
  show.value = false
  look.toured = true
  const { startTour } = await import('./tour')
  startTour()
}
</script>

<template>
  <SheetDialog v-model:show="show" title="Keys" :width="860">
    <div class="groups">
      <section v-for="g in KEYS" :key="g.group">
        <h3>{{ g.group }}</h3>
        <dl>
          <div v-for="e in g.entries" :key="e.action">
            <dt class="mono">{{ e.shown }}</dt>
            <dd>{{ e.text }}</dd>
          </div>
          <div v-if="g.group === 'Line'">
            <dt class="mono">1 … 9</dt>
            <dd>choose a bath</dd>
          </div>
        </dl>
      </section>
    </div>
    <button class="word" type="button" @click="tour">a tour of the bench, five stops</button>
    <p class="quiet">
      Ctrl-click a bath or a shot to choose several; Shift-click a shot for a run of them. Hold Shift while dragging a
      slider or a curve’s point to move it slowly. The handles of a mask on the picture move by the arrow keys, with
      Shift slowly.
    </p>
  </SheetDialog>
</template>

<style scoped>
.groups {
  display: grid;
  gap: 24px;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  margin-bottom: 12px;
}
h3 {
  font-size: 14px;
  margin-bottom: 4px;
}
dl {
  margin: 0;
}
dl div {
  display: grid;
  grid-template-columns: 76px 1fr;
  padding: 2px 0;
}
dd {
  margin: 0;
}
</style>
