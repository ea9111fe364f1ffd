<script setup lang="ts">
import { NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { ENCODINGS } from '@fogbath/core'
import type { Shot } from '../api/types'
import ShotStill from '../components/ShotStill.vue'

/** One shot of a production: what it is, how it is read, which part of it is used. */
const props = defineProps<{ shot: Shot; first: boolean; last: boolean }>()
const emit = defineEmits<{ change: [values: Partial<Shot>]; move: [by: number]; remove: [] }>()

/** Frames that are set: the part that is used, and the telling one. */
const frames = computed(() => {
  const { first, last, medium } = props.shot
  const end = medium.info.frames - 1
  return [
    { field: 'first', label: 'In', name: 'First frame', least: 0, most: last },
    { field: 'last', label: 'Out', name: 'Last frame', least: first, most: end },
    { field: 'still', label: 'Still', name: 'Telling frame', least: 0, most: end },
  ] as const
})
const encodings = ENCODINGS.map((e) => ({ value: e.id, label: e.label }))
const about = computed(() => {
  const i = props.shot.medium.info
  const rate =
    i.kind === 'still'
      ? ''
      : `, ${i.frames} frames at ${(Number(i.fps.split('/')[0]) / Number(i.fps.split('/')[1] || 1)).toFixed(2).replace(/\.?0+$/, '')}`
  return `${i.width} × ${i.height}, ${i.bits} bit ${i.codec}${rate}`
})
</script>

<template>
  <article class="shot">
    <RouterLink :to="`/bench/${shot.id}`" :aria-label="`${shot.name} on the bench`"
      ><ShotStill :shot="shot" :width="320"
    /></RouterLink>
    <div class="facts">
      <NInput
        size="small"
        :default-value="shot.name"
        maxlength="120"
        :input-props="{ 'aria-label': 'Name of the shot' }"
        @change="(v: string) => v.trim() && emit('change', { name: v.trim() })"
      />
      <p class="mono quiet">{{ shot.medium.name }}<br />{{ about }}</p>
      <p v-for="w in shot.medium.info.warnings" :key="w" class="warn">! {{ w }}</p>
    </div>
    <div class="set">
      <label
        >Encoding
        <NSelect
          size="small"
          :value="shot.encoding"
          :options="encodings"
          aria-label="Encoding"
          @update:value="(v: string) => emit('change', { encoding: v })"
      /></label>
      <p class="quiet">
        {{ ENCODINGS.find((e) => e.id === shot.encoding)?.help }}
        {{ shot.encoding === shot.medium.info.encoding ? '' : '(chosen by you)' }}
      </p>
      <div v-if="shot.medium.info.frames > 1" class="range">
        <label v-for="f in frames" :key="f.field"
          >{{ f.label }}
          <NInputNumber
            size="tiny"
            :value="shot[f.field]"
            :min="f.least"
            :max="f.most"
            :input-props="{ 'aria-label': f.name }"
            @update:value="(v: number | null) => v !== null && emit('change', { [f.field]: v })"
        /></label>
      </div>
    </div>
    <div class="order">
      <RouterLink class="word" :to="`/bench/${shot.id}`">bench</RouterLink>
      <button
        class="word"
        type="button"
        :disabled="first"
        :aria-label="`Move ${shot.name} up`"
        @click="emit('move', -1)"
      >
        up
      </button>
      <button
        class="word"
        type="button"
        :disabled="last"
        :aria-label="`Move ${shot.name} down`"
        @click="emit('move', 1)"
      >
        down
      </button>
      <button class="word" type="button" :aria-label="`Remove ${shot.name}`" @click="emit('remove')">remove</button>
    </div>
  </article>
</template>

<style scoped>
.shot {
  border-bottom: 1px solid var(--line);
  display: grid;
  gap: 18px;
  grid-template-columns: 190px 1fr 330px 66px;
  padding: 14px 0;
}
.facts p,
.set p {
  font-size: 13px;
  margin-top: 4px;
}
.range {
  display: flex;
  gap: 10px;
  margin-top: 6px;
}
.range label {
  width: 104px;
}
.order {
  align-items: flex-start;
  display: flex;
  flex-direction: column;
}
.order .word {
  text-align: left;
}
.order a {
  text-decoration: none;
}
</style>
