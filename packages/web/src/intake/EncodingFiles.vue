<script setup lang="ts">
import { NButton, NCheckbox } from 'naive-ui'
import { readEncodings, type FoundEncodings } from '@fogbath/core/encodings'
import { ref, shallowRef } from 'vue'
import { keepEncoding } from '../api/encodings'
import { textOf } from '../components/textOf'
import { wordsOf } from '../stores/errors'

/** Tables, or an OpenColorIO config with the files that it names: all that they hold is listed, and taken one by one or all. */
const emit = defineEmits<{ fail: [error: unknown] }>()
const MOST_LETTERS = 90e6
const ENDINGS = '.ocio,.cube,.clf,.spi1d,.spi3d'
const input = ref<HTMLInputElement | null>(null)
const found = shallowRef<FoundEncodings | null>(null)
const picked = ref<string[]>([])
const busy = ref(false)

const lastOf = (path: string): string => path.replace(/^.*[/\\]/, '')

async function read(files: readonly File[]): Promise<FoundEncodings> {
  const texts = new Map(await Promise.all(files.map(async (f) => [f.name, await textOf(f, MOST_LETTERS)] as const)))
  const config = files.find((f) => f.name.endsWith('.ocio'))
  const filesIn = () => (src: string) => texts.get(lastOf(src)) ?? null
  const all: FoundEncodings[] = []
  for (const file of config ? [config] : files)
    try {
      all.push(readEncodings(file.name, texts.get(file.name)!, filesIn))
    } catch (error) {
      all.push({ encodings: [], left: [{ name: file.name, reason: wordsOf(error) }] })
    }
  return { encodings: all.flatMap((f) => f.encodings), left: all.flatMap((f) => f.left) }
}

async function chosen(e: Event): Promise<void> {
  const field = e.target as HTMLInputElement
  const files = [...(field.files ?? [])]
  field.value = ''
  if (files.length === 0) return
  busy.value = true
  try {
    found.value = await read(files)
    picked.value = found.value.encodings.length === 1 ? [found.value.encodings[0]!.id] : []
  } catch (error) {
    emit('fail', error)
  }
  busy.value = false
}

async function take(): Promise<void> {
  try {
    for (const e of found.value!.encodings) if (picked.value.includes(e.id)) await keepEncoding(e)
    found.value = null
  } catch (error) {
    emit('fail', error)
  }
}
</script>

<template>
  <section>
    <h3>From files</h3>
    <p class="quiet">
      A table (.cube, .clf, .spi1d, .spi3d), or an OpenColorIO config (.ocio) together with the files that it names.
    </p>
    <NButton size="small" :loading="busy" @click="input?.click()">Choose files</NButton>
    <input ref="input" type="file" multiple hidden :accept="ENDINGS" data-test="encoding-files" @change="chosen" />
    <template v-if="found">
      <ul class="found" aria-label="Found encodings">
        <li v-for="e in found.encodings" :key="e.name">
          <NCheckbox
            :checked="picked.includes(e.id)"
            @update:checked="(on: boolean) => (picked = on ? [...picked, e.id] : picked.filter((id) => id !== e.id))"
            >{{ e.name }}</NCheckbox
          >
          <span class="quiet">{{ e.from }}</span>
        </li>
        <li v-for="l in found.left" :key="l.name" class="warn">{{ l.name }}: {{ l.reason }}</li>
      </ul>
      <p v-if="found.encodings.length" class="actions">
        <button class="word" type="button" @click="picked = found.encodings.map((e) => e.id)">pick all</button>
        <NButton size="small" type="primary" :disabled="picked.length === 0" @click="take"
          >Take {{ picked.length }}</NButton
        >
      </p>
    </template>
  </section>
</template>

<style scoped>
h3 {
  font-size: 14px;
  margin: 16px 0 4px;
}
.found {
  margin: 8px 0;
  max-height: 220px;
  overflow-y: auto;
  padding: 0;
}
.found li {
  align-items: baseline;
  display: grid;
  gap: 12px;
  grid-template-columns: 220px 1fr;
  list-style: none;
}
.found li.warn {
  display: block;
}
.actions {
  align-items: center;
  display: flex;
  gap: 14px;
}
</style>
