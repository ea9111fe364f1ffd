<script setup lang="ts">
import { NButton, NDropdown, useDialog, useMessage } from 'naive-ui'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router'
import { duplicateBath, insertBath, removeBath, type Figure } from '@fogbath/core'
import { api } from '../api/client'
import type { RenderFormat } from '../api/types'
import AddPalette from '../bench/AddPalette.vue'
import KeySheet from '../bench/KeySheet.vue'
import LineStrip from '../bench/LineStrip.vue'
import PictureBar, { type CompareMode } from '../bench/PictureBar.vue'
import ProbeTable from '../bench/ProbeTable.vue'
import ReadingsPanel from '../bench/ReadingsPanel.vue'
import SettingsPanel from '../bench/SettingsPanel.vue'
import ShotRail from '../bench/ShotRail.vue'
import TrialTabs from '../bench/TrialTabs.vue'
import TrimsPanel from '../bench/TrimsPanel.vue'
import { useKeys } from '../bench/useKeys'
import { usePicture } from '../bench/usePicture'
import { useProbes } from '../bench/useProbes'
import TopBar from '../components/TopBar.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import type { Against, Compare, ScopeKind, ScopeOf, StripColours } from '../workers/protocol'

const bench = useBenchStore()
const look = useLookStore()
const route = useRoute()
const router = useRouter()
const message = useMessage()
const dialog = useDialog()

const stage = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const readings = ref<InstanceType<typeof ReadingsPanel> | null>(null)
const mode = ref<CompareMode>('off')
const against = ref('footage')
const held = ref(false)
const wipeAt = ref(0.5)
const zoom = ref<'fit' | 1 | 2 | 4>('fit')
const scope = ref<ScopeKind>('waveform')
const scopeOf = ref<ScopeOf>('picture')
const adding = ref(false)
const help = ref(false)
const bare = ref(false)

const other = computed<Against>(() => {
  if (against.value === 'reference') return { type: 'still', bitmap: 1 }
  const trial = bench.shot?.trials.find((t) => `trial:${t.id}` === against.value)
  return trial ? { type: 'recipe', recipe: trial.recipe, trims: bench.shot!.trims } : { type: 'footage' }
})
const compare = computed<Compare>(() => {
  if (held.value) return { mode: 'footage' }
  if (mode.value === 'off') return { mode: 'off' }
  if (mode.value === 'pair') return { mode: 'pair', against: other.value }
  return { mode: 'wipe', at: wipeAt.value, upright: mode.value === 'wipe', against: other.value }
})
const picture = usePicture({ stage, compare, scope, scopeOf, zoom })
const probes = useProbes(picture)

const strips = shallowRef<readonly StripColours[]>([])
const lineReadings = shallowRef<readonly Figure[]>([])
let stripRun = 0
async function readLine(): Promise<void> {
  const shot = bench.shot
  if (!shot) return
  const run = ++stripRun
  const recipe = bench.recipe
  const [made, figures] = await Promise.all([
    picture.engines.side.strips(recipe, shot.trims, shot.encoding),
    picture.engines.side.figures(recipe, shot.trims),
  ])
  if (run !== stripRun) return
  strips.value = made
  lineReadings.value = figures
}
watch(
  () => [bench.recipe, bench.shot?.trims, bench.shot?.encoding],
  () => void readLine(),
  { immediate: true },
)

watch(
  () => Number(route.params['shotId']),
  (id) => Number.isFinite(id) && void bench.open(id),
  { immediate: true },
)
onMounted(() => picture.attach(canvas.value!, readings.value!.canvas!))
onBeforeRouteLeave(() => bench.leave())
const warn = (e: BeforeUnloadEvent): void => {
  if (bench.saveState !== 'saved') e.preventDefault()
}
window.addEventListener('beforeunload', warn)
onBeforeUnmount(() => window.removeEventListener('beforeunload', warn))

const togglePlay = (): void => void (picture.playing.value ? picture.stop() : picture.play())
const stepFrame = (by: number): void => {
  const shot = bench.shot!
  bench.frame = Math.min(shot.last, Math.max(shot.first, bench.frame + by))
}
function walk(by: number): void {
  const count = bench.recipe.baths.length
  const now = bench.tap ?? count
  const next = Math.min(count, Math.max(0, now + by))
  bench.tap = next === count ? null : next
}
function stepShot(by: number): void {
  const next = bench.shots[bench.shots.findIndex((s) => s.id === bench.shot?.id) + by]
  if (next) void router.push(`/bench/${next.id}`)
}

const chosenBath = () => bench.bath
useKeys({
  down: {
    ' ': togglePlay,
    ArrowLeft: () => stepFrame(-1),
    ArrowRight: () => stepFrame(1),
    f: () => (held.value = true),
    w: () => (mode.value = mode.value === 'wipe' ? 'off' : 'wipe'),
    '[': () => walk(-1),
    ']': () => walk(1),
    a: () => (adding.value = true),
    x: () => chosenBath() && bench.setBath(bench.chosen!, { in: !chosenBath()!.in }),
    d: () => bench.chosen && bench.change(duplicateBath(bench.recipe, bench.chosen)),
    Delete: () => bench.chosen && bench.change(removeBath(bench.recipe, bench.chosen)),
    'ctrl+c': () => (bench.clipboard = chosenBath()),
    'ctrl+v': () =>
      bench.clipboard && bench.change(insertBath(bench.recipe, bench.clipboard, bench.chosen ?? undefined)),
    'ctrl+z': (e) => (e.shiftKey ? bench.redo() : bench.undo()),
    'ctrl+y': () => bench.redo(),
    PageUp: () => stepShot(-1),
    PageDown: () => stepShot(1),
    z: () => (zoom.value = zoom.value === 'fit' ? 1 : 'fit'),
    u: () => void toggleBare(),
    Escape: () => (bare.value = false),
    r: () => void render('mp4'),
    '?': () => (help.value = true),
    ...Object.fromEntries(
      Array.from({ length: 9 }, (_, i) => [
        String(i + 1),
        () => (bench.chosen = bench.recipe.baths[i]?.id ?? bench.chosen),
      ]),
    ),
  },
  up: { f: () => (held.value = false) },
})

async function toggleBare(): Promise<void> {
  bare.value = !bare.value
  if (bare.value) await document.documentElement.requestFullscreen().catch(() => undefined)
  else if (document.fullscreenElement) await document.exitFullscreen()
}

/** The wipe's edge is dragged on the picture; elsewhere a click reads the probe. */
function pointPicture(e: PointerEvent): void {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const [u, v] = [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height]
  if (compare.value.mode === 'wipe') {
    if (e.buttons === 1) wipeAt.value = Math.min(1, Math.max(0, compare.value.upright ? u : v))
  } else if (e.type === 'pointerdown' && compare.value.mode === 'off' && !bench.chart) void probes.add(u, v)
}

const formats: { key: RenderFormat; label: string }[] = [
  { key: 'mp4', label: 'H.264, 10 bit (.mp4)' },
  { key: 'mov', label: 'ProRes 422 HQ (.mov)' },
  { key: 'png', label: 'PNG sequence, 16 bit' },
  { key: 'exr', label: 'EXR sequence, linear float' },
]
async function render(format: RenderFormat): Promise<void> {
  if (!bench.shot) return
  try {
    await bench.leave()
    await api.createRender(bench.shot.id, format)
    message.success('In Dispatch.')
    await router.push('/dispatch')
  } catch (error) {
    message.error(error instanceof Error ? error.message : String(error))
  }
}

const referenceInput = ref<HTMLInputElement | null>(null)
watch(against, (now) => now === 'reference' && referenceInput.value?.click())
async function bringReference(e: Event): Promise<void> {
  const file = (e.target as HTMLInputElement).files?.[0]
  if (!file) return
  try {
    await picture.engines.picture.keepStill(1, await createImageBitmap(file))
    void picture.ask(false)
  } catch {
    message.error(`${file.name} is not a picture that can be shown here.`)
    against.value = 'footage'
  }
}

const saveText = computed(
  () =>
    ({
      saved: 'saved',
      changed: 'saving',
      saving: 'saving',
      offline: 'not saved: server away',
      conflict: 'changed elsewhere',
      refused: 'not saved',
    })[bench.saveState],
)
watch(
  () => bench.saveState,
  (state) => {
    if (state !== 'conflict') return
    dialog.warning({
      title: 'Changed elsewhere',
      content:
        'This trial was changed in another window. Take that version (yours stays one undo away), or write yours over it?',
      positiveText: 'Take theirs',
      negativeText: 'Keep mine',
      closable: false,
      maskClosable: false,
      onPositiveClick: () => void bench.settle('theirs'),
      onNegativeClick: () => void bench.settle('mine'),
    })
  },
)
const figures = computed(() => [...lineReadings.value, ...picture.pictureFigures.value])
const canvasStyle = computed(() => {
  if (zoom.value === 'fit') return {}
  const factor = zoom.value / window.devicePixelRatio
  return { width: `${(bench.shot?.medium.info.width ?? 0) * factor}px`, maxWidth: 'none', maxHeight: 'none' }
})
</script>

<template>
  <div class="bench" :class="[{ bare }, `surround-${look.surround}`]">
    <TopBar>
      <nav v-if="bench.production" class="crumbs" aria-label="Where">
        <RouterLink class="word" :to="`/productions/${bench.production.id}`">{{ bench.production.name }}</RouterLink>
        <span class="quiet">/</span><span>{{ bench.shot?.name }}</span>
      </nav>
      <TrialTabs />
      <template #right>
        <button
          class="word"
          type="button"
          :disabled="!bench.history.past.length"
          title="Undo (Ctrl Z)"
          @click="bench.undo"
        >
          undo
        </button>
        <button
          class="word"
          type="button"
          :disabled="!bench.history.future.length"
          title="Redo (Ctrl Y)"
          @click="bench.redo"
        >
          redo
        </button>
        <span
          class="save"
          :class="{ warn: ['offline', 'conflict', 'refused'].includes(bench.saveState) }"
          role="status"
          :title="bench.saveMessage"
          >{{ saveText }}</span
        >
        <NDropdown trigger="click" :options="formats" @select="render"
          ><NButton size="small" type="primary">Render</NButton></NDropdown
        >
        <button class="word" type="button" aria-label="Keys" title="Keys (?)" @click="help = true">?</button>
      </template>
    </TopBar>
    <main>
      <h1 class="sr-only">Bench</h1>
      <div class="left">
        <div ref="stage" class="stage" :class="{ zoomed: zoom !== 'fit' }" @dblclick="bare && toggleBare()">
          <p v-if="bench.problem || picture.problem.value" class="problem" role="alert">
            {{ bench.problem || picture.problem.value }}
          </p>
          <div class="frame" :style="canvasStyle">
            <canvas
              ref="canvas"
              :style="canvasStyle"
              role="img"
              :aria-label="`Frame ${bench.frame}, treated`"
              @pointerdown="pointPicture"
              @pointermove="pointPicture"
            />
            <template v-if="!picture.playing.value && compare.mode === 'off' && !bench.chart">
              <i
                v-for="(p, i) in probes.places.value"
                :key="i"
                class="probe mono"
                :style="{ left: `${p.u * 100}%`, top: `${p.v * 100}%` }"
                >{{ i + 1 }}</i
              >
            </template>
          </div>
          <span v-if="bench.tap !== null" class="tapped"
            >as it leaves {{ bench.tap === 0 ? 'the camera' : `bath ${bench.tap}` }}</span
          >
          <span v-if="bench.preview" class="tapped">preview</span>
        </div>
        <PictureBar
          v-model:compare="mode"
          v-model:against="against"
          v-model:zoom="zoom"
          :playing="picture.playing.value"
          :rate="picture.rate.value"
          :took="picture.answer.value?.took ?? null"
          @play="togglePlay"
        />
        <LineStrip :strips="strips" @add="adding = true" />
        <ShotRail :side="picture.engines.side" />
      </div>
      <aside class="right">
        <ReadingsPanel
          ref="readings"
          v-model:scope="scope"
          v-model:scope-of="scopeOf"
          :figures="figures"
          :encoding="bench.shot?.encoding ?? 'bt1886'"
        />
        <ProbeTable :probes="probes" />
        <SettingsPanel />
        <TrimsPanel />
      </aside>
    </main>
    <AddPalette v-model:show="adding" :side="picture.engines.side" />
    <KeySheet v-model:show="help" />
    <input ref="referenceInput" type="file" accept="image/*" hidden @change="bringReference" />
  </div>
</template>

<style scoped>
.bench {
  display: flex;
  flex-direction: column;
  height: 100vh;
}
main {
  display: grid;
  flex: 1;
  grid-template-columns: minmax(0, 1fr) minmax(340px, 420px);
  min-height: 0;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.stage {
  align-items: center;
  background: #3a3a3a;
  display: flex;
  flex: 1;
  justify-content: center;
  min-height: 0;
  overflow: hidden;
  padding: 8px;
  position: relative;
}
.surround-dark .stage {
  background: #1a1a1a;
}
.surround-light .stage {
  background: #8e8e8e;
}
.stage.zoomed {
  align-items: flex-start;
  justify-content: flex-start;
  overflow: auto;
}
.frame {
  display: flex;
  max-height: 100%;
  max-width: 100%;
  position: relative;
}
canvas {
  display: block;
  max-height: 100%;
  max-width: 100%;
  min-width: 0;
  object-fit: contain;
}
.probe {
  border: 1px solid #ffffff;
  border-radius: 50%;
  box-shadow: 0 0 0 1px #000000;
  color: #ffffff;
  font-style: normal;
  height: 16px;
  line-height: 14px;
  margin: -8px 0 0 -8px;
  pointer-events: none;
  position: absolute;
  text-align: center;
  text-shadow: 0 0 2px #000000;
  width: 16px;
}
.tapped {
  background: #1a1a1a;
  bottom: 8px;
  color: #ececec;
  left: 8px;
  padding: 2px 8px;
  position: absolute;
}
.problem {
  background: var(--panel);
  left: 50%;
  max-width: 70%;
  padding: 12px 16px;
  position: absolute;
  top: 40%;
  transform: translateX(-50%);
  z-index: 1;
}
.right {
  background: var(--panel);
  border-left: 1px solid var(--line);
  overflow-y: auto;
}
.crumbs {
  align-items: center;
  display: flex;
  gap: 8px;
  max-width: 34vw;
  overflow: hidden;
}
.crumbs a {
  text-decoration: none;
}
.save {
  min-width: 44px;
}
.bare > :not(main),
.bare .right,
.bare .left > :not(.stage) {
  display: none;
}
.bare main {
  grid-template-columns: 1fr;
}
.bare .stage {
  padding: 0;
}
</style>
