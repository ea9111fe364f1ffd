<script setup lang="ts">
import { ROUTES, addressOf, type Production } from '@fogbath/contract'
import SheetDialog from './SheetDialog.vue'

/** One production into a file: with all that is in it, or as an edit list. */
const production = defineModel<Production | null>('production', { required: true })
const fileOf = ({ id }: Production, media: '0' | '1'): string =>
  addressOf(ROUTES.takeAlong, { params: { id }, query: { media } })
const listOf = ({ id }: Production, form: 'edl' | 'otio'): string =>
  addressOf(ROUTES.editFile, { params: { id }, query: { form } })
</script>

<template>
  <SheetDialog
    :show="production !== null"
    :title="`Export ${production?.name ?? ''}`"
    :width="520"
    @update:show="production = null"
  >
    <template v-if="production">
      <p>
        One file with all its shots, trials, masks, proofs and steps of undo. Import it again on this or another
        machine; what is there stays as it is.
      </p>
      <p class="ways">
        <a :href="fileOf(production, '1')" download @click="production = null">with its footage</a>
        <a :href="fileOf(production, '0')" download @click="production = null">without footage</a>
      </p>
      <p class="quiet">Without footage the file is small, but the same footage must be there where it is imported.</p>
      <p>Or its shots in order, as an edit list for other programs.</p>
      <p class="ways">
        <a :href="listOf(production, 'edl')" download @click="production = null">EDL, with colour decisions</a>
        <a :href="listOf(production, 'otio')" download @click="production = null">OTIO, with recipes</a>
      </p>
    </template>
  </SheetDialog>
</template>

<style scoped>
a {
  color: var(--text);
}
.ways {
  display: flex;
  gap: 24px;
  margin: 14px 0;
}
</style>
