<script setup lang="ts">
import { ref } from 'vue'
import { useLookStore } from '../stores/look'

/** The edge of the panels at the right: dragged, or moved by arrows, it makes them wider; a double click gives them their own width back. */
const look = useLookStore()
const LEAST = 320
const most = (): number => Math.round(window.innerWidth * 0.6)
/** What it is where nobody has set it, see BenchView.vue. */
const own = (): number => Math.round(Math.min(480, Math.max(340, window.innerWidth / 3)))
const holding = ref(false)
const set = (width: number): void => void (look.panel.width = Math.round(Math.min(most(), Math.max(LEAST, width))))
const now = (edge: HTMLElement): number => window.innerWidth - edge.getBoundingClientRect().left

function press(e: PointerEvent): void {
  holding.value = true
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
}
function key(e: KeyboardEvent): void {
  const by = { ArrowLeft: 24, ArrowRight: -24 }[e.key]
  if (!by) return
  e.preventDefault()
  e.stopPropagation()
  set(now(e.currentTarget as HTMLElement) + by)
}
</script>

<template>
  <div
    class="edge"
    :class="{ holding }"
    role="separator"
    aria-orientation="vertical"
    aria-label="Width of the panels"
    :aria-valuenow="look.panel.width ?? own()"
    :aria-valuemax="most()"
    :aria-valuemin="LEAST"
    tabindex="0"
    title="Drag to make the panels wider; double click: their own width"
    @pointerdown="press"
    @pointermove="holding && set(now($event.currentTarget as HTMLElement) - $event.offsetX)"
    @pointerup="holding = false"
    @pointercancel="holding = false"
    @dblclick="look.panel.width = null"
    @keydown="key"
  />
</template>

<style scoped>
.edge {
  bottom: 0;
  cursor: col-resize;
  left: -4px;
  position: absolute;
  top: 0;
  touch-action: none;
  width: 8px;
  z-index: 2;
}
.edge:hover,
.edge.holding {
  background: var(--line);
}
</style>
