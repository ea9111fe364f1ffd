<script setup lang="ts">
import { NModal } from 'naive-ui'

const show = defineModel<boolean>('show', { required: true })
const keys: readonly (readonly [string, string])[] = [
  ['Space', 'play or stop'],
  ['← →', 'one frame back or on'],
  ['F (held)', 'the untreated footage'],
  ['W', 'wipe on or off'],
  ['[ ]', 'walk through the line, bath by bath'],
  ['1 … 9', 'choose a bath'],
  ['A', 'add a bath or recipe'],
  ['X', 'lift out or put back the chosen bath'],
  ['D', 'duplicate the chosen bath'],
  ['Delete', 'remove the chosen bath'],
  ['Ctrl C, Ctrl V', 'copy and paste a bath, between shots too'],
  ['Ctrl Z, Ctrl Y', 'undo, redo'],
  ['Page up, Page down', 'the shot before or after'],
  ['Z', 'fit or 100 %'],
  ['U', 'only the picture, full screen'],
  ['R', 'render the shot'],
  ['?', 'this sheet'],
]
</script>

<template>
  <NModal v-model:show="show" preset="card" title="Keys" :style="{ width: '460px' }" role="dialog" aria-label="Keys">
    <dl>
      <div v-for="[key, what] in keys" :key="key">
        <dt class="mono">{{ key }}</dt>
        <dd>{{ what }}</dd>
      </div>
    </dl>
  </NModal>
</template>

<style scoped>
dl {
  margin: 0;
}
dl div {
  display: grid;
  grid-template-columns: 170px 1fr;
  padding: 3px 0;
}
dd {
  margin: 0;
}
</style>
