<script setup lang="ts">
import type { Render, Reply, ROUTES } from '@fogbath/contract'
import { SHIPPED_PRESETS, deliveryFormat, type Delivery } from '@fogbath/core/delivery'
import { useDebounceFn, useStorage } from '@vueuse/core'
import { NButton, NRadioButton, NRadioGroup, useMessage } from 'naive-ui'
import { computed, h, ref, shallowRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { api } from '../../api/client'
import SheetDialog from '../../components/SheetDialog.vue'
import { useBenchStore } from '../../stores/bench'
import { wordsOf } from '../../stores/errors'
import DeliveryForm from './DeliveryForm.vue'
import PresetList from './PresetList.vue'
import RenderPlan from './RenderPlan.vue'

/** What shots become is chosen, and seen before it is begun. */
const show = defineModel<boolean>('show', { required: true })
const bench = useBenchStore()
const message = useMessage()

/** As it was chosen last, in this browser. */
const delivery = useStorage<Delivery>('fogbath.delivery', { format: SHIPPED_PRESETS[1]!.format })
const which = ref<'this' | 'marked' | 'all'>('this')
const shots = computed(() => {
  if (which.value === 'this') return bench.shot ? [bench.shot] : []
  return which.value === 'all' ? bench.shots : bench.shots.filter((s) => bench.markedShots.includes(s.id))
})

/** One clip of all, in order. */
const asOne = ref(false)
const canJoin = computed(() => shots.value.length > 1 && deliveryFormat(delivery.value.format).moving)
const joined = computed(() => asOne.value && canJoin.value)
/** Whether it is put into the folder of this machine too; over what is there only when that was said for these names. */
const put = useStorage('fogbath.put', false)
const over = ref(false)
const there = computed(() => (put.value ? (plan.value?.there ?? []) : []))
const putAs = computed(() => (put.value ? (over.value && there.value.length > 0 ? 'over' : 'new') : undefined))

type Plan = Reply<typeof ROUTES.planRenders>
const plan = shallowRef<Plan | null>(null)
const problem = ref('')
let run = 0
const look = useDebounceFn(async () => {
  const mine = ++run
  if (!show.value || shots.value.length === 0) return
  try {
    const found = await api.planRenders(
      shots.value.map((s) => s.id),
      delivery.value,
      joined.value,
    )
    if (mine !== run) return
    plan.value = found
    problem.value = ''
  } catch (error) {
    if (mine !== run) return
    plan.value = null
    problem.value = wordsOf(error)
  }
}, 200)
watch([show, shots, delivery, joined], look, { deep: true })
watch(there, () => (over.value = false))
watch(show, (open) => {
  if (open) which.value = bench.markedShots.length > 1 ? 'marked' : 'this'
})

const busy = ref(false)
const renderJoined = (): Promise<Render> =>
  api.createJoined(
    bench.production!.id,
    shots.value.map((s) => s.id),
    delivery.value,
    putAs.value,
  )
async function renderEach(): Promise<Render[]> {
  const made: Render[] = []
  for (const { id } of shots.value) made.push(await api.createRender(id, delivery.value, putAs.value))
  return made
}
const ready = computed(() => plan.value !== null && plan.value.shots.every((s) => s.problem === null))
async function render(): Promise<void> {
  busy.value = true
  try {
    await bench.leave()
    const made = joined.value ? [await renderJoined()] : await renderEach()
    const [{ id, label }] = made as [Render]
    const what = made.length === 1 ? `Render ${id} is in line: ${label}.` : `${made.length} renders are in line.`
    const link = h(RouterLink, { to: '/dispatch' }, () => 'See it at Dispatch')
    message.success(() => h('span', [`${what} `, link]), { duration: 12_000 })
    show.value = false
  } catch (error) {
    problem.value = wordsOf(error)
  }
  busy.value = false
}
</script>

<template>
  <SheetDialog v-model:show="show" title="Render" :width="980">
    <div class="two">
      <PresetList v-model="delivery" />
      <div>
        <NRadioGroup v-model:value="which" size="small" aria-label="Which shots">
          <NRadioButton value="this">{{ bench.shot?.name }}, trial {{ bench.trial?.name }}</NRadioButton>
          <NRadioButton v-if="bench.markedShots.length" value="marked"
            >the {{ bench.markedShots.length }} marked</NRadioButton
          >
          <NRadioButton v-if="bench.shots.length > 1" value="all">all {{ bench.shots.length }} shots</NRadioButton>
        </NRadioGroup>
        <div v-if="canJoin" class="more">
          <label><input v-model="asOne" type="checkbox" /> one file of all, in order</label>
        </div>
        <DeliveryForm v-model="delivery" :example="plan?.name ?? plan?.shots[0]?.name ?? ''" />
        <div v-if="plan" class="more">
          <label><input v-model="put" type="checkbox" /> also into <span class="mono">{{ plan.folder }}</span></label>
          <label v-if="there.length"
            ><input v-model="over" type="checkbox" /> over what is there: {{ there.join(', ') }}</label
          >
        </div>
        <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
        <RenderPlan v-if="plan" :plan="plan" />
      </div>
    </div>
    <div class="do">
      <NButton @click="show = false">Not now</NButton>
      <NButton type="primary" :disabled="!ready" :loading="busy" @click="render">{{
        shots.length === 1 ? 'Render' : joined ? 'Render one file' : `Render ${shots.length} shots`
      }}</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  margin-top: 10px;
}
input {
  accent-color: var(--accent);
}
.two {
  display: grid;
  gap: 28px;
  grid-template-columns: 230px 1fr;
}
.do {
  display: flex;
  gap: 10px;
  justify-content: flex-end;
  margin-top: 14px;
}
</style>
