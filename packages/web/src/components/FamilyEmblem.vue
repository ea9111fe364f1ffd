<script setup lang="ts">
/** A small drawing for each family of baths; the only sign is its shape. */
defineProps<{ family: string }>()
</script>

<template>
  <svg
    viewBox="0 0 16 16"
    width="14"
    height="14"
    aria-hidden="true"
    fill="none"
    stroke="currentColor"
    stroke-width="1.2"
  >
    <g v-if="family === 'Silver and dye'">
      <circle cx="4" cy="5" r="1.4" fill="currentColor" />
      <circle cx="8.5" cy="3.6" r="1" fill="currentColor" />
      <circle cx="11.6" cy="7" r="1.7" fill="currentColor" />
      <circle cx="6.6" cy="9.4" r="1.2" fill="currentColor" />
      <circle cx="10" cy="12.2" r="1" fill="currentColor" />
      <circle cx="4" cy="12.6" r="0.8" fill="currentColor" />
    </g>
    <g v-else-if="family === 'Two colours'">
      <circle cx="6" cy="8" r="4.2" />
      <circle cx="10" cy="8" r="4.2" />
    </g>
    <g v-else-if="family === 'Dye transfer'"><path d="M3 2.5v11M8 2.5v11M13 2.5v11" stroke-width="2.2" /></g>
    <g v-else-if="family === 'Black and white'">
      <path d="M2 6h12l-1.6 7H3.6z" />
      <path d="M4 3.5c2 1.5 6-1.5 8 0" />
    </g>
    <g v-else-if="family === 'Instant'">
      <rect x="3" y="2" width="10" height="12" />
      <rect x="4.6" y="3.6" width="6.8" height="6.4" fill="currentColor" />
    </g>
    <g v-else-if="family === 'False colour'"><path d="M8 14c-5-3-5-9 0-12 5 3 5 9 0 12zM8 14V5" /></g>
    <g v-else-if="family === 'Age'">
      <circle cx="8" cy="8" r="5.6" />
      <path d="M8 4.6V8l2.4 1.8" />
    </g>
    <g v-else><path d="M2.5 8h11M8 2.5v11" /></g>
  </svg>
</template>
