<script setup lang="ts">
import { useMessage } from 'naive-ui'
import { computed, onMounted, provide, ref, toRef, watch } from 'vue'
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router'
import type { Proof } from '@fogbath/contract'
import AddBoard from '../bench/board/AddBoard.vue'
import { SIDE } from '../bench/drawn/useIncoming'
import BenchTop from '../bench/BenchTop.vue'
import ConflictDialog from '../bench/ConflictDialog.vue'
import DrawingSheet from '../bench/DrawingSheet.vue'
import StageOptions from '../bench/StageOptions.vue'
import KeySheet from '../bench/KeySheet.vue'
import LineStrip from '../bench/LineStrip.vue'
import NotesSheet from '../bench/NotesSheet.vue'
import PictureBar from '../bench/PictureBar.vue'
import ProbeTable from '../bench/ProbeTable.vue'
import KeyLanes from '../bench/KeyLanes.vue'
import ProofWall from '../bench/ProofWall.vue'
import ReadingsPanel from '../bench/ReadingsPanel.vue'
import RenderDialog from '../bench/render/RenderDialog.vue'
import SettingsPanel from '../bench/SettingsPanel.vue'
import ReelStrip from '../bench/ReelStrip.vue'
import ShotRail from '../bench/ShotRail.vue'
import ShotWall from '../bench/ShotWall.vue'
import StageView from '../bench/StageView.vue'
import TourOffer from '../bench/TourOffer.vue'
import TrackCurve from '../bench/TrackCurve.vue'
import TransportBar from '../bench/TransportBar.vue'
import { useBenchActions } from '../bench/useBenchActions'
import { useCompare } from '../bench/useCompare'
import { useLineReadings } from '../bench/useLineReadings'
import { usePicture } from '../bench/usePicture'
import { useProbes } from '../bench/useProbes'
import { MOVES } from '../bench/useRested'
import { useSound } from '../bench/useSound'
import { useProofs } from '../bench/useProofs'
import { useReel } from '../bench/useReel'
import { useShotPictures } from '../bench/useShotPictures'
import ReferenceInput from '../bench/ReferenceInput.vue'
import PanelEdge from '../bench/PanelEdge.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import { heldBack, takeEngines } from '../workers/engine'
import type { ScopeKind, ScopeOf } from '../workers/protocol'
import { wordsOf } from '../stores/errors'

const bench = useBenchStore()
const route = useRoute()
const router = useRouter()
const message = useMessage()
const look = useLookStore()

const stageView = ref<InstanceType<typeof StageView> | null>(null)
const readingsView = ref<InstanceType<typeof ReadingsPanel> | null>(null)
const zoom = ref<'fit' | 1 | 2 | 4>('fit')
const scope = ref<ScopeKind>('waveform')
const scopeOf = ref<ScopeOf>('picture')
const largeScope = ref(false)
const loop = ref(true)
const shown = ref({ adding: false, help: false, wall: false, shots: false, notes: false, render: false, bare: false })

const { side, ...own } = takeEngines()
/** The picture comes first; strips, scope and small pictures wait for it. */
let drawn = (): void => undefined
const engines = { ...own, side: heldBack(side, new Promise<void>((done) => (drawn = done))) }
provide(SIDE, engines.side)
const proofs = useProofs(() => engines.side)
const comparing = useCompare(() => engines.picture, proofs)
const stage = computed(() => stageView.value?.stage ?? null)
const reel = useReel((id) => router.push(`/bench/${id}`))
const picture = usePicture({ stage, compare: comparing.compare, scope, scopeOf, largeScope, zoom, loop, reel }, engines)
const probes = useProbes(picture)
watch([picture.answer, picture.problem], () => drawn(), { once: true })
const moves = (): boolean => picture.going.value !== 0
provide(MOVES, moves)
// The reel is silent: it is looked at.
useSound(
  computed(() => (reel.shown.value ? 0 : picture.going.value)),
  toRef(look, 'muted'),
)
const line = useLineReadings(() => engines.side, moves)
const figures = computed(() => [...line.figures.value, ...(picture.reading.value?.figures ?? [])])

watch(
  () => Number(route.params['shotId']),
  (id) => Number.isFinite(id) && void bench.open(id),
  { immediate: true },
)
onMounted(() => picture.attach(stageView.value!.canvas!, readingsView.value!.canvas!))
// What cannot be saved now goes on waiting; see stores/unsaved.ts.
onBeforeRouteLeave(() => bench.leave().catch(() => undefined))

/** Runs work whose failure is told in a sentence. */
async function say(work: Promise<unknown>, done = ''): Promise<void> {
  try {
    await work
    if (done) message.success(done)
  } catch (error) {
    message.error(wordsOf(error))
  }
}

const keepProof = (): void => void say(proofs.keep(), 'Kept as a proof of this shot.')
function compareWith(proof: Proof): void {
  shown.value.wall = false
  comparing.against.value = `proof:${proof.id}`
  if (comparing.mode.value === 'off') comparing.mode.value = 'pair'
}
function reopen(proof: Proof): void {
  shown.value.wall = false
  bench.frame = proof.frame
  void say(bench.addTrial(proof.name, proof), `Opened as trial ${proof.name}.`)
}
async function toggleBare(): Promise<void> {
  shown.value.bare = !shown.value.bare
  if (shown.value.bare) await document.documentElement.requestFullscreen().catch(() => undefined)
  else if (document.fullscreenElement) await document.exitFullscreen()
}

const columns = computed(() => {
  const { width, folded } = look.panel
  if (folded && !shown.value.adding) return { '--panel-width': '0' }
  return width === null ? {} : { '--panel-width': `min(${width}px, 60vw)` }
})

/** A click on the picture goes to whatever waits for one; else it is a probe. */
function measure(u: number, v: number, reach: number | undefined): void {
  if (bench.picking) void say(probes.pick(u, v, reach))
  else if (bench.sampler) void say(probes.sample(u, v, reach))
  else probes.add(u, v, reach)
}

const { pictureOf } = useShotPictures(engines.side, 192)
/** Goes to a place of the reel; what plays goes on from there. */
async function goInReel(shotId: number, frame: number): Promise<void> {
  const goesOn = picture.playing.value
  await picture.stop()
  await reel.go(shotId, frame)
  if (goesOn) await picture.play()
}
function match(shotId: number): void {
  comparing.against.value = `shot:${shotId}`
  comparing.mode.value = 'pair'
}

const actions = useBenchActions({ picture, comparing, zoom, loop, reel, shown, keepProof, toggleBare })
</script>

<template>
  <div class="bench" :class="{ bare: shown.bare }">
    <BenchTop
      :proofs="proofs"
      @proof="keepProof"
      @wall="shown.wall = true"
      @help="shown.help = true"
      @render="shown.render = true"
    />
    <main :style="columns">
      <h1 class="sr-only">Bench</h1>
      <div class="left">
        <StageView
          ref="stageView"
          v-model:wipe-at="comparing.wipeAt.value"
          :zoom="zoom"
          :compare="comparing.compare.value"
          :wiping="comparing.compare.value.mode === 'wipe'"
          :drawn="picture.answer.value?.shownAt ?? 0"
          :playing="picture.playing.value"
          :shown="reel.shown.value ?? bench.shot"
          :probes="probes.places.value"
          :problem="bench.problem || picture.problem.value"
          :late="bench.opening || picture.late.value"
          :settled="!bench.opening && picture.settled.value"
          :sides="comparing.sides.value"
          @probe="measure"
          @bare="shown.bare && toggleBare()"
        >
          <DrawingSheet />
          <StageOptions
            v-model:compare="comparing.mode.value"
            v-model:against="comparing.against.value"
            :others="comparing.others.value"
          />
        </StageView>
        <TransportBar
          v-model:loop="loop"
          :reel="reel.on.value"
          :playing="picture.playing.value"
          :going="picture.going.value"
          :rate="picture.rate.value"
          :answer="picture.answer.value"
          @reel="actions.reel"
          @play="actions.play"
          @from="actions.rangeFrom"
          @to="actions.rangeTo"
          @all="actions.rangeAll"
          @notes="shown.notes = true"
        />
        <template v-if="!reel.on.value"><TrackCurve /><KeyLanes /></template>
        <ReelStrip v-if="reel.on.value" :reel="reel" :picture-of="pictureOf" @go="goInReel" />
        <PictureBar v-model:compare="comparing.mode.value" v-model:zoom="zoom" />
        <LineStrip :strips="line.strips.value" :changes="line.changes.value" @add="shown.adding = true" />
        <ShotRail
          :playing="reel.shown.value?.id ?? null"
          :picture-of="pictureOf"
          @match="match"
          @wall="shown.shots = true"
        />
      </div>
      <aside v-if="shown.adding" class="right" aria-label="Adding">
        <PanelEdge />
        <AddBoard @close="shown.adding = false" />
      </aside>
      <aside v-show="!shown.adding && !look.panel.folded" class="right" aria-label="Readings and settings">
        <PanelEdge />
        <div class="scroll">
          <ReadingsPanel
            ref="readingsView"
            v-model:scope="scope"
            v-model:scope-of="scopeOf"
            v-model:large="largeScope"
            :figures="figures"
            :encoding="bench.shot?.encoding ?? 'bt1886'"
            :card="bench.marks.grey"
            :reading="picture.reading.value"
          />
          <ProbeTable :probes="probes" />
          <SettingsPanel />
          <TourOffer />
        </div>
      </aside>
    </main>
    <KeySheet v-model:show="shown.help" />
    <ProofWall v-model:show="shown.wall" :proofs="proofs" @keep="keepProof" @compare="compareWith" @reopen="reopen" />
    <ShotWall v-model:show="shown.shots" @match="match" />
    <NotesSheet v-model:show="shown.notes" />
    <ConflictDialog />
    <RenderDialog v-model:show="shown.render" />
    <ReferenceInput :comparing="comparing" />
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
  grid-template-columns: minmax(0, 1fr) var(--panel-width, clamp(340px, 33vw, 480px));
  min-height: 0;
}
.left {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.right {
  background: var(--panel);
  border-left: 1px solid var(--line);
  min-height: 0;
  position: relative;
}
.scroll {
  height: 100%;
  overflow-y: auto;
}
.bare > :not(main),
.bare .right,
.bare .left > :not(.stage) {
  display: none;
}
.bare main {
  --panel-width: 0 !important;
}
.bare .stage {
  padding: 0;
}
</style>
