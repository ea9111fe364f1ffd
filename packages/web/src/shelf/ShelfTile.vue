<script setup lang="ts">
import { Dots, Star, StarOff } from '@vicons/tabler'
import { NCheckbox, NDropdown, NPopover } from 'naive-ui'
import { computed, onMounted, ref, watch } from 'vue'
import IconButton from '../components/IconButton.vue'
import TimeAgo from '../components/TimeAgo.vue'
import type { SmallPictures } from '../components/pictures'
import type { Wanted } from '../workers/protocol'
import type { ShelfEntry } from './entries'

/** What can be done with a recipe from its menu. */
export type TileAction = 'put' | 'put-on' | 'rename' | 'copy' | 'archive' | 'file' | 'share' | 'sheet' | 'look'

/** A recipe on a shot's frame, with what can be done with it below. It is there only while it is in view. */
const props = defineProps<{
  entry: ShelfEntry
  wanted: Wanted | null
  pictures: SmallPictures
  beside: boolean
  shares: boolean
  /** The shot that it is shown on; null for a picture of one's own. */
  shotName: string | null
}>()
const emit = defineEmits<{ favourite: []; beside: [on: boolean]; act: [action: TileAction] }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const kept = computed(() => props.entry.kept)

async function draw(): Promise<void> {
  const { wanted } = props
  const picture = wanted && (await props.pictures.get(wanted))
  if (!picture || wanted !== props.wanted || !canvas.value) return
  ;[canvas.value.width, canvas.value.height] = [picture.width, picture.height]
  canvas.value.getContext('2d')!.drawImage(picture, 0, 0)
}
onMounted(draw)
watch(() => props.wanted, draw)

const menu = computed(() => [
  { key: 'put-on', label: 'Put on shots ...' },
  ...(kept.value ? [{ key: 'rename', label: 'Name, sentence, tags, notes' }] : []),
  { key: 'copy', label: kept.value ? 'Copy' : 'Copy to your own' },
  { key: 'sheet', label: 'Process sheet' },
  { key: 'look', label: 'The look as a file (.clf, .cube, .cdl) ...' },
  ...(kept.value ? [{ key: 'file', label: 'The recipe as a file (.json)' }] : []),
  ...(kept.value && props.shares ? [{ key: 'share', label: 'Put into the shared folder' }] : []),
  ...(kept.value ? [{ key: 'archive', label: kept.value.archived ? 'Restore' : 'Archive' }] : []),
])
const act = (key: string): void => emit('act', key as TileAction)
</script>

<template>
  <article :data-recipe="entry.key" :aria-label="entry.name">
    <button
      class="picture"
      type="button"
      :aria-label="`Put ${entry.name} on ${shotName ?? 'a shot'}`"
      :title="shotName ? `Click: put on ${shotName}, as a new trial` : 'Click: put on shots'"
      @click="emit('act', shotName ? 'put' : 'put-on')"
    >
      <canvas ref="canvas" width="16" height="9" role="img" :aria-label="`The frame through ${entry.name}`" />
    </button>
    <h3 :title="entry.name">{{ entry.name }}</h3>
    <p class="quiet sentence" :title="entry.sentence">{{ entry.sentence }}</p>
    <p class="quiet tags">{{ entry.tags.join(' · ') }}</p>
    <div class="do">
      <NCheckbox
        size="small"
        :checked="beside"
        :aria-label="`${entry.name} side by side`"
        @update:checked="(on: boolean) => emit('beside', on)"
        >side by side</NCheckbox
      >
      <NPopover v-if="kept" trigger="click" placement="bottom" style="max-width: 340px">
        <template #trigger><button class="word" type="button">version {{ kept.latest }}</button></template>
        <p class="quiet">{{ kept.maker ? `Made by ${kept.maker}, ` : 'Made ' }}<TimeAgo :time="kept.createdAt" /></p>
        <ol reversed :aria-label="`Versions of ${kept.name}`">
          <li v-for="v in kept.versions" :key="v.number">
            {{ v.changes.length ? v.changes.join('; ') : 'as it was first kept' }}
          </li>
        </ol>
        <p v-if="kept.notes" class="notes">{{ kept.notes }}</p>
      </NPopover>
      <span class="room" />
      <IconButton
        :icon="entry.favourite ? StarOff : Star"
        :name="`${entry.name}: ${entry.favourite ? 'no favourite any more' : 'favourite'}`"
        :title="entry.favourite ? 'No favourite any more' : 'Favourite: stands first'"
        :pressed="entry.favourite"
        @click="emit('favourite')"
      />
      <NDropdown trigger="click" :options="menu" @select="act">
        <span><IconButton :icon="Dots" :name="`More for ${entry.name}`" title="What can be done with it" /></span>
      </NDropdown>
    </div>
  </article>
</template>

<style scoped>
article {
  min-width: 0;
}
.picture {
  background: none;
  border: 0;
  cursor: pointer;
  display: block;
  padding: 0;
  width: 100%;
}
canvas {
  aspect-ratio: 16 / 9;
  background: var(--raised);
  display: block;
  object-fit: contain;
  width: 100%;
}
h3 {
  font-size: 14px;
  line-height: 20px;
  margin: 4px 0 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
p {
  font-size: 13px;
  line-height: 16px;
  margin: 0;
}
.sentence {
  -webkit-box-orient: vertical;
  display: -webkit-box;
  height: 32px;
  -webkit-line-clamp: 2;
  overflow: hidden;
}
.tags {
  height: 16px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.do {
  align-items: center;
  display: flex;
  gap: 8px;
  height: 30px;
}
.room {
  flex: 1;
}
ol {
  margin: 4px 0;
  padding-left: 22px;
}
.notes {
  border-top: 1px solid var(--line);
  margin-top: 6px;
  padding-top: 6px;
  white-space: pre-wrap;
}
</style>
