<script setup lang="ts">
import { useRouter } from 'vue-router'
import HelpButton from '../components/HelpButton.vue'
import { useBenchStore } from '../stores/bench'
import { shortcutOf } from './keys'
import MarkedShots from './MarkedShots.vue'
import { useMarking } from './useMarking'
import { useShotSigns } from './useShotSigns'

/** The production's shots as treated pictures; several can be chosen and given the line. */
defineProps<{
  /** The shot that plays, where that is not the one on the bench. */
  playing: number | null
  pictureOf: (shotId: number) => string | null
}>()
const emit = defineEmits<{ match: [shotId: number]; wall: [] }>()
const bench = useBenchStore()
const router = useRouter()
const { signs } = useShotSigns()
const { marked, choose } = useMarking((s) => void router.push(`/bench/${s.id}`))
</script>

<template>
  <section class="rail" aria-label="Shots">
    <div class="shots">
      <button
        v-for="(s, i) in bench.shots"
        :key="s.id"
        type="button"
        class="shot"
        :class="{ marked: marked.includes(s.id) }"
        :aria-current="s.id === (playing ?? bench.shot?.id)"
        :title="signs.get(s.id)!.title"
        @click="choose(s, $event)"
      >
        <img v-if="pictureOf(s.id)" :src="pictureOf(s.id)!" alt="" />
        <span v-else class="blank" />
        <span class="label"><span class="mono">{{ String(i + 1).padStart(2, '0') }}</span> {{ s.name }}</span
        ><component :is="signs.get(s.id)!.icon" v-if="signs.get(s.id)!.icon" class="sign" aria-hidden="true" />
      </button>
      <button
        class="word"
        type="button"
        title="Mark all shots, to put a line on them; Ctrl and click marks one"
        @click="marked = bench.shots.map((s) => s.id)"
      >
        mark all
      </button>
      <button class="word" type="button" :title="`All shots, large (${shortcutOf('shotWall')})`" @click="emit('wall')">
        wall
      </button>
      <HelpButton page="bench#shots" name="About shots" />
    </div>
    <MarkedShots @match="(id) => emit('match', id)" />
  </section>
</template>

<style scoped>
.rail {
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: flex;
  flex: none;
  gap: 12px;
  height: 92px;
  padding: 8px 12px 0;
}
.shots {
  align-items: flex-start;
  display: flex;
  flex: 1;
  gap: 8px;
  min-width: 0;
  overflow: auto hidden;
  scrollbar-width: thin;
}
.shot {
  background: none;
  border: 2px solid transparent;
  color: var(--text);
  cursor: pointer;
  flex: 0 0 auto;
  font: inherit;
  font-size: 13px;
  padding: 0;
  position: relative;
  text-align: left;
  width: 104px;
}
.shot[aria-current='true'] {
  border-color: var(--accent);
}
.shot.marked {
  border-color: var(--text);
  border-style: dashed;
}
img,
.blank {
  background: var(--raised);
  display: block;
  height: 54px;
  object-fit: cover;
  width: 100%;
}
.label {
  display: block;
  line-height: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.sign {
  background: rgb(0 0 0 / 70%);
  color: #ececec;
  height: 16px;
  padding: 2px;
  position: absolute;
  right: 2px;
  top: 2px;
  width: 16px;
}
</style>
