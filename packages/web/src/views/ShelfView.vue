<script setup lang="ts">
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { NButton, NCheckbox, NInput, NSelect } from 'naive-ui'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import type { RecipeUse } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'
import DeliverLook from '../components/DeliverLook.vue'
import NamedSlider from '../components/NamedSlider.vue'
import SheetDialog from '../components/SheetDialog.vue'
import TopBar from '../components/TopBar.vue'
import BesideDialog from '../shelf/BesideDialog.vue'
import BringFiles from '../shelf/BringFiles.vue'
import KeptMasks from '../shelf/KeptMasks.vue'
import PutOn from '../shelf/PutOn.vue'
import RecipeTexts from '../components/RecipeTexts.vue'
import SharedFolder from '../shelf/SharedFolder.vue'
import ShelfList from '../shelf/ShelfList.vue'
import { ORDERS, groupsOf, tagsOf, type Order, type ShelfEntry } from '../shelf/entries'
import { useBringing } from '../shelf/useBringing'
import { usePutting } from '../shelf/usePutting'
import { useShownOn } from '../shelf/useShownOn'
import { useTileActions } from '../shelf/useTileActions'
import { useShelfStore } from '../stores/shelf'

/** Every recipe as a picture of a shot: one's own with their versions, and those that come with the program. */
const shelf = useShelfStore()
const uses = shallowRef<readonly RecipeUse[]>([])
const search = ref('')
const tag = ref<string | null>(null)
const order = ref<Order>('families')
const archived = ref(false)
const favourites = ref(false)
/** Width that the pictures have at least, CSS pixels. */
const USUAL = 230
const size = ref(USUAL)
const problem = ref('')
const shares = ref(false)
const { chosen, choices, shot, shown, shownWhenKnown, loadShots, choose, bring: bringStill } = useShownOn(problem)
const folder = ref<InstanceType<typeof SharedFolder> | null>(null)

async function load(): Promise<void> {
  // Each part is shown as soon as it is there, whatever becomes of the others.
  const parts = [loadShots(), api.shelfUses().then((used) => (uses.value = used)), shelf.load()]
  const failed = (await Promise.allSettled(parts)).find((part) => part.status === 'rejected')
  problem.value = failed ? wordsOf(failed.reason) : ''
}
onMounted(load)

const orders = Object.entries(ORDERS).map(([value, label]) => ({ value, label }))
const tags = computed(() => tagsOf(SHIPPED_RECIPES, shelf.kept).map((t) => ({ value: t, label: t })))
const sought = computed(() => ({
  search: search.value,
  tag: tag.value,
  order: order.value,
  archived: archived.value,
  favourites: favourites.value,
}))
const groups = computed(() => groupsOf(SHIPPED_RECIPES, shelf, uses.value, sought.value))
const ownShown = computed(() => groups.value.flatMap((g) => g.list).flatMap((e) => e.kept ?? []))
const hasFavourites = computed(() => shelf.favourites.size > 0)
const hasArchived = computed(() => shelf.kept.some((row) => row.archived))

const MOST_BESIDE = 4
const besideKeys = ref<readonly string[]>([])
const beside = computed(() =>
  besideKeys.value.flatMap((key) => groups.value.flatMap((g) => g.list).find((e) => e.key === key) ?? []),
)
const showBeside = ref(false)
function setBeside({ key }: ShelfEntry, on: boolean): void {
  // The one that was ticked first makes room.
  const others = besideKeys.value.filter((k) => k !== key)
  besideKeys.value = on ? [...others, key].slice(-MOST_BESIDE) : others
}

const { done: putDone, put, takeBack } = usePutting(problem)
const { act, saveShown, mark, renamed, finishRenaming, delivering, putting, said } = useTileActions({
  put,
  shot,
  shownWhenKnown,
  problem,
  folder,
})
const shotChoices = computed(() =>
  choices.value.flatMap(({ value, label }) => (typeof value === 'number' ? [{ value, label }] : [])),
)
function putOn(shots: readonly number[]): void {
  void put(putting.value!, shots)
  putting.value = null
}
const { bringing, over, drop, pick, picker, done } = useBringing({ problem, reload: load, folder })
watch(hasArchived, (any) => (archived.value &&= any))
watch(hasFavourites, (any) => (favourites.value &&= any))
</script>

<template>
  <div
    class="shelf"
    :class="{ over }"
    @dragover.prevent="over = true"
    @dragleave.self="over = false"
    @drop.prevent="drop"
  >
    <TopBar />
    <main>
      <header>
        <h1>Shelf</h1>
        <p v-if="problem" role="alert" class="warn">
          {{ problem }} <button class="word" type="button" @click="load">Try again</button>
        </p>
        <p v-if="said" role="status" class="quiet">{{ said }}</p>
        <p v-if="putDone" role="status" class="put">
          {{ putDone.name }} is on {{ putDone.puts.map((p) => p.shot.name).join(', ') }}, as a new trial.
          <span v-if="putDone.warning" class="warn">{{ putDone.warning }}</span>
          <RouterLink :to="`/bench/${putDone.puts[0]!.shot.id}`">See it on the bench</RouterLink>
          <button class="word" type="button" @click="takeBack">undo</button>
        </p>
        <div class="how fields">
          <NInput
            v-model:value="search"
            clearable
            placeholder="Search: name, sentence, tag"
            :input-props="{ 'aria-label': 'Search' }"
          />
          <NSelect v-model:value="tag" clearable :options="tags" placeholder="Any tag" aria-label="Tag" />
          <NSelect v-model:value="order" :options="orders" aria-label="Order" />
          <NSelect
            :value="chosen"
            :options="choices"
            aria-label="Picture that recipes are shown on"
            placeholder="No shot"
            @update:value="choose"
          />
          <NamedSlider
            :value="size"
            :min="150"
            :max="420"
            :step="10"
            name="Size of the pictures"
            @change="(v) => (size = v)"
            @reset="size = USUAL"
          />
        </div>
        <div class="more">
          <NButton
            size="small"
            :disabled="beside.length < 2"
            title="Two to four, ticked below"
            @click="showBeside = true"
            >See {{ beside.length || '' }} side by side</NButton
          >
          <button
            class="word"
            type="button"
            title="Recipes as .json, or .zip of such files; they can be dropped here too"
            @click="picker?.click()"
          >
            import recipe files
          </button>
          <input ref="stillPicker" type="file" accept="image/*" hidden data-test="shelf-picture" @change="bringStill" />
          <input ref="picker" type="file" accept=".json,.zip" multiple hidden data-test="recipe-files" @change="pick" />
          <button
            class="word"
            type="button"
            title="Recipes of your own that are found here: one as .json, several as a .zip"
            :disabled="ownShown.length === 0"
            @click="saveShown(ownShown)"
          >
            export your own, shown here
          </button>
          <NCheckbox v-if="hasFavourites" v-model:checked="favourites">favourites</NCheckbox>
          <NCheckbox v-if="hasArchived" v-model:checked="archived">archived ones</NCheckbox>
        </div>
        <SharedFolder ref="folder" @bring="(files) => (bringing = files)" @folder="(there) => (shares = there)" />
        <KeptMasks :on="shown" />
      </header>
      <ShelfList
        :groups="groups"
        :shown="shown"
        :size="size"
        :shares="shares"
        :shot-name="shot?.name ?? null"
        :sought="sought"
        :beside="besideKeys"
        @beside="setBeside"
        @favourite="mark"
        @act="act"
      >
        <p v-if="groups.length === 0" class="quiet" role="status">Nothing here has these words.</p>
        <p v-if="shelf.there.length === 0 && groups.length" class="quiet">
          A line is kept here from the bench, “keep as recipe”; there these recipes stand on the board of baths. Nothing
          is ever deleted.
        </p>
      </ShelfList>
    </main>
    <SheetDialog :show="renamed !== null" title="Name, sentence, tags" :width="480" @update:show="renamed = null">
      <RecipeTexts v-if="renamed" :texts="renamed" action="Change" :busy="false" @done="finishRenaming" />
    </SheetDialog>
    <PutOn :entry="putting" :shots="shotChoices" @put="putOn" @close="putting = null" />
    <BesideDialog v-model:show="showBeside" :entries="beside" :shown="shown" />
    <BringFiles :files="bringing" @done="done" @close="bringing = []" />
    <DeliverLook
      v-if="delivering"
      :show="true"
      :recipe="delivering.recipe"
      :on="shown"
      @update:show="delivering = null"
    />
  </div>
</template>

<style scoped>
.shelf {
  display: flex;
  flex-direction: column;
  height: 100vh;
}
.over {
  outline: 2px dashed var(--accent);
  outline-offset: -4px;
}
main {
  display: flex;
  flex: 1;
  flex-direction: column;
  margin: 0 auto;
  max-width: 1500px;
  min-height: 0;
  padding: 14px 24px 0;
  width: 100%;
}
.how {
  align-items: center;
  display: grid;
  gap: 12px;
  grid-template-columns: minmax(160px, 1.4fr) 1fr 1fr 1fr 140px;
  margin: 8px 0;
}
.put {
  display: flex;
  gap: 10px;
}
.put a {
  color: var(--text);
}
.more {
  align-items: center;
  display: flex;
  gap: 18px;
  margin-bottom: 6px;
}
</style>
