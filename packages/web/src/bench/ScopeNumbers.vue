<script setup lang="ts">
import { computed } from 'vue'
import type { ScopeKind } from '../workers/protocol'

/** What the places of a scope mean: per cent and 10-bit codes at its edges, stops of the scene where a camera's light is known. */
const props = defineProps<{
  scope: ScopeKind
  lines: readonly { label: string; top: number; card: boolean }[]
  stops: readonly { stop: number; top: number }[]
  large: boolean
}>()
const upright = computed(() => props.scope === 'waveform' || props.scope === 'parade')
/** Small, there is room for the quarters alone. */
const shares = computed(() => (props.large ? [0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100] : [0, 50, 100]))
const codeOf = (percent: number): number => Math.round((1023 * percent) / 100)
const signed = (stop: number): string => `${stop < 0 ? '−' : '+'}${Math.abs(stop)}`
/** At the ends numbers stay inside. */
const placed = (top: number) => ({
  top: `${100 * top}%`,
  transform: `translateY(${-100 * Math.min(1, Math.max(0, top))}%)`,
})
const along = (percent: number) => ({ left: `${percent}%`, transform: `translateX(${-percent}%)` })
</script>

<template>
  <div class="numbers mono" aria-hidden="true">
    <template v-if="upright">
      <span v-for="p in shares" :key="p" class="left" :style="placed(1 - p / 100)"
        >{{ p }}{{ p === 100 ? ' %' : '' }}</span
      >
      <span v-for="p in shares" :key="`c${p}`" class="right" :style="placed(1 - p / 100)">{{ codeOf(p) }}</span>
      <template v-if="large">
        <span v-for="s in stops" :key="s.stop" class="stop" :style="placed(s.top)">{{ signed(s.stop) }} stop</span>
      </template>
      <i v-for="s in stops" :key="`t${s.stop}`" :style="{ top: `${100 * s.top}%` }" :title="`${signed(s.stop)} stop`" />
      <span
        v-for="l in lines"
        :key="l.label"
        class="line"
        :class="{ card: l.card }"
        :style="{ top: `calc(${100 * l.top}% + 1px)` }"
        >{{ l.label }}</span
      >
    </template>
    <template v-else-if="scope === 'histogram'">
      <span v-for="p in shares" :key="p" class="foot" :style="along(p)">{{ p }} % {{ codeOf(p) }}</span>
    </template>
  </div>
</template>

<style scoped>
.numbers {
  color: #d2d2d2;
  inset: 0;
  pointer-events: none;
  position: absolute;
  text-shadow:
    0 0 3px #000000,
    0 0 3px #000000;
}
.numbers span {
  position: absolute;
  white-space: nowrap;
}
.left {
  left: 3px;
}
.right {
  right: 3px;
}
.stop {
  left: 48px;
}
i {
  border-top: 1px solid #9a9a9a;
  left: 0;
  position: absolute;
  width: 6px;
}
.line {
  color: #ff8d62;
  right: 44px;
}
.line.card {
  color: #e8e8e8;
  left: 44px;
  right: auto;
}
.foot {
  bottom: 0;
}
</style>
