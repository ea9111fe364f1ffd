<script setup lang="ts">
import { ArrowBarToUp, Eye } from '@vicons/tabler'
import { NButton, NInput, NSelect } from 'naive-ui'
import { ref } from 'vue'
import { KINDS, kindById, type Drawing } from '@fogbath/core/baths'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import BathViews from '../bench/BathViews.vue'
import FamilyEmblem from '../components/FamilyEmblem.vue'
import IconButton from '../components/IconButton.vue'
import NamedSlider from '../components/NamedSlider.vue'
import RecipeTexts from '../components/RecipeTexts.vue'
import SheetDialog from '../components/SheetDialog.vue'
import TestStrip from '../components/TestStrip.vue'
import TimeAgo from '../components/TimeAgo.vue'
import TopBar from '../components/TopBar.vue'
import { report } from '../stores/errors'
import SettingStates from './SettingStates.vue'
import TileStates from './TileStates.vue'

/** For developers, under `npm run dev` alone: every part of the page that is used in several places, in its states. */
const viewsOfAll = SHIPPED_RECIPES.flatMap((r) => r.baths).flatMap((b) =>
  kindById(b.kind)
    .views(b.settings)
    .filter((v): v is Drawing => v.view !== 'wedge'),
)
const drawings = (['curves', 'mixes', 'toning', 'swatches', 'palette'] as const).map((sort) =>
  viewsOfAll.find((v) => v.view === sort)!,
)
const value = ref(40)
const sheet = ref(false)
const texts = { name: 'Late summer', sentence: 'Warm lights, cool shadows', maker: 'Ada', tags: ['day'], notes: '' }
const NOW = new Date().toISOString()
</script>

<template>
  <TopBar><h1>Components</h1></TopBar>
  <main class="page">
    <section>
      <h2>Words and buttons</h2>
      <p>
        <button class="word" type="button">word</button>
        <button class="word" type="button" aria-pressed="true">pressed word</button>
        <button class="word" type="button" disabled>disabled word</button>
        <IconButton :icon="Eye" name="Done once" />
        <IconButton :icon="ArrowBarToUp" name="On" :pressed="true" />
        <IconButton :icon="ArrowBarToUp" name="Off" :pressed="false" />
        <IconButton :icon="Eye" name="Disabled" :disabled="true" />
        <NButton size="small">button</NButton>
        <NButton size="small" type="primary">main button</NButton>
        <NButton size="small" disabled>disabled button</NButton>
        <NButton size="small" loading>at work</NButton>
      </p>
      <p>
        text <span class="quiet">quiet text</span> <span class="warn">a warning</span>
        <span class="mono">01:02:03:04</span>
        <TimeAgo :time="NOW" />
      </p>
      <p>
        <NButton size="small" @click="sheet = true">open a sheet</NButton>
        <NButton size="small" @click="report(new Error('This is how a failure out of sight is told.'))">fail</NButton>
      </p>
      <SheetDialog v-model:show="sheet" title="A sheet over the page" :width="420">
        <RecipeTexts action="Keep" :busy="false" :texts="texts" />
      </SheetDialog>
    </section>
    <section class="fields">
      <h2>Fields</h2>
      <NInput value="a text" :input-props="{ 'aria-label': 'A text' }" />
      <NInput value="" placeholder="an empty text" :input-props="{ 'aria-label': 'An empty text' }" />
      <NSelect value="one" :options="[{ label: 'a choice', value: 'one' }]" aria-label="A choice" />
      <NamedSlider :value="value" :min="0" :max="100" :step="1" name="A slider" @change="(v) => (value = v)" />
    </section>
    <section>
      <h2>Settings, as they come and changed</h2>
      <SettingStates />
    </section>
    <section>
      <h2>Emblems of baths</h2>
      <p>
        <span v-for="kind in KINDS" :key="kind.id" class="kind"
          ><FamilyEmblem :family="kind.family" /> {{ kind.label }}</span
        >
      </p>
    </section>
    <section>
      <h2>Tiles</h2>
      <TileStates />
    </section>
    <section>
      <h2>A test strip that is not yet there</h2>
      <TestStrip :colours="undefined" label="not yet there" />
    </section>
    <section v-for="view in drawings" :key="view.view" class="panel">
      <h2>Drawing: {{ view.view }}</h2>
      <BathViews :views="[view]" />
    </section>
  </main>
</template>

<style scoped>
section {
  margin-bottom: 28px;
  max-width: 720px;
}
section:has(.tiles) {
  max-width: none;
}
/* As wide as the side of the bench. */
.panel {
  width: 360px;
}
p,
.fields {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin: 8px 0;
}
.kind {
  align-items: center;
  display: inline-flex;
  gap: 6px;
}
</style>
