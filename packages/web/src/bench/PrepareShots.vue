<script setup lang="ts">
import { NButton, NCheckbox, useMessage } from 'naive-ui'
import { computed, inject, shallowReactive, watch } from 'vue'
import { NOTHING, changeSettings, newBath, newId, type Bath } from '@fogbath/core/line'
import { type Proposal } from '@fogbath/core/readings'
import type { Shot } from '@fogbath/contract'
import SheetDialog from '../components/SheetDialog.vue'
import ShotStill from '../components/ShotStill.vue'
import { wordsOf } from '../stores/errors'
import { useBenchStore } from '../stores/bench'
import { SIDE } from './drawn/useIncoming'
import { frameOrder } from '../workers/order'

/** Levels for many shots at once, each from its own frame; each proposal can be taken or left. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ shots: readonly Shot[] }>()
const emit = defineEmits<{ done: [] }>()
const bench = useBenchStore()
const message = useMessage()
const side = inject(SIDE)!

interface Row {
  readonly shot: Shot
  proposal: Proposal | null
  problem: string
  take: boolean
}
const rows = shallowReactive<Row[]>([])
const taken = computed(() => rows.filter((r) => r.take && r.proposal))

async function propose(shot: Shot): Promise<void> {
  const row: Row = shallowReactive({ shot, proposal: null, problem: '', take: true })
  rows.push(row)
  try {
    row.proposal = await side.proposal(frameOrder(shot, { recipe: NOTHING, after: [] }))
  } catch (error) {
    row.problem = wordsOf(error)
  }
}
watch(show, async (open) => {
  rows.length = 0
  if (open) for (const shot of props.shots) if (show.value) await propose(shot)
})

/** In the shot's balance, or in a new one before all others. */
function prepared({ preparation }: Shot, { black, white }: Proposal): readonly Bath[] {
  const own = preparation.find((b) => b.kind === 'balance')
  if (!own) return [newBath('balance', newId(), { black, white }), ...preparation]
  return changeSettings({ ...NOTHING, baths: preparation }, own.id, { black, white }).baths
}

async function take(): Promise<void> {
  const chosen = new Map(taken.value.map((r) => [r.shot.id, r.proposal!]))
  const shots = props.shots.filter((s) => chosen.has(s.id))
  try {
    await bench.prepare(shots, (shot) => prepared(shot, chosen.get(shot.id)!))
    message.success(`Prepared ${shots.length} ${shots.length === 1 ? 'shot' : 'shots'}; undo takes it back.`)
    show.value = false
    emit('done')
  } catch (error) {
    message.error(wordsOf(error))
  }
}
const signed = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)}`
</script>

<template>
  <SheetDialog
    v-model:show="show"
    :title="`Prepare ${shots.length === 1 ? 'this shot' : `these ${shots.length} shots`}`"
    :width="620"
  >
    <p class="quiet">
      Black and white levels from each shot’s own frame, into its own balance; looks stay. Leave out what you do not
      want.
    </p>
    <div class="rows">
      <div v-for="r in rows" :key="r.shot.id" class="row">
        <ShotStill class="still" :shot="r.shot" :width="168" />
        <NCheckbox
          :checked="r.take && r.proposal !== null"
          :disabled="!r.proposal"
          @update:checked="(v: boolean) => (r.take = v)"
          >{{ r.shot.name }}</NCheckbox
        >
        <span v-if="r.proposal" class="mono"
          >black {{ r.proposal.black.toFixed(2) }} %, white {{ signed(r.proposal.white) }}, clipped
          {{ (100 * r.proposal.clipped).toFixed(1) }} %</span
        >
        <span v-else :class="r.problem ? 'warn' : 'quiet'">{{ r.problem || 'being read …' }}</span>
      </div>
    </div>
    <NButton type="primary" :disabled="taken.length === 0" @click="take">
      Take {{ taken.length === 1 ? 'it for 1 shot' : `them for ${taken.length} shots` }}
    </NButton>
  </SheetDialog>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 8px;
  margin: 12px 0;
  max-height: 50vh;
  overflow-y: auto;
}
.row {
  align-items: center;
  display: grid;
  gap: 10px;
  grid-template-columns: 84px 1fr auto;
}
.still {
  width: 84px;
}
</style>
