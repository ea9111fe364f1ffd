<script setup lang="ts">
import { useShelfStore } from '../stores/shelf'
import { kneeIn, type EncodingRef } from '@fogbath/core/encodings'
import { type Recipe } from '@fogbath/core/line'
import { LOOK_FORMATS, notHeld, tellError, tellNotHeld, type LookFile, type LookFormat } from '@fogbath/core/look'
import { deliveredIn } from '@fogbath/core/treat'
import { NButton, NCheckbox, NRadio, NRadioGroup, NSelect } from 'naive-ui'
import { encodingChoices, encodingOfRow, refOf } from '../api/encodings'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { startEngines } from '../workers/engine'
import type { FrameOrder } from '../workers/protocol'
import { wordsOf } from '../stores/errors'
import { fileName, saveFile } from './save'
import SheetDialog from './SheetDialog.vue'

/** A look as a file: made by a worker, measured, and only then saved. */
const shelf = useShelfStore()
const props = defineProps<{
  recipe: Recipe
  /** The frame to measure it on; null without one. */
  on: FrameOrder | null
}>()
const show = defineModel<boolean>('show', { required: true })

const format = ref<LookFormat>('clf')
const takes = ref('bt1886')
const gives = ref('bt1886')
const size = ref(33)
const curves = ref(false)
const shaper = ref(false)
const leaveOut = ref(false)
const made = shallowRef<LookFile | null>(null)
const problem = ref('')
const busy = ref(false)

const formats = Object.entries(LOOK_FORMATS).map(([id, about]) => ({ id: id as LookFormat, about }))
/** Encodings that say how light becomes their numbers. */
const given = computed(() => encodingChoices.value.filter(({ value }) => encodingOfRow(value).encode))
const sizes = [17, 25, 33, 49, 65].map((n) => ({ value: n, label: `${n} nodes a side` }))
const isTable = computed(() => format.value === 'clf' || format.value === 'cube')
/** Whether there are display code values whose ends a shaper could spread. */
const canShape = computed(() => !curves.value && encodingOfRow(takes.value).refers === 'display')
/** What a file for some footage takes: its encoding, without a knee. */
const takenBy = (ref: EncodingRef): string => (typeof ref === 'string' ? (kneeIn(ref)?.of ?? ref) : ref.id)
const missing = computed(() => notHeld(props.recipe))
const whole = computed(() => missing.value.filter((m) => m.whole))

type Engines = ReturnType<typeof startEngines>
let engines: Engines | undefined
/** What is being made; an answer to an older question is dropped. */
let run = 0
function stop(): void {
  run++
  engines?.end()
  engines = undefined
  busy.value = false
}
onUnmounted(stop)
watch(show, (now) => {
  if (!now) return stop()
  takes.value = takenBy(props.on?.order.encoding ?? 'bt1886')
  gives.value = deliveredIn(takes.value)
})
watch([show, format, takes, gives, size, curves, shaper, leaveOut, () => props.recipe], () => {
  stop()
  made.value = null
  problem.value = ''
})

async function make(): Promise<void> {
  stop()
  busy.value = true
  problem.value = ''
  const mine = ++run
  engines = startEngines(1)
  const cube = format.value === 'cube'
  const options = {
    format: format.value,
    takes: refOf(takes.value),
    gives: refOf(gives.value),
    size: size.value,

    curves: cube && curves.value,
    shaper: cube && shaper.value && canShape.value,
    leaveOut: leaveOut.value,
  }
  const asked = [props.recipe, options, props.on] as const
  const [recipe, what, on] = JSON.parse(JSON.stringify(asked)) as [Recipe, typeof options, FrameOrder | null]
  try {
    const file = await engines.picture.look(recipe, what, on)
    if (mine === run) made.value = file
  } catch (error) {
    if (mine === run) problem.value = wordsOf(error)
  } finally {
    if (mine === run) stop()
  }
}

const save = (text: string, suffix = ''): void =>
  saveFile(text, 'text/plain', `${fileName(shelf.titleOf(props.recipe))}${suffix}.${format.value}`)
</script>

<template>
  <SheetDialog v-model:show="show" title="The look as a file" :width="560">
    <p class="quiet">
      {{ shelf.titleOf(recipe) }}, the look alone: what a shot adds before and after it is not in the file.
    </p>
    <NRadioGroup v-model:value="format" name="look-format" aria-label="Format">
      <NRadio v-for="f in formats" :key="f.id" :value="f.id"
        ><span class="mono">.{{ f.id }}</span> {{ f.about }}</NRadio
      >
    </NRadioGroup>
    <div v-if="isTable" class="pair">
      <label
        >Takes<NSelect
          v-model:value="takes"
          :options="encodingChoices"
          filterable
          aria-label="Encoding that the file takes"
      /></label>
      <label
        >Gives<NSelect v-model:value="gives" :options="given" filterable aria-label="Encoding that the file gives"
      /></label>
      <template v-if="format === 'cube'">
        <label>Size<NSelect v-model:value="size" :disabled="curves" :options="sizes" aria-label="Size" /></label>
        <NCheckbox v-model:checked="curves">one curve a channel (1D)</NCheckbox>
        <NCheckbox v-model:checked="shaper" :disabled="!canShape" class="wide"
          >with a shaper: a second file, applied first, that brings the table nearer</NCheckbox
        >
      </template>
    </div>
    <section v-if="missing.length" aria-label="What a file cannot hold">
      <p>A file of colours cannot hold:</p>
      <ul>
        <li v-for="m in missing" :key="m.bath">{{ tellNotHeld(m) }}</li>
      </ul>
      <NCheckbox v-if="whole.length" v-model:checked="leaveOut"
        >leave {{ whole.length === 1 ? 'this bath' : 'these baths' }} out</NCheckbox
      >
    </section>
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <div role="status">
      <dl v-if="made?.errors" class="mono">
        <dt>on wide colours</dt>
        <dd>{{ tellError(made.errors.wide) }}</dd>
        <template v-if="made.errors.frame">
          <dt>on this frame</dt>
          <dd>{{ tellError(made.errors.frame) }}</dd>
        </template>
      </dl>
      <p v-if="made?.errors" class="quiet">
        How far the file is from the process, in CIEDE2000: 1 is about what an eye tells apart side by side.
      </p>
      <p v-else-if="made" class="quiet">The numbers of the bath themselves: nothing is lost.</p>
      <p v-else-if="busy">Working it out and measuring ...</p>
    </div>
    <div class="do">
      <NButton :type="made ? 'default' : 'primary'" :disabled="busy || made !== null" @click="make"
        >Make and measure</NButton
      >
      <NButton v-if="busy" @click="stop">Stop</NButton>
      <NButton :type="made ? 'primary' : 'default'" :disabled="!made" @click="save(made!.text)"
        >Save .{{ format }}</NButton
      >
      <NButton v-if="made?.shaper" type="primary" @click="save(made.shaper, '-shaper')">Save its shaper</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
.pair {
  align-items: end;
  display: grid;
  gap: 10px;
  grid-template-columns: 1fr 1fr;
  margin: 12px 0;
}
.wide {
  grid-column: 1 / -1;
}
label {
  display: grid;
  gap: 3px;
}
:deep(.n-radio) {
  display: flex;
  margin: 4px 0;
}
ul {
  margin: 2px 0 8px;
  padding-left: 18px;
}
dl {
  display: grid;
  gap: 2px 12px;
  grid-template-columns: auto 1fr;
  margin: 10px 0 4px;
}
dd {
  margin: 0;
}
.do {
  display: flex;
  gap: 8px;
  margin-top: 12px;
}
</style>
