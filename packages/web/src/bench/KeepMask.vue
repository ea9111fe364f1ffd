<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref } from 'vue'
import { MOST_LETTERS } from '@fogbath/core/line'
import { unlinked, type Mask } from '@fogbath/core/masks'
import { report } from '../stores/errors'
import SheetDialog from '../components/SheetDialog.vue'
import { useMaskStore } from '../stores/masks'

/** Keeps a mask under a name, for other baths and shots. */
const props = defineProps<{ mask: Mask }>()
const masks = useMaskStore()
const asking = ref(false)
const busy = ref(false)
const name = ref('')

function ask(): void {
  name.value = ''
  asking.value = true
}
async function keep(): Promise<void> {
  busy.value = true
  try {
    await masks.keep(name.value.trim(), unlinked(props.mask))
    asking.value = false
  } catch (error) {
    report(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <button class="word" type="button" title="For other baths and shots" @click="ask">keep the mask</button>
  <SheetDialog v-model:show="asking" title="Keep this mask" :width="380">
    <form @submit.prevent="keep">
      <NInput
        v-model:value="name"
        autofocus
        placeholder="Name of the mask"
        :maxlength="MOST_LETTERS.mask"
        :input-props="{ 'aria-label': 'Name of the mask' }"
      />
      <NButton type="primary" attr-type="submit" :disabled="!name.trim() || busy">Keep</NButton>
    </form>
  </SheetDialog>
</template>

<style scoped>
form {
  display: flex;
  gap: 8px;
}
</style>
