<script setup lang="ts">
import { NSelect } from 'naive-ui'
import { ArrowBarToDown, ArrowBarToUp, ArrowDown, ArrowUp, Trash } from '@vicons/tabler'
import { computed } from 'vue'
import { MOST_IN_STRAND, STRAND_KINDS, STRETCHES, kindById } from '@fogbath/core/baths'
import { asNewLine, newBath, newId, type Bath } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import FamilyEmblem from '../../components/FamilyEmblem.vue'
import IconButton from '../../components/IconButton.vue'
import { useBenchStore } from '../../stores/bench'

/** The baths of a strand, as a list; each is opened to be set like any other bath. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const baths = computed(() => props.bath.settings['baths'] as readonly Bath[])
const set = (list: readonly Bath[]): void => bench.setSettings(props.bath.id, { baths: list })
const stretch = (b: Pick<Bath, 'kind'>): number => STRETCHES.indexOf(kindById(b.kind).stretch)
const full = computed(() => baths.value.length >= MOST_IN_STRAND)

const kinds = STRAND_KINDS.map((k) => ({ value: k.id, label: k.label }))
/** Recipes whose baths may all stand in a strand. */
const recipes = SHIPPED_RECIPES.filter((r) => r.baths.every((b) => STRAND_KINDS.some((k) => k.id === b.kind))).map(
  (r) => ({
    value: r.id,
    label: r.name,
  }),
)

/** At the end of its stretch. */
function add(kind: string): void {
  const made = newBath(kind, newId())
  const end = baths.value.filter((b) => stretch(b) <= stretch(made)).length
  set([...baths.value.slice(0, end), made, ...baths.value.slice(end)])
}
const fill = (id: string): void => set(asNewLine(SHIPPED_RECIPES.find((r) => r.id === id)!).baths)

const mayMove = (i: number, by: number): boolean => {
  const [own, other] = [baths.value[i], baths.value[i + by]]
  return own !== undefined && other !== undefined && stretch(own) === stretch(other)
}
function move(i: number, by: number): void {
  const list = [...baths.value]
  ;[list[i], list[i + by]] = [list[i + by]!, list[i]!]
  set(list)
}
const nameOf = (b: Bath): string => b.name || kindById(b.kind).label
</script>

<template>
  <div class="strand">
    <p v-if="baths.length === 0" class="quiet">Nothing in it yet: take a recipe, or add baths one by one.</p>
    <ol v-else>
      <li v-for="(b, i) in baths" :key="b.id" :class="{ out: !b.in }">
        <FamilyEmblem :family="kindById(b.kind).family" />
        <button class="word name" type="button" title="Open its settings" @click="bench.chosen = b.id">
          {{ nameOf(b) }}
        </button>
        <span class="mono">{{ Math.round(b.strength) }} %</span>
        <IconButton
          :icon="b.in ? ArrowBarToUp : ArrowBarToDown"
          :name="`${nameOf(b)}: ${b.in ? 'lift out' : 'put back'}`"
          :pressed="!b.in"
          @click="bench.setBath(b.id, { in: !b.in })"
        />
        <IconButton :icon="ArrowUp" :name="`${nameOf(b)}: earlier`" :disabled="!mayMove(i, -1)" @click="move(i, -1)" />
        <IconButton :icon="ArrowDown" :name="`${nameOf(b)}: later`" :disabled="!mayMove(i, 1)" @click="move(i, 1)" />
        <IconButton :icon="Trash" :name="`${nameOf(b)}: remove`" @click="bench.remove([b.id])" />
      </li>
    </ol>
    <div class="add">
      <NSelect
        size="tiny"
        filterable
        placeholder="Add a bath"
        :value="null"
        :options="kinds"
        :disabled="full"
        aria-label="Add a bath to the strand"
        @update:value="(id: string) => add(id)"
      />
      <NSelect
        size="tiny"
        filterable
        placeholder="Take a recipe"
        :value="null"
        :options="recipes"
        aria-label="Fill the strand with a recipe"
        @update:value="(id: string) => fill(id)"
      />
    </div>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  align-items: center;
  display: flex;
  gap: 8px;
}
.name {
  flex: 1;
  text-align: left;
}
.out .name {
  text-decoration: line-through;
}
.add {
  display: grid;
  gap: 8px;
  grid-template-columns: 1fr 1fr;
  margin: 6px 0;
}
</style>
