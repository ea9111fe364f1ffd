<script setup lang="ts">
import { describeChanges } from '@fogbath/core/line'
import { useStorage } from '@vueuse/core'
import { NButton, NCheckbox } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { encodingOfRow } from '../api/encodings'
import { report } from '../stores/errors'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'
import RecipeTexts from '../components/RecipeTexts.vue'
import { useShelfStore, type Texts } from '../stores/shelf'

/** Keeps the line on the shelf: as a recipe of its own, or as the newest version of the one that it came from. */
const show = defineModel<boolean>('show', { required: true })
const bench = useBenchStore()
const shelf = useShelfStore()
/** Who keeps recipes on this machine. */
const maker = useStorage('fogbath.maker', '')
const texts = shallowRef<Texts>({ name: '', sentence: '', maker: '', notes: '', tags: [] })
/** Only what is chosen in the line becomes the recipe. */
const chosenOnly = ref(false)
const several = computed(() => bench.baths.length > 0 && bench.baths.length < bench.inLine.length)
const part = computed(() => chosenOnly.value && several.value)
/** What is kept, with what the footage is on which it was made. */
const line = computed(() => {
  const { shot, recipe } = bench
  const made = part.value ? { ...recipe, baths: [...bench.baths] } : recipe
  return shot ? { ...made, madeFor: encodingOfRow(shot.encoding).refers } : made
})
const busy = ref(false)
const origin = computed(() => shelf.originOf(bench.recipe))
/** What became of the newest version; empty where the line does the same. */
const changes = computed(() => (origin.value ? describeChanges(origin.value.row.recipe, line.value) : []))

watch(show, (now) => {
  if (!now) return
  texts.value = { name: '', sentence: '', maker: maker.value, notes: '', tags: origin.value?.row.tags ?? [] }
  chosenOnly.value = false
  void shelf.load().catch(report)
})

async function finish(work: () => Promise<{ id: string; name: string; summary: string }>): Promise<void> {
  busy.value = true
  try {
    const whole = !part.value
    const { id, name: called, summary } = await work()
    // The line goes on as it is; where all of it was kept it knows from here on where.
    if (whole) bench.change({ ...bench.recipe, id, name: called, summary })
    show.value = false
  } catch (error) {
    report(error)
  } finally {
    busy.value = false
  }
}
function keepNew(written: Texts): Promise<void> {
  maker.value = written.maker
  return finish(() => shelf.keep(written, line.value))
}
const keepVersion = () => finish(() => shelf.addVersion(origin.value!.row, line.value))
</script>

<template>
  <SheetDialog v-model:show="show" title="Keep this look as a recipe" :width="480">
    <NCheckbox v-if="several" v-model:checked="chosenOnly"
      >only the chosen {{ bench.baths.length === 1 ? 'bath' : `${bench.baths.length} baths` }}</NCheckbox
    >
    <section v-if="origin" class="version" aria-label="As a new version">
      <p>
        It came from <b>{{ origin.row.name }}</b>, version {{ origin.number
        }}<template v-if="origin.number < origin.row.latest">; the newest is {{ origin.row.latest }}</template>.
      </p>
      <ul v-if="changes.length">
        <li v-for="words in changes" :key="words">{{ words }}</li>
      </ul>
      <p v-else class="quiet">The line does what its newest version does.</p>
      <NButton :disabled="changes.length === 0 || busy" @click="keepVersion"
        >Keep as version {{ origin.row.latest + 1 }}</NButton
      >
    </section>
    <RecipeTexts :texts="texts" action="Keep as a recipe" :busy="busy" @done="keepNew" />
  </SheetDialog>
</template>

<style scoped>
.version {
  border-bottom: 1px solid var(--line);
  margin-bottom: 14px;
  padding-bottom: 14px;
}
ul {
  margin: 6px 0 10px;
  padding-left: 18px;
}
</style>
