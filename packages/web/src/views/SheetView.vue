<script setup lang="ts">
import { NO_TRIMS, SHIPPED_RECIPES, timecode, type Recipe, type Trims } from '@fogbath/core'
import { sheetOf, type SheetShot } from '@fogbath/sheet'
import { NButton, NSelect } from 'naive-ui'
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Production, Shot } from '../api/types'
import { sourceOf } from '../bench/source'
import { allProductions } from '../components/allProductions'
import { wordsOf } from '../components/complain'
import TopBar from '../components/TopBar.vue'
import { useShelfStore } from '../stores/shelf'
import { startEngines } from '../workers/engine'

/** The process on paper, as the browser prints it: a recipe on any shot's frame, or the treatment of a shot. */
const route = useRoute()
const router = useRouter()
const shelf = useShelfStore()
const productions = shallowRef<readonly Production[]>([])
const problem = ref('')
const busy = ref(true)
const paper = ref<HTMLElement | null>(null)
const engines = startEngines(1)
/** Addresses of the pictures on the sheet, given back when others take their place. */
let pictures: string[] = []
const giveBack = (): void => pictures.splice(0).forEach((url) => URL.revokeObjectURL(url))
onUnmounted(() => {
  engines.end()
  giveBack()
})

const shots = computed(() => productions.value.flatMap((p) => p.shots))
const choices = computed(() => shots.value.map((s) => ({ value: s.id, label: s.name })))
const ofShot = computed(() => route.name === 'sheet of a shot')
const shot = computed(() => shots.value.find((s) => s.id === Number(route.params['shotId'] ?? route.query['shot'])))
const frame = computed(() => Number(route.query['frame'] ?? shot.value?.still ?? 0))

interface Subject {
  readonly recipe: Recipe
  readonly trims: Trims
  /** Where the recipe stands. */
  readonly version: string
}
const subject = computed(() => (ofShot.value ? treatmentOf(shot.value) : recipeOf(String(route.params['recipeId']))))

function treatmentOf(own: Shot | undefined): Subject | null {
  const trial = own?.trials.find((t) => t.id === own.trialId) ?? own?.trials[0]
  if (!own || !trial) return null
  const origin = shelf.originOf(trial.recipe)
  const version = `trial ${trial.name}${origin ? `, from version ${origin.number}` : ''}`
  return { recipe: trial.recipe, version, trims: own.trims }
}

function recipeOf(id: string): Subject | null {
  const kept = shelf.kept.find((row) => row.key === id)
  if (kept) return { recipe: kept.recipe, version: `shelf, version ${kept.latest}`, trims: NO_TRIMS }
  const shipped = SHIPPED_RECIPES.find((r) => r.id === id)
  return shipped ? { recipe: shipped, version: 'as shipped', trims: NO_TRIMS } : null
}

async function shotOf(on: Shot, { recipe, trims }: Subject): Promise<SheetShot> {
  const wanted = { source: sourceOf(on), frame: frame.value, width: 960 }
  const through = async (line: Recipe, own: Trims): Promise<string> =>
    URL.createObjectURL(await engines.picture.proof({ ...wanted, recipe: line, trims: own }))
  const made = [await through({ ...recipe, baths: [] }, NO_TRIMS), await through(recipe, trims)] as const
  giveBack()
  pictures = [...made]
  return {
    ...{ name: on.name, file: on.medium.name, sha256: on.medium.sha256, frame: frame.value, trims },
    production: productions.value.find((p) => p.shots.includes(on))?.name ?? null,
    timecode: timecode(frame.value, on.medium.info.fps),
    ...{ before: made[0], after: made[1] },
  }
}

let run = 0
async function draw(): Promise<void> {
  const mine = ++run
  busy.value = true
  problem.value = ''
  try {
    if (!subject.value) throw new Error('No such recipe or shot is here.')
    const own = JSON.parse(JSON.stringify(subject.value)) as Subject
    const on = shot.value ? await shotOf(shot.value, own) : null
    const date = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium' }).format(new Date())
    const text = await sheetOf(own.recipe, { version: own.version, date, shot: on })
    if (mine !== run) return
    // In a root of its own, so that its style and the page's do not meet.
    const root = paper.value!.shadowRoot ?? paper.value!.attachShadow({ mode: 'open' })
    root.innerHTML = text
    document.title = `${own.recipe.name}, process sheet · Fog Bath`
  } catch (error) {
    if (mine === run) problem.value = wordsOf(error)
  } finally {
    if (mine === run) busy.value = false
  }
}

onMounted(async () => {
  try {
    const [items] = await Promise.all([allProductions(), shelf.load()])
    productions.value = items
    watch([subject, shot, frame], draw, { immediate: true })
  } catch (error) {
    problem.value = wordsOf(error)
    busy.value = false
  }
})

const print = (): void => window.print()
const showOn = (id: number | null) => router.replace({ query: id === null ? {} : { shot: id } })
</script>

<template>
  <TopBar class="screen-only" />
  <main class="page">
    <h1 class="sr-only">Process sheet</h1>
    <div class="how screen-only">
      <NButton type="primary" :disabled="busy || problem !== ''" @click="print">Print, or keep as PDF</NButton>
      <NSelect
        v-if="!ofShot"
        :value="shot?.id ?? null"
        clearable
        :options="choices"
        placeholder="Without pictures"
        aria-label="Shot whose frame is shown"
        @update:value="showOn"
      />
      <RouterLink v-if="shot" class="word" :to="`/bench/${shot.id}`">to the bench</RouterLink>
      <span v-if="busy" role="status">Drawing the sheet ...</span>
    </div>
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <div v-show="!problem" ref="paper" class="sheet" />
  </main>
</template>

<style scoped>
.how {
  align-items: center;
  display: flex;
  gap: 16px;
  margin-bottom: 14px;
}
.how .n-select {
  width: 240px;
}
.sheet {
  background: #fff;
  margin: 0 auto;
  min-height: 200mm;
  padding: 13mm 14mm;
  width: 210mm;
}
@media print {
  .screen-only {
    display: none;
  }
  .page {
    max-width: none;
    padding: 0;
  }
  .sheet {
    padding: 0;
    width: auto;
  }
}
</style>
<style>
@page {
  margin: 13mm 14mm;
  size: A4;
}
@media print {
  html,
  body,
  #app {
    /* The theme writes its own ground onto the page. */
    background: #fff !important;
    height: auto;
  }
}
</style>
