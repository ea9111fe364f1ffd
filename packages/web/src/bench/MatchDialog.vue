<script setup lang="ts">
import { KINDS, kindById } from '@fogbath/core/baths'
import { MATCH_KINDS, movableSettings } from '@fogbath/core/match'
import { NButton, NCheckbox, NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { report } from '../stores/errors'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'
import { nextTrialName } from '../components/trialNames'
import { plainly, useFit, type Reference } from './useFit'
import type { useProofs } from './useProofs'

/** Fits a process to a reference picture; what comes out becomes a trial, and nothing else is touched. */
const props = defineProps<{ proofs: ReturnType<typeof useProofs> }>()
const show = defineModel<boolean>('show', { required: true })
const bench = useBenchStore()

const ALL = 'all'
const from = ref<readonly string[]>([])
const files = shallowRef<readonly File[]>([])
const sameFrame = ref(false)
const kind = ref(ALL)
const ticked = ref<readonly string[]>([])
const picker = ref<HTMLInputElement | null>(null)

const offered = computed(() => [
  { value: 'file', label: files.value.length > 0 ? files.value.map((f) => f.name).join(', ') : 'picture files ...' },
  ...props.proofs.list.value.map((p) => ({ value: `proof:${p.id}`, label: `proof ${p.name}` })),
  ...bench.shots
    .filter((s) => s.id !== bench.shot?.id)
    .map((s) => ({ value: `shot:${s.id}`, label: `shot ${s.name}` })),
])
const kinds = [
  { value: ALL, label: 'try all processes' },
  ...KINDS.filter((k) => MATCH_KINDS.includes(k.id)).map((k) => ({ value: k.id, label: k.label })),
]
const settings = computed(() => (kind.value === ALL ? [] : movableSettings(kind.value)))
const choices = computed(() => settings.value.map((s) => ({ value: s.key, label: s.title })))
watch(kind, () => (ticked.value = settings.value.filter((s) => s.first).map((s) => s.key)))
watch(from, (now, before) => {
  if (now.includes('file') && !before.includes('file')) picker.value?.click()
  const proof = props.proofs.list.value.find((p) => `proof:${p.id}` === now[0])
  sameFrame.value = now.length === 1 && proof?.frame === bench.frame
})
function picked(e: Event): void {
  const field = e.target as HTMLInputElement
  if (field.files?.length) files.value = [...field.files]
  field.value = ''
}

const references = computed((): Reference[] =>
  from.value.flatMap((value): Reference[] => {
    const [type, id] = value.split(':')
    if (type === 'file') return files.value.map((file) => ({ type, file }))
    if (type === 'proof') return [{ type, id: Number(id) }]
    const shot = bench.shots.find((s) => s.id === Number(id))
    return shot ? [{ type: 'shot', shot }] : []
  }),
)
const { progress, result, problem, busy, stopping, pictures, fit, forget } = useFit(props.proofs)
watch([show, from, files, sameFrame, kind, ticked], forget)
const begin = (): Promise<void> =>
  fit(references.value, {
    sameFrame: sameFrame.value,
    kinds: kind.value === ALL ? MATCH_KINDS : [kind.value],
    ...(kind.value === ALL ? {} : { settings: [...ticked.value] }),
  })

async function take(): Promise<void> {
  const { recipe } = result.value!
  try {
    await bench.addTrial(nextTrialName(bench.shot!.trials), plainly({ recipe, after: bench.after }))
    show.value = false
  } catch (error) {
    report(error)
  }
}
const measure = computed(() => (sameFrame.value ? 'mean CIEDE2000' : 'difference of tones and colours'))
</script>

<template>
  <SheetDialog v-model:show="show" title="Fit a process to a reference" :width="720">
    <div class="what">
      <label
        >Reference<NSelect
          :value="[...from]"
          multiple
          max-tag-count="responsive"
          :options="offered"
          placeholder="pictures, proofs, other shots"
          aria-label="Reference"
          @update:value="(v: string[]) => (from = v)"
      /></label>
      <label>Process<NSelect v-model:value="kind" :options="kinds" aria-label="Process" /></label>
      <NCheckbox v-model:checked="sameFrame" :disabled="references.length > 1">shows this very frame</NCheckbox>
      <label v-if="kind !== ALL" class="wide"
        >Settings that may move<NSelect
          :value="[...ticked]"
          multiple
          :options="choices"
          aria-label="Settings that may move"
          @update:value="(v: string[]) => (ticked = v)"
      /></label>
    </div>
    <input ref="picker" type="file" accept="image/*" multiple hidden data-test="match-reference" @change="picked" />
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <div role="status">
      <p v-if="busy" class="mono">
        {{
          progress
            ? `${kindById(progress.kind).label}, step ${progress.step}: ${progress.distance.toFixed(2)}`
            : 'begins ...'
        }}
      </p>
      <template v-if="result">
        <div class="pictures">
          <figure v-for="p in pictures" :key="p.name">
            <img :src="p.url" :alt="p.name" />
            <figcaption class="quiet">{{ p.name }}</figcaption>
          </figure>
        </div>
        <p>
          {{ kindById(result.kind).label }}: {{ measure }}
          <span class="mono">{{ result.before.toFixed(2) }} → {{ result.after.toFixed(2) }}</span>
        </p>
        <ul v-if="result.moved.length" class="moved">
          <li v-for="m in result.moved" :key="m.title">
            {{ m.title }} <span class="mono">{{ m.value }}</span> <span class="quiet">({{ m.usual }})</span>
          </li>
        </ul>
        <p v-else>Nothing had to move.</p>
        <p v-if="result.stopped">The fit was stopped; this is the best so far.</p>
        <template v-if="result.misses.length">
          <p>{{ result.stopped ? 'Not reached so far:' : 'What this process does not reach:' }}</p>
          <ul>
            <li v-for="words in result.misses" :key="words">{{ words }}</li>
          </ul>
        </template>
      </template>
    </div>
    <div class="do">
      <NButton
        :type="result ? 'default' : 'primary'"
        :disabled="busy || references.length === 0 || (kind !== ALL && ticked.length === 0)"
        @click="begin"
        >Fit</NButton
      >
      <NButton v-if="busy" :disabled="stopping" title="Ends with the best so far" @click="stopping = true"
        >Stop</NButton
      >
      <NButton v-if="result" type="primary" @click="take">Take it as a new trial</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
.what {
  align-items: end;
  display: grid;
  gap: 10px 14px;
  grid-template-columns: 1fr 1fr auto;
}
.wide {
  grid-column: 1 / -1;
}
label {
  display: grid;
  gap: 3px;
}
.pictures {
  display: grid;
  gap: 8px;
  grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
  margin: 12px 0 8px;
}
figure {
  margin: 0;
}
img {
  display: block;
  max-height: 200px;
  object-fit: contain;
  width: 100%;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
}
.moved {
  columns: 2;
}
.do {
  display: flex;
  gap: 8px;
  margin-top: 12px;
}
</style>
