<script setup lang="ts">
import type { Reply, ROUTES } from '@fogbath/contract'
import { SHIPPED_PRESETS, type Delivery } from '@fogbath/core/delivery'
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
watch([show, shots, delivery], look, { deep: true })
watch(show, (open) => {
  if (open) which.value = bench.markedShots.length > 1 ? 'marked' : 'this'
})

const busy = ref(false)
const ready = computed(() => plan.value !== null && plan.value.shots.every((s) => s.problem === null))
async function render(): Promise<void> {
  busy.value = true
  try {
    await bench.leave()
    let last = 0
    for (const { id } of shots.value) last = (await api.createRender(id, delivery.value)).id
    const count = shots.value.length
    const what = count === 1 ? `Render ${last} is in line: ${shots.value[0]!.name}.` : `${count} renders are in line.`
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
        <DeliveryForm v-model="delivery" :example="plan?.shots[0]?.name ?? ''" />
        <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
        <RenderPlan v-if="plan" :plan="plan" />
      </div>
    </div>
    <div class="do">
      <NButton @click="show = false">Not now</NButton>
      <NButton type="primary" :disabled="!ready" :loading="busy" @click="render">{{
        shots.length === 1 ? 'Render' : `Render ${shots.length} shots`
      }}</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
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
