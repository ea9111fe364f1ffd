<script setup lang="ts">
import { NButton, NInput, useMessage } from 'naive-ui'
import type { Proof } from '../api/types'
import SheetDialog from '../components/SheetDialog.vue'
import type { useProofs } from './useProofs'

/** All proofs of the shot, to be compared with, opened as trials again, named or thrown away. */
const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ proofs: ReturnType<typeof useProofs> }>()
const emit = defineEmits<{ reopen: [proof: Proof]; compare: [proof: Proof]; keep: [] }>()
const message = useMessage()
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
        <img :src="proofs.addressOf(p.id)" :alt="`Proof ${p.name}, frame ${p.frame}`" loading="lazy" />
        <NInput
          size="tiny"
          :default-value="p.name"
          maxlength="60"
          :input-props="{ 'aria-label': `Name of proof ${p.name}` }"
          @change="(v: string) => rename(p, v)"
        />
        <p class="quiet">
          <span class="mono">frame {{ p.frame }}</span> · {{ p.recipe.name }}
        </p>
        <div class="do">
          <NButton size="tiny" @click="emit('compare', p)">Compare</NButton>
          <NButton size="tiny" @click="emit('reopen', p)">Open as a trial</NButton>
          <button class="word" type="button" :aria-label="`Delete proof ${p.name}`" @click="say(proofs.remove(p))">
            delete
          </button>
        </div>
      </article>
    </div>
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
