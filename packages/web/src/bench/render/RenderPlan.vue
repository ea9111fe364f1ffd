<script setup lang="ts">
import type { Reply, ROUTES } from '@fogbath/contract'
import { computed } from 'vue'

/** What a render would make, and what is lost by it. */
const props = defineProps<{ plan: Reply<typeof ROUTES.planRenders> }>()

const frames = computed(() => props.plan.shots.reduce((sum, s) => sum + s.count, 0))
const sizes = computed(() => [...new Set(props.plan.shots.map((s) => `${s.width} × ${s.height}`))].join(', '))
const bytes = (n: number): string => (n < 1e9 ? `${Math.max(1, Math.round(n / 1e6))} MB` : `${(n / 1e9).toFixed(1)} GB`)
const time = computed(() => {
  const { seconds } = props.plan
  if (seconds === null) return ''
  return seconds < 90 ? `, about ${Math.max(1, Math.round(seconds))} s` : `, about ${Math.round(seconds / 60)} min`
})
const short = computed(() => props.plan.bytes > props.plan.free)
const wrong = computed(() => props.plan.shots.filter((s) => s.problem !== null))
</script>

<template>
  <div class="plan" role="status">
    <p>
      {{ frames }} {{ frames === 1 ? 'frame' : 'frames' }} of {{ sizes }}, about
      <span :class="{ warn: short }">{{ bytes(plan.bytes) }} ({{ bytes(plan.free) }} are free)</span>{{ time }}.
    </p>
    <p v-if="plan.name" class="quiet">One file: {{ plan.name }}.</p>
    <p v-for="r in plan.remarks" :key="r" class="quiet">{{ r }}</p>
    <p v-for="s in wrong" :key="s.shotId" class="warn">{{ s.name }}: {{ s.problem }}</p>
  </div>
</template>

<style scoped>
.plan {
  border-top: 1px solid var(--line);
  margin-top: 12px;
  padding-top: 8px;
}
p {
  margin: 2px 0;
}
</style>
