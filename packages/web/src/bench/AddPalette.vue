<script setup lang="ts">
import { NInput } from 'naive-ui'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { KINDS, SHIPPED_RECIPES, addKind, asNewLine, kindById, type Family, type Recipe } from '@fogbath/core'
import FamilyEmblem from '../components/FamilyEmblem.vue'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import { sourceOf } from './source'

/** Kinds of bath and whole recipes by family; what is pointed at is shown on the picture at once. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ side: Engine }>()
const bench = useBenchStore()
const search = ref('')
const small = ref<HTMLCanvasElement | null>(null)
const pointed = shallowRef<Entry | null>(null)

interface Entry {
  readonly id: string
  readonly label: string
  readonly summary: string
  readonly family: Family
  readonly type: 'bath' | 'recipe'
  readonly make: () => Recipe
}

const entries = computed<Entry[]>(() => [
  ...KINDS.map((k) => ({
    id: k.id,
    label: k.label,
    summary: k.summary,
    family: k.family,
    type: 'bath' as const,
    make: () => addKind(bench.recipe, k.id, bench.chosen ?? undefined),
  })),
  ...SHIPPED_RECIPES.map((r) => ({
    id: r.id,
    label: r.name,
    summary: r.summary,
    family: kindById(r.baths[0]!.kind).family,
    type: 'recipe' as const,
    make: () => asNewLine(r),
  })),
])
const found = computed(() => {
  const words = search.value.toLowerCase().split(/\s+/).filter(Boolean)
  const has = (text: string): boolean => words.every((w) => text.toLowerCase().includes(w))
  const hits = entries.value.filter((e) => has(`${e.label} ${e.summary} ${e.family.name} ${e.type}`))
  // What is called so comes before what is only described so.
  return [...hits.filter((e) => has(e.label)), ...hits.filter((e) => !has(e.label))]
})
const families = computed(() =>
  [...new Map(found.value.map((e) => [e.family.name, e.family])).values()].map((family) => ({
    family,
    list: found.value.filter((e) => e.family.name === family.name),
  })),
)
/** What Enter takes: the hit that stands on top. */
const first = computed(() => (search.value.trim() ? families.value[0]?.list[0] : undefined))

async function point(entry: Entry): Promise<void> {
  // While the palette fades out the pointer may still pass over entries.
  if (!show.value) return
  pointed.value = entry
  const shot = bench.shot
  if (!shot) return
  const recipe = entry.make()
  bench.preview = recipe
  const bitmap = await props.side.thumbnail({
    source: sourceOf(shot),
    frame: bench.frame,
    width: 320,
    recipe,
    trims: shot.trims,
  })
  if (pointed.value !== entry || !small.value) return bitmap.close()
  ;[small.value.width, small.value.height] = [bitmap.width, bitmap.height]
  small.value.getContext('2d')!.drawImage(bitmap, 0, 0)
}

/** While one types, the first hit is what is seen. */
watch(first, (entry, before) => {
  if (entry && entry.type + entry.id !== (before && before.type + before.id)) void point(entry)
})

function take(entry: Entry): void {
  const before = new Set(bench.recipe.baths.map((b) => b.id))
  bench.preview = null
  const made = entry.make()
  bench.change(made)
  bench.chosen = (entry.type === 'bath' ? made.baths.find((b) => !before.has(b.id)) : made.baths[0])?.id ?? null
  show.value = false
}

function paste(): void {
  bench.paste()
  show.value = false
}

watch(show, async (open) => {
  if (!open) {
    bench.preview = null
    pointed.value = null
    return
  }
  search.value = ''
  await nextTick()
  document.querySelector<HTMLInputElement>('.palette-search input')?.focus()
})
</script>

<template>
  <SheetDialog v-model:show="show" title="Add to the line" :width="760">
    <NInput
      v-model:value="search"
      class="palette-search"
      placeholder="Search: silver, warm, two-strip ..."
      clearable
      :input-props="{ 'aria-label': 'Search; Enter adds the first hit' }"
      @keydown.enter.prevent="first && take(first)"
    />
    <div class="both">
      <div class="list">
        <button v-if="bench.clipboard.length" class="entry" type="button" @click="paste">
          <b>Paste</b
          ><span class="quiet">{{
            bench.clipboard.length === 1 ? 'the copied bath' : `${bench.clipboard.length} copied baths`
          }}</span>
        </button>
        <section v-for="f in families" :key="f.family.name">
          <h3><FamilyEmblem :family="f.family" /> {{ f.family.name }}</h3>
          <button
            v-for="e in f.list"
            :key="e.type + e.id"
            type="button"
            class="entry"
            :class="{ first: e === first }"
            :data-entry="e.id"
            @mouseenter="point(e)"
            @focus="point(e)"
            @click="take(e)"
          >
            <b>{{ e.label }}</b><span class="quiet"
              >{{ e === first ? 'Enter adds it · ' : '' }}{{ e.type === 'recipe' ? 'whole line' : 'bath' }}</span
            >
          </button>
        </section>
        <p v-if="found.length === 0" class="quiet">Nothing of that name. Try a word such as silver, tone or faded.</p>
      </div>
      <aside>
        <canvas ref="small" role="img" :aria-label="pointed ? `Preview: ${pointed.label}` : 'Preview'" />
        <p v-if="pointed">
          <b>{{ pointed.label }}.</b> {{ pointed.summary }}
          <span v-if="pointed.type === 'recipe'" class="quiet">Replaces the line; undo brings it back.</span>
        </p>
        <p v-else class="quiet">Point at an entry: the picture shows it at once.</p>
      </aside>
    </div>
  </SheetDialog>
</template>

<style scoped>
.both {
  display: grid;
  gap: 18px;
  grid-template-columns: 1fr 320px;
  margin-top: 10px;
}
.list {
  max-height: 56vh;
  overflow-y: auto;
}
h3 {
  align-items: center;
  color: var(--quiet);
  display: flex;
  font-size: 13px;
  font-weight: 400;
  gap: 6px;
  margin: 10px 0 2px;
}
.entry {
  background: none;
  border: 0;
  color: var(--text);
  cursor: pointer;
  display: flex;
  font: inherit;
  justify-content: space-between;
  padding: 4px 8px;
  width: 100%;
}
.entry:hover,
.entry.first,
.entry:focus-visible {
  background: var(--raised);
}
canvas {
  aspect-ratio: 16 / 9;
  background: var(--surround);
  width: 100%;
}
aside p {
  margin-top: 8px;
}
</style>
