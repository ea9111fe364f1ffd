<script setup lang="ts">
import { inject } from 'vue'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'
import { useRouter } from 'vue-router'
import { SIDE } from './drawn/useIncoming'
import MarkedShots from './MarkedShots.vue'
import { useMarking } from './useMarking'
import { useShotPictures } from './useShotPictures'
import { useShotSigns } from './useShotSigns'

/** All shots of the production as they are treated, beside each other: one is opened from here, several are marked. */
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ match: [shotId: number] }>()
const bench = useBenchStore()
const router = useRouter()
const { signs } = useShotSigns()
const { pictureOf } = useShotPictures(inject(SIDE)!, 400, () => show.value)
const { marked, choose, toggle } = useMarking((s) => {
  show.value = false
  void router.push(`/bench/${s.id}`)
})
</script>

<template>
  <SheetDialog v-model:show="show" title="All shots as they are treated" :width="1200">
    <ul class="wall">
      <li v-for="(s, i) in bench.shots" :key="s.id" :class="{ marked: marked.includes(s.id) }">
        <button
          type="button"
          class="picture"
          :aria-current="s.id === bench.shot?.id"
          :title="signs.get(s.id)!.title"
          @click="choose(s, $event)"
        >
          <img v-if="pictureOf(s.id)" :src="pictureOf(s.id)!" alt="" />
          <span v-else class="blank" />
          <span class="label"><span class="mono">{{ String(i + 1).padStart(2, '0') }}</span> {{ s.name }}</span>
        </button>
        <label
          ><input
            type="checkbox"
            :checked="marked.includes(s.id)"
            :aria-label="`Mark ${s.name}`"
            @change="toggle(s.id)"
          />
          mark</label
        >
      </li>
    </ul>
    <MarkedShots @match="(id) => ((show = false), emit('match', id))" />
  </SheetDialog>
</template>

<style scoped>
.wall {
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
}
.picture {
  background: none;
  border: 2px solid transparent;
  color: var(--text);
  cursor: pointer;
  font: inherit;
  padding: 0;
  text-align: left;
  width: 100%;
}
.picture[aria-current='true'] {
  border-color: var(--accent);
}
.marked .picture {
  border-color: var(--text);
  border-style: dashed;
}
img,
.blank {
  aspect-ratio: 16 / 9;
  background: #1a1a1a;
  display: block;
  object-fit: contain;
  width: 100%;
}
.label {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
label {
  align-items: center;
  display: inline-flex;
  gap: 6px;
  min-height: 24px;
}
input {
  accent-color: var(--accent);
}
</style>
