<script setup lang="ts">
/** Where the film is spliced: what stands before it and behind it belongs to another. */
defineProps<{ before: string; behind: string; title: string; tight: boolean }>()
</script>

<template>
  <div
    class="joint"
    :class="{ tight }"
    role="separator"
    :aria-label="`${before} ends, ${behind} begins`"
    :title="title"
  >
    <svg viewBox="0 0 64 46" aria-hidden="true">
      <path class="film" d="M0 5h28M36 5h28" />
      <path class="cut" d="M28 0l-3 10M39 0l-3 10" />
      <path class="tape" d="M26 3.5h12v3H26z" />
      <path class="edge" d="M32 14v32" />
    </svg>
    <span class="words">
      <i>{{ before }}</i>
      <i>{{ behind }}</i>
    </span>
  </div>
</template>

<style scoped>
.joint {
  color: var(--quiet);
  flex: 0 0 auto;
  padding-top: 25px;
  width: 64px;
}
svg {
  display: block;
  height: 46px;
  width: 64px;
}
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.5;
}
.film {
  stroke-width: 2;
}
.tape {
  fill: currentcolor;
  stroke: none;
}
.edge {
  stroke-dasharray: 2 3;
}
/* On either side of the edge. */
.words {
  display: grid;
  font-size: 13px;
  gap: 12px;
  grid-template-columns: 1fr 1fr;
  margin-top: -18px;
}
.words i {
  font-style: normal;
}
.tight {
  width: 30px;
}
.tight svg {
  margin-left: -17px;
}
.tight .words {
  gap: 0;
  grid-template-columns: 30px;
  line-height: 14px;
  margin-top: -22px;
  text-align: center;
}
.tight .edge {
  display: none;
}
.tight {
  overflow: hidden;
}
.joint:not(.tight) .words i:first-child {
  text-align: right;
}
</style>
