<script setup lang="ts">
import { NButton, NDropdown } from 'naive-ui'
import { Keyboard, LayoutSidebarRightCollapse, LayoutSidebarRightExpand } from '@vicons/tabler'
import { computed, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import IconButton from '../components/IconButton.vue'
import TopBar from '../components/TopBar.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import { useShelfStore } from '../stores/shelf'
import DeliverLook from '../components/DeliverLook.vue'
import KeepRecipe from './KeepRecipe.vue'
import { shortcutOf } from './keys'
import NewerVersion from './NewerVersion.vue'
import TrialTabs from './TrialTabs.vue'
import UndoButtons from './UndoButtons.vue'
import type { useProofs } from './useProofs'

/** Where one is, the trials, and what concerns the whole shot: undo, saving, proofs, rendering. */
defineProps<{ proofs: ReturnType<typeof useProofs> }>()
const emit = defineEmits<{ proof: []; wall: []; help: []; render: [] }>()
const bench = useBenchStore()
const shelf = useShelfStore()
onMounted(() => void shelf.load().catch(() => undefined))
const keeping = ref(false)
const look = useLookStore()

const delivering = ref(false)
const router = useRouter()
/** What leaves the bench: renders, the look as a file, the process on paper. */
function take(what: 'shots' | 'look' | 'sheet'): void {
  if (what === 'look') delivering.value = true
  else if (what === 'sheet') void router.push(`/sheet/shot/${bench.shot!.id}?frame=${bench.frame}`)
  else emit('render')
}
const ways = [
  { key: 'shots', label: 'Shots as clips or stills ...' },
  { key: 'look', label: 'The look as a file (.clf, .cube, .cdl) ...' },
  { key: 'sheet', label: 'Process sheet' },
]
const SAVE_TEXT = {
  saved: 'saved',
  changed: 'saving',
  saving: 'saving',
  offline: 'not saved: server away',
  restarting: 'not saved: the database is being restarted',
  conflict: 'changed elsewhere',
  refused: 'not saved',
} as const
const saveText = computed(
  () => SAVE_TEXT[bench.saveState === 'offline' && /database/.test(bench.saveMessage) ? 'restarting' : bench.saveState],
)
const troubled = computed(() => ['offline', 'conflict', 'refused'].includes(bench.saveState))
</script>

<template>
  <TopBar>
    <nav v-if="bench.production" class="crumbs" aria-label="Where">
      <RouterLink class="word" :to="`/productions/${bench.production.id}`">{{ bench.production.name }}</RouterLink>
      <span class="quiet">/</span><span class="shot-name">{{ bench.shot?.name }}</span>
    </nav>
    <TrialTabs :proofs="proofs" />
    <template #right>
      <UndoButtons />
      <span class="save" :class="{ warn: troubled }" role="status" :title="bench.saveMessage">{{ saveText }}</span>
      <NewerVersion />
      <button class="word" type="button" title="Keep this look as a recipe on the shelf" @click="keeping = true">
        keep as recipe
      </button>
      <NButton size="small" :title="`Keep a proof of this frame (${shortcutOf('proof')})`" @click="emit('proof')"
        >Keep proof</NButton
      >
      <button
        class="word"
        type="button"
        :title="`See the proofs of this shot (${shortcutOf('wall')})`"
        @click="emit('wall')"
      >
        see proofs<span v-if="proofs.list.value.length" class="mono">&nbsp;{{ proofs.list.value.length }}</span>
      </button>
      <NDropdown trigger="click" :options="ways" @select="take"
        ><NButton data-tour="render" size="small" type="primary" :title="`Render the shot (${shortcutOf('render')})`"
          >Render</NButton
        ></NDropdown
      >
      <IconButton
        :icon="look.panel.folded ? LayoutSidebarRightExpand : LayoutSidebarRightCollapse"
        name="Panels"
        :title="look.panel.folded ? 'Open readings and settings' : 'Fold readings and settings away'"
        :pressed="!look.panel.folded"
        @click="look.panel.folded = !look.panel.folded"
      />
      <IconButton :icon="Keyboard" name="Keys" title="What the keys do (?)" @click="emit('help')" />
    </template>
  </TopBar>
  <KeepRecipe v-model:show="keeping" />
  <DeliverLook v-model:show="delivering" :recipe="bench.recipe" :on="bench.order" />
</template>

<style scoped>
.crumbs {
  align-items: center;
  display: flex;
  flex: 0 1 auto;
  gap: 8px;
  min-width: 60px;
  overflow: hidden;
}
.crumbs a {
  text-decoration: none;
}
.crumbs .word,
.shot-name {
  overflow: hidden;
  text-overflow: ellipsis;
}
.save {
  min-width: 40px;
}
@media (max-width: 1180px) {
  .crumbs .word,
  .crumbs .quiet {
    display: none;
  }
}
</style>
