<script setup lang="ts">
import { useDialog, useMessage } from 'naive-ui'
import { computed, onMounted, shallowRef } from 'vue'
import { api } from '../api/client'
import { ROUTES, addressOf, type ListedFootage, type StorageUse, type UnknownThing } from '@fogbath/contract'
import { allProductions } from '../components/allProductions'
import { wordsOf } from '../stores/errors'
import FootageRow from './FootageRow.vue'

/** Footage that asks for a person: what the database does not know, what nothing uses, what is lost. */
const props = defineProps<{ use: StorageUse }>()
const emit = defineEmits<{ changed: [] }>()
const dialog = useDialog()
const message = useMessage()

const productions = shallowRef<{ value: number; label: string }[]>([])
onMounted(async () => {
  productions.value = (await allProductions()).map((p) => ({ value: p.id, label: p.name }))
})

async function act(work: () => Promise<unknown>, said: string): Promise<void> {
  try {
    await work()
    message.success(said)
  } catch (error) {
    message.error(wordsOf(error))
  }
  emit('changed')
}
const nameOf = (id: number): string => productions.value.find((p) => p.value === id)?.label ?? 'the production'
const takeUnknown = ({ key, name }: UnknownThing, id: number): Promise<void> =>
  act(() => api.takeUnknown(key, id), `${name} is a shot of ${nameOf(id)} now.`)
const takeUnused = ({ id: medium, name }: ListedFootage, id: number): Promise<void> =>
  act(() => api.addShot(id, medium), `${name} is a shot of ${nameOf(id)} now.`)
function remove(name: string, work: () => Promise<unknown>): void {
  dialog.warning({
    title: `Remove ${name}?`,
    content: 'Its file is deleted from the server. This cannot be undone.',
    positiveText: 'Remove',
    negativeText: 'Keep',
    onPositiveClick: () => act(work, `${name} was removed.`),
  })
}
const after = computed(() =>
  props.use.unusedDays === null
    ? 'It stays until somebody removes it here.'
    : `It is removed when nothing has used it for ${props.use.unusedDays} days (FOGBATH_UNUSED_DAYS).`,
)
</script>

<template>
  <section v-if="use.lost.length" aria-labelledby="lost">
    <h2 id="lost">Lost footage</h2>
    <p class="quiet">
      Shots or renders use it, and its file is missing or is not what it was. Bring the same file in again, in Intake or
      from the watched folder; or take in a backup that holds it.
    </p>
    <ul>
      <li v-for="m in use.lost" :key="m.id" class="plain">
        <span class="warn">{{ m.name }}: {{ m.state }}</span>
      </li>
    </ul>
  </section>
  <section v-if="use.unknown.length" aria-labelledby="unknown">
    <h2 id="unknown">Not known to the database</h2>
    <p class="quiet">
      It lay among the footage or renders, and this database knows nothing of it: it may be another one than before. It
      goes back by itself when a database that knows it is there again.
    </p>
    <ul>
      <FootageRow
        v-for="u in use.unknown"
        :key="u.key"
        :name="u.name"
        :bytes="u.bytes"
        :time="u.written"
        when="written"
        :picture="
          u.kind === 'footage' || u.single ? addressOf(ROUTES.unknownPicture, { params: { key: u.key } }) : null
        "
        :file="u.single ? addressOf(ROUTES.unknownFile, { params: { key: u.key } }) : null"
        :productions="productions"
        @take="(id) => takeUnknown(u, id)"
        @remove="remove(u.name, () => api.removeUnknown(u.key))"
      />
    </ul>
  </section>
  <section v-if="use.unused.length" aria-labelledby="unused">
    <h2 id="unused">Footage that nothing uses</h2>
    <p class="quiet">No shot and no render uses it. {{ after }}</p>
    <ul>
      <FootageRow
        v-for="m in use.unused"
        :key="m.id"
        :name="m.name"
        :bytes="m.bytes"
        :time="m.since"
        when="taken in"
        :picture="m.state === 'here' ? addressOf(ROUTES.mediumPicture, { params: { id: m.id } }) : null"
        :file="null"
        :productions="productions"
        @take="(id) => takeUnused(m, id)"
        @remove="remove(m.name, () => api.removeMedium(m.id))"
      >
        <span v-if="m.state !== 'here'" class="warn">{{ m.state }}</span>
      </FootageRow>
    </ul>
    <p v-if="use.moreUnused" class="quiet">And {{ use.moreUnused }} more.</p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 6px 0 12px;
  padding: 0;
}
h2 {
  margin: 22px 0 4px;
}
.plain {
  padding: 2px 0;
}
</style>
