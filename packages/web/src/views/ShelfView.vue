<script setup lang="ts">
import { SHIPPED_RECIPES } from '@fogbath/core'
import { NCheckbox, NInput, NSelect } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/client'
import type { KeptRecipe, Shot } from '../api/types'
import { wordsOf } from '../components/complain'
import NamedSlider from '../components/NamedSlider.vue'
import SheetDialog from '../components/SheetDialog.vue'
import TopBar from '../components/TopBar.vue'
import { groupsOf } from '../shelf/entries'
import RecipeTexts from '../shelf/RecipeTexts.vue'
import ShelfTile from '../shelf/ShelfTile.vue'
import { tagsIn, useShelfStore } from '../stores/shelf'

/** Every recipe as a picture of a shot: one's own with their versions, and those that come with the program. */
const shelf = useShelfStore()
const shots = shallowRef<readonly Shot[]>([])
const shotId = ref<number | null>(null)
const search = ref('')
const archived = ref(false)
/** Width of the pictures, CSS pixels. */
const USUAL = 230
const size = ref(USUAL)
const problem = ref('')

async function load(): Promise<void> {
  try {
    const [{ items }] = await Promise.all([api.productions(), shelf.load()])
    shots.value = items.flatMap((p) => p.shots)
    shotId.value ??= shots.value[0]?.id ?? null
    problem.value = ''
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
onMounted(load)

const shot = computed(() => shots.value.find((s) => s.id === shotId.value))
const choices = computed(() => shots.value.map((s) => ({ value: s.id, label: s.name })))
const groups = computed(() => groupsOf(SHIPPED_RECIPES, shelf.kept, { search: search.value, archived: archived.value }))
const hasArchived = computed(() => shelf.kept.some((row) => row.archived))

async function change(row: KeptRecipe, what: Parameters<typeof shelf.change>[1]): Promise<void> {
  problem.value = await shelf.change(row, what).then(() => '', wordsOf)
  // With the last one restored there is nothing archived left to look at.
  archived.value &&= hasArchived.value
}

const renamed = shallowRef<KeptRecipe | null>(null)
const texts = ref({ name: '', sentence: '', tags: '' })
function rename(row: KeptRecipe): void {
  renamed.value = row
  texts.value = { name: row.name, sentence: row.sentence, tags: row.tags.join(', ') }
}
async function finish(): Promise<void> {
  const { name, sentence, tags } = texts.value
  await change(renamed.value!, { name: name.trim(), sentence: sentence.trim(), tags: tagsIn(tags) })
  renamed.value = null
}
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>Shelf</h1>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="load">Try again</button>
    </p>
    <div class="how">
      <NInput
        v-model:value="search"
        clearable
        placeholder="Search: name, sentence, tag"
        :input-props="{ 'aria-label': 'Search' }"
      />
      <NSelect v-model:value="shotId" :options="choices" aria-label="Shot whose frame is shown" placeholder="No shot" />
      <NamedSlider
        :value="size"
        :min="150"
        :max="420"
        :step="10"
        name="Size of the pictures"
        @change="(v) => (size = v)"
        @reset="size = USUAL"
      />
      <NCheckbox v-if="hasArchived" v-model:checked="archived">archived ones</NCheckbox>
    </div>
    <p class="quiet">
      A line is kept here from the bench, “keep recipe”; there these recipes stand on the board of baths. Nothing is
      ever deleted.
    </p>
    <section v-for="g in groups" :key="g.title" :aria-label="g.title">
      <h2>{{ g.title }}</h2>
      <div class="tiles" :style="{ '--tile': `${size}px` }">
        <ShelfTile
          v-for="entry in g.list"
          :key="entry.key"
          :entry="entry"
          :shot="shot"
          @favourite="change(entry.kept!, { favourite: !entry.kept!.favourite })"
          @archive="change(entry.kept!, { archived: !entry.kept!.archived })"
          @rename="rename(entry.kept!)"
        />
      </div>
    </section>
    <p v-if="groups.length === 0" class="quiet" role="status">Nothing here has these words.</p>
    <SheetDialog :show="renamed !== null" title="Name, sentence, tags" :width="440" @update:show="renamed = null">
      <RecipeTexts
        v-model:name="texts.name"
        v-model:sentence="texts.sentence"
        v-model:tags="texts.tags"
        action="Change"
        :busy="false"
        @done="finish"
      />
    </SheetDialog>
  </main>
</template>

<style scoped>
.how {
  align-items: center;
  display: grid;
  gap: 16px;
  grid-template-columns: minmax(180px, 320px) minmax(160px, 260px) 160px auto;
  margin: 12px 0;
}
h2 {
  margin: 20px 0 8px;
}
.tiles {
  display: grid;
  gap: 18px 12px;
  grid-template-columns: repeat(auto-fill, minmax(var(--tile), 1fr));
}
</style>
