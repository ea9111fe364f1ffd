<script setup lang="ts">
import { NOTHING_AROUND, notesInOrder, type Line } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { UNTREATED } from '@fogbath/core/treat'
import { sheetOf, type SheetShot } from '@fogbath/sheet'
import { NButton, NSelect } from 'naive-ui'
import { computed, onMounted, onUnmounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Production, Shot } from '@fogbath/contract'
import { frameOrder } from '../workers/order'
import { allProductions } from '../components/allProductions'
import { wordsOf } from '../stores/errors'
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

interface Subject extends Line {
  /** Where the recipe stands. */
  readonly version: string
}
const subject = computed(() => (ofShot.value ? treatmentOf(shot.value) : recipeOf(String(route.params['recipeId']))))

function treatmentOf(own: Shot | undefined): Subject | null {
  const trial = own?.trials.find((t) => t.id === own.trialId) ?? own?.trials[0]
  if (!own || !trial) return null
  const origin = shelf.originOf(trial.recipe)
  const version = `trial ${trial.name}${origin ? `, from version ${origin.number}` : ''}`
  return { recipe: trial.recipe, version, preparation: own.preparation, after: trial.after }
}

function recipeOf(id: string): Subject | null {
  const kept = shelf.kept.find((row) => row.key === id)
  if (kept) return { recipe: kept.recipe, version: `shelf, version ${kept.latest}`, ...NOTHING_AROUND }
  const shipped = SHIPPED_RECIPES.find((r) => r.id === id)
  return shipped ? { recipe: shipped, version: 'as shipped', ...NOTHING_AROUND } : null
}

async function shotOf(on: Shot, { recipe, preparation, after }: Subject): Promise<SheetShot> {
  const wanted = { ...frameOrder(on, { recipe, after }, frame.value), width: 960 }
  const through = async (line: Line): Promise<string> =>
    URL.createObjectURL(await engines.picture.proof({ ...wanted, order: { ...wanted.order, ...line } }))
  const made = [await through(UNTREATED), await through({ preparation, recipe, after })] as const
  giveBack()
  pictures = [...made]
  return {
    name: on.name,
    file: on.medium.name,
    sha256: on.medium.sha256,
    frame: frame.value,
    around: { preparation, after },
    production: productions.value.find((p) => p.shots.includes(on))?.name ?? null,
    timecode: timecode(frame.value, on.medium.info.fps, on.medium.info.timecode),
    notes: notesInOrder(on.marks).map(({ frame: at, text, author }) => ({
      at: at === null ? 'shot' : timecode(at, on.medium.info.fps, on.medium.info.timecode),
      text,
      author,
    })),
    before: made[0],
    after: made[1],
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
