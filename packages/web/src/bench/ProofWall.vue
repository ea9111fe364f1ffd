<script setup lang="ts">
import { MOST_LETTERS } from '@fogbath/core/line'
import { NButton, NInput, useMessage } from 'naive-ui'
import type { Proof } from '@fogbath/contract'
import SheetDialog from '../components/SheetDialog.vue'
import { useShelfStore } from '../stores/shelf'
import type { useProofs } from './useProofs'

/** All proofs of the shot, to be compared with, opened as trials again, named or thrown away. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ proofs: ReturnType<typeof useProofs> }>()
const emit = defineEmits<{ reopen: [proof: Proof]; compare: [proof: Proof]; keep: [] }>()
const message = useMessage()
const shelf = useShelfStore()
const say = (work: Promise<unknown>): void =>
  void work.catch((e: unknown) => message.error(e instanceof Error ? e.message : String(e)))
const rename = (p: Proof, name: string): void => {
  if (name.trim() && name.trim() !== p.name) say(props.proofs.rename(p, name.trim()))
}
</script>

<template>
  <SheetDialog v-model:show="show" title="Proofs of this shot" :width="1100">
    <div v-if="proofs.list.value.length" class="wall">
      <article v-for="p in proofs.list.value" :key="p.id" :data-proof="p.id">
        <img :src="proofs.pictureOf(p.id)" :alt="`Proof ${p.name}, frame ${p.frame}`" loading="lazy" />
        <NInput
          size="tiny"
          :default-value="p.name"
          :maxlength="MOST_LETTERS.proof"
          :input-props="{ 'aria-label': `Name of proof ${p.name}` }"
          @change="(v: string) => rename(p, v)"
        />
        <p class="quiet"><span class="mono">frame {{ p.frame }}</span> · {{ shelf.titleOf(p.recipe) }}</p>
        <div class="do">
          <NButton size="tiny" @click="emit('compare', p)">Compare</NButton>
          <NButton size="tiny" @click="emit('reopen', p)">Open as a trial</NButton>
          <button class="word" type="button" :aria-label="`Delete proof ${p.name}`" @click="say(proofs.remove(p))">
            delete
          </button>
        </div>
      </article>
    </div>
    <p v-else-if="proofs.problem.value" role="alert" class="warn">
      {{ proofs.problem.value }} <button class="word" type="button" @click="proofs.load()">Try again</button>
    </p>
    <div v-else class="quiet empty">
      <p>No proof yet. A proof keeps the frame as it stands, with the recipe that made it.</p>
      <NButton @click="emit('keep')">Keep one now</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
.wall {
  display: grid;
  gap: 16px;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  max-height: 72vh;
  overflow-y: auto;
}
img {
  background: #3a3a3a;
  display: block;
  margin-bottom: 6px;
  width: 100%;
}
p {
  font-size: 13px;
  margin: 4px 0;
}
.do {
  align-items: center;
  display: flex;
  gap: 8px;
}
.empty {
  padding: 24px 0;
  text-align: center;
}
.empty p {
  margin-bottom: 12px;
}
</style>
