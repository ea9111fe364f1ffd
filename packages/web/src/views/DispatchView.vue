<script setup lang="ts">
import { ROUTES, addressOf, type Render } from '@fogbath/contract'
import { GripVertical } from '@vicons/tabler'
import { NButton } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import TopBar from '../components/TopBar.vue'
import RenderPlayer from '../dispatch/RenderPlayer.vue'
import RenderRow from '../dispatch/RenderRow.vue'
import { lineInWords, movedBy } from '../dispatch/renders'
import { useRenders } from '../dispatch/useRenders'
import { useShelfStore } from '../stores/shelf'

const { line, ended, more, problem, refresh, older, act, remove, reorder } = useRenders()
const shelf = useShelfStore()
// Names of looks are told without the shelf as well.
onMounted(() => void shelf.load().catch(() => undefined))

const ids = computed(() => line.value.map((r) => r.id))
const drop = (moved: readonly Render[]): void => void reorder(moved.map((r) => r.id))
function move(id: number, by: -1 | 1): void {
  const moved = movedBy(ids.value, id, by)
  if (moved) void reorder(moved)
}

/** Finished ones that are fetched together. */
const chosen = ref<number[]>([])
const together = computed(() =>
  chosen.value.filter((id) => ended.value?.some((r) => r.id === id && r.state === 'done')),
)
const archive = computed(() => addressOf(ROUTES.renderArchive, { query: { ids: together.value.join(',') } }))

const played = shallowRef<Render | null>(null)
const playing = ref(false)
function play(render: Render): void {
  played.value = render
  playing.value = true
}
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>Dispatch</h1>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="refresh">Try again</button>
    </p>
    <p v-else-if="ended?.length === 0 && line.length === 0" class="quiet">
      Nothing has been rendered yet. On the bench, choose Render.
    </p>
    <section v-if="line.length > 0" aria-label="In line">
      <p class="head quiet" role="status">{{ lineInWords(line) }}</p>
      <VueDraggable :model-value="[...line]" :animation="120" handle=".grip" @update:model-value="drop">
        <RenderRow
          v-for="r in line"
          :key="r.id"
          :render="r"
          @act="(action) => act(r, action)"
          @remove="remove(r)"
          @play="play(r)"
        >
          <button
            v-if="line.length > 1"
            class="grip"
            type="button"
            :aria-label="`Place of ${r.label} in line: up and down keys move it`"
            title="Drag, or up and down keys"
            @keydown.up.prevent="move(r.id, -1)"
            @keydown.down.prevent="move(r.id, 1)"
          >
            <GripVertical width="18" height="18" aria-hidden="true" />
          </button>
        </RenderRow>
      </VueDraggable>
    </section>
    <section v-if="ended?.length" aria-label="Ended">
      <p class="head">
        <NButton v-if="together.length > 1" tag="a" size="small" :href="archive" download
          >Download {{ together.length }} as one .zip</NButton
        >
      </p>
      <RenderRow
        v-for="r in ended"
        :key="r.id"
        :render="r"
        @act="(action) => act(r, action)"
        @remove="remove(r)"
        @play="play(r)"
      >
        <input
          v-if="r.state === 'done'"
          v-model="chosen"
          type="checkbox"
          :value="r.id"
          :aria-label="`Fetch ${r.label} together with others`"
        />
      </RenderRow>
    </section>
    <NButton v-if="more" class="older" @click="older">Older renders</NButton>
    <RenderPlayer v-if="played" v-model:show="playing" :render="played" />
  </main>
</template>

<style scoped>
h1 {
  margin-bottom: 12px;
}
.head {
  margin: 0 0 8px;
  min-height: 0;
}
section + section {
  margin-top: 28px;
}
.grip {
  background: none;
  border: 0;
  color: var(--quiet);
  cursor: grab;
  padding: 2px;
}
input {
  accent-color: var(--accent);
}
</style>
