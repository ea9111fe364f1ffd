<script setup lang="ts">
import {
  COMPRESSIONS,
  FITS,
  NAME_TOKENS,
  USUAL_NAMES,
  deliveryFormat,
  type Compression,
  type Delivery,
  type DeliveryId,
  type Fit,
} from '@fogbath/core/delivery'
import { NInput, NInputNumber, NSelect } from 'naive-ui'
import { computed } from 'vue'
import { encodingChoices, encodingOfRow } from '../../api/encodings'
import NamedSlider from '../../components/NamedSlider.vue'
import { formatChoices, withField, withFormat, withQuality, withRate } from './presets'

/** All of a delivery: what it is kept in, how large, how it is called. */
const delivery = defineModel<Delivery>({ required: true })
defineProps<{ example: string }>()

const format = computed(() => deliveryFormat(delivery.value.format))
const set = <K extends keyof Delivery>(field: K, value: Delivery[K] | undefined): void =>
  void (delivery.value = withField(delivery.value, field, value))
const AS_IS = 'as it is'
/** Only what codes can be made of again. */
const encodings = computed(() => [
  { value: AS_IS, label: format.value.encoding === 'linear' ? 'light, BT.709 colours' : 'as the footage' },
  ...encodingChoices.value.filter(({ value }) => value !== undefined && encodingOfRow(String(value)).encode),
])
const packings = Object.entries(COMPRESSIONS).map(([value, label]) => ({ value, label }))
const fits = Object.entries(FITS).map(([value, label]) => ({ value, label }))
const size = computed(() => delivery.value.size ?? null)
const setSize = (change: Partial<NonNullable<Delivery['size']>> | null): void =>
  set('size', change === null ? undefined : { width: 1920, height: 1080, fit: 'whole', ...size.value, ...change })
function setWords(change: Partial<NonNullable<Delivery['burnIn']>>): void {
  const { shot, timecode, note } = { ...delivery.value.burnIn, ...change }
  const words = { ...(shot && { shot }), ...(timecode && { timecode }), ...(note && { note }) }
  set('burnIn', Object.keys(words).length > 0 ? words : undefined)
}
const tokens = Object.entries(NAME_TOKENS)
  .map(([token, means]) => `{${token}}: ${means}`)
  .join('\n')
const checked = (e: Event): boolean => (e.target as HTMLInputElement).checked
</script>

<template>
  <div class="form">
    <span>Format</span>
    <NSelect
      size="small"
      :value="delivery.format"
      :options="formatChoices"
      :virtual-scroll="false"
      aria-label="Format"
      @update:value="(v: DeliveryId) => (delivery = withFormat(delivery, v))"
    />
    <span>Encoding</span>
    <NSelect
      size="small"
      :value="delivery.to ?? AS_IS"
      :options="encodings"
      aria-label="Encoding of the render"
      @update:value="(v: string) => set('to', v === AS_IS ? undefined : v)"
    />
    <span>Size</span>
    <div class="row">
      <label
        ><input type="checkbox" :checked="size !== null" @change="setSize(checked($event) ? {} : null)" /> another
        size</label
      >
      <template v-if="size">
        <NInputNumber
          size="tiny"
          class="number"
          :value="size.width"
          :min="16"
          :max="16384"
          :show-button="false"
          :input-props="{ 'aria-label': 'Width, pixels' }"
          @update:value="(v: number | null) => v !== null && setSize({ width: v })"
        />
        ×
        <NInputNumber
          size="tiny"
          class="number"
          :value="size.height"
          :min="16"
          :max="16384"
          :show-button="false"
          :input-props="{ 'aria-label': 'Height, pixels' }"
          @update:value="(v: number | null) => v !== null && setSize({ height: v })"
        />
        <NSelect
          size="tiny"
          class="fit"
          :value="size.fit"
          :options="fits"
          aria-label="How it fits"
          @update:value="(v: Fit) => setSize({ fit: v })"
        />
      </template>
    </div>
    <template v-if="format.quality">
      <span>Quality</span>
      <div class="row">
        <NamedSlider
          class="slider"
          :value="delivery.quality ?? 80"
          :min="1"
          :max="100"
          :step="1"
          name="Quality"
          @change="(v) => (delivery = withQuality(delivery, v))"
          @reset="set('quality', undefined)"
        />
        <span class="mono">{{ delivery.rate !== undefined ? 'by rate' : (delivery.quality ?? 'usual') }}</span>
        <label v-if="format.quality.option === '-crf'"
          >or
          <NInputNumber
            size="tiny"
            class="number"
            clearable
            placeholder="rate"
            :value="delivery.rate ?? null"
            :min="0.1"
            :max="2000"
            :show-button="false"
            :input-props="{ 'aria-label': 'Rate, megabits a second' }"
            @update:value="(v: number | null) => (delivery = withRate(delivery, v))"
          />
          Mbit/s</label
        >
      </div>
    </template>
    <template v-if="format.compressed">
      <span>Packed</span>
      <NSelect
        size="small"
        :value="delivery.compression ?? 'zip16'"
        :options="packings"
        aria-label="How light is packed"
        @update:value="(v: Compression) => set('compression', v === 'zip16' ? undefined : v)"
      />
    </template>
    <span>Frames</span>
    <div class="row">
      <label
        >in to out, and
        <NInputNumber
          size="tiny"
          class="number"
          :value="delivery.handles ?? 0"
          :min="0"
          :max="1000"
          :input-props="{ 'aria-label': 'Handles, frames' }"
          @update:value="(v: number | null) => set('handles', v || undefined)"
        />
        frames of handles</label
      >
      <label v-if="format.moving"
        ><input
          type="checkbox"
          :checked="delivery.sound !== false"
          @change="set('sound', checked($event) ? undefined : false)"
        />
        sound</label
      >
      <label v-if="format.moving"
        ><input
          type="checkbox"
          :checked="delivery.slate === true"
          @change="set('slate', checked($event) ? true : undefined)"
        />
        slate before it</label
      >
      <label v-if="format.alpha"
        ><input
          type="checkbox"
          :checked="delivery.alpha === true"
          @change="set('alpha', checked($event) ? true : undefined)"
        />
        alpha</label
      >
    </div>
    <template v-if="!format.float">
      <span>Words in it</span>
      <div class="row">
        <label
          ><input
            type="checkbox"
            :checked="delivery.burnIn?.shot === true"
            @change="setWords({ shot: checked($event) })"
          />
          shot</label
        >
        <label
          ><input
            type="checkbox"
            :checked="delivery.burnIn?.timecode === true"
            @change="setWords({ timecode: checked($event) })"
          />
          timecode</label
        >
        <NInput
          size="tiny"
          :value="delivery.burnIn?.note ?? ''"
          :maxlength="120"
          placeholder="a note"
          :input-props="{ 'aria-label': 'Note in the picture' }"
          @update:value="(v: string) => setWords({ note: v })"
        />
      </div>
    </template>
    <span>Names</span>
    <div>
      <NInput
        size="small"
        :value="delivery.names ?? USUAL_NAMES"
        :maxlength="200"
        :title="tokens"
        :input-props="{ 'aria-label': 'Names of files' }"
        @update:value="(v: string) => set('names', v === USUAL_NAMES || !v ? undefined : v)"
      />
      <p class="quiet mono">{{ example ? `${example}.${format.ending}` : '' }}</p>
    </div>
  </div>
</template>

<style scoped>
.form {
  align-items: center;
  display: grid;
  gap: 8px 14px;
  grid-template-columns: 92px 1fr;
  margin-top: 14px;
}
.row,
.row label {
  align-items: center;
  display: flex;
  gap: 8px;
}
.row label {
  flex: none;
}
.row {
  gap: 16px;
  min-height: 28px;
}
.number {
  width: 84px;
}
.fit {
  width: 190px;
}
.slider {
  width: 240px;
}
input {
  accent-color: var(--accent);
}
p {
  margin: 2px 0 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
