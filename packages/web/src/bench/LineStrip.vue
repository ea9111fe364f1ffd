<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { useMessage } from 'naive-ui'
import { computed, nextTick, ref, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { PARTS, bathsOf, placeInLine, type PartName } from '@fogbath/core/line'
import HelpButton from '../components/HelpButton.vue'
import NamedSlider from '../components/NamedSlider.vue'
import TestStrip from '../components/TestStrip.vue'
import { useBenchStore } from '../stores/bench'
import type { BathChange, StripColours } from '../workers/protocol'
import { shortcutOf } from './keys'
import BathTile from './BathTile.vue'
import LineJoint from './LineJoint.vue'
import KeyButton from './KeyButton.vue'
import LookName from './LookName.vue'
import { roomForTiles } from './lineRoom'
import { moveOver } from './moveOver'

/** The line: camera at the left, screen at the right, every bath with the strip that leaves it; two joints part what is the shot's from the look. */
defineProps<{ strips: readonly StripColours[]; changes: readonly (BathChange | null)[] }>()
const emit = defineEmits<{ add: [] }>()
const bench = useBenchStore()
const message = useMessage()

const JOINTS: Partial<Record<PartName, { before: string; behind: string; title: string }>> = {
  look: {
    before: 'shot',
    behind: 'look',
    title: 'Before this joint: the shot’s own preparation, whichever look comes',
  },
  after: {
    before: 'look',
    behind: 'shot',
    title: 'Behind this joint: the shot’s own correction of a look that others share',
  },
}
/** The parts with their baths, and how many stand before each. */
const parts = computed(() => {
  const baths = bathsOf(bench.line)
  let first = 0
  return PARTS.map((part) => {
    const own = { part, first, baths: [...baths[part]], joint: JOINTS[part] }
    first += own.baths.length
    return own
  })
})

/** A bath was let go of somewhere; the line itself says whether it may stand there. */
function dropped(e: { item: HTMLElement; to: HTMLElement; newDraggableIndex?: number | undefined }): void {
  const [id, to] = [e.item.dataset['bath'], e.to.dataset['part'] as PartName | undefined]
  if (id && to) moveOver(bench, message, id, to, e.newDraggableIndex ?? 0)
}

/** What lies between camera and screen; both ends are always seen. */
const middle = ref<HTMLElement | null>(null)
const root = ref<HTMLElement | null>(null)
const { width } = useElementSize(root)
/** What both ends take. */
const ENDS = 274
/** What the joints beside the tiles take. */
const JOINT = { wide: 64, tight: 30 }
const EMPTY = 76
const empties = computed(() => parts.value.filter(({ part, baths }) => part !== 'look' && baths.length === 0).length)
const roomsBeside = (joint: number) =>
  roomForTiles(
    bench.inLine.length,
    placeInLine({ baths: bench.inLine }, bench.chosen),
    width.value - ENDS - 2 * joint - empties.value * EMPTY,
  )
/** Joints are drawn narrower before tiles are compact. */
const tight = computed(() => roomsBeside(JOINT.wide).some((room) => room.compact))
const rooms = computed(() => roomsBeside(tight.value ? JOINT.tight : JOINT.wide))
watch(
  () => bench.chosen,
  async () => {
    await nextTick()
    middle.value?.querySelector('.bath.chosen')?.scrollIntoView({ inline: 'nearest', block: 'nearest' })
  },
  { flush: 'post' },
)

function addOwn(part: PartName): void {
  if (part === 'preparation') bench.addOwn('balance')
  else bench.addOwn('timing')
}
</script>

<template>
  <section ref="root" class="line" aria-label="Line">
    <div class="end">
      <button
        class="word"
        type="button"
        :aria-pressed="bench.tap === 0"
        title="Look at the picture before any bath"
        @click="bench.tap = bench.tap === 0 ? null : 0"
      >
        Camera
      </button>
      <div class="pipe" />
      <span class="quiet">footage</span>
      <TestStrip :colours="strips[0]" label="footage" />
    </div>
    <div ref="middle" class="middle">
      <template v-for="{ part, first, baths, joint } in parts" :key="part">
        <LineJoint v-if="joint" v-bind="joint" :tight="tight" />
        <VueDraggable
          :model-value="baths"
          class="baths"
          :class="part"
          group="line"
          :data-part="part"
          :animation="120"
          handle=".tray"
          ghost-class="ghost"
          @end="dropped"
        >
          <BathTile
            v-for="(bath, i) in baths"
            :key="bath.id"
            class="bath"
            :style="{ width: `${rooms[first + i]!.width}px` }"
            :compact="rooms[first + i]!.compact"
            :narrow="rooms[first + i]!.width < 116"
            :bath="bath"
            :part="part"
            :index="first + i"
            :strip="strips[first + i + 1]"
            :change="changes[first + i] ?? null"
          />
          <div v-if="part !== 'look' && baths.length === 0" class="none">
            <button
              class="word"
              type="button"
              :title="
                part === 'preparation'
                  ? 'A balance of this shot: it stays when another look comes'
                  : 'A timing of this shot, behind the look: the look stays what it is'
              "
              @click="addOwn(part)"
            >
              + {{ part === 'preparation' ? 'balance' : 'timing' }}
            </button>
            <div class="pipe" />
          </div>
        </VueDraggable>
      </template>
    </div>
    <div class="end">
      <button
        class="word add"
        type="button"
        :title="`Add a bath or a recipe (${shortcutOf('add')})`"
        @click="emit('add')"
      >
        + add a bath
      </button>
      <HelpButton class="about" page="bench#line" name="About the line" />
      <div class="pipe whole" title="Strength of the look">
        <NamedSlider
          :value="bench.lineNow.recipe.strength"
          :min="0"
          :max="100"
          :step="1"
          unit="%"
          name="Strength of the look"
          @change="bench.setLookStrength"
          @reset="bench.setLookStrength(100)"
        />
        <span class="mono">{{ Math.round(bench.lineNow.recipe.strength) }} %</span>
        <KeyButton name="Strength of the look" :lane="bench.recipe.keys?.['strength']" @toggle="bench.toggleLookKey" />
      </div>
      <span class="quiet named">screen<LookName /></span>
      <TestStrip :colours="strips[strips.length - 1]" label="screen" />
    </div>
  </section>
</template>

<style scoped>
.line {
  align-items: flex-start;
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: flex;
  flex: none;
  height: 156px;
  overflow: hidden;
  padding: 8px 12px 0;
}
.middle {
  display: flex;
  flex: 0 1 auto;
  min-width: 0;
  overflow: auto hidden;
  scrollbar-width: thin;
}
.line > .end:first-child {
  flex: none;
}
.baths {
  display: flex;
}
.bath,
.end {
  display: flex;
  flex: 0 0 auto;
  flex-direction: column;
  gap: 3px;
  padding: 0 6px;
  width: 126px;
}
.end {
  width: 96px;
}
.pipe {
  border-top: 2px solid var(--quiet);
  height: 43px;
  margin: 1px -6px 0;
}
.whole {
  align-items: center;
  display: flex;
  gap: 6px;
  padding-left: 10px;
  white-space: nowrap;
}
.end:last-child {
  flex: 1 0 176px;
  max-width: 520px;
}
/* The shot's own parts are edged; the look is not. */
.preparation .bath,
.after .bath {
  border-bottom: 2px dotted var(--quiet);
  padding-bottom: 3px;
}
.none {
  display: flex;
  flex-direction: column;
  gap: 3px;
  min-width: 76px;
}
.none .pipe {
  margin: 1px 0 0;
}
.end .word {
  align-self: flex-start;
}
.end .quiet {
  font-size: 13px;
  height: 20px;
}
/* The look's name is at its end. */
.end .named {
  display: flex;
  gap: 14px;
  justify-content: space-between;
}
.add {
  color: var(--accent);
}
.end:last-child {
  position: relative;
}
.about {
  position: absolute;
  right: 0;
  top: 0;
}
.ghost {
  opacity: 0.4;
}
</style>
