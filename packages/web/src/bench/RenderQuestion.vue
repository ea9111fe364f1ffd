<script setup lang="ts">
import { DELIVERY_IDS, deliveryFormat, type DeliveryId } from '@fogbath/core/delivery'
import { NButton, NSelect, useMessage } from 'naive-ui'
import { computed, h, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { api } from '../api/client'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'
import { wordsOf } from '../stores/errors'
import { deliveryWords } from './deliveryWords'

/** Asks before a shot is rendered, and says where it went. */
const props = defineProps<{ format: DeliveryId | null }>()
const emit = defineEmits<{ done: [] }>()
const bench = useBenchStore()
const message = useMessage()
const chosen = ref<DeliveryId>('mp4')
const busy = ref(false)
watch(
  () => props.format,
  (format) => (chosen.value = format ?? chosen.value),
)
const show = computed({ get: () => props.format !== null, set: () => emit('done') })
const frames = computed(() => (bench.shot ? bench.shot.last - bench.shot.first + 1 : 0))
const options = DELIVERY_IDS.map((value) => ({ value, label: deliveryWords(value) }))

async function render(): Promise<void> {
  busy.value = true
  try {
    await bench.leave()
    const { id } = await api.createRender(bench.shot!.id, chosen.value)
    const link = h(RouterLink, { to: '/dispatch' }, () => 'See it at Dispatch')
    message.success(
      () => h('span', [`Render ${id} is in line: ${bench.shot!.name}, ${deliveryFormat(chosen.value).label}. `, link]),
      {
        duration: 12_000,
      },
    )
    emit('done')
  } catch (error) {
    message.error(wordsOf(error))
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <SheetDialog v-model:show="show" title="Render this shot?" :width="460">
    <p>
      {{ bench.shot?.name }}, trial {{ bench.trial?.name }}: {{ frames }} {{ frames === 1 ? 'frame' : 'frames' }} as
      they stand now.
    </p>
    <NSelect v-model:value="chosen" class="format" :options="options" aria-label="Format" />
    <div class="row">
      <NButton type="primary" :loading="busy" @click="render">Render</NButton>
      <NButton @click="emit('done')">Not now</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
.format {
  margin: 12px 0;
}
.row {
  display: flex;
  gap: 10px;
}
</style>
