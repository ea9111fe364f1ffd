<script setup lang="ts">
import { NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { cutInWords } from '@fogbath/core/edits'
import { doubtOf, kneeIn, withKnee } from '@fogbath/core/encodings'
import { remarksOf } from '@fogbath/core/footage'
import { MOST_LETTERS, notesInOrder, notesOf } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import type { ShotValues } from '../api/client'
import { encodingChoices, encodingOfRow } from '../api/encodings'
import type { Shot } from '@fogbath/contract'
import NamedSlider from '../components/NamedSlider.vue'
import ShotStill from '../components/ShotStill.vue'
import { rateLabel, readingInWords } from './readings'

/** One shot of a production: what it is, how it is read, which part of it is used. */
const props = defineProps<{ shot: Shot; first: boolean; last: boolean }>()
const chosen = defineModel<boolean>('chosen', { required: true })
const emit = defineEmits<{ change: [values: ShotValues]; read: []; cuts: []; move: [by: number]; remove: [] }>()

/** Frames that are set: the part that is used, and the telling one. */
const frames = computed(() => {
  const { first, last, medium } = props.shot
  const end = medium.info.frames - 1
  return [
    { field: 'first', label: 'In', name: 'First frame', least: 0, most: last },
    { field: 'last', label: 'Out', name: 'Last frame', least: first, most: end },
    { field: 'still', label: 'Poster frame', name: 'Poster frame', least: 0, most: end },
  ] as const
})
/** High range has a knee of the shot's own. */
const knee = computed(() => kneeIn(props.shot.encoding))
/** What speaks against the encoding; nothing is changed by itself. */
const doubt = computed(() => {
  const { reach = null, float, bits } = props.shot.medium.info
  return doubtOf(encodingOfRow(props.shot.encoding), reach, float ? null : bits)
})
/** From what the encoding was guessed, where the file does not say it. */
const taken = computed(() => {
  const from = props.shot.medium.info.guessed?.['encoding']
  return from ? `(guessed ${from})` : ''
})
const about = computed(() => {
  const i = props.shot.medium.info
  const rate = i.kind === 'still' ? '' : `, ${i.frames} frames at ${rateLabel(i.fps)}`
  const start = i.timecode ? `, from ${i.timecode}` : ''
  return `${i.width} × ${i.height}, ${i.bits} bit ${i.codec}${rate}${start}`
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
        :maxlength="MOST_LETTERS.shot"
        :input-props="{ 'aria-label': 'Name of the shot' }"
        @change="(v: string) => v.trim() && emit('change', { name: v.trim() })"
      />
      <p class="mono quiet">{{ shot.medium.name }}<br />{{ about }}</p>
      <p v-if="shot.cut && cutInWords(shot.cut)" class="quiet">In the edit: {{ cutInWords(shot.cut) }}</p>
      <p v-if="shot.medium.state !== 'here'" role="alert" class="warn">
        ! The footage is {{ shot.medium.state }} on the server. Drop the same file above, or pick it from the watched
        folder: this shot takes it again.
      </p>
      <ul v-if="notesOf(shot.marks).length" class="notes" :aria-label="`Notes on ${shot.name}`">
        <li v-for="n in notesInOrder(shot.marks)" :key="n.key">
          <span class="mono">{{
            n.frame === null ? 'shot' : timecode(n.frame, shot.medium.info.fps, shot.medium.info.timecode)
          }}</span>
          {{ n.text }}
          <span class="quiet">{{ n.author }}</span>
        </li>
      </ul>
      <p v-for="w in remarksOf(shot.medium.info)" :key="w" class="warn">! {{ w }}</p>
    </div>
    <div class="set">
      <label
        >Encoding
        <NSelect
          size="small"
          :value="knee?.of ?? shot.encoding"
          :options="encodingChoices"
          filterable
          aria-label="Encoding"
          @update:value="(v: string) => emit('change', { encoding: v })"
      /></label>
      <p class="quiet">
        {{ encodingOfRow(shot.encoding).help }}
        {{ shot.encoding === shot.medium.info.encoding ? taken : '(chosen by you)' }}
      </p>
      <p class="quiet reading">
        {{ readingInWords(shot.medium.info) }}
        <button class="word" type="button" :aria-label="`How ${shot.name} is read`" @click="emit('read')">
          change
        </button>
      </p>
      <p v-if="doubt" class="warn" role="status">? {{ doubt }}</p>
      <label
        v-if="knee"
        class="knee"
        title="How much of what is brighter than 203 cd/m² is drawn together below white; at 0 it is cut off"
        >Knee
        <NamedSlider
          :value="knee.knee"
          :min="0"
          :max="100"
          :step="1"
          unit="%"
          name="Knee"
          @change="(v) => emit('change', { encoding: withKnee(knee!.of, v) })"
          @reset="emit('change', { encoding: knee.of })"
        />
        <span class="mono">{{ knee.knee }} %</span></label
      >
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
      <label class="choose"
        ><input v-model="chosen" type="checkbox" :aria-label="`Choose ${shot.name}`" /> choose</label
      >
      <RouterLink class="word" :to="`/bench/${shot.id}`">bench</RouterLink>
      <button
        v-if="shot.last > shot.first"
        class="word"
        type="button"
        :aria-label="`Cuts of ${shot.name}`"
        title="Find where the picture changes, and make shots of it"
        @click="emit('cuts')"
      >
        cuts
      </button>
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
.notes {
  margin: 4px 0;
  padding-left: 0;
}
.notes li {
  list-style: none;
}
.shot {
  border-bottom: 1px solid var(--line);
  display: grid;
  gap: 18px;
  grid-template-columns: 190px 1fr 330px 76px;
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
.knee {
  align-items: center;
  display: flex;
  gap: 10px;
  margin-top: 4px;
}
.range label {
  width: 104px;
}
.order {
  align-items: flex-start;
  display: flex;
  flex-direction: column;
}
.choose input {
  accent-color: var(--accent);
}
.choose {
  align-items: center;
  display: flex;
  gap: 6px;
  min-height: 24px;
}
.reading .word {
  margin-left: 8px;
}
.order .word {
  text-align: left;
}
.shot > a,
.order a {
  text-decoration: none;
}
</style>
