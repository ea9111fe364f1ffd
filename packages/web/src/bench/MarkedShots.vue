<script setup lang="ts">
import { NButton, useMessage } from 'naive-ui'
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'
import { useBenchStore } from '../stores/bench'
import { wordsOf } from '../stores/errors'
import { useTrackingStore } from '../stores/tracking'
import PrepareShots from './PrepareShots.vue'

/** What can be done to all marked shots at once. */
const emit = defineEmits<{ match: [shotId: number] }>()
const bench = useBenchStore()
const tracking = useTrackingStore()
const message = useMessage()
const { markedShots: marked } = storeToRefs(bench)

const preparing = ref(false)
const targets = computed(() => bench.shots.filter((s) => marked.value.includes(s.id) && s.id !== bench.shot?.id))

/** Masks of theirs that follow what is not tracked on their shots yet. */
const untracked = computed(() =>
  targets.value.reduce((sum, shot) => sum + tracking.missing(shot, tracking.lineOf(shot)).length, 0),
)
async function track(): Promise<void> {
  try {
    const count = await tracking.trackShots(targets.value, ['move', 'turn', 'scale'])
    message.success(`${count} ${count === 1 ? 'mask is' : 'masks are'} followed.`)
    marked.value = []
  } catch (error) {
    message.error(wordsOf(error))
  }
}

/** Puts the look, or the chosen baths behind what is there, on the marked shots: one step of undo. */
async function put(what: 'look' | 'baths'): Promise<void> {
  const { recipe, baths } = bench
  const count = targets.value.length
  try {
    await (what === 'look' ? bench.putOn(targets.value, () => recipe) : bench.addBaths(targets.value, baths))
    message.success(`Put on ${count} ${count === 1 ? 'shot' : 'shots'}; undo takes it back.`)
  } catch (error) {
    message.error(wordsOf(error))
  }
  marked.value = []
}
</script>

<template>
  <PrepareShots v-model:show="preparing" :shots="targets" @done="marked = []" />
  <div v-if="targets.length" class="do">
    <span>{{ targets.length }} marked</span>
    <NButton size="tiny" @click="put('look')">Put this look on them</NButton>
    <NButton v-if="bench.baths.length" size="tiny" @click="put('baths')">{{
      bench.baths.length === 1 ? 'Add the chosen bath' : `Add the ${bench.baths.length} chosen baths`
    }}</NButton>
    <NButton size="tiny" title="Black and white levels for each, proposed from its own frame" @click="preparing = true"
      >Propose their levels</NButton
    >
    <NButton
      v-if="untracked > 0"
      size="tiny"
      title="Follows what their masks follow, from the telling frame of each"
      @click="track"
      >Follow their masks</NButton
    >
    <NButton v-if="targets.length === 1" size="tiny" @click="emit('match', targets[0]!.id)">Side by side</NButton>
    <button class="word" type="button" @click="marked = []">mark none</button>
  </div>
</template>

<style scoped>
.do {
  align-content: flex-start;
  align-items: center;
  display: flex;
  flex: 0 1 400px;
  flex-wrap: wrap;
  gap: 4px 8px;
}
</style>
